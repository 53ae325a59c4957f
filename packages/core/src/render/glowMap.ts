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
    bright = new Float32Array(n),
    [r, g, b] = [planes.subarray(0, n), planes.subarray(n, 2 * n), planes.subarray(2 * n, 3 * n)] as const;
  for (let i = 0; i < n; i++) bright[i] = from === 0 ? 1 : smoothstep(luminanceOf(r[i]!, g[i]!, b[i]!) / from - 0.5);
  const far = [r, g, b].map((plane) => {
    const lit = new Float32Array(n),
      sum = new Float32Array(n);
    for (let i = 0; i < n; i++) lit[i] = bright[i]! * plane[i]!;
    for (const [times, share] of parts) {
      const part = blurred(lit, width, height, times * deviation);
      for (let i = 0; i < n; i++) sum[i]! += share * part[i]!;
    }
    return sum;
  });
  return [
    { width, height, slope: far[0]!, offset: far[1]! },
    { width, height, slope: far[2]!, offset: bright },
  ];
}
