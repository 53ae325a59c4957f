import type { Kernels } from '../kernels/kernels.ts';
import { demosaic } from './demosaic.ts';
import type { RawFacts, RawPixels } from './mosaic.ts';
import { plateOffset, plateScale } from './scale.ts';

export { plateOffset, plateScale } from './scale.ts';
/** How many sizes a plate has: 1, 1/2, 1/4, 1/8, 1/16. */
export const plateLevels = 5;

/** Linear camera RGB as three planes of width × height. */
export interface Plate {
  width: number;
  height: number;
  data: Uint16Array;
}

/**
 * Mosaic to plate: demosaiced, turned upright; pictures already interpolated are only scaled.
 * @param spare planes of a plate that is not needed any more, to be written over
 */
export function makePlate(kernels: Kernels, raw: RawPixels, facts: RawFacts, spare: Plate['data'] | null = null): Plate {
  const { width, height } = raw,
    plate = raw.colours === 3 ? scaleLinear(raw, facts) : { width, height, data: demosaic(kernels, raw, facts, spare) };
  return turn(plate, facts.quarterTurns);
}

function scaleLinear(raw: RawPixels, facts: RawFacts): Plate {
  const n = raw.width * raw.height,
    data = new Uint16Array(n * 3),
    gain = plateScale / facts.white;
  for (let i = 0; i < n; i++) for (let c = 0; c < 3; c++) data[c * n + i] = Math.min(65535, raw.data[i * 3 + c]! * gain + plateOffset);
  return { width: raw.width, height: raw.height, data };
}

/** Turns a plate by quarter turns clockwise. */
export function turn(plate: Plate, quarterTurns: number): Plate {
  if (quarterTurns === 0) return plate;
  const { width: w, height: h, data } = plate,
    n = w * h,
    out = new Uint16Array(n * 3);
  const [tw, th] = quarterTurns === 2 ? [w, h] : [h, w];
  for (let c = 0; c < 3; c++) {
    for (let y = 0; y < h; y++) {
      for (let x = 0; x < w; x++) {
        const to =
          quarterTurns === 1 ? x * tw + (tw - 1 - y) : quarterTurns === 2 ? (th - 1 - y) * tw + (tw - 1 - x) : (th - 1 - x) * tw + y;
        out[c * n + to] = data[c * n + y * w + x]!;
      }
    }
  }
  return { width: tw, height: th, data: out };
}

/** The next smaller level: means of 2 × 2 in linear light; an odd last row or column is left out. */
export function halvePlate(kernels: Kernels, plate: Plate): Plate {
  const { width, height, data } = plate,
    w = Math.max(1, width >> 1),
    h = Math.max(1, height >> 1),
    n = width * height,
    out = new Uint16Array(w * h * 3);
  const memory = kernels.reserve(width * 4 + w * 2 + 64),
    row1 = memory + ((width * 2 + 15) & ~15),
    result = row1 + ((width * 2 + 15) & ~15);
  for (let c = 0; c < 3; c++) {
    for (let y = 0; y < h; y++) {
      const from = c * n + Math.min(y * 2, height - 1) * width,
        next = c * n + Math.min(y * 2 + 1, height - 1) * width;
      kernels.u16().set(data.subarray(from, from + width), memory / 2);
      kernels.u16().set(data.subarray(next, next + width), row1 / 2);
      kernels.exports.halve(memory, row1, result, w);
      out.set(kernels.u16().subarray(result / 2, result / 2 + w), c * w * h + y * w);
    }
  }
  return { width: w, height: h, data: out };
}

/** The sizes of a plate's levels: 1, 1/2 … 1/16. */
export function levelSize(width: number, height: number, level: number): { width: number; height: number } {
  return { width: Math.max(1, width >> level), height: Math.max(1, height >> level) };
}

/** A rectangle of a plate as a plate of its own. */
export function cutPlate(plate: Plate, x: number, y: number, width: number, height: number): Plate {
  const data = new Uint16Array(width * height * 3),
    n = plate.width * plate.height;
  for (let c = 0; c < 3; c++)
    for (let j = 0; j < height; j++) {
      const from = c * n + (y + j) * plate.width + x;
      data.set(plate.data.subarray(from, from + width), c * width * height + j * width);
    }
  return { width, height, data };
}
