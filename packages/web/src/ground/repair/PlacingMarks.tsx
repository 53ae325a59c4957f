import type { Point } from './drawn.ts';
import type { Placing } from './usePlacing.ts';

/** Where the keys aim, where a straight line begins, and where the next repair is taken from. */
export function PlacingMarks({
  placing: { lineFrom, sourceAt },
  stageAt,
  aim,
  radius,
}: {
  placing: Placing;
  stageAt: (p: Point) => Point;
  aim: Point | null;
  radius: number;
}): React.JSX.Element {
  const at = ([cx, cy]: Point): { cx: number; cy: number } => ({ cx, cy });
  return (
    <>
      {lineFrom && <circle className="repair-aim" {...at(stageAt(lineFrom))} r={4} />}
      {sourceAt && <circle className="repair source" data-testid="source-set" {...at(stageAt(sourceAt))} r={radius} />}
      {aim && <circle className="repair-aim" {...at(aim)} r={radius} />}
    </>
  );
}
