import { describe, expect, it } from 'vitest';
import { lensFilters, throughFilter } from '../src/colour/lensFilters.ts';
import { luminanceOf } from '../src/colour/luminance.ts';
import { apply3, type Vector3 } from '../src/colour/matrix.ts';
import { oklabToRec2020, polar } from '../src/colour/oklab.ts';
import { decodeSrgb, encodeSrgb } from '../src/colour/transfer.ts';
import { newStep, emptyLook } from '../src/look/look.ts';
import { unbakeable } from '../src/plan/bake.ts';
import { validatePicture } from '../src/formats/storedPicture.ts';
import { scatterPass } from '../src/render/scatter.ts';
import type { Planes } from '../src/render/render.ts';
import { stocks } from '../src/stock/film/stocks.ts';
import { blendModes } from '../src/render/blendModes.ts';
import { finished, withStep } from './finishTrial.ts';
import { close, fromSrgb, one, own, run, samples, step, turned } from './stepTrial.ts';

const sum = (p: Planes, n: number, c = 0): number => p.subarray(c * n, (c + 1) * n).reduce((a, b) => a + b, 0);
/** Lamps on a dark ground. */
const lamps = (x: number, y: number): number => (Math.hypot(x - 150, y - 100) < 9 || Math.hypot(x - 90, y - 60) < 4 ? 1 : 0.02);

describe('scattered light', () => {
  it('of a film’s base loses none: what leaves a place comes down about it, within 1 %', () => {
    const n = 300 * 200,
      before = finished([], 300, 200, lamps),
      after = finished([scatterPass([0.4, 0.1, 0.02], 0.012)], 300, 200, lamps);
    for (const c of [0, 1, 2]) expect(Math.abs(sum(after, n, c) / sum(before, n, c) - 1)).toBeLessThan(0.01);
    // red about the lamp, and farther off nothing
    const near = 100 * 300 + 165,
      far = 190 * 300 + 280;
    expect(after[near]! / before[near]!).toBeGreaterThan(2);
    expect(after[near]!).toBeGreaterThan(after[n + near]! * 1.4);
    expect(after[far]!).toBeCloseTo(before[far]!, 4);
  });
  it('of a glow neither, and the bright place pays for it', () => {
    const n = 300 * 200,
      before = finished([], 300, 200, lamps),
      after = withStep(step('glow', { share: 50, size: 3, from: 40 }), 300, 200, lamps);
    expect(Math.abs(sum(after, n) / sum(before, n) - 1)).toBeLessThan(0.01);
    expect(after[100 * 300 + 150]!).toBeLessThan(before[100 * 300 + 150]!);
    expect(after[100 * 300 + 170]!).toBeGreaterThan(before[100 * 300 + 170]! * 1.1);
  });
  it('is the same in a cut piece as in the whole, byte for byte', () => {
    const pass = scatterPass([0.3, 0.1, 0.05], 4 / 300),
      halo = Math.ceil(pass.reach * 300),
      whole = finished([pass], 300, 200, lamps),
      first = 70 - halo,
      piece = finished([pass], 120 + 2 * halo, 60 + 2 * halo, (x, y) => lamps(x + first + 11, y + first), {
        x: first + 11,
        y: first,
        edge: 300,
        whole: { width: 300, height: 200 },
      });
    const width = 120 + 2 * halo;
    for (let y = 0; y < 60; y++)
      for (let x = 0; x < 120; x++) expect(piece[(y + halo) * width + x + halo]).toBe(whole[(y + 70) * 300 + x + 81]);
  });
  it('gives a small lamp the profile of its two Gaussians', () => {
    const dot = (x: number, y: number): number => (x === 150 && y === 150 ? 1 : 0),
      after = finished([scatterPass([1, 1, 1], 5 / 300)], 300, 300, dot);
    const wanted = (r: number): number =>
      0.6 * (Math.exp(-0.5 * (r / 5) ** 2) / (2 * Math.PI * 25)) + 0.4 * (Math.exp(-0.5 * (r / 12.5) ** 2) / (2 * Math.PI * 156.25));
    for (const r of [0, 4, 8, 14, 20]) expect(after[150 * 300 + 150 + r]! / wanted(r)).toBeGreaterThan(0.75);
    for (const r of [0, 4, 8, 14, 20]) expect(after[150 * 300 + 150 + r]! / wanted(r)).toBeLessThan(1.3);
  });
});

describe('vignette, leaks, sun and border', () => {
  const flat = (): number => 0.3;
  it('a vignette takes so many EV from the corners, and adds to its middle by itself', () => {
    const out = withStep(step('vignette', { edgeEv: -1.5, middleEv: 0.5, feather: 40 }), 300, 200, flat);
    expect(Math.log2(out[0]! / 0.3)).toBeCloseTo(-1.5, 1);
    expect(Math.log2(out[100 * 300 + 150]! / 0.3)).toBeCloseTo(0.5, 1);
  });
  it('its lights are kept where that is asked for', () => {
    const of = (kept: number): number => withStep(step('vignette', { edgeEv: -2, kept, feather: 40 }), 300, 200, () => 0.95)[0]!;
    expect(of(0)).toBeCloseTo(0.95 / 4, 2);
    expect(of(100)).toBeGreaterThan(0.4);
  });
  it('a crop leaves it on its place of the frame, or takes it along', () => {
    const film = { left: 0.5, top: 0, width: 1, height: 2 / 3 },
      crop = { edge: 300, whole: { width: 150, height: 200 }, film };
    const frame = withStep(step('vignette', { edgeEv: -2, feather: 40 }), 150, 200, flat, crop),
      picture = withStep(step('vignette', { edgeEv: -2, feather: 40, of: 'picture' }), 150, 200, flat, crop);
    expect(frame[100 * 150]!).toBeCloseTo(0.3, 2);
    expect(picture[100 * 150]!).toBeLessThan(0.28);
    expect(picture[100 * 150 + 75]!).toBeCloseTo(0.3, 3);
  });
  it('a leak adds light, never takes it, most at its edge; a take is a take', () => {
    const out = withStep(step('leak', { light: 60, edge: 'left', place: 50 }), 300, 200, flat);
    expect(out[100 * 300]!).toBeGreaterThan(0.6);
    expect(out[100 * 300 + 290]!).toBeCloseTo(0.3, 3);
    expect(out.every((v) => v > 0.299)).toBe(true);
    const many = { light: 60, count: 4, take: 9 };
    expect(withStep(step('leak', many), 90, 60, flat)).toEqual(withStep(step('leak', many), 90, 60, flat));
    expect(withStep(step('leak', { ...many, take: 10 }), 90, 60, flat)).not.toEqual(withStep(step('leak', many), 90, 60, flat));
  });
  it('a low sun warms what is near it and lifts its darks; far off nothing changes, and nothing is softened', () => {
    const edge = (x: number): number => (x < 250 ? 0.02 : 0.4),
      out = withStep(step('lowSun', { light: 100, x: 90, y: 50, reach: 60 }), 300, 200, edge),
      n = 300 * 200,
      near = 100 * 300 + 240;
    expect(out[near]!).toBeGreaterThan(0.05);
    expect(out[near]! / out[2 * n + near]!).toBeGreaterThan(1.5);
    expect(out[100 * 300 + 20]!).toBeCloseTo(0.02, 3);
    // the step between two pixels is as sharp as it was
    expect(out[near + 10]! - out[near + 9]!).toBeGreaterThan(0.1);
  });
  it('a border is of its colour at the edge and leaves the middle, wherever the crop is', () => {
    const out = withStep(step('border', { width: 5, lightness: 100, chroma: 0 }), 150, 200, flat, {
      edge: 300,
      whole: { width: 150, height: 200 },
      film: { left: 0.3, top: 0.1, width: 1, height: 2 / 3 },
    });
    expect(out[100 * 150 + 5]!).toBeCloseTo(1, 2);
    expect(out[100 * 150 + 25]!).toBeCloseTo(0.3, 4);
  });
});

describe('a wash', () => {
  const clip = (v: number): number => Math.min(1, Math.max(0, v)),
    dodge = (b: number, c: number): number => (b === 0 ? 0 : c >= 1 ? 1 : Math.min(1, b / (1 - c))),
    burn = (b: number, c: number): number => (b >= 1 ? 1 : c <= 0 ? 0 : 1 - Math.min(1, (1 - b) / c)),
    hard = (b: number, c: number): number => (c <= 0.5 ? b * 2 * c : b + (2 * c - 1) - b * (2 * c - 1)),
    soft = (b: number, c: number): number => {
      const d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b);
      return c <= 0.5 ? b - (1 - 2 * c) * b * (1 - b) : b + (2 * c - 1) * (d - b);
    };
  /** W3C Compositing and Blending Level 1, 10.1. */
  const separable: Record<string, (b: number, c: number) => number> = {
    normal: (_, c) => c,
    multiply: (b, c) => b * c,
    screen: (b, c) => b + c - b * c,
    overlay: (b, c) => hard(c, b),
    darken: Math.min,
    lighten: Math.max,
    'colour-dodge': dodge,
    'colour-burn': burn,
    'hard-light': hard,
    'soft-light': soft,
    difference: (b, c) => Math.abs(b - c),
    exclusion: (b, c) => b + c - 2 * b * c,
  };
  /** 10.2, the four that are not separable. */
  const lum = ([r, g, b]: Vector3): number => 0.3 * r + 0.59 * g + 0.11 * b,
    sat = (c: Vector3): number => Math.max(...c) - Math.min(...c);
  const setLum = (c: Vector3, l: number): Vector3 => {
    let out = c.map((v) => v + l - lum(c)) as unknown as Vector3;
    const L = lum(out),
      n = Math.min(...out),
      x = Math.max(...out);
    if (n < 0) out = out.map((v) => L + ((v - L) * L) / (L - n)) as unknown as Vector3;
    if (x > 1) out = out.map((v) => L + ((v - L) * (1 - L)) / (x - L)) as unknown as Vector3;
    return out;
  };
  const setSat = (c: Vector3, s: number): Vector3 => {
    const n = Math.min(...c),
      d = Math.max(...c) - n;
    return c.map((v) => (d > 0 ? ((v - n) * s) / d : 0)) as unknown as Vector3;
  };
  const whole: Record<string, (b: Vector3, c: Vector3) => Vector3> = {
    hue: (b, c) => setLum(setSat(c, sat(b)), lum(b)),
    saturation: (b, c) => setLum(setSat(b, sat(c)), lum(b)),
    colour: (b, c) => setLum(c, lum(b)),
    luminosity: (b, c) => setLum(b, lum(c)),
  };
  it.each(blendModes.map(([mode]) => mode))('%s is the formula of W3C Compositing and Blending Level 1, 10', (mode) => {
    const source = oklabToRec2020([0.6, ...polar(40, 0.12)]).map((v) => encodeSrgb(clip(v))) as unknown as Vector3;
    for (const colour of [...samples, [0.5, 0.5, 0.5], [0.02, 0.3, 0.9]] as Vector3[]) {
      const b = colour.map((v) => encodeSrgb(clip(v))) as unknown as Vector3,
        blended = separable[mode] ? b.map((v, i) => separable[mode]!(v, source[i]!)) : whole[mode]!(b, source),
        wanted = b.map((v, i) => decodeSrgb(v + 0.5 * (clip(blended[i]!) - v)));
      close(one(step('wash', { opacity: 50, mode, hue: 40, chroma: 0.12, lightness: 0.6 }), colour), wanted, 3e-4);
    }
  });
});

describe('an overprint', () => {
  /** Two by two: black and white above, red and grey below. */
  const picture = {
      format: 'dyepot-picture',
      version: 1,
      name: 'four.png',
      hash: '0',
      width: 2,
      height: 2,
      data: btoa(String.fromCharCode(0, 0, 0, 255, 255, 255, 255, 0, 0, 128, 128, 128)),
    } as const,
    grey = (): number => 0.25,
    at = (p: Planes, x: number, y: number, c = 0): number => p[(c * 80 + y) * 120 + x]!,
    laid = (params: Record<string, number | string>): Planes =>
      withStep(step('overprint', { picture, opacity: 100, mode: 'normal', fit: 'stretch', ...params } as never), 120, 80, grey);
  it('lies where it is put: stretched over the frame its corners are in the frame’s corners', () => {
    const p = laid({});
    expect(at(p, 2, 2)).toBeCloseTo(0, 3);
    expect(at(p, 117, 2)).toBeCloseTo(1, 3);
    expect([0, 1, 2].map((c) => Math.round(at(p, 2, 77, c)))).toEqual([1, 0, 0]);
    expect(at(p, 117, 77)).toBeCloseTo(decodeSrgb(128 / 255), 3);
  });
  it('turned by half a turn, or mirrored, its corners change places; small, it leaves what is about it', () => {
    expect(at(laid({ turn: 180 }), 117, 77)).toBeCloseTo(0, 3);
    expect(at(laid({ flip: 'yes' }), 117, 2)).toBeCloseTo(0, 3);
    const small = laid({ scale: 50 });
    expect(at(small, 4, 40)).toBeCloseTo(0.25, 3);
    expect(at(small, 32, 22)).toBeCloseTo(0, 3);
    expect(at(laid({ scale: 50, x: 25, y: -25 }), 4, 70)).toBeCloseTo(0.25, 3);
    // again and again there is some of it everywhere
    const again = laid({ scale: 20, fit: 'repeat' });
    expect(new Set(Array.from({ length: 12 }, (_, i) => Math.round(at(again, i * 10, 4) * 10))).size).toBeGreaterThan(2);
  });
  it('multiplied darkens as W3C Compositing and Blending Level 1 has it, and by its opacity', () => {
    const b = encodeSrgb(0.25),
      c = 128 / 255;
    expect(at(laid({ mode: 'multiply' }), 117, 77)).toBeCloseTo(decodeSrgb(b * c), 3);
    expect(at(laid({ mode: 'multiply', opacity: 50 }), 117, 77)).toBeCloseTo(decodeSrgb(b + 0.5 * (b * c - b)), 3);
  });
  it('that is none is refused in words that say why', () => {
    const said = (change: object): string => {
      const r = validatePicture({ ...picture, ...change });
      return 'message' in r ? r.message : 'accepted';
    };
    expect(said({})).toBe('accepted');
    expect(said({ width: 30000 })).toContain('1280');
    expect(said({ data: 'AAAA' })).toContain('12 bytes');
    expect(said({ format: 'x' })).toContain('not a picture');
    expect(said({ version: 2 })).toContain('version 2');
  });
});

describe('fade, toning and colours apart', () => {
  it('a fade lays black and white where it says, greys evenly between', () => {
    const s = step('fade', { lift: 20, soften: 10 });
    expect(own(one(s, [0, 0, 0])).l).toBeCloseTo(0.2, 2);
    expect(own(one(s, [1, 1, 1])).l).toBeCloseTo(0.9, 2);
    expect(own(one(s, [0.125, 0.125, 0.125])).l).toBeCloseTo(0.2 + 0.7 * 0.5, 2);
  });
  it('toning turns silver at constant OKLab lightness: darks to one hue, lights to another', () => {
    const s = step('toning', { amount: 100, darksHue: 55, darksChroma: 0.06, lightsHue: 250, lightsChroma: 0.05, paperChroma: 0 });
    for (const level of [0.01, 0.05, 0.2, 0.5, 0.9]) {
      const grey: Vector3 = [level, level, level];
      expect(own(one(s, grey)).l).toBeCloseTo(own(grey).l, 3);
    }
    expect(Math.abs(turned(own(one(s, [0.03, 0.03, 0.03])).h, 55))).toBeLessThan(6);
    expect(Math.abs(turned(own(one(s, [0.4, 0.4, 0.4])).h, 250))).toBeLessThan(12);
    expect(own(one(s, [1, 1, 1])).c).toBeLessThan(1e-3);
    expect(own(one(s, [0, 0, 0])).c).toBeLessThan(1e-3);
  });
  it('apart makes warm warmer and cool cooler at once, and leaves greys', () => {
    const s = step('apart', { warmWarmer: 50, coolWarmer: -50 }),
      warm = fromSrgb(0.8, 0.5, 0.4),
      cool = fromSrgb(0.35, 0.5, 0.75),
      axis = (c: Vector3): number => own(c).c * Math.cos(((own(c).h - 58) * Math.PI) / 180);
    expect(axis(one(s, warm))).toBeGreaterThan(axis(warm) * 1.2);
    expect(axis(one(s, cool))).toBeLessThan(axis(cool) * 1.2);
    for (const level of [0.01, 0.18, 0.9]) close(one(s, [level, level, level]), [level, level, level], 1e-4);
  });
});

describe('black and white through a filter', () => {
  const sky = fromSrgb(0.4, 0.6, 0.85),
    grey = (filter: string, c: Vector3, more: Record<string, string> = {}): number =>
      one(step('mono', { amount: 100, filter, ...more }), c)[1];
  it('a red filter darkens a blue sky more than orange, orange more than yellow (common practice); white stays', () => {
    const [none, yellow, orange, red] = ['none', 'yellow', 'orange', 'red'].map((f) => grey(f, sky)) as [number, number, number, number];
    expect(yellow).toBeLessThan(none * 0.98);
    expect(orange).toBeLessThan(yellow * 0.95);
    expect(red).toBeLessThan(orange * 0.95);
    for (const f of Object.keys(lensFilters)) expect(grey(f, [0.5, 0.5, 0.5])).toBeCloseTo(0.5, 3);
  });
  it('a green filter lightens foliage against brick, a blue one a sky', () => {
    const leaf = fromSrgb(0.35, 0.5, 0.2),
      brick = fromSrgb(0.6, 0.3, 0.22);
    expect(grey('green', leaf) / grey('green', brick)).toBeGreaterThan(grey('none', leaf) / grey('none', brick));
    expect(grey('blue', sky)).toBeGreaterThan(grey('none', sky));
  });
  it('takes the light it takes, where that is not given back', () => {
    const red = grey('red', [0.5, 0.5, 0.5], { loss: 'taken' });
    expect(red).toBeLessThan(0.3);
    expect(red).toBeGreaterThan(0.05);
  });
  it('is what the spectra say for colours of things, within a few percent', () => {
    const m = throughFilter('yellow');
    expect(luminanceOf(...apply3(m, [1, 1, 1]))).toBeLessThan(0.95);
    expect(apply3(m, [1, 1, 1])[2]).toBeLessThan(0.35);
  });
  it('a hue pulled down is darker in grey, and no other', () => {
    const s = step('mono', { amount: 100, response: [[250, -0.25, 60]] });
    expect(one(s, sky)[1]).toBeLessThan(one(step('mono', { amount: 100 }), sky)[1] * 0.75);
    expect(one(s, fromSrgb(0.7, 0.5, 0.3))[1]).toBeCloseTo(one(step('mono', { amount: 100 }), fromSrgb(0.7, 0.5, 0.3))[1], 3);
    expect(run(s, [[0.3, 0.3, 0.3]])[0]![0]).toBeCloseTo(0.3, 3);
  });
});

it('a table is said not to carry what belongs to places: grain, glow, a leak, and the grain of a stock', () => {
  const print = (kind: string, params: Record<string, number>): ReturnType<typeof step> => step(kind, params),
    look = {
      ...emptyLook('t'),
      stock: { ...newStep('film', 's'), params: { ...newStep('film', 's').params, sheet: stocks[0]! } },
      print: [print('grain', { rms: 8 }), print('glow', { share: 20 }), print('leak', { light: 20 }), print('fade', { lift: 10 })],
    };
  expect(unbakeable(look).map((u) => u.name)).toEqual(['Film stock', 'Grain', 'Glow', 'Light leak']);
});
