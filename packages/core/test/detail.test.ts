import { describe, expect, it } from 'vitest';
import { detailActs, fromDetail1, plainDetail, plainDetail1, type Detail } from '../src/groundwork/detail/detail.ts';
import { detailHalo, detailPlate } from '../src/groundwork/detail/plate.ts';
import { drawingOf } from '../src/plan/draw.ts';
import { plainGroundwork } from '../src/groundwork/groundwork.ts';
import { estimateNoise, usualNoise } from '../src/groundwork/noise.ts';
import type { RawFacts, RawPixels } from '../src/plate/mosaic.ts';
import { halvePlate, plateScale, type Plate } from '../src/plate/plate.ts';
import { kernels } from './kernels.ts';
import { both, colour, detailOf, generator, light, luma, model, noisy, noOptics, spread, whole, type Wish } from './noisyPlate.ts';

describe('the noise of a frame', () => {
  it.each([100, 400, 1600, 6400])(
    'is found from the mosaic within a third of what the camera has, ISO %i (photon transfer: Janesick 2007)',
    (iso) => {
      const truth = usualNoise(iso),
        normal = generator(iso),
        width = 960,
        height = 640,
        data = new Uint16Array(width * height),
        white = 16383,
        black = 512;
      // a scene with gradients, patches and some texture
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) {
          const v = 0.02 + 0.5 * (x / width) * (0.4 + 0.6 * ((y >> 6) & 1)) + (x > 700 ? 0.04 * Math.sin(x * 1.3) * Math.sin(y * 1.1) : 0);
          data[y * width + x] = Math.round(
            black + Math.max(-0.02, v + normal() * Math.sqrt(truth.slope * Math.max(0, v) + truth.floor)) * (white - black),
          );
        }
      const raw: RawPixels = { width, height, data, colours: 1, cell: [0, 1, 1, 2] },
        found = estimateNoise(raw, { white, black: [black, black, black, black], exif: { iso } } as unknown as RawFacts);
      for (const v of [0.05, 0.2, 0.5]) {
        expect((found.slope * v + found.floor) / (truth.slope * v + truth.floor)).toBeGreaterThan(0.67);
        expect((found.slope * v + found.floor) / (truth.slope * v + truth.floor)).toBeLessThan(1.5);
      }
    },
  );
});

describe('noise reduction', () => {
  const flat = noisy(160, 120, () => 0.1);
  it('at zero changes nothing', () => {
    expect(drawingOf(plainGroundwork, { width: 100, height: 80, noise: model }, 0, null).detail).toBe(null);
    const same = whole(flat, {});
    let worst = 0;
    for (let i = 0; i < same.data.length; i++) worst = Math.max(worst, Math.abs(same.data[i]! - flat.data[i]!));
    expect(worst).toBeLessThanOrEqual(1);
  });
  it('luminance: a flat place loses most of its luma noise, growing with the amount', () => {
    const before = spread(flat, luma(flat), 16, 144),
      at = (v: number): number => {
        const p = whole(flat, { luma: v });
        return spread(p, luma(p), 16, 144) / before;
      };
    expect(at(1)).toBeLessThan(0.85);
    expect(at(2.1)).toBeLessThan(0.55);
    expect(at(4)).toBeLessThan(at(2.1));
  });
  it('colour: coarse speckle, as demosaicing leaves it, goes to about a quarter in a dark place while luma stays as it was', () => {
    const dark = noisy(160, 120, () => 0.01),
      p = whole(dark, { colour: 2.2 });
    expect(spread(p, colour(p), 20, 140) / spread(dark, colour(dark), 20, 140)).toBeLessThan(0.27);
    expect(spread(p, luma(p), 20, 140) / spread(dark, luma(dark), 20, 140)).toBeGreaterThan(0.8);
  });
  it('brightness does not shift', () => {
    const p = whole(flat, { luma: 4.2, colour: 3.6 });
    for (let c = 0; c < 3; c++) {
      let a = 0,
        b = 0;
      for (let i = 0; i < 160 * 120; i++) {
        a += flat.data[c * 19200 + i]!;
        b += p.data[c * 19200 + i]!;
      }
      expect(b / a).toBeCloseTo(1, 2);
    }
  });
  it('a strong edge keeps 95 % of its contrast two pixels from it, and no colour bleeds over it', () => {
    const red = [0.3, 0.05, 0.04],
      blue = [0.04, 0.07, 0.3],
      edge = noisy(160, 120, (x, _y, c) => (x < 80 ? red : blue)[c]!),
      p = whole(edge, { luma: 2.1, colour: 2.2 });
    const mean = (x: number, c: number): number => {
      let s = 0;
      for (let y = 20; y < 100; y++) s += light(p, x, y, c) / 80;
      return s;
    };
    for (const c of [0, 2]) {
      expect(Math.abs(mean(77, c) - mean(40, c)) / Math.abs(red[c]! - blue[c]!)).toBeLessThan(0.05);
      expect(Math.abs(mean(82, c) - mean(120, c)) / Math.abs(red[c]! - blue[c]!)).toBeLessThan(0.05);
    }
  });
});

describe('noise over size and brightness', () => {
  it('goes from the darks alone, or from the lights alone', () => {
    const halves = noisy(240, 120, (x) => (x < 120 ? 0.01 : 0.6)),
      left = (tones: [number, number]): [number, number] => {
        const p = whole(halves, { luma: 2.5, tones });
        return [
          spread(p, luma(p), 16, 100) / spread(halves, luma(halves), 16, 100),
          spread(p, luma(p), 140, 224) / spread(halves, luma(halves), 140, 224),
        ];
      };
    const darks = left([1, 0]),
      lights = left([0, 1]);
    expect(darks[0]).toBeLessThan(darks[1] - 0.25);
    expect(lights[1]).toBeLessThan(lights[0] - 0.25);
  });
  it('of the finest size alone leaves a coarse ripple as it was', () => {
    const ripple = noisy(160, 120, (x) => 0.1 + 0.004 * Math.sin((2 * Math.PI * x) / 14)),
      height = (p: Plate): number => {
        let s = 0;
        for (let x = 24; x < 136; x++) for (let y = 20; y < 100; y++) s += luma(p)(x, y) * Math.sin((2 * Math.PI * x) / 14);
        return s;
      },
      fine: Detail = { ...plainDetail, noise: { ...plainDetail.noise, luma: { fine: 4, coarse: 0 } } },
      all: Detail = { ...plainDetail, noise: { ...plainDetail.noise, luma: { fine: 4, coarse: 4 } } },
      through = (settings: Detail): Plate =>
        detailPlate(
          kernels,
          { settings, noise: model, optics: noOptics, mask: false },
          0,
          ripple,
          { x: 0, y: 0 },
          { x: 0, y: 0, width: 160, height: 120 },
        );
    expect(height(through(fine)) / height(ripple)).toBeGreaterThan(0.9);
    expect(height(through(all)) / height(ripple)).toBeLessThan(0.75);
  });
});

describe('detail of the first version', () => {
  it('is carried over: plain stays plain, noise keeps its thresholds, what was sharpened is', () => {
    expect(detailActs(fromDetail1(plainDetail1))).toBe(false);
    const now = fromDetail1({ ...plainDetail1, luminanceNoise: 50, colourNoise: 50, sharpen: 100, radiusPx: 1 });
    // at 50 luma had to stand out by 2.1 deviations and colour by 1.8
    expect(now.noise.luma).toEqual(both(2.1));
    expect(now.noise.colour).toEqual(both(1.8));
    expect(now.sharpness.gain).toBeGreaterThan(1);
  });
});

describe('pieces and levels', () => {
  const scene = noisy(300, 220, (x, y, c) => 0.06 + 0.05 * Math.sin(x * 0.13 + c) + (x > y ? 0.1 : 0)),
    all: Wish = { luma: 1.7, colour: 1.8, softness: { share: 1, filterPx: 0.5 }, sharpness: { gain: 1, sizePx: 3.4 } };
  it('a piece with its halo is the same numbers as that piece of the whole, wherever tiles fall', () => {
    const full = whole(scene, all),
      settings = detailOf(all),
      halo = detailHalo(settings, 0),
      area = { x: 61, y: 47, width: 97, height: 83 },
      from = { x: area.x - halo, y: area.y - halo, width: area.width + 2 * halo, height: area.height + 2 * halo };
    const cut: Plate = { width: from.width, height: from.height, data: new Uint16Array(from.width * from.height * 3) };
    for (let c = 0; c < 3; c++)
      for (let y = 0; y < from.height; y++)
        for (let x = 0; x < from.width; x++)
          cut.data[(c * from.height + y) * from.width + x] = scene.data[(c * 220 + y + from.y) * 300 + x + from.x]!;
    const part = detailPlate(kernels, { settings, noise: model, optics: noOptics, mask: false }, 0, cut, from, area);
    for (let c = 0; c < 3; c++)
      for (let y = 0; y < area.height; y++)
        for (let x = 0; x < area.width; x++)
          expect(part.data[(c * area.height + y) * area.width + x]).toBe(full.data[(c * 220 + y + area.y) * 300 + x + area.x]);
  });
  it('a smaller level is treated like the full picture made smaller: no brighter, and as much less noisy', () => {
    const small = halvePlate(kernels, scene),
      level = whole(small, all, 1),
      scaled = halvePlate(kernels, whole(scene, all));
    let difference = 0,
      plain = 0;
    for (let i = 0; i < level.data.length; i++) {
      difference += Math.abs(level.data[i]! - scaled.data[i]!);
      plain += Math.abs(small.data[i]! - scaled.data[i]!);
    }
    expect(difference / level.data.length / plateScale).toBeLessThan(0.004);
    expect(difference).toBeLessThan(plain * 1.1);
  });
});
