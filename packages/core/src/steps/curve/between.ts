import type { CurvePoints } from '../../render/step.ts';
import { monotoneCubic } from './monotone.ts';

/** Points a curve may have, and how far they must lie apart. */
const most = 24,
  apart = 1e-3;

/** A curve between two: through both curves' places where each has its points, or through evenly spread ones where those are too many. */
export function pointsBetween(a: CurvePoints, b: CurvePoints, by: number): CurvePoints {
  if (by <= 0) return a;
  if (by >= 1) return b;
  const first = monotoneCubic(a),
    second = monotoneCubic(b),
    wanted = [...a, ...b].map(([x]) => x).sort((p, q) => p - q),
    own = wanted.filter((x, i) => i === 0 || x - wanted[i - 1]! >= apart),
    places = own.length <= most ? own : Array.from({ length: most }, (_, i) => i / (most - 1));
  const value = (x: number): number => Math.min(1, Math.max(0, first(x) + (second(x) - first(x)) * by));
  return places.map((x) => [x, value(x)]);
}
