import type { Box } from './layout.ts';

/** A small map of which part of the picture is seen; a press in it goes there. */
export function Overview({
  seen,
  picture,
  onCentre,
}: {
  seen: Box;
  picture: { width: number; height: number };
  onCentre: (c: { x: number; y: number }) => void;
}): React.JSX.Element {
  const width = picture.width >= picture.height ? 108 : Math.round((108 * picture.width) / picture.height),
    height = Math.round((width * picture.height) / picture.width);
  const go = (e: React.PointerEvent<HTMLDivElement>): void => {
    e.stopPropagation();
    const r = e.currentTarget.getBoundingClientRect();
    onCentre({ x: (e.clientX - r.left) / r.width, y: (e.clientY - r.top) / r.height });
  };
  return (
    <div
      className="overview"
      data-testid="overview"
      aria-label="Overview of what is seen"
      style={{ width, height }}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        go(e);
      }}
      onPointerMove={(e) => {
        if (e.buttons === 1) go(e);
        else e.stopPropagation();
      }}
    >
      <i
        style={{ left: `${seen.left * 100}%`, top: `${seen.top * 100}%`, width: `${seen.width * 100}%`, height: `${seen.height * 100}%` }}
      />
    </div>
  );
}
