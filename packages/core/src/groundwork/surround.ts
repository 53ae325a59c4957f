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
  const ratio = (k: number): Float32Array => Float32Array.from({ length: n }, (_, i) => 2 ** Math.min(4, Math.max(-4, filled[i * 2 + k]!)));
  return { width, height, red: ratio(0), blue: ratio(1) };
}

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
      for (let c = 0; c < 2; c++) {
        const at = (j: number, k: number): number => coarse[(j * w2 + k) * 2 + c]!,
          from = (at(y0, x0) * (1 - tx) + at(y0, x1) * tx) * (1 - ty) + (at(y1, x0) * (1 - tx) + at(y1, x1) * tx) * ty;
        out[i * 2 + c] = values[i * 3 + c]! * (w > 0 ? w / values[i * 3 + 2]! : 0) + (1 - w) * from;
      }
    }
  }
  return out;
}
