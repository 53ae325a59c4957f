import { describe, expect, it } from 'vitest';
import { grainPass, type Granularity } from '../src/render/grainPass.ts';
import type { Planes } from '../src/render/render.ts';
import { finished } from './finishTrial.ts';

const film: Granularity = { rms: 12, sizeUm: 8, roughness: 0.3, colour: 0, darks: 1, mids: 1, lights: 1, formatMm: 36, roll: 1 };
/** A flat piece of a film of so many pixels across, and its grain. */
const flat = (pixels: number, edge: number, more: Partial<Granularity> = {}, at = { x: 0, y: 0 }, level = 0.18): Planes =>
  finished([grainPass({ ...film, ...more })], pixels, pixels, () => level, { ...at, edge, whole: { width: edge, height: edge } });

/** Density through round apertures laid side by side: RMS × 1000, as a microdensitometer would find it. */
function measured(planes: Planes, size: number, pixelUm: number, apertureUm: number): number {
  const radius = apertureUm / 2 / pixelUm,
    step = Math.ceil(radius * 2) + 1,
    densities: number[] = [];
  // each pixel counts by the share of it that lies within, from 4 × 4 points
  const disc: [number, number, number][] = [];
  for (let y = -Math.ceil(radius); y <= Math.ceil(radius); y++)
    for (let x = -Math.ceil(radius); x <= Math.ceil(radius); x++) {
      let share = 0;
      for (let i = 0; i < 16; i++) share += Math.hypot(x + ((i & 3) - 1.5) / 4, y + ((i >> 2) - 1.5) / 4) <= radius ? 1 / 16 : 0;
      if (share > 0) disc.push([x, y, share]);
    }
  const area = disc.reduce((sum, d) => sum + d[2], 0);
  for (let y = step; y < size - step; y += step)
    for (let x = step; x < size - step; x += step)
      densities.push(-Math.log10(disc.reduce((sum, [dx, dy, share]) => sum + share * planes[(y + dy) * size + x + dx]!, 0) / area));
  const mean = densities.reduce((a, b) => a + b, 0) / densities.length;
  return 1000 * Math.sqrt(densities.reduce((sum, d) => sum + (d - mean) ** 2, 0) / densities.length);
}
const spread = (planes: Planes, n: number): number => {
  let sum = 0,
    square = 0;
  for (let i = 0; i < n; i++) {
    sum += planes[i]!;
    square += planes[i]! ** 2;
  }
  return square / n - (sum / n) ** 2;
};

describe('grain', () => {
  const size = 1200,
    edge = 12000,
    pixelUm = 36000 / edge,
    drawn = flat(size, edge);
  it('measured on a flat patch through 48 µm is what the sheet says, within 5 % (ISO 10505)', () => {
    expect(measured(drawn, size, pixelUm, 48) / film.rms).toBeGreaterThan(0.95);
    expect(measured(drawn, size, pixelUm, 48) / film.rms).toBeLessThan(1.05);
    for (const more of [
      { rms: 5, sizeUm: 4 },
      { rms: 25, sizeUm: 10, roughness: 0.8 },
      { rms: 15, sizeUm: 6, colour: 0.5 },
    ])
      expect(Math.abs(measured(flat(size, edge, more), size, pixelUm, 48) / more.rms - 1), JSON.stringify(more)).toBeLessThan(0.05);
  });
  it('follows Selwyn’s law from 24 to 192 µm within 10 %: deviation by the root of the area (Selwyn 1935)', () => {
    const wide = flat(2400, edge);
    for (const aperture of [24, 96, 192])
      expect(Math.abs(((measured(wide, 2400, pixelUm, aperture) / film.rms) * aperture) / 48 - 1), `${aperture} µm`).toBeLessThan(0.1);
  });
  it('keeps the mean of light', () => {
    const n = size * size;
    let sum = 0;
    for (let i = 0; i < n; i++) sum += drawn[i]!;
    expect(sum / n / 0.18).toBeCloseTo(1, 2);
  });
  it('is the same in a cut piece as in the whole, byte for byte', () => {
    const whole = flat(300, 6000, { colour: 0.4 }),
      piece = flat(120, 6000, { colour: 0.4 }, { x: 130, y: 71 });
    for (let c = 0; c < 3; c++)
      for (let y = 0; y < 120; y++)
        for (let x = 0; x < 120; x++) expect(piece[(c * 120 + y) * 120 + x]).toBe(whole[(c * 300 + y + 71) * 300 + x + 130]);
  });
  it('of a crop is that of the place on the film, not of the crop', () => {
    const film = { left: 0, top: 0, width: 1, height: 1 },
      pass = grainPass({ rms: 12, sizeUm: 8, roughness: 0.3, colour: 0, darks: 1, mids: 1, lights: 1, formatMm: 36, roll: 1 }),
      whole = finished([pass], 200, 200, () => 0.18, { edge: 4000, whole: { width: 4000, height: 4000 }, film }),
      crop = finished([pass], 100, 100, () => 0.18, {
        edge: 4000,
        whole: { width: 100, height: 100 },
        film: { ...film, left: 50 / 4000, top: 20 / 4000 },
      });
    for (let y = 0; y < 100; y++) for (let x = 0; x < 100; x++) expect(crop[y * 100 + x]).toBeCloseTo(whole[(y + 20) * 200 + x + 50]!, 4);
  });
  it('has, seen smaller, the variance of the full size scaled down, and the same grain', () => {
    for (const times of [2, 3, 4, 6]) {
      const large = flat(1200, 6000),
        n = 1200 / times,
        scaled = new Float32Array(n * n),
        small = flat(n, 6000 / times);
      for (let y = 0; y < n; y++)
        for (let x = 0; x < n; x++) {
          let sum = 0;
          for (let j = 0; j < times; j++) for (let i = 0; i < times; i++) sum += large[(y * times + j) * 1200 + x * times + i]!;
          scaled[y * n + x] = sum / times ** 2;
        }
      expect(Math.abs(spread(small, n * n) / spread(scaled, n * n) - 1), `${times} times smaller`).toBeLessThan(0.1);
      let product = 0;
      for (let i = 0; i < n * n; i++) product += (small[i]! - 0.18) * (scaled[i]! - 0.18);
      expect(product / n / n / spread(scaled, n * n), `${times} times smaller`).toBeGreaterThan(0.7);
    }
  });
  it('is as strong in darks, mids and lights as is said', () => {
    const tones = { darks: 0.5, mids: 1, lights: 0.2 },
      at = (level: number): number => measured(flat(size, edge, tones, { x: 0, y: 0 }, level), size, pixelUm, 48) / film.rms;
    expect(at(0.015)).toBeCloseTo(0.5, 1);
    expect(at(0.2)).toBeCloseTo(1, 1);
    expect(at(0.9)).toBeCloseTo(0.2, 1);
  });
  it('has channels with as much in common as is said', () => {
    const colour = flat(400, 6000, { colour: 0.6 }),
      n = 400 * 400;
    let both = 0;
    for (let i = 0; i < n; i++) both += (colour[i]! - 0.18) * (colour[n + i]! - 0.18);
    expect(both / n / spread(colour, n)).toBeCloseTo(0.4, 1);
  });
});
