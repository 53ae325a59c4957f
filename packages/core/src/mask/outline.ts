type OutlinePoint = readonly [x: number, y: number, feather: number];
/** Straight pieces between two points of an outline. */
const pieces = 8;

/** A closed curve through points, round at each (Catmull and Rom 1974, uniform), as a polygon; feather goes from one to the next evenly. */
export function outlinePolygon(points: readonly OutlinePoint[]): OutlinePoint[] {
  const n = points.length,
    p = (i: number): OutlinePoint => points[(i + n) % n]!;
  return points.flatMap((_, i) =>
    Array.from({ length: pieces }, (_k, k): OutlinePoint => {
      const t = k / pieces,
        round = (c: 0 | 1): number => {
          const [a, b, d, e] = [p(i - 1)[c], p(i)[c], p(i + 1)[c], p(i + 2)[c]];
          return b + 0.5 * t * (d - a + t * (2 * a - 5 * b + 4 * d - e + t * (3 * (b - d) + e - a)));
        };
      return [round(0), round(1), p(i)[2] + t * (p(i + 1)[2] - p(i)[2])];
    }),
  );
}
/** An outline as the kernel reads it (`outlineShare`). */
export function outlineNumbers(points: readonly OutlinePoint[]): Float32Array {
  const polygon = outlinePolygon(points),
    least = 1e-4,
    feather = (i: number): number => Math.max(least, polygon[i % polygon.length]![2]),
    far = Math.max(...polygon.map((q) => q[2]), least);
  const edges = polygon.flatMap(([x, y], i) => {
    const [u, v] = polygon[(i + 1) % polygon.length]!,
      square = (u - x) ** 2 + (v - y) ** 2;
    return [x, y, u - x, v - y, square > 0 ? 1 / square : 0, feather(i), feather(i + 1) - feather(i), 0];
  });
  const rows = polygon.map((q) => q[1]);
  return Float32Array.from([polygon.length, Math.min(...rows) - far, Math.max(...rows) + far, 0, 0, ...edges]);
}
