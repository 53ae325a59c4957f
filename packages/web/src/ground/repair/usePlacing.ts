import { straightFrom, type Repair, type Shape, type Source } from '@dyepot/core';
import { useEffect, useState } from 'react';
import type { Frame } from '../../types.ts';
import { middle, moved, type Point } from './drawn.ts';
import type { RepairHand } from './useRepairs.ts';

/** What is set before something is drawn: where a straight line begins, and where the next repair is taken from. */
export interface Placing {
  lineFrom: Point | null;
  sourceAt: Point | null;
  /** a click with a key held: Shift begins and ends a straight line, Alt says where the next repair is taken from. False: neither. No lines where `draw` is null. */
  click: (at: Point, keys: { shiftKey: boolean; altKey: boolean }, draw: ((points: readonly Point[]) => void) | null) => boolean;
  /** the source set by hand, for a shape; it serves once */
  sourceFor: (shape: Shape) => Source | undefined;
  clear: () => void;
}
export function usePlacing(frame: Frame): Placing {
  const [lineFrom, setLineFrom] = useState<Point | null>(null),
    [sourceAt, setSourceAt] = useState<Point | null>(null),
    clear = (): void => {
      setLineFrom(null);
      setSourceAt(null);
    };
  useEffect(clear, [frame.id]);
  return {
    lineFrom,
    sourceAt,
    click(at, { shiftKey, altKey }, draw) {
      if (altKey) setSourceAt(at);
      else if (!draw) return false;
      else if (shiftKey && lineFrom) {
        setLineFrom(null);
        draw([lineFrom, at]);
      } else if (shiftKey) setLineFrom(at);
      else return false;
      return true;
    },
    sourceFor(shape) {
      if (!sourceAt) return undefined;
      setSourceAt(null);
      const [x, y] = middle(shape);
      return straightFrom(sourceAt[0] - x, sourceAt[1] - y);
    },
    clear,
  };
}
/** Whether a place lies in a repair, near enough for one to be chosen. */
export const liesIn = ({ shape }: Repair, [x, y]: Point, { width, height }: Frame): boolean => {
  const [mx, my] = middle(shape),
    edge = Math.max(width, height),
    reach =
      shape.kind === 'outline'
        ? Math.max(...shape.points.map((p) => Math.hypot((p[0] - mx) * width, (p[1] - my) * height)))
        : shape.radius * edge;
  return Math.hypot((x - mx) * width, (y - my) * height) <= Math.max(reach, 0.004 * edge);
};
let nudges = 0,
  lastNudge = 0;
/** The chosen repair, or where it is taken from, moved by keys; presses that follow one another are one change. */
export function nudge(hand: RepairHand, [dx, dy]: Point, source: boolean): void {
  if (!hand.selected) return;
  if (performance.now() - lastNudge > 800) nudges++;
  lastNudge = performance.now();
  hand.change(
    hand.selected.id,
    (r) =>
      source
        ? {
            ...r,
            source: r.source && {
              ...r.source,
              dx: Math.min(1, Math.max(-1, r.source.dx + dx)),
              dy: Math.min(1, Math.max(-1, r.source.dy + dy)),
            },
          }
        : { ...r, shape: moved(r.shape, dx, dy) },
    source ? 'Move the source' : 'Move',
    `keys-${nudges}`,
  );
}
