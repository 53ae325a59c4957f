import { directionsOf } from './maxFlow.ts';
import type { Values } from './mixture.ts';

/**
 * How much neighbours of a grid want to be of one kind, the more the more alike they are: alike·exp(−β·d²), d their distance, over √2 along
 * diagonals, β of the mean of d² (Boykov and Jolly 2001; Rother, Kolmogorov and Blake 2004).
 * @param places those that count; none of the grid's border
 * @returns from each place in each of eight directions, as `leastCut` takes them
 */
export function neighbourWeights(values: Values, places: readonly number[], width: number, alike: number): Float32Array {
  const n = values[0].length,
    way = directionsOf(width),
    counts = new Uint8Array(n),
    apart = (i: number, j: number): number =>
      (values[0][i]! - values[0][j]!) ** 2 + (values[1][i]! - values[1][j]!) ** 2 + (values[2][i]! - values[2][j]!) ** 2;
  for (const i of places) counts[i] = 1;
  let sum = 0,
    pairs = 0;
  for (const i of places)
    for (const d of [0, 2, 4, 6])
      if (counts[i + way[d]!]) {
        sum += apart(i, i + way[d]!);
        pairs++;
      }
  const beta = pairs / (2 * Math.max(1e-9, sum)),
    out = new Float32Array(8 * n);
  for (const i of places)
    for (const d of [0, 2, 4, 6]) {
      const j = i + way[d]!;
      if (!counts[j]) continue;
      const weight = (alike * Math.exp(-beta * apart(i, j))) / (d < 4 ? 1 : Math.SQRT2);
      out[d * n + i] = weight;
      out[(d ^ 1) * n + j] = weight;
    }
  return out;
}
