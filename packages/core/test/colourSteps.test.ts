import { converter } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apply3, invert3, type Vector3 } from '../src/colour/matrix.ts';
import { oklabToRec2020, rec2020ToOklab } from '../src/colour/oklab.ts';
import { rec2020To, srgb, xyzToXy, rec2020ToXyz } from '../src/colour/spaces.ts';
import { temperatureOf } from '../src/colour/temperature.ts';
import { decodeSrgb, encodeSrgb } from '../src/colour/transfer.ts';
import { applyTable, readStoredTable, storeTable, table3d, type Rgb } from '../src/formats/table.ts';
import { guidedFilter } from '../src/groundwork/guide.ts';
import { sendThrough } from '../src/look/dyestrip.ts';
import { emptyLook, newStep, type LookStep } from '../src/look/look.ts';
import { validateLook } from '../src/look/schema.ts';
import { plateOffset, plateScale, type Plate } from '../src/plate/plate.ts';
import { hazeMap, mapsFor } from '../src/render/maps.ts';
import { lookPasses, passesOf, plan } from '../src/render/plan.ts';
import { developPlanes, render } from '../src/render/render.ts';
import { applyCdl } from '../src/steps/cdl/index.ts';
import { gelTransmission } from '../src/steps/gel/index.ts';
import { bandAt } from '../src/steps/hueBands/index.ts';
import { decodeFrom, encodeFor } from '../src/steps/lookup/index.ts';
import type { ParameterValue } from '../src/steps/step.ts';
import { kernels } from './kernels.ts';

const step = (kind: string, params: Record<string, ParameterValue>, strength = 1): LookStep => ({
  ...newStep(kind, kind),
  params: { ...newStep(kind, kind).params, ...params },
  strength,
});
const run = (s: LookStep, colours: readonly Vector3[]): Vector3[] => sendThrough(kernels, passesOf(s, 1), colours);
const one = (s: LookStep, c: Vector3): Vector3 => run(s, [c])[0]!;
const close = (actual: readonly number[], expected: readonly number[], within: number): void =>
  expected.forEach((v, i) => expect(Math.abs(actual[i]! - v), `${actual.join(' ')} for ${expected.join(' ')}`).toBeLessThanOrEqual(within));
const toSrgb = rec2020To(srgb),
  toRec2020 = invert3(toSrgb);
const fromSrgb = (r: number, g: number, b: number): Vector3 => apply3(toRec2020, [decodeSrgb(r), decodeSrgb(g), decodeSrgb(b)]);
const oklchOf = converter('oklch');
/** OKLCh by culori, of a linear Rec.2020 colour. */
const lch = (c: Vector3): { l: number; c: number; h: number } => {
  const [r, g, b] = apply3(toSrgb, c),
    { l, c: chroma, h } = oklchOf({ mode: 'lrgb', r, g, b });
  return { l, c: chroma, h: h ?? 0 };
};
const own = (c: Vector3): { l: number; c: number; h: number } => {
  const [l, a, b] = rec2020ToOklab(c);
  return { l, c: Math.hypot(a, b), h: ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360 };
};
const samples: Vector3[] = [
  fromSrgb(0.8, 0.3, 0.2),
  fromSrgb(0.2, 0.5, 0.7),
  fromSrgb(0.4, 0.6, 0.2),
  fromSrgb(0.7, 0.55, 0.45),
  fromSrgb(0.9, 0.8, 0.2),
  fromSrgb(0.6, 0.2, 0.5),
];
const turned = (a: number, b: number): number => ((a - b + 540) % 360) - 180;

describe('hue bands', () => {
  it('turn a hue by what the curve says there, lightness and chroma kept (hue measured by culori)', () => {
    const s = step('hueBands', { hue: [[110, -40, 60]], guard: 0 });
    for (const c of samples) {
      const before = lch(c),
        after = lch(one(s, c));
      expect(turned(after.h, before.h)).toBeCloseTo(bandAt([[110, -40, 60]], own(c).h), 0);
      expect(after.l).toBeCloseTo(before.l, 3);
      expect(after.c).toBeCloseTo(before.c, 2);
    }
  });
  it('the kernel agrees with the formula in double precision, all round the circle', () => {
    const hue = [
        [100, 30, 80],
        [355, -25, 40],
      ] as const,
      chroma = [
        [200, 60, 90],
        [2, -40, 30],
      ] as const,
      lightness = [
        [255, -0.2, 60],
        [359, 0.1, 20],
      ] as const,
      s = step('hueBands', { hue, chroma, lightness, guard: 0 });
    const ring = Array.from({ length: 1440 }, (_, i) => (i / 4) * (Math.PI / 180)),
      out = run(
        s,
        ring.map((h) => oklabToRec2020([0.65, 0.12 * Math.cos(h), 0.12 * Math.sin(h)])),
      );
    ring.forEach((h, i) => {
      const degrees = i / 4,
        turn = h + (bandAt(hue, degrees) * Math.PI) / 180,
        c = 0.12 * Math.max(0, 1 + bandAt(chroma, degrees) / 100);
      close(rec2020ToOklab(out[i]!), [0.65 + bandAt(lightness, degrees), c * Math.cos(turn), c * Math.sin(turn)], 6e-4);
    });
  });
  it('turn yellow foliage orange and aqua water blue', () => {
    const foliage = one(step('hueBands', { hue: [[108, -38, 50]] }), fromSrgb(0.75, 0.7, 0.2)),
      water = one(step('hueBands', { hue: [[200, 50, 50]] }), fromSrgb(0.2, 0.65, 0.65));
    expect(own(foliage).h).toBeGreaterThan(55);
    expect(own(foliage).h).toBeLessThan(82);
    expect(own(water).h).toBeGreaterThan(230);
  });
  it('darken a blue sky strongly and leave neutral rocks and greys alone', () => {
    const s = step('hueBands', { lightness: [[255, -0.35, 60]] }),
      sky = fromSrgb(0.45, 0.62, 0.85),
      rock = fromSrgb(0.46, 0.47, 0.49);
    expect(own(one(s, sky)).l).toBeLessThan(own(sky).l - 0.15);
    close(one(s, rock), rock, 0.006);
    close(one(s, [0.18, 0.18, 0.18]), [0.18, 0.18, 0.18], 1e-5);
  });
  it('are continuous round the circle: no step between 0° and 360°, nor anywhere (no banding)', () => {
    const handles = [
      [5, 30, 40],
      [350, -20, 25],
      [180, 60, 90],
    ] as const;
    expect(bandAt(handles, 0)).toBeCloseTo(bandAt(handles, 360), 9);
    for (let h = 0; h < 360; h += 0.5) expect(Math.abs(bandAt(handles, h + 0.5) - bandAt(handles, h))).toBeLessThan(1.5);
    const ramp = Array.from({ length: 361 }, (_, h) =>
        oklabToRec2020([0.6, 0.1 * Math.cos((h * Math.PI) / 180), 0.1 * Math.sin((h * Math.PI) / 180)]),
      ),
      out = run(step('hueBands', { hue: handles, lightness: [[200, 0.2, 60]] }), ramp);
    for (let h = 1; h <= 360; h++) {
      const a = rec2020ToOklab(out[h - 1]!),
        b = rec2020ToOklab(out[h]!);
      expect(Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])).toBeLessThan(0.02);
    }
  });
});

describe('colour range', () => {
  const skin = fromSrgb(0.78, 0.6, 0.5),
    { l, c, h } = own(skin),
    params = { hue: h, chroma: c, lightness: l };
  it('pulls a colour in range halfway to the picked one at 50 %, each of hue, chroma and lightness by itself', () => {
    const red = oklabToRec2020([
      l - 0.04,
      (c + 0.01) * Math.cos(((h - 8) * Math.PI) / 180),
      (c + 0.01) * Math.sin(((h - 8) * Math.PI) / 180),
    ]);
    const hue = own(one(step('colourRange', { ...params, evenHue: 50 }), red)),
      light = own(one(step('colourRange', { ...params, evenLightness: 50 }), red)),
      chroma = own(one(step('colourRange', { ...params, evenChroma: 50 }), red));
    expect(turned(hue.h, h)).toBeCloseTo(-4, 0);
    expect(hue.l).toBeCloseTo(l - 0.04, 3);
    expect(light.l - l).toBeCloseTo(-0.02, 2);
    expect(chroma.c - c).toBeCloseTo(0.005, 3);
  });
  it('leaves what is out of range alone, and the picked colour itself when evening out', () => {
    close(
      one(step('colourRange', { ...params, evenHue: 100, evenChroma: 100, evenLightness: 100, hueShift: 60 }), fromSrgb(0.2, 0.4, 0.7)),
      fromSrgb(0.2, 0.4, 0.7),
      1e-5,
    );
    close(one(step('colourRange', { ...params, evenHue: 100, evenChroma: 100, evenLightness: 100 }), skin), skin, 1e-5);
  });
  it('shifts hue and chroma by what it says (hue measured by culori)', () => {
    const out = lch(one(step('colourRange', { ...params, hueShift: 30, chromaShift: 20 }), skin)),
      before = lch(skin);
    expect(turned(out.h, before.h)).toBeCloseTo(30, 0);
    expect(out.c / before.c).toBeCloseTo(1.2, 2);
  });
  it('the kernel agrees with the formula in double precision', () => {
    const set = {
        ...params,
        hueWidth: 25,
        chromaWidth: 0.08,
        lightnessWidth: 0.25,
        softness: 50,
        hueShift: 12,
        chromaShift: -20,
        lightnessShift: 0.04,
        evenHue: 40,
        evenChroma: 30,
        evenLightness: 20,
      },
      smooth = (a: number, b: number, x: number): number => {
        const t = Math.min(1, Math.max(0, (x - a) / (b - a)));
        return t * t * (3 - 2 * t);
      },
      near = (away: number, width: number): number => 1 - smooth(width * 0.75, width * 1.25, away),
      rad = Math.PI / 180;
    for (let i = 0; i < 200; i++) {
      const L = l + 0.4 * (((i * 0.61) % 1) - 0.5),
        C = Math.max(0.001, c + 0.1 * (((i * 0.37) % 1) - 0.5)),
        H = h + 70 * (((i * 0.83) % 1) - 0.5),
        d = turned(H, h),
        sure = smooth(0.2 * (c - 0.02) - 1e-3, 0.55 * (c - 0.02), C),
        w = sure * near(Math.abs(d), 25) * near(Math.abs(C - c), 0.08) * near(Math.abs(L - l), 0.25);
      const angle = (H + w * (12 - 0.4 * d)) * rad,
        chroma = Math.max(0, C + w * (-0.2 * C - 0.3 * (C - c))),
        out = rec2020ToOklab(one(step('colourRange', set), oklabToRec2020([L, C * Math.cos(H * rad), C * Math.sin(H * rad)])));
      close(out, [L + w * sure * (0.04 - 0.2 * (L - l)), chroma * Math.cos(angle), chroma * Math.sin(angle)], 3e-4);
    }
  });
  it('leaves what is nearly neutral alone, where hue is only noise, unless a neutral was picked', () => {
    const move = { hueShift: 60, lightnessShift: -0.2, chromaWidth: 0.2, lightnessWidth: 1 },
      dull = oklabToRec2020([l, 0.008 * Math.cos((h * Math.PI) / 180), 0.008 * Math.sin((h * Math.PI) / 180)]);
    close(one(step('colourRange', { ...params, ...move }), dull), dull, 1e-5);
    expect(own(one(step('colourRange', { ...params, ...move, chroma: 0.005 }), dull)).l).toBeLessThan(l - 0.19);
  });
  it('fades softly: no jump across the edge of the range', () => {
    const ramp = Array.from({ length: 181 }, (_, i) =>
        oklabToRec2020([l, c * Math.cos(((h - 90 + i) * Math.PI) / 180), c * Math.sin(((h - 90 + i) * Math.PI) / 180)]),
      ),
      out = run(step('colourRange', { ...params, lightnessShift: -0.2 }), ramp).map((v) => own(v).l);
    out.forEach((v, i) => {
      if (i > 0) expect(Math.abs(v - out[i - 1]!)).toBeLessThan(0.035);
    });
  });
});

describe('vibrance', () => {
  it('raises dull colours more than vivid ones, skins less than others, greys not at all', () => {
    const gain = (v: Vector3): number => own(one(step('vibrance', { change: 80 }), v)).c / own(v).c,
      at = (chroma: number, hue: number): Vector3 =>
        oklabToRec2020([0.65, chroma * Math.cos((hue * Math.PI) / 180), chroma * Math.sin((hue * Math.PI) / 180)]);
    expect(gain(at(0.05, 250))).toBeGreaterThan(gain(at(0.2, 250)) + 0.3);
    expect(gain(at(0.08, 52))).toBeLessThan(gain(at(0.08, 150)) - 0.2);
    close(one(step('vibrance', { change: 100 }), [0.3, 0.3, 0.3]), [0.3, 0.3, 0.3], 3e-4);
  });
});

describe('vibrance, in double precision', () => {
  it('is chroma times 1 + change·(1 − step(C/0.28))·(1 − spared·skin)', () => {
    const smooth = (a: number, b: number, x: number): number => {
        const t = Math.min(1, Math.max(0, (x - a) / (b - a)));
        return t * t * (3 - 2 * t);
      },
      edge = Math.cos((27 * Math.PI) / 180);
    for (let i = 0; i < 120; i++) {
      const h = i * 3,
        C = 0.02 + 0.2 * ((i * 0.618) % 1),
        a = (h * Math.PI) / 180,
        skin = 0.7 * smooth(edge, 1, Math.cos(((h - 52) * Math.PI) / 180)),
        k = 1 + 0.6 * (1 - smooth(0, 0.28, C)) * (1 - skin),
        out = rec2020ToOklab(one(step('vibrance', { change: 60 }), oklabToRec2020([0.6, C * Math.cos(a), C * Math.sin(a)])));
      close(out, [0.6, k * C * Math.cos(a), k * C * Math.sin(a)], 2e-4);
    }
  });
});

describe('contrast', () => {
  it('is a straight line over log light through its pivot', () => {
    for (const pivotEv of [-2, 0, 1]) {
      const p = 0.18 * 2 ** pivotEv,
        s = step('contrast', { contrast: 50, pivotEv, on: 'channels' });
      close(one(s, [p, p, p]), [p, p, p], p * 1e-5);
      expect(Math.log2(one(s, [p * 2, p, p])[0] / p)).toBeCloseTo(2 ** 0.5, 4);
    }
  });
  it('on luminance keeps the ratios of the channels; 100 % and −100 % undo each other', () => {
    const c: Vector3 = [0.5, 0.2, 0.1],
      out = one(step('contrast', { contrast: 60 }), c);
    expect(out[0] / out[1]).toBeCloseTo(2.5, 4);
    close(one(step('contrast', { contrast: -100 }), one(step('contrast', { contrast: 100 }), c)), c, 1e-5);
  });
});

describe('channel mixer and gel', () => {
  it('rows kept to 100 % leave neutrals; free rows do as they say', () => {
    close(one(step('mixer', { redFromGreen: 60, blueFromRed: -30 }), [0.2, 0.2, 0.2]), [0.2, 0.2, 0.2], 1e-6);
    close(
      one(step('mixer', { redFromRed: 0, redFromBlue: 100, blueOffset: 50, neutrals: 'free' }), [0.1, 0.2, 0.3]),
      [0.3, 0.2, 0.35],
      1e-6,
    );
  });
  it('each share of a kept row does something, evenly over its whole range: no jump, no turning over', () => {
    for (const name of ['redFromRed', 'redFromGreen', 'greenFromGreen', 'blueFromGreen', 'greenFromBlue']) {
      const out = Array.from({ length: 41 }, (_, i) => one(step('mixer', { [name]: -200 + 10 * i }), [0.5, 0.3, 0.2])),
        at = name.startsWith('red') ? 0 : name.startsWith('green') ? 1 : 2,
        moves = out.slice(1).map((c, i) => c[at]! - out[i]![at]!);
      for (const m of moves) {
        expect(m).toBeCloseTo(moves[0]!, 6);
        expect(Math.abs(m)).toBeGreaterThan(1e-3);
      }
    }
  });
  it('a gel never adds light; densities add (Bouguer): twice the density is the filter twice', () => {
    const lost = (density: number): LookStep => step('gel', { hue: 250, density, light: 'lost' }),
      c: Vector3 = [0.4, 0.3, 0.2];
    one(lost(1), c).forEach((v, i) => expect(v).toBeLessThanOrEqual(c[i]! + 1e-6));
    close(one(lost(1.4), c), one(lost(0.7), one(lost(0.7), c)), 1e-6);
    gelTransmission(60, 1).forEach((t) => expect(t).toBeLessThanOrEqual(1));
  });
  it('kept luminance is kept for a neutral; warming is in mired (handbook: 85 B filter, +131 mired, 5500 K to 3200 K)', () => {
    const out = one(step('gel', { hue: 30, density: 0.8 }), [0.3, 0.3, 0.3]);
    expect(0.2627 * out[0] + 0.678 * out[1] + 0.0593 * out[2]).toBeCloseTo(0.3, 5);
    expect(1e6 / 3200 - 1e6 / 5500).toBeCloseTo(131, 0);
    expect(
      1e6 / temperatureOf(xyzToXy(apply3(rec2020ToXyz, one(step('gel', { mired: 60 }), [1, 1, 1])))).kelvin -
        1e6 / temperatureOf([0.3127, 0.329]).kelvin,
    ).toBeCloseTo(60, 0);
  });
});

describe('CDL', () => {
  const numbers = { slope: [1.1, 0.95, 0.8], offset: [0.02, -0.03, 0.05], power: [0.9, 1.1, 1.3], saturation: 0.7 } as const;
  it('follows the ASC’s formula on sRGB values (ASC CDL v1.2)', () => {
    const s = step('cdl', {
      slopeRed: 1.1,
      slopeGreen: 0.95,
      slopeBlue: 0.8,
      offsetRed: 0.02,
      offsetGreen: -0.03,
      offsetBlue: 0.05,
      powerRed: 0.9,
      powerGreen: 1.1,
      powerBlue: 1.3,
      saturation: 0.7,
    });
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 1, noNaN: true }),
        fc.double({ min: 0.01, max: 1, noNaN: true }),
        fc.double({ min: 0.01, max: 1, noNaN: true }),
        (...code) => {
          // the step acts on each channel's own code
          close(one(s, code.map(decodeSrgb) as unknown as Vector3).map(encodeSrgb), applyCdl(numbers, code), 3e-4);
        },
      ),
      { numRuns: 200 },
    );
  });
  it('the worked order: slope, offset, power, then saturation about BT.709 luma', () => {
    close(
      applyCdl({ slope: [2, 1, 1], offset: [0.1, 0, 0], power: [2, 1, 1], saturation: 1 }, [0.25, 0.5, 0.75]),
      [0.36, 0.5, 0.75],
      1e-12,
    );
    close(applyCdl({ slope: [1, 1, 1], offset: [0, 0, 0], power: [1, 1, 1], saturation: 0 }, [1, 0, 0]), [0.2126, 0.2126, 0.2126], 1e-12);
  });
});

describe('tone curve, more than one way', () => {
  const points = [
    [0, 0],
    [0.4, 0.55],
    [1, 1],
  ] as const;
  it('on luminance the ratios of the channels stay; on lightness OKLab’s a and b stay', () => {
    const c = fromSrgb(0.6, 0.4, 0.3),
      light = one(step('curve', { points, on: 'luminance' }), c),
      lab = rec2020ToOklab(one(step('curve', { points, on: 'lightness' }), c)),
      before = rec2020ToOklab(c);
    expect(light[0] / light[2]).toBeCloseTo(c[0] / c[2], 4);
    expect(light[1]).toBeGreaterThan(c[1]);
    close(lab.slice(1), before.slice(1), 1e-4);
    expect(lab[0]).toBeGreaterThan(before[0] + 0.05);
  });
  it('a channel’s own curve leaves the others', () => {
    const out = one(step('curve', { red: points }), [0.1, 0.2, 0.3]);
    close(out.slice(1), [0.2, 0.3], 1e-5);
    expect(out[0]).toBeGreaterThan(0.12);
  });
});

describe('lookup tables in a look', () => {
  it('the cube is read tetrahedrally: the kernel and the double-precision form agree', () => {
    const table = table3d('t', 9, ([r, g, b]) => [r * r, Math.sqrt(g), (r + b) / 2 - 0.1 * g]),
      s = step('tablePrint', { table: storeTable(table), encoding: 'linear' });
    fc.assert(
      fc.property(fc.array(fc.double({ min: -0.2, max: 1.3, noNaN: true }), { minLength: 3, maxLength: 3 }), (c) =>
        close(one(s, c as unknown as Vector3), applyTable(table, c as unknown as Rgb), 2e-6),
      ),
      { numRuns: 300 },
    );
  });
  it('an identity table changes nothing, in sRGB, at any strength; strength goes along the change', () => {
    const identity = table3d('i', 17, (c) => c),
      grey = table3d('g', 17, ([r, g, b]) => {
        const y = (r + g + b) / 3;
        return [y, y, y];
      });
    for (const c of samples.slice(0, 5)) close(one(step('tablePrint', { table: storeTable(identity) }), c), c, 3e-4);
    const half = encodeFor('srgb', one(step('tablePrint', { table: storeTable(grey) }, 0.5), samples[0]!)),
      full = encodeFor('srgb', one(step('tablePrint', { table: storeTable(grey) }), samples[0]!)),
      none = encodeFor('srgb', samples[0]!);
    close(
      half,
      none.map((v, i) => (v + full[i]!) / 2),
      2e-3,
    );
  });
  it('ACEScct there and back (S-2016-001), and its published value of 0.18: 0.4135884', () => {
    for (const c of [
      [0.18, 0.18, 0.18],
      [0.001, 0.01, 4],
    ] as const)
      close(decodeFrom('acescct', encodeFor('acescct', c)), c, 1e-9);
    expect(encodeFor('acescct', [0.18, 0.18, 0.18])[1]).toBeCloseTo(0.4135884, 4);
  });
  it('a stock without a table is the plain neutral response, nearly', () => {
    const mild: Vector3[] = [
        [0.18, 0.18, 0.18],
        [0.3, 0.25, 0.2],
        [0.06, 0.08, 0.1],
        [0.9, 0.9, 0.8],
      ],
      plain = sendThrough(kernels, lookPasses(null), mild),
      look = { ...emptyLook('t'), stock: newStep('tableStock', 'stock') };
    expect(validateLook(look)).toMatchObject({ look: { stock: { kind: 'tableStock' } } });
    sendThrough(kernels, lookPasses(look), mild).forEach((c, i) => close(encodeFor('srgb', c), encodeFor('srgb', plain[i]!), 0.02));
  });
  it('a table cut short or holding no numbers is refused in words', () => {
    const stored = storeTable(table3d('t', 5, (c) => c));
    expect(readStoredTable({ ...stored, base64: stored.base64.slice(0, 40) })).toEqual({ message: 'the table’s numbers are cut short' });
    expect(readStoredTable({ ...stored, size: 1e6 })).toMatchObject({ message: expect.stringContaining('size') as string });
    expect(readStoredTable({ ...stored, domainMax: [0, 1, 1] })).toMatchObject({ message: expect.stringContaining('upward') as string });
    expect(
      JSON.stringify(
        validateLook({
          ...emptyLook('t'),
          print: [{ ...newStep('tablePrint', 'a'), params: { table: { ...stored, base64: '!!' }, encoding: 'srgb' } }],
        }),
      ),
    ).toContain('base64');
  });
});

describe('local contrast and haze', () => {
  const width = 300,
    height = 200,
    profile = {
      colour: [
        {
          kelvin: 6504,
          matrix: invert3([0.4124, 0.3576, 0.1805, 0.2126, 0.7152, 0.0722, 0.0193, 0.1192, 0.9505]),
          forward: null,
          calibration: [1, 0, 0, 0, 1, 0, 0, 0, 1] as const,
        },
      ],
      analogBalance: [1, 1, 1] as const,
      asShotNeutral: [1, 1, 1] as const,
      baselineExposureEv: 0,
    };
  const platter = (at: (x: number, y: number, c: number) => number): Plate => {
    const data = new Uint16Array(width * height * 3);
    for (let c = 0; c < 3; c++)
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++)
          data[(c * height + y) * width + x] = Math.round(Math.min(1, at(x, y, c)) * plateScale + plateOffset);
    return { width, height, data };
  };
  const develop = (s: LookStep | null, plate: Plate): Float32Array => {
    const p = plan({ ...emptyLook('t'), scene: s ? [s] : [] }, { profile, seed: 1 }, 'srgb');
    return developPlanes(kernels, p, plate, s ? passesOf(s, 1).length : 0, { x: 0, y: 0, maps: mapsFor(kernels, p, plate, null) });
  };
  const spread = (p: Float32Array, x0: number, x1: number): number => {
    let s = 0,
      q = 0,
      n = 0;
    for (let y = 60; y < 140; y++)
      for (let x = x0; x < x1; x++) {
        const v = Math.log2(p[y * width + x]!);
        s += v;
        q += v * v;
        n++;
      }
    return Math.sqrt(q / n - (s / n) ** 2);
  };
  const textured = platter((x, y) => 0.2 * (1 + 0.18 * Math.sin(x * 1.1) * Math.sin(y * 1.3)));
  it('fine makes texture firmer above zero and softer below; a flat place stays', () => {
    const before = spread(develop(null, textured), 60, 240);
    expect(spread(develop(step('localContrast', { fine: 80 }), textured), 60, 240) / before).toBeGreaterThan(1.4);
    expect(spread(develop(step('localContrast', { fine: -80 }), textured), 60, 240) / before).toBeLessThan(0.6);
    const flat = platter(() => 0.2);
    close(
      [...develop(step('localContrast', { fine: 100, medium: 100, coarse: 100 }), flat).slice(30000, 30003)],
      [...develop(null, flat).slice(30000, 30003)],
      2e-4,
    );
  });
  it('a hard edge gets no halo: under 0.15 EV at full strength', () => {
    const edge = platter((x) => (x < 150 ? 0.03 : 0.5));
    for (const which of ['fine', 'medium', 'coarse']) {
      const out = develop(step('localContrast', { [which]: 100 }), edge),
        row = Array.from({ length: width }, (_, x) => Math.log2(out[100 * width + x]!)),
        far = [row[75]!, row[225]!];
      for (let x = 76; x < 149; x++) expect(Math.abs(row[x]! - far[0]!)).toBeLessThan(0.15);
      for (let x = 152; x < 225; x++) expect(Math.abs(row[x]! - far[1]!)).toBeLessThan(0.15);
    }
  });
  it('the guided filter is He, Sun and Tang’s: of a step by itself, slope near 1 at the edge and 0 where it is flat', () => {
    const light = Float32Array.from({ length: 100 * 40 }, (_, i) => (i % 100 < 50 ? -3 : 1)),
      g = guidedFilter(light, light, 100, 40, 4, 0.25);
    expect(g.slope[20 * 100 + 50]!).toBeGreaterThan(0.75);
    expect(g.slope[20 * 100 + 10]!).toBeCloseTo(0, 6);
  });
  const clearScene = (x: number, y: number, c: number): number =>
      0.02 + 0.5 * Math.abs(Math.sin(x * 0.35 + c * 2.1) * Math.sin(y * 0.31 + c)) * ((x >> 2) % 3 === c ? 0.05 : 1),
    air = [0.72, 0.76, 0.8],
    transmission = (y: number): number => 0.25 + (0.65 * y) / height;
  const foggy = platter((x, y, c) => clearScene(x, y, c) * transmission(y) + air[c]! * (1 - transmission(y)));
  it('synthetic fog of known transmission is found, and undone (dark channel prior: He, Sun, Tang 2009)', () => {
    const planes = develop(null, foggy),
      map = hazeMap(planes, width, height),
      n = width * height;
    // their own omission of a twentieth is taken into account
    for (const y of [60, 100, 140, 180]) {
      let t = 0;
      for (let x = 60; x < 240; x++) {
        const i = y * width + x,
          L = Math.log2(0.2627 * planes[i]! + 0.678 * planes[n + i]! + 0.0593 * planes[2 * n + i]!);
        t += (map.slope[i]! * L + map.offset[i]!) / 180;
      }
      expect(Math.abs(t - (1 - 0.95 * (1 - transmission(y))))).toBeLessThan(0.12);
    }
    const truth = develop(null, platter(clearScene)),
      out = develop(step('haze', { amount: 100 }), foggy),
      off = (a: Float32Array): number => {
        let s = 0;
        for (let y = 40; y < 190; y++) for (let x = 20; x < 280; x++) s += Math.abs(a[n + y * width + x]! - truth[n + y * width + x]!);
        return s / (150 * 260);
      };
    console.log(`haze: mean error ${off(planes).toFixed(3)} before, ${off(out).toFixed(3)} after`);
    expect(off(out)).toBeLessThan(off(planes) * 0.35);
  });
  it('below zero haze is added: contrast falls and light moves toward the air’s', () => {
    const scene = platter(clearScene);
    expect(spread(develop(step('haze', { amount: -60 }), scene), 60, 240)).toBeLessThan(spread(develop(null, scene), 60, 240) * 0.8);
  });
  it('a piece of the picture is the same bytes as that piece of the whole', () => {
    const look = {
        ...emptyLook('t'),
        scene: [
          step('warmth', { shiftMired: 20 }),
          step('haze', { amount: 60 }),
          step('localContrast', { fine: 40, medium: -30, coarse: 50 }),
        ],
      },
      p = plan(look, { profile, seed: 3 }, 'srgb'),
      maps = mapsFor(kernels, p, foggy, null);
    const whole = render(kernels, p, foggy, { x: 0, y: 0, maps }, 'rgba8'),
      cut: Plate = { width: 51, height: 33, data: new Uint16Array(51 * 33 * 3) };
    for (let c = 0; c < 3; c++)
      for (let y = 0; y < 33; y++)
        for (let x = 0; x < 51; x++) cut.data[(c * 33 + y) * 51 + x] = foggy.data[(c * height + y + 20) * width + x + 30]!;
    const piece = render(kernels, p, cut, { x: 30, y: 20, whole: foggy, maps }, 'rgba8');
    for (let y = 0; y < 33; y++)
      expect(
        Buffer.from(piece.subarray(y * 204, (y + 1) * 204)).equals(
          Buffer.from(whole.subarray(((y + 20) * width + 30) * 4, ((y + 20) * width + 81) * 4)),
        ),
      ).toBe(true);
  });
});
