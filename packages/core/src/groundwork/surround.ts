import type { Surround } from '../render/surround.ts';
import { plateOffset, plateScale, type Plate } from '../plate/plate.ts';

/** Camera light that has clipped, and from which on a place is bright enough to speak for the colour of a light. */
const clips = 0.95,
  bright = 0.2;

/**
 * What surrounds the clipped places of a small plate: the colours of bright places that hold all three channels, spread into
 * the rest by pulling their weighted means up a pyramid and pushing them down again (Gortler, Grzeszczuk, Szeliski, Cohen
 * 1996, section 3.5). Null where nothing has clipped, or nothing bright has not.
 */
export function surroundOf(plate: Plate): Surround | null {
  const { width, height, data } = plate,
    n = width * height;
  let clipped = false;
  const values = new Float32Array(n * 3);
  const camera = (c: number, i: number): number => (data[c * n + i]! - plateOffset) / plateScale;
  for (let i = 0; i < n; i++) {
    const r = camera(0, i),
      g = camera(1, i),
      b = camera(2, i),
      most = Math.max(r, g, b);
    if (most >= clips) clipped = true;
    else if (Math.min(r, g, b) > 1e-4 && most > bright) {
      const weight = ((most - bright) / (clips - bright)) ** 3;
      values[i * 3] = weight * Math.log2(r / g);
      values[i * 3 + 1] = weight * Math.log2(b / g);
      values[i * 3 + 2] = weight;
    }
  }
  if (!clipped) return null;
  const filled = pullPush(values, width, height);
  if (!filled) return null;
  const red = new Float32Array(n),
    blue = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    red[i] = 2 ** within(filled[i * 2]!);
    blue[i] = 2 ** within(filled[i * 2 + 1]!);
  }
  return { width, height, red, blue };
}
/** No colour of a light is farther than four stops from green. */
const within = (stops: number): number => Math.min(4, Math.max(-4, stops));

/** Weighted pairs (two sums and a weight, interleaved) as pairs everywhere; null where no weight is. */
function pullPush(values: Float32Array, width: number, height: number): Float32Array | null {
  if (width === 1 && height === 1) {
    const w = values[2]!;
    return w > 0 ? new Float32Array([values[0]! / w, values[1]! / w]) : null;
  }
  const w2 = (width + 1) >> 1,
    h2 = (height + 1) >> 1,
    half = new Float32Array(w2 * h2 * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 3; c++) half[((y >> 1) * w2 + (x >> 1)) * 3 + c]! += values[(y * width + x) * 3 + c]!;
  // four whole weights are as sure as one
  for (let i = 0; i < w2 * h2; i++) {
    const w = half[i * 3 + 2]!;
    if (w <= 1) continue;
    for (let c = 0; c < 3; c++) half[i * 3 + c]! /= w;
  }
  const coarse = pullPush(half, w2, h2);
  if (!coarse) return null;
  const out = new Float32Array(width * height * 2);
  for (let y = 0; y < height; y++) {
    const fy = Math.min(h2 - 1, Math.max(0, (y + 0.5) / 2 - 0.5)),
      y0 = Math.floor(fy),
      y1 = Math.min(h2 - 1, y0 + 1),
      ty = fy - y0;
    for (let x = 0; x < width; x++) {
      const fx = Math.min(w2 - 1, Math.max(0, (x + 0.5) / 2 - 0.5)),
        x0 = Math.floor(fx),
        x1 = Math.min(w2 - 1, x0 + 1),
        tx = fx - x0,
        i = y * width + x,
        w = Math.min(1, values[i * 3 + 2]!);
      const own = w > 0 ? w / values[i * 3 + 2]! : 0,
        [a, b, c, d] = [(y0 * w2 + x0) * 2, (y0 * w2 + x1) * 2, (y1 * w2 + x0) * 2, (y1 * w2 + x1) * 2];
      for (let k = 0; k < 2; k++) {
        const above = coarse[a + k]! * (1 - tx) + coarse[b + k]! * tx,
          below = coarse[c + k]! * (1 - tx) + coarse[d + k]! * tx;
        out[i * 2 + k] = values[i * 3 + k]! * own + (1 - w) * (above * (1 - ty) + below * ty);
      }
    }
  }
  return out;
}
