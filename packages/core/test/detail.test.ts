import { describe, expect, it } from 'vitest';
import { detailHalo, detailPlate, plainDetail, type Detail } from '../src/groundwork/detail.ts';
import { drawingOf } from '../src/groundwork/draw.ts';
import { plainGroundwork } from '../src/groundwork/groundwork.ts';
import { estimateNoise, usualNoise, type NoiseModel } from '../src/groundwork/noise.ts';
import type { RawFacts, RawPixels } from '../src/plate/mosaic.ts';
import { halvePlate, makePlate, plateOffset, plateScale, type Plate } from '../src/plate/plate.ts';
import { kernels } from './kernels.ts';

function generator(seed: number): () => number {
  let a = seed;
  const uniform = (): number => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  return () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());
}
const model: NoiseModel = usualNoise(1600);
/** A plate of light with the noise of the model on it, as a camera takes it: on a mosaic of 16 bits, demosaiced. */
function noisy(width: number, height: number, at: (x: number, y: number, c: number) => number, noise = model, seed = 5): Plate {
  const normal = generator(seed),
    data = new Uint16Array(width * height),
    cell = [0, 1, 1, 2] as const,
    black = 4096,
    white = 65535;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const v = at(x, y, cell[(y & 1) * 2 + (x & 1)]!),
        seen = v + normal() * Math.sqrt(noise.slope * v + noise.floor);
      data[y * width + x] = Math.round(Math.min(white, Math.max(0, black + seen * (white - black))));
    }
  const facts = {
    black: [black, black, black, black],
    white,
    quarterTurns: 0,
    profile: { asShotNeutral: [1, 1, 1] },
  } as unknown as RawFacts;
  return makePlate(kernels, { width, height, data, colours: 1, cell }, facts);
}
const light = (p: Plate, x: number, y: number, c: number): number => (p.data[(c * p.height + y) * p.width + x]! - plateOffset) / plateScale;
const whole = (p: Plate, d: Partial<Detail>, level = 0): Plate =>
  detailPlate(kernels, { ...plainDetail, ...d }, model, level, p, { x: 0, y: 0 }, { x: 0, y: 0, width: p.width, height: p.height });
function spread(p: Plate, value: (x: number, y: number) => number, x0: number, x1: number): number {
  let sum = 0,
    square = 0,
    n = 0;
  for (let y = 16; y < p.height - 16; y++)
    for (let x = x0; x < x1; x++) {
      const v = value(x, y);
      sum += v;
      square += v * v;
      n++;
    }
  return Math.sqrt(square / n - (sum / n) ** 2);
}
const luma =
  (p: Plate) =>
  (x: number, y: number): number =>
    (light(p, x, y, 0) + 2 * light(p, x, y, 1) + light(p, x, y, 2)) / 4;
const colour =
  (p: Plate) =>
  (x: number, y: number): number =>
    light(p, x, y, 0) - light(p, x, y, 1);

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
        const p = whole(flat, { luminanceNoise: v });
        return spread(p, luma(p), 16, 144) / before;
      };
    expect(at(25)).toBeLessThan(0.85);
    expect(at(50)).toBeLessThan(0.55);
    expect(at(100)).toBeLessThan(at(50));
  });
  it('colour: coarse speckle, as demosaicing leaves it, goes to about a quarter in a dark place while luma stays as it was', () => {
    const dark = noisy(160, 120, () => 0.01),
      p = whole(dark, { colourNoise: 60 });
    expect(spread(p, colour(p), 20, 140) / spread(dark, colour(dark), 20, 140)).toBeLessThan(0.27);
    expect(spread(p, luma(p), 20, 140) / spread(dark, luma(dark), 20, 140)).toBeGreaterThan(0.8);
  });
  it('brightness does not shift', () => {
    const p = whole(flat, { luminanceNoise: 100, colourNoise: 100 });
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
      p = whole(edge, { luminanceNoise: 50, colourNoise: 60 });
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

describe('capture sharpening', () => {
  const ramp = noisy(120, 60, (x) => 0.05 + 0.35 / (1 + Math.exp(-(x - 60) / 1.4)), { slope: 1e-9, floor: 1e-12 });
  it('makes a soft edge steeper, without a halo of more than 3 % of the step', () => {
    const p = whole(ramp, { sharpen: 150, radiusPx: 1.2, edgesOnly: 0, fine: 100 }),
      rise = (q: Plate): number => light(q, 61, 30, 1) - light(q, 59, 30, 1);
    expect(rise(p)).toBeGreaterThan(rise(ramp) * 1.25);
    for (let x = 30; x < 90; x++) {
      expect(light(p, x, 30, 1)).toBeGreaterThan(0.05 - 0.0105);
      expect(light(p, x, 30, 1)).toBeLessThan(0.4 + 0.0105);
    }
  });
  it('leaves flat noise alone when only edges are wanted', () => {
    const flat = noisy(160, 120, () => 0.1),
      only = whole(flat, { sharpen: 100, edgesOnly: 100, fine: 20 });
    expect(spread(only, luma(only), 16, 144) / spread(flat, luma(flat), 16, 144)).toBeLessThan(1.1);
  });
  it('its mask, shown, is white at an edge, black where it is flat, and grows smaller with “edges only”', () => {
    const flat = noisy(160, 120, (x) => (x < 80 ? 0.05 : 0.4)),
      mask = (edgesOnly: number): Plate =>
        detailPlate(kernels, { ...plainDetail, edgesOnly }, model, 0, flat, { x: 0, y: 0 }, { x: 0, y: 0, width: 160, height: 120 }, true),
      share = (p: Plate): number => {
        let s = 0;
        for (let i = 0; i < 160 * 120; i++) s += (p.data[i]! - plateOffset) / plateScale;
        return s / (160 * 120);
      };
    expect(light(mask(40), 80, 60, 0)).toBeCloseTo(1, 2);
    expect(light(mask(100), 30, 60, 1)).toBeLessThan(0.2);
    expect(share(mask(0))).toBeCloseTo(1, 3);
    expect(share(mask(100))).toBeLessThan(share(mask(40)));
  });
  it('is larger with amount and with radius', () => {
    const texture = noisy(120, 90, (x, y) => 0.15 + 0.05 * Math.sin(x * 0.9) * Math.sin(y * 0.8), { slope: 1e-9, floor: 1e-12 }),
      at = (d: Partial<Detail>): number => {
        const p = whole(texture, { edgesOnly: 0, fine: 100, ...d });
        return spread(p, luma(p), 16, 104);
      };
    expect(at({ sharpen: 60 })).toBeGreaterThan(at({ sharpen: 0 }));
    expect(at({ sharpen: 120 })).toBeGreaterThanOrEqual(at({ sharpen: 60 }));
  });
});

describe('pieces and levels', () => {
  const scene = noisy(300, 220, (x, y, c) => 0.06 + 0.05 * Math.sin(x * 0.13 + c) + (x > y ? 0.1 : 0)),
    all: Partial<Detail> = { luminanceNoise: 40, colourNoise: 50, sharpen: 80, radiusPx: 1.3 };
  it('a piece with its halo is the same numbers as that piece of the whole, wherever tiles fall', () => {
    const full = whole(scene, all),
      settings = { ...plainDetail, ...all },
      halo = detailHalo(settings, 0),
      area = { x: 61, y: 47, width: 97, height: 83 },
      from = { x: area.x - halo, y: area.y - halo, width: area.width + 2 * halo, height: area.height + 2 * halo };
    const cut: Plate = { width: from.width, height: from.height, data: new Uint16Array(from.width * from.height * 3) };
    for (let c = 0; c < 3; c++)
      for (let y = 0; y < from.height; y++)
        for (let x = 0; x < from.width; x++)
          cut.data[(c * from.height + y) * from.width + x] = scene.data[(c * 220 + y + from.y) * 300 + x + from.x]!;
    const part = detailPlate(kernels, settings, model, 0, cut, from, area);
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
