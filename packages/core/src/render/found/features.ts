import { rec2020ToLms } from '../../colour/oklab.ts';
import { luminanceOf } from '../../colour/luminance.ts';
import { boxMean } from '../guided.ts';
import type { Planes } from '../render.ts';

/** What regions are told by, for each place of a small picture. */
export interface Features {
  width: number;
  height: number;
  /** log₂ luminance over the picture's own middle */
  light: Float32Array;
  /** OKLab a and b at a lightness of 0.7, so that shade and sun of one colour are the same */
  a: Float32Array;
  b: Float32Array;
  /** spread of log₂ luminance about a place, in EV */
  texture: Float32Array;
  /** how steeply light and colour change, per pixel */
  edge: Float32Array;
}

/** The luminance that a lightness of 0.7 is. */
const grey = 0.343;
export function featuresOf(planes: Planes, width: number, height: number): Features {
  const n = width * height,
    light = new Float32Array(n),
    a = new Float32Array(n),
    b = new Float32Array(n);
  const [l0, l1, l2, m0, m1, m2, k0, k1, k2] = rec2020ToLms;
  for (let i = 0; i < n; i++) {
    const red = planes[i]!,
      green = planes[n + i]!,
      blue = planes[2 * n + i]!,
      y = Math.max(1e-5, luminanceOf(red, green, blue)),
      scale = grey / y;
    light[i] = Math.log2(y);
    const l = Math.cbrt(scale * (l0 * red + l1 * green + l2 * blue)),
      m = Math.cbrt(scale * (m0 * red + m1 * green + m2 * blue)),
      k = Math.cbrt(scale * (k0 * red + k1 * green + k2 * blue));
    a[i] = 1.9779984951 * l - 2.428592205 * m + 0.4505937099 * k;
    b[i] = 0.0259040371 * l + 0.7827717662 * m - 0.808675766 * k;
  }
  const middle = light.slice().sort()[n >> 1]!;
  for (let i = 0; i < n; i++) light[i]! -= middle;
  const mean = boxMean(light, width, height, 2),
    square = boxMean(
      light.map((v) => v * v),
      width,
      height,
      2,
    );
  return {
    width,
    height,
    light,
    a,
    b,
    texture: mean.map((m, i) => Math.sqrt(Math.max(0, square[i]! - m * m))),
    edge: edgesOf(light, a, b, width, height),
  };
}
/** Sobel's gradient of light, and of colour as an eye counts it. */
function edgesOf(light: Float32Array, a: Float32Array, b: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(light.length);
  for (const [values, weight] of [
    [light, 1],
    [a, 100],
    [b, 100],
  ] as const)
    for (let y = 0; y < height; y++) {
      const up = Math.max(0, y - 1) * width,
        own = y * width,
        down = Math.min(height - 1, y + 1) * width;
      for (let x = 0; x < width; x++) {
        const l = Math.max(0, x - 1),
          r = Math.min(width - 1, x + 1),
          across = values[up + r]! + 2 * values[own + r]! + values[down + r]! - values[up + l]! - 2 * values[own + l]! - values[down + l]!,
          along = values[down + l]! + 2 * values[down + x]! + values[down + r]! - values[up + l]! - 2 * values[up + x]! - values[up + r]!;
        out[own + x]! += (weight * (across * across + along * along)) / 64;
      }
    }
  return out.map(Math.sqrt);
}
