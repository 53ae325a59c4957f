import { describe, expect, it } from 'vitest';
import { plainDetail, type Detail } from '../src/groundwork/detail/detail.ts';
import { diffraction, returned, transfer } from '../src/groundwork/detail/optics.ts';
import { responseAt, shareAt } from '../src/groundwork/detail/response.ts';
import type { NoiseModel } from '../src/groundwork/noise.ts';
import { plateOffset, plateScale, type Plate } from '../src/plate/plate.ts';
import { light, luma, model, noisy, noOptics, spread, whole } from './noisyPlate.ts';

describe('what the optics left', () => {
  it('of a perfect lens is 0.391 at half its limit and nothing at it (Goodman, Introduction to Fourier Optics, 6.3)', () => {
    // the limit is pitch / (0.55 µm · N) cycles a pixel
    expect(diffraction(0.5, 8, 4.4)).toBeCloseTo(0.391, 3);
    expect(diffraction(1, 8, 4.4)).toBe(0);
    expect(diffraction(0, 8, 4.4)).toBe(1);
  });
  it('comes back whole where much is left, and is not asked for where nothing is', () => {
    expect(0.9 * returned(0.9)).toBeCloseTo(1, 1);
    expect(returned(1)).toBeCloseTo(1, 6);
    expect(returned(0)).toBe(0);
    expect(Math.max(...Array.from({ length: 100 }, (_, i) => returned(i / 100)))).toBeLessThan(3);
  });
  const still: NoiseModel = { slope: 1e-7, floor: 1e-10 },
    spreadPx = 0.6,
    // an edge through a Gaussian: the normal distribution's sum, by its logistic stand-in
    sharp = noisy(120, 60, (x) => (x < 60 ? 0.06 : 0.4), still),
    soft = noisy(120, 60, (x) => 0.06 + 0.34 / (1 + Math.exp((-1.702 * (x + 0.5 - 60)) / spreadPx)), still),
    back = whole(soft, { softness: { share: 1, filterPx: spreadPx } }, 0, still),
    column = (p: Plate, x: number): number => luma(p)(x, 30);
  it('is nearer to the edge without a filter, everywhere within five pixels of it together', () => {
    const off = (p: Plate): number => Math.hypot(...[55, 56, 57, 58, 59, 60, 61, 62, 63, 64].map((x) => column(p, x) - column(sharp, x)));
    expect(off(back) / off(soft)).toBeLessThan(0.72);
  });
  it('does not ring: nowhere more than 2 % of the step beyond either side', () => {
    for (let x = 30; x < 90; x++) {
      expect(column(back, x)).toBeGreaterThan(0.06 - 0.007);
      expect(column(back, x)).toBeLessThan(0.4 + 0.007);
    }
  });
  it('leaves noise as it was', () => {
    const flat = noisy(160, 120, () => 0.1),
      p = whole(flat, { softness: { share: 1, filterPx: 0.6 } });
    expect(spread(p, luma(p), 16, 144) / spread(flat, luma(flat), 16, 144)).toBeLessThan(1.15);
  });
  it('is nothing where the file names neither aperture nor pitch and there is no filter', () => {
    expect(transfer(0.4, noOptics, 0)).toBe(1);
  });
});

describe('sharpness over size and contrast', () => {
  const still: NoiseModel = { slope: 1e-7, floor: 1e-10 },
    wave = (px: number): Plate => noisy(160, 96, (x) => 0.15 * (1 + 0.2 * Math.sin((2 * Math.PI * x) / px)), still),
    /** how much of a wave is left, of one */
    kept = (px: number, sharpness: Partial<Detail['sharpness']>): number => {
      const before = wave(px),
        after = whole(before, { sharpness: { faint: 0.25, strong: 512, kept: 1, ...sharpness } }, 0, still);
      return spread(after, luma(after), 24, 136) / spread(before, luma(before), 24, 136);
    };
  it('raises details of the crest’s size most, and less the further they are from it', () => {
    const at = [3, 6, 16].map((px) => kept(px, { gain: 1, sizePx: 3, coarsePx: 12, finePx: 1.4 }));
    expect(at[0]).toBeGreaterThan(1.5);
    expect(at[1]).toBeLessThan(at[0]! - 0.2);
    expect(at[2]).toBeLessThan(1.15);
  });
  it('below zero takes that size away and leaves coarser ones', () => {
    expect(kept(3, { gain: -1, sizePx: 3, coarsePx: 6, finePx: 1.4 })).toBeLessThan(0.35);
    expect(kept(16, { gain: -1, sizePx: 3, coarsePx: 6, finePx: 1.4 })).toBeGreaterThan(0.93);
  });
  it('is as large as its response says where nothing holds it', () => {
    expect(responseAt({ ...plainDetail.sharpness, gain: 2, sizePx: 4 }, 4)).toBe(2);
    expect(responseAt({ ...plainDetail.sharpness, gain: 2, sizePx: 4, coarsePx: 16 }, 8)).toBeCloseTo(1, 9);
    expect(responseAt({ ...plainDetail.sharpness, gain: 2, sizePx: 4, coarsePx: 16 }, 16)).toBeCloseTo(0, 9);
  });
  it('leaves what is no more than noise alone', () => {
    const flat = noisy(160, 120, () => 0.1),
      only = whole(flat, { sharpness: { gain: 2, faint: 3 } });
    expect(spread(only, luma(only), 16, 144) / spread(flat, luma(flat), 16, 144)).toBeLessThan(1.03);
    expect(shareAt(plainDetail.sharpness, 1)).toBe(0);
  });
  it('makes a soft edge steeper, without a halo of more than 3 % of the step', () => {
    const ramp = noisy(120, 60, (x) => 0.05 + 0.35 / (1 + Math.exp(-(x - 60) / 1.4)), still),
      p = whole(ramp, { sharpness: { gain: 2, sizePx: 8, coarsePx: 24, kept: 1 } }, 0, still),
      rise = (q: Plate): number => light(q, 61, 30, 1) - light(q, 59, 30, 1);
    expect(rise(p)).toBeGreaterThan(rise(ramp) * 1.25);
    for (let x = 30; x < 90; x++) {
      expect(light(p, x, 30, 1)).toBeGreaterThan(0.05 - 0.0105);
      expect(light(p, x, 30, 1)).toBeLessThan(0.4 + 0.0105);
    }
  });
  it('where it acts, shown, is white at an edge, black where it is flat, and smaller with a higher “faint”', () => {
    const flat = noisy(160, 120, (x) => (x < 80 ? 0.05 : 0.4)),
      mask = (faint: number): Plate => whole(flat, { sharpness: { faint, strong: 512 } }, 0, model, true),
      share = (p: Plate): number => {
        let s = 0;
        for (let i = 0; i < 160 * 120; i++) s += (p.data[i]! - plateOffset) / plateScale;
        return s / (160 * 120);
      };
    // three of the four blocks over a place beside the edge hold the edge
    expect(light(mask(3), 80, 60, 0)).toBeGreaterThanOrEqual(0.74);
    expect(light(mask(3), 30, 60, 1)).toBeLessThan(0.05);
    expect(share(mask(0.25))).toBeGreaterThan(0.95);
    expect(share(mask(40))).toBeLessThan(share(mask(3)));
  });
});
