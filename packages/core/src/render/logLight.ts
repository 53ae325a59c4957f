import { luminanceOf } from '../colour/luminance.ts';
import type { Planes } from './render.ts';

/** log₂ of the luminance of linear planes of n pixels. */
export const logLight = (planes: Planes, n: number): Float32Array =>
  Float32Array.from({ length: n }, (_, i) => Math.log2(Math.max(1e-5, luminanceOf(planes[i]!, planes[n + i]!, planes[2 * n + i]!))));
