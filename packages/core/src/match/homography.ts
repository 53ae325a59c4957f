type Point = readonly [x: number, y: number];
/** A projective map of the plane, row by row, its last number 1. */
export type Homography = readonly [number, number, number, number, number, number, number, number, number];

export function project([a, b, c, d, e, f, g, h, i]: Homography, [x, y]: Point): [number, number] {
  const w = g * x + h * y + i;
  return [(a * x + b * y + c) / w, (d * x + e * y + f) / w];
}

/** The projective map that takes points to others, by least squares (direct linear transformation: Hartley and Zisserman 2004, 4.1, with its last number 1). Null where they do not say. */
export function homographyOf(from: readonly Point[], to: readonly Point[]): Homography | null {
  const rows: number[][] = [];
  from.forEach(([x, y], k) => {
    const [u, v] = to[k]!;
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y, u], [0, 0, 0, x, y, 1, -v * x, -v * y, v]);
  });
  const solved = leastSquares(
    rows.map((r) => r.slice(0, 8)),
    rows.map((r) => r[8]!),
  );
  return solved ? ([...solved, 1] as unknown as Homography) : null;
}

/** Least squares by the normal equations and Gauss' elimination with pivots. Null where they do not say. */
export function leastSquares(rows: readonly (readonly number[])[], wanted: readonly number[]): number[] | null {
  const n = rows[0]?.length ?? 0,
    m = Array.from({ length: n }, () => new Float64Array(n + 1));
  for (const [k, r] of rows.entries())
    for (let i = 0; i < n; i++) {
      for (let j = 0; j < n; j++) m[i]![j]! += r[i]! * r[j]!;
      m[i]![n]! += r[i]! * wanted[k]!;
    }
  for (let c = 0; c < n; c++) {
    let pivot = c;
    for (let r = c + 1; r < n; r++) if (Math.abs(m[r]![c]!) > Math.abs(m[pivot]![c]!)) pivot = r;
    if (Math.abs(m[pivot]![c]!) < 1e-14) return null;
    [m[c], m[pivot]] = [m[pivot]!, m[c]!];
    for (let r = 0; r < n; r++) {
      if (r === c) continue;
      const f = m[r]![c]! / m[c]![c]!;
      for (let k = c; k <= n; k++) m[r]![k]! -= f * m[c]![k]!;
    }
  }
  return m.map((row, i) => row[n]! / row[i]!);
}
