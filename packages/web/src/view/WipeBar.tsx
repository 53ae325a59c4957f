import type { ViewState } from './layout.ts';

/** The bar between before and after; dragged on the stage, or moved by arrows. */
export function WipeBar({
  wipe,
  across,
  style,
  onView,
}: {
  wipe: number;
  across: boolean;
  style: React.CSSProperties;
  onView: (change: Partial<ViewState>) => void;
}): React.JSX.Element {
  return (
    <div
      className={`wipe ${across ? 'across' : ''}`}
      style={style}
      aria-orientation={across ? 'vertical' : 'horizontal'}
      role="slider"
      tabIndex={0}
      aria-label="Wipe between before and after"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(wipe * 100)}
      onKeyDown={(e) => {
        const way = e.key === 'ArrowLeft' || e.key === 'ArrowUp' ? -0.02 : e.key === 'ArrowRight' || e.key === 'ArrowDown' ? 0.02 : 0;
        if (way) {
          e.preventDefault();
          onView({ wipe: Math.min(1, Math.max(0, wipe + way)) });
        }
      }}
    >
      <i />
    </div>
  );
}
