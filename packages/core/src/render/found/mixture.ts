/** Values of a place: three numbers. */
export type Values = readonly [Float32Array, Float32Array, Float32Array];
interface Part {
  mean: [number, number, number];
  /** the inverse of the covariance, upper triangle, and half the logarithm of its determinant less that of the part's weight */
  inverse: [number, number, number, number, number, number];
  cost: number;
}
/** A mixture of Gaussians over three values. */
export type Mixture = readonly Part[];

function partOf(values: Values, places: readonly number[], share: number): Part {
  const mean = values.map((v) => places.reduce((sum, i) => sum + v[i]!, 0) / places.length) as [number, number, number],
    c = [0, 0, 0, 0, 0, 0];
  for (const i of places) {
    const x = values[0][i]! - mean[0],
      y = values[1][i]! - mean[1],
      z = values[2][i]! - mean[2];
    c[0]! += x * x;
    c[1]! += x * y;
    c[2]! += x * z;
    c[3]! += y * y;
    c[4]! += y * z;
    c[5]! += z * z;
  }
  // no part is narrower than noise
  const [xx, xy, xz, yy, yz, zz] = c.map((v, k) => v / places.length + (k === 0 || k === 3 || k === 5 ? 4e-5 : 0)) as [
      number,
      number,
      number,
      number,
      number,
      number,
    ],
    det = xx * (yy * zz - yz * yz) - xy * (xy * zz - yz * xz) + xz * (xy * yz - yy * xz),
    inverse = [
      (yy * zz - yz * yz) / det,
      (xz * yz - xy * zz) / det,
      (xy * yz - xz * yy) / det,
      (xx * zz - xz * xz) / det,
      (xy * xz - xx * yz) / det,
      (xx * yy - xy * xy) / det,
    ] as Part['inverse'];
  return { mean, inverse, cost: 0.5 * Math.log(det) - Math.log(share) };
}
/** How unlikely a place is under one part. */
function costIn({ mean, inverse: [a, b, c, d, e, f], cost }: Part, values: Values, i: number): number {
  const x = values[0][i]! - mean[0],
    y = values[1][i]! - mean[1],
    z = values[2][i]! - mean[2];
  return cost + 0.5 * (x * (a * x + 2 * (b * y + c * z)) + y * (d * y + 2 * e * z) + z * f * z);
}
/** How unlikely a place is under a mixture: of its likeliest part. */
export const costOf = (mixture: Mixture, values: Values, i: number): number =>
  mixture.reduce((least, part) => Math.min(least, costIn(part, values, i)), Infinity);

/** A mixture of so many parts: split along the widest spread (Orchard and Bouman 1991), then each place to its likeliest part, some times. */
export function mixtureOf(values: Values, places: readonly number[], count = 5): Mixture {
  let groups: number[][] = [[...places]];
  while (groups.length < count) {
    const spreads = groups.map((g) => {
        const by = values.map((v) => {
          const m = g.reduce((sum, i) => sum + v[i]!, 0) / g.length;
          return { m, s: g.reduce((sum, i) => sum + (v[i]! - m) ** 2, 0) };
        });
        return { by, most: Math.max(...by.map((q) => q.s)) };
      }),
      k = spreads.reduce((best, s, i) => (s.most > spreads[best]!.most ? i : best), 0),
      { by, most } = spreads[k]!,
      axis = by.findIndex((q) => q.s === most),
      [low, high] = [0, 1].map((side) => groups[k]!.filter((i) => Number(values[axis]![i]! > by[axis]!.m) === side)) as [
        number[],
        number[],
      ];
    if (low.length < 8 || high.length < 8) break;
    groups = [...groups.slice(0, k), low, high, ...groups.slice(k + 1)];
  }
  let mixture: Mixture = [];
  for (let round = 0; round < 2; round++) {
    mixture = groups.filter((g) => g.length >= 8).map((g) => partOf(values, g, g.length / places.length));
    if (mixture.length === 0) return [partOf(values, places, 1)];
    groups = mixture.map(() => []);
    for (const i of places) {
      const costs = mixture.map((part) => costIn(part, values, i));
      groups[costs.indexOf(Math.min(...costs))]!.push(i);
    }
  }
  return mixture;
}
