import { log10 } from '../../colour/elementary.ts';
import type { Through } from './beerLambert.ts';

/**
 * The logarithms of what comes through three dyes, for amounts within bounds: from a grid, by parabolas along each axis. They are
 * next to straight (Beer–Lambert), so that what is left is some hundred-thousandths of a density.
 * @param side nodes along an axis
 * @returns a function that writes three logarithms into `out`
 */
export function logThrough(
  through: Through,
  from: readonly number[],
  to: readonly number[],
  side = 17,
): (x: number, y: number, z: number, out: Float64Array) => void {
  const grid = new Float64Array(side ** 3 * 3),
    step = from.map((low, k) => Math.max(1e-6, to[k]! - low) / (side - 1)),
    at = (k: number, i: number): number => from[k]! + i * step[k]!;
  for (let k = 0, o = 0; k < side; k++)
    for (let j = 0; j < side; j++)
      for (let i = 0; i < side; i++) for (const v of through([at(0, i), at(1, j), at(2, k)])) grid[o++] = log10(Math.max(1e-12, v));
  const [fx, fy, fz] = from as [number, number, number],
    [px, py, pz] = step.map((s) => 1 / s) as [number, number, number],
    // the middle of the three nodes that a parabola goes through
    middle = (place: number): number => Math.min(side - 2, Math.max(1, (place + 0.5) | 0));
  return (x, y, z, out) => {
    const u = (x - fx) * px,
      v = (y - fy) * py,
      w = (z - fz) * pz,
      i = middle(u),
      j = middle(v),
      k = middle(w),
      s = u - i,
      t = v - j,
      r = w - k;
    const low = (s * (s - 1)) / 2,
      own = 1 - s * s,
      high = (s * (s + 1)) / 2,
      down = (t * (t - 1)) / 2,
      here = 1 - t * t,
      up = (t * (t + 1)) / 2;
    let [red, green, blue] = [0, 0, 0];
    for (let c = -1; c <= 1; c++) {
      const deep = c === 0 ? 1 - r * r : (r * (r + c)) / 2;
      for (let b = -1; b <= 1; b++) {
        const o = (((k + c) * side + j + b) * side + i - 1) * 3,
          share = deep * (b === 0 ? here : b < 0 ? down : up);
        red += share * (low * grid[o]! + own * grid[o + 3]! + high * grid[o + 6]!);
        green += share * (low * grid[o + 1]! + own * grid[o + 4]! + high * grid[o + 7]!);
        blue += share * (low * grid[o + 2]! + own * grid[o + 5]! + high * grid[o + 8]!);
      }
    }
    out[0] = red;
    out[1] = green;
    out[2] = blue;
  };
}
