import { smoothstep } from '../colour/smoothstep.ts';
import { luminanceOf } from '../colour/luminance.ts';
import { boxMean, type Guide } from './guided.ts';
import type { Planes } from './render.ts';

/** Parts of the scattered light: how far against the size, and what share. */
const parts = [
  [1, 0.5],
  [2, 0.3],
  [4, 0.2],
] as const;

/** A Gaussian by three means over squares (the central limit). */
function blurred(values: Float32Array, width: number, height: number, deviation: number): Float32Array {
  const radius = Math.max(1, Math.round((Math.sqrt(4 * deviation * deviation + 1) - 1) / 2));
  let out = values;
  for (let k = 0; k < 3; k++) out = boxMean(out, width, height, radius);
  return out;
}

/**
 * Where light comes down that bright places scatter, of linear planes: red and green, then blue and what counts as bright (0–1).
 * @param deviation of the nearest part, in pixels
 * @param from luminance, of white, that is half bright
 */
export function glowMap(planes: Planes, width: number, height: number, deviation: number, from: number): Guide[] {
  const n = width * height,
    bright = Float32Array.from({ length: n }, (_, i) => {
      if (from === 0) return 1;
      return smoothstep(luminanceOf(planes[i]!, planes[n + i]!, planes[2 * n + i]!) / from - 0.5);
    }),
    far = [0, 1, 2].map((c) => {
      const lit = bright.map((w, i) => w * planes[c * n + i]!),
        sum = new Float32Array(n);
      for (const [times, share] of parts) blurred(lit, width, height, times * deviation).forEach((v, i) => (sum[i]! += share * v));
      return sum;
    });
  return [
    { width, height, slope: far[0]!, offset: far[1]! },
    { width, height, slope: far[2]!, offset: bright },
  ];
}
