import type { CurvePoints } from '../../render/step.ts';

/**
 * Monotone piecewise cubic through the points (Fritsch and Carlson 1980), flat beyond the ends.
 * Points are in rising x; the curve never leaves the range of two neighbouring points.
 */
export function monotoneCubic(points: CurvePoints): (x: number) => number {
  const n = points.length;
  const slope = points.slice(1).map(([x, y], i) => (y - points[i]![1]) / (x - points[i]![0]));
  const tangent = points.map((_, i) => {
    const a = slope[i - 1],
      b = slope[i];
    if (a === undefined || b === undefined) return a ?? b ?? 0;
    return a * b <= 0 ? 0 : (a + b) / 2;
  });
  slope.forEach((d, i) => {
    if (Math.abs(d) < 1e-12) {
      tangent[i] = 0;
      tangent[i + 1] = 0;
      return;
    }
    const a = tangent[i]! / d,
      b = tangent[i + 1]! / d,
      r = Math.hypot(a, b);
    if (r > 3) {
      tangent[i] = (3 * a * d) / r;
      tangent[i + 1] = (3 * b * d) / r;
    }
  });
  return (x) => {
    if (x <= points[0]![0]) return points[0]![1];
    if (x >= points[n - 1]![0]) return points[n - 1]![1];
    let i = 0;
    while (points[i + 1]![0] < x) i++;
    const [x0, y0] = points[i]!,
      [x1, y1] = points[i + 1]!,
      h = x1 - x0,
      t = (x - x0) / h;
    return (
      y0 * (1 + 2 * t) * (1 - t) ** 2 +
      tangent[i]! * h * t * (1 - t) ** 2 +
      y1 * t * t * (3 - 2 * t) +
      tangent[i + 1]! * h * t * t * (t - 1)
    );
  };
}
