import { smoothstep } from '../colour/smoothstep.ts';
import { boxMean, guidedFilter, type Guide } from './guided.ts';
import { logLight } from './logLight.ts';
import type { Planes } from './render.ts';

/** He, Sun, Tang 2009: what stays of haze so that distance can be felt, window, window and flatness of the refinement. */
const kept = 0.95,
  patch = 1 / 60,
  refined = 1 / 18,
  flat = 0.3 ** 2;

/** Share of the picture that is taken to be near, and the most of its dark channel that is taken for the things' own. */
const near = { share: 0.25, most: 0.06 };
/** Spread of log₂ light in a patch, in EV, under which it is as even as a sky and over which it is not; and what of haze is taken for granted there. */
const even = { under: 0.03, over: 0.12 },
  skyThrough = 0.75;

/** Least of a square window, rows then columns. */
function leastOf(values: Float32Array, width: number, height: number, radius: number): Float32Array {
  const half = new Float32Array(values.length),
    out = new Float32Array(values.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let v = Infinity;
      for (let k = Math.max(0, x - radius); k <= Math.min(width - 1, x + radius); k++) v = Math.min(v, values[y * width + k]!);
      half[y * width + x] = v;
    }
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let v = Infinity;
      for (let k = Math.max(0, y - radius); k <= Math.min(height - 1, y + radius); k++) v = Math.min(v, half[k * width + x]!);
      out[y * width + x] = v;
    }
  return out;
}

/** How even each place is, 0–1, by the spread of log light in the square about it. */
function smoothness(light: Float32Array, width: number, height: number, radius: number): Float32Array {
  const mean = boxMean(light, width, height, radius),
    square = boxMean(
      light.map((v) => v * v),
      width,
      height,
      radius,
    );
  return mean.map((m, i) => {
    return 1 - smoothstep((Math.sqrt(Math.max(0, square[i]! - m * m)) - even.under) / (even.over - even.under));
  });
}

/** The transmission of haze and its air light, of linear planes (dark channel prior: He, Sun, Tang 2009). */
export function hazeMap(planes: Planes, width: number, height: number): Guide {
  const n = width * height,
    edge = Math.max(width, height),
    radius = Math.max(1, Math.round(edge * patch)),
    least = (light: readonly number[]): Float32Array =>
      leastOf(
        Float32Array.from({ length: n }, (_, i) =>
          Math.min(planes[i]! / light[0]!, planes[n + i]! / light[1]!, planes[2 * n + i]! / light[2]!),
        ),
        width,
        height,
        radius,
      );
  // the air light: of the thousandth of the picture with the brightest dark channel, the mean
  const dark = least([1, 1, 1]),
    brightest = dark.slice().sort()[n - Math.max(4, Math.round(n / 1000))]!,
    most = [...dark.keys()].filter((i) => dark[i]! >= brightest),
    light = [0, 1, 2].map((c) => Math.max(1e-4, most.reduce((sum, i) => sum + planes[c * n + i]!, 0) / most.length)) as [
      number,
      number,
      number,
    ];
  const bright = logLight(planes, n),
    veil = least(light),
    // dark things are not quite black: what the near ones have is theirs, not the air's
    own = Math.min(near.most, Math.max(0, veil.slice().sort()[Math.floor(n * near.share)]!)),
    through = veil.map((v) => 1 - kept * Math.min(1, Math.max(0, (v - own) / (1 - own))));
  // an even sky has no distance to be brought back, only colours to be torn apart
  smoothness(bright, width, height, radius).forEach((even, i) => {
    through[i] = Math.max(through[i]!, even * skyThrough);
  });
  return { ...guidedFilter(bright, through, width, height, Math.max(2, Math.round(edge * refined)), flat), light };
}
