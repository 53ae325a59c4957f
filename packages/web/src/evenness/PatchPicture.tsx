import { useMemo } from 'react';
import { Picture } from '../kit/Picture.tsx';
import { platePlaceOf } from '../view/platePlace.ts';
import type { Frame } from '../types.ts';

const within = (v: number): number => Math.min(0.999, Math.max(0.001, v));
/** A frame's picture with the place of its patch on it; a click points at another, arrows move it. */
export function PatchPicture({
  frame,
  src,
  alt,
  spot,
  onPoint,
}: {
  frame: Frame;
  src: string;
  alt: string;
  /** shares of the plate */
  spot: readonly [number, number] | null;
  onPoint: (at: readonly [number, number]) => void;
}): React.JSX.Element {
  const place = useMemo(() => platePlaceOf(frame, frame.groundwork), [frame]),
    shown = spot && place.from({ x: spot[0], y: spot[1] });
  const point = (x: number, y: number): void => {
    const at = place.to({ x: within(x), y: within(y) });
    onPoint([within(at.x), within(at.y)]);
  };
  return (
    <button
      type="button"
      className="patch-picture"
      aria-label={`${alt}; ${shown ? 'the patch is pointed at, arrows move it' : 'click to point at a patch'}`}
      onClick={(e) => {
        // a press of a key has no place of its own
        if (e.detail === 0) return point(shown?.x ?? 0.5, shown?.y ?? 0.5);
        const box = e.currentTarget.getBoundingClientRect();
        point((e.clientX - box.left) / box.width, (e.clientY - box.top) / box.height);
      }}
      onKeyDown={(e) => {
        const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key],
          step = e.shiftKey ? 0.05 : 0.01;
        if (!way) return;
        e.preventDefault();
        point((shown?.x ?? 0.5) + way[0]! * step, (shown?.y ?? 0.5) + way[1]! * step);
      }}
    >
      <Picture alt="" src={src} />
      {shown && <i style={{ left: `${shown.x * 100}%`, top: `${shown.y * 100}%` }} data-testid="patch" />}
    </button>
  );
}
