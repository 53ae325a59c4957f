import type { Kernels } from '../render/kernels.ts';
import type { RawFacts, RawPixels } from './mosaic.ts';

/** Plates are 16-bit: value = linear × plateScale + plateOffset, 1 being the sensor's clipping point. Room is left below black and above white. */
export const plateScale = 60000;
export const plateOffset = 2048;
/** How many sizes a plate has: 1, 1/2, 1/4, 1/8, 1/16. */
export const plateLevels = 5;

/** Linear camera RGB as three planes of width × height. */
export interface Plate {
  width: number;
  height: number;
  data: Uint16Array;
}

/**
 * Mosaic to plate: levels, balance for the interpolation only, demosaic in strips, turned upright.
 * Bayer by Malvar, He and Cutler 2004; pictures already interpolated are only scaled.
 */
export function makePlate(kernels: Kernels, raw: RawPixels, facts: RawFacts): Plate {
  const plate = raw.colours === 3 ? scaleLinear(raw, facts) : demosaicBayer(kernels, raw, facts);
  return turn(plate, facts.quarterTurns);
}

function scaleLinear(raw: RawPixels, facts: RawFacts): Plate {
  const n = raw.width * raw.height,
    data = new Uint16Array(n * 3),
    gain = plateScale / facts.white;
  for (let i = 0; i < n; i++) for (let c = 0; c < 3; c++) data[c * n + i] = Math.min(65535, raw.data[i * 3 + c]! * gain + plateOffset);
  return { width: raw.width, height: raw.height, data };
}

function demosaicBayer(kernels: Kernels, raw: RawPixels, facts: RawFacts): Plate {
  const { width, height, data, cell } = raw,
    n = width * height;
  const out = new Uint16Array(n * 3);
  const neutral = facts.profile.asShotNeutral,
    top = Math.max(...neutral);
  const balance = neutral.map((v) => top / v);
  const strip = 64,
    padded = width + 16,
    rowBytes = padded * 4;
  const memory = kernels.reserve((strip + 4) * rowBytes + width * 2 + 64 + 3 * (strip * width * 2 + 32) + 256);
  const source = memory,
    rows = source + ((width * 2 + 64 + 15) & ~15),
    planes = rows + (strip + 4) * rowBytes,
    planeBytes = strip * width * 2 + 32,
    numbers = planes + 3 * planeBytes;
  const u16 = (): Uint16Array => kernels.u16(),
    f32 = (): Float32Array => kernels.f32();
  f32().set(
    balance.map((v) => plateScale / v),
    numbers / 4 + 8,
  );
  f32()[numbers / 4 + 11] = plateOffset;
  for (let y0 = 0; y0 < height; y0 += strip) {
    const count = Math.min(strip, height - y0);
    for (let k = -2; k < count + 2; k++) {
      const y = y0 + k,
        mirrored = y < 0 ? -y : y >= height ? 2 * (height - 1) - y : y;
      const a = (mirrored & 1) * 2;
      f32().set(
        [
          facts.black[a]!,
          facts.black[a + 1]!,
          balance[cell[a]!]! / (facts.white - facts.black[a]!),
          balance[cell[a + 1]!]! / (facts.white - facts.black[a + 1]!),
        ],
        numbers / 4,
      );
      u16().set(data.subarray(mirrored * width, (mirrored + 1) * width), source / 2);
      kernels.exports.level(source, rows + (k + 2) * rowBytes + 16, width, numbers);
    }
    for (let k = 0; k < count; k++) {
      const at = (j: number): number => rows + (k + 2 + j) * rowBytes + 16,
        o = k * width * 2;
      const parity = ((y0 + k) & 1) * 2,
        first = cell[parity]!,
        own = first === 1 ? cell[parity + 1]! : first;
      kernels.exports.demosaic(
        at(-2),
        at(-1),
        at(0),
        at(1),
        at(2),
        planes + o,
        planes + planeBytes + o,
        planes + 2 * planeBytes + o,
        width,
        first === 1 ? 1 : 0,
        own === 0 ? 1 : 0,
        numbers + 32,
      );
    }
    for (let c = 0; c < 3; c++)
      out.set(u16().subarray((planes + c * planeBytes) / 2, (planes + c * planeBytes) / 2 + count * width), c * n + y0 * width);
  }
  return { width, height, data: out };
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
