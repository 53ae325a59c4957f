import { describe, expect, it } from 'vitest';
import type { RawFacts } from '../src/plate/mosaic.ts';
import { makePlate, plateOffset, plateScale } from '../src/plate/plate.ts';
import { kernels } from './kernels.ts';

const cells = { RGGB: [0, 1, 1, 2], BGGR: [2, 1, 1, 0], GRBG: [1, 0, 2, 1], GBRG: [1, 2, 0, 1] } as const,
  neutral = [0.5, 1, 0.8] as const,
  black = [100, 110, 120, 130] as const,
  white = 4095;
const facts = (width: number, height: number): RawFacts => ({
  width,
  height,
  camera: '',
  lens: '',
  mosaic: 'Bayer',
  black,
  white,
  quarterTurns: 0,
  profile: { colour: [], analogBalance: [1, 1, 1], asShotNeutral: neutral, baselineExposureEv: 0 },
  exif: { iso: 100, shutterSeconds: 1, aperture: 1, focalMm: 1, takenAt: null },
});

type Field = (x: number, y: number) => number;
/** A field kept once computed. */
const kept = (f: Field): Field => {
  const known = new Map<number, number>();
  return (x, y) => {
    const key = (y + 64) * 4096 + x + 64;
    let v = known.get(key);
    if (v === undefined) known.set(key, (v = f(x, y)));
    return v;
  };
};
const start = 0.003,
  toDomain = (x: number): number => (x < 0 ? start ** 0.25 + 0.25 * start ** -0.75 * x : (x + start) ** 0.25),
  fromDomain = (y: number): number => (y < start ** 0.25 ? (y - start ** 0.25) / (0.25 * start ** -0.75) : y ** 4 - start);
const mean = (n: number, f: (k: number) => number): number => Array.from({ length: n }, (_, k) => f(k)).reduce((a, b) => a + b) / n;

/**
 * The same in plain double precision: Zhang and Wu 2005, section III (equations 4, 9 to 12 and 17 of the paper, its low-pass
 * filter of nine), on fourth roots, five places to a variance, variances smoothed 1 2 1 both ways; then colours by corners
 * weighed by unlikeness, and by means.
 */
function oracle(mosaic: Field, colour: Field): [red: Field, green: Field, blue: Field] {
  const m = kept((x, y) => toDomain(mosaic(x, y))),
    isGreen = (x: number, y: number): boolean => colour(x, y) === 1;
  const along = (dx: number, dy: number): { x: Field; v: Field } => {
    const d = kept((x, y) => {
      const at = (k: number): number => m(x + k * dx, y + k * dy),
        there = (at(1) + at(-1)) / 2 + (2 * at(0) - at(2) - at(-2)) / 4;
      return isGreen(x, y) ? at(0) - there : there - at(0);
    });
    const low = [4, 9, 15, 23, 26, 23, 15, 9, 4],
      smooth = kept((x, y) => low.reduce((sum, w, k) => sum + (w / 128) * d(x + (k - 4) * dx, y + (k - 4) * dy), 0)),
      over = (f: Field, x: number, y: number): number => mean(5, (k) => f(x + (k - 2) * dx, y + (k - 2) * dy));
    const parts = (x: number, y: number): { mu: number; signal: number; noise: number } => {
      const mu = over(smooth, x, y);
      return {
        mu,
        signal: Math.max(0, over((i, j) => smooth(i, j) ** 2, x, y) - mu * mu) + 1e-9,
        noise: over((i, j) => (d(i, j) - smooth(i, j)) ** 2, x, y) + 1e-9,
      };
    };
    const variance = kept((x, y) => {
      const { signal, noise } = parts(x, y);
      return (signal * noise) / (signal + noise);
    });
    return {
      x: kept((x, y) => {
        const { mu, signal, noise } = parts(x, y);
        return mu + (signal / (signal + noise)) * (d(x, y) - mu);
      }),
      v: kept((x, y) => {
        let sum = 0;
        for (const [j, wj] of [1, 2, 1].entries())
          for (const [i, wi] of [1, 2, 1].entries()) sum += wi * wj * variance(x + i - 1, y + j - 1);
        return sum;
      }),
    };
  };
  const h = along(1, 0),
    v = along(0, 1);
  const green = kept((x, y) =>
    isGreen(x, y) ? m(x, y) : m(x, y) + (h.x(x, y) * v.v(x, y) + v.x(x, y) * h.v(x, y)) / (h.v(x, y) + v.v(x, y)),
  );
  const known = (x: number, y: number): number => m(x, y) - green(x, y);
  const corner = kept((x, y) => {
    const way = (ax: number): { mean: number; unlike: number } => {
      const [a, b] = [known(x + ax, y - 1), known(x - ax, y + 1)],
        bend = Math.abs(green(x + ax, y - 1) - green(x, y)) + Math.abs(green(x - ax, y + 1) - green(x, y));
      return { mean: (a + b) / 2, unlike: (0.02 + Math.abs(a - b) + bend) ** 2 };
    };
    const p = way(-1),
      q = way(1);
    return (p.mean * q.unlike + q.mean * p.unlike) / (p.unlike + q.unlike);
  });
  const plane =
    (c: number): Field =>
    (x, y) => {
      const difference = (i: number, j: number): number => (colour(i, j) === c ? known(i, j) : corner(i, j)),
        around = [
          [x - 1, y],
          [x + 1, y],
          [x, y - 1],
          [x, y + 1],
        ] as const;
      return fromDomain(green(x, y) + (isGreen(x, y) ? mean(4, (k) => difference(...around[k]!)) : difference(x, y)));
    };
  return [plane(0), (x, y) => fromDomain(green(x, y)), plane(2)];
}

describe('demosaic', () => {
  // repeatable, all over the range, with steps and noise
  const count = (x: number, y: number): number =>
    Math.round(
      90 +
        1700 * (1 + Math.sin(x * 0.7) * Math.cos(y * 0.31)) +
        ((Math.imul(x * 977 + y * 131, 2654435761) >>> 22) % 400) +
        (x > 20 ? 150 : 0),
    );
  it.each(Object.entries(cells))('%s: agrees with the papers’ formulas in double precision, borders and all', (_, cell) => {
    const width = 38,
      height = 27,
      top = Math.max(...neutral),
      data = Uint16Array.from({ length: width * height }, (_, i) => count(i % width, Math.floor(i / width)));
    const reflect = (i: number, n: number): number => (i < 0 ? -i : i >= n ? 2 * (n - 1) - i : i),
      place = (x: number, y: number): number => (reflect(y, height) & 1) * 2 + (reflect(x, width) & 1),
      colour = (x: number, y: number): number => cell[place(x, y)]!,
      mosaic = (x: number, y: number): number => {
        const p = place(x, y);
        return (((data[reflect(y, height) * width + reflect(x, width)]! - black[p]!) / (white - black[p]!)) * top) / neutral[cell[p]!]!;
      };
    const planes = oracle(mosaic, colour),
      plate = makePlate(kernels, { width, height, data, colours: 1, cell }, facts(width, height));
    let worst = 0;
    for (let c = 0; c < 3; c++)
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) {
          const want = Math.min(65535, Math.max(0, ((planes[c]!(x, y) * neutral[c]!) / top) * plateScale + plateOffset));
          worst = Math.max(worst, Math.abs(plate.data[(c * height + y) * width + x]! - want));
        }
    expect(worst).toBeLessThan(3);
  });
  it.each(Object.entries(cells))('%s: a measured value stays what it was', (_, cell) => {
    const width = 1600,
      height = 18,
      data = Uint16Array.from({ length: width * height }, (_, i) => count(i % width, Math.floor(i / width))),
      plate = makePlate(kernels, { width, height, data, colours: 1, cell }, facts(width, height));
    let worst = 0;
    for (let i = 0; i < width * height; i++) {
      const p = (Math.floor(i / width) & 1) * 2 + ((i % width) & 1),
        want = ((data[i]! - black[p]!) / (white - black[p]!)) * plateScale + plateOffset;
      worst = Math.max(worst, Math.abs(plate.data[cell[p]! * width * height + i]! - want));
    }
    expect(worst).toBeLessThan(3);
  });
  it('a grey picture comes out grey: no colour is made of texture', () => {
    const width = 64,
      height = 48,
      light = (x: number, y: number): number => 0.3 + 0.25 * Math.sin(x * 0.9) * Math.sin(y * 0.8),
      cell = cells.RGGB,
      data = Uint16Array.from({ length: width * height }, (_, i) => {
        const [x, y] = [i % width, Math.floor(i / width)],
          p = (y & 1) * 2 + (x & 1);
        return Math.round(black[p]! + light(x, y) * neutral[cell[p]!]! * (white - black[p]!));
      });
    const { data: out } = makePlate(kernels, { width, height, data, colours: 1, cell }, facts(width, height)),
      n = width * height,
      value = (c: number, i: number): number => (out[c * n + i]! - plateOffset) / plateScale / neutral[c]!;
    let worst = 0;
    for (let y = 8; y < height - 8; y++)
      for (let x = 8; x < width - 8; x++)
        for (const c of [0, 2]) worst = Math.max(worst, Math.abs(value(c, y * width + x) - value(1, y * width + x)));
    expect(worst).toBeLessThan(0.012);
  });
});
