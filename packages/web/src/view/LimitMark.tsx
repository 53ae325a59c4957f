import type { Area } from '@dyepot/core';
import type { ViewState } from './layout.ts';

/** The rectangle that readouts are limited to; its button takes it away, and moves it (Alt: sizes it) by arrows. */
export function LimitMark({
  limit,
  style,
  onView,
}: {
  limit: Area;
  style: React.CSSProperties;
  onView: (change: Partial<ViewState>) => void;
}): React.JSX.Element {
  return (
    <div className="limit" data-testid="limit" style={style}>
      <button
        type="button"
        title="Read the whole picture again"
        onPointerDown={(e) => e.stopPropagation()}
        onClick={() => onView({ limit: null, limiting: false })}
        onKeyDown={(e) => {
          const d = { ArrowLeft: [-0.02, 0], ArrowRight: [0.02, 0], ArrowUp: [0, -0.02], ArrowDown: [0, 0.02] }[e.key],
            clamp = (v: number, top: number): number => Math.min(top, Math.max(0, v));
          if (!d) return;
          e.preventDefault();
          e.stopPropagation();
          onView({
            limit: e.altKey
              ? { ...limit, width: clamp(limit.width + d[0]!, 1 - limit.x), height: clamp(limit.height + d[1]!, 1 - limit.y) }
              : { ...limit, x: clamp(limit.x + d[0]!, 1 - limit.width), y: clamp(limit.y + d[1]!, 1 - limit.height) },
          });
        }}
      >
        readouts ×
      </button>
    </div>
  );
}
