import { describe, expect, it } from 'vitest';
import { colourDeviation, lumaDeviation } from '../src/groundwork/detail/noiseSpectrum.ts';
import type { RawFacts } from '../src/plate/mosaic.ts';
import { halvePlate, makePlate, plateOffset, plateScale, type Plate } from '../src/plate/plate.ts';
import { kernels } from './kernels.ts';

/** Repeatable numbers of a normal distribution (Box and Muller 1958 over a multiplicative generator). */
function normals(): () => number {
  let a = 12345;
  const uniform = (): number => ((a = (Math.imul(a, 1664525) + 1013904223) >>> 0) + 0.5) / 2 ** 32;
  return () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
}
const side = 512,
  slope = 1 / 3000,
  // red and blue of a camera in daylight see about half of what green does (common practice)
  neutral = [0.5, 1, 0.6] as const,
  cell = [0, 1, 1, 2] as const,
  level = neutral.map((v) => 0.2 * v);
/** A flat neutral field of photon noise, demosaiced. */
function flatField(): Plate {
  const next = normals(),
    black = 2048,
    white = 65535,
    data = Uint16Array.from({ length: side * side }, (_, i) => {
      const light = level[cell[(Math.floor(i / side) & 1) * 2 + (i & 1)]!]!;
      return Math.round(black + (light + next() * Math.sqrt(slope * light)) * (white - black));
    }),
    facts = { black: [black, black, black, black], white, quarterTurns: 0, profile: { asShotNeutral: neutral } } as unknown as RawFacts;
  return makePlate(kernels, { width: side, height: side, data, colours: 1, cell }, facts);
}
/** Deviations of the orthonormal 8 × 8 cosine transform (DCT-II: Ahmed, Natarajan, Rao 1974) of a field's blocks, by the formula. */
function spectrum(at: (x: number, y: number) => number, size: number): number[][] {
  const c = Array.from({ length: 8 }, (_, u) =>
      Array.from({ length: 8 }, (_, x) => Math.sqrt((u === 0 ? 1 : 2) / 8) * Math.cos(((2 * x + 1) * u * Math.PI) / 16)),
    ),
    sums = Array.from({ length: 8 }, () => new Array<number>(8).fill(0));
  let n = 0;
  for (let by = 16; by + 24 <= size; by += 8)
    for (let bx = 16; bx + 24 <= size; bx += 8) {
      n++;
      const rows = Array.from({ length: 8 }, (_, y) => c.map((cu) => cu.reduce((s, k, x) => s + k * at(bx + x, by + y), 0)));
      for (let v = 0; v < 8; v++)
        for (let u = 0; u < 8; u++) {
          const X = rows.reduce((s, row, y) => s + c[v]![y]! * row[u]!, 0);
          sums[v]![u]! += X * X;
        }
    }
  return sums.map((row) => row.map((s) => Math.sqrt(s / n)));
}

describe('the spectrum of a demosaiced frame’s noise', () => {
  const full = flatField(),
    half = halvePlate(kernels, full);
  it.each([
    ['at full size', 0, full],
    ['at half size', 1, half],
  ] as const)('%s is as it is kept, in luma and in colour', (_, level0, plate) => {
    const n = plate.width * plate.height,
      // even noise of one: each deviation of light is √(slope · light) over 2^level values
      value = (c: number, x: number, y: number): number => {
        const light = (plate.data[c * n + y * plate.width + x]! - plateOffset) / plateScale;
        return ((light - level[c]!) / Math.sqrt(slope * level[c]!)) * 2 ** level0;
      };
    const luma = spectrum((x, y) => (value(0, x, y) + 2 * value(1, x, y) + value(2, x, y)) / 4, plate.width),
      colour = spectrum((x, y) => value(0, x, y) - value(1, x, y), plate.width);
    for (let v = 0; v < 8; v++)
      for (let u = 0; u < 8; u++) {
        expect(luma[v]![u]! / lumaDeviation(level0, v, u), `luma ${v} ${u}`).toBeGreaterThan(0.87);
        expect(luma[v]![u]! / lumaDeviation(level0, v, u), `luma ${v} ${u}`).toBeLessThan(1.13);
        expect(colour[v]![u]! / colourDeviation(level0, v, u), `colour ${v} ${u}`).toBeGreaterThan(0.78);
        expect(colour[v]![u]! / colourDeviation(level0, v, u), `colour ${v} ${u}`).toBeLessThan(1.25);
      }
  });
});

describe('shrinking in blocks', () => {
  it('agrees with the transform written out, block by block', () => {
    const width = 40,
      height = 32,
      stride = 192,
      down = 4,
      next = normals(),
      plane = Array.from({ length: height }, () => Array.from({ length: width }, () => 3 * next())),
      t2 = Array.from({ length: 64 }, (_, i) => (i === 0 ? 0 : (1 + i / 40) ** 2)),
      at = kernels.reserve(stride * height * 2 + 137 * (width * 2 + 64) + 2048),
      f32 = kernels.f32();
    plane.forEach((row, y) => f32.set(row, (at + y * stride) / 4));
    const dst = at + stride * height,
      numbers = dst + stride * height;
    f32.set(t2, numbers / 4);
    kernels.exports.shrinkBlocks(at, dst, width, height, stride, down, numbers, numbers + 256);
    // every block by itself
    const sum = plane.map((row) => row.map(() => 0)),
      count = plane.map((row) => row.map(() => 0)),
      c = (u: number, x: number): number => Math.sqrt((u === 0 ? 1 : 2) / 8) * Math.cos(((2 * x + 1) * u * Math.PI) / 16),
      eight = [0, 1, 2, 3, 4, 5, 6, 7];
    for (let by = 0; by <= height - 8; by += down)
      for (let bx = 0; bx <= width - 8; bx += 2) {
        const shrunk = eight.map((v) =>
          eight.map((u) => {
            let X = 0;
            for (const y of eight) for (const x of eight) X += c(v, y) * c(u, x) * plane[by + y]![bx + x]!;
            return X * Math.max(0, 1 - t2[v * 8 + u]! / (X * X));
          }),
        );
        for (const y of eight)
          for (const x of eight) {
            let value = 0;
            for (const v of eight) for (const u of eight) value += c(v, y) * c(u, x) * shrunk[v]![u]!;
            sum[by + y]![bx + x]! += value;
            count[by + y]![bx + x]! += 1;
          }
      }
    let worst = 0;
    for (let y = 8; y < height - 8; y++)
      for (let x = 8; x < width - 8; x++) worst = Math.max(worst, Math.abs(f32[(dst + y * stride) / 4 + x]! - sum[y]![x]! / count[y]![x]!));
    expect(worst).toBeLessThan(1e-5);
  });
});
