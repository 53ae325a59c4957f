import { oklch, rgb as toRgb } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apply3, type Vector3 } from '../src/colour/matrix.ts';
import { rec2020ToOklab } from '../src/colour/oklab.ts';
import { rec2020To, srgb, rec2020ToXyz, xyzToXy } from '../src/colour/spaces.ts';
import { shiftedWhite } from '../src/colour/shift.ts';
import { temperatureOf } from '../src/colour/temperature.ts';
import { decodeSrgb, encodeSrgb } from '../src/colour/transfer.ts';
import { emptyLook, newStep } from '../src/look/look.ts';
import { lookPasses, passesOf } from '../src/plan/plan.ts';
import { neutralCoefficients } from '../src/colour/response.ts';
import { monotoneCubic } from '../src/steps/curve/monotone.ts';
import { stepKinds } from '../src/look/kinds.ts';
import type { ParameterValue } from '../src/render/step.ts';
import { close, fromSrgb, one, run, samples as colourful, step } from './stepTrial.ts';

const samples: Vector3[] = [...colourful, fromSrgb(0.1, 0.1, 0.12), fromSrgb(0.9, 0.9, 0.85)];

describe('every step', () => {
  it.each(stepKinds.filter((k) => k.lane !== 'stock').map((k) => k.kind))('%s at its defaults is no pass at all', (kind) =>
    expect(passesOf(newStep(kind, 'x'), 1)).toEqual([]),
  );
  it.each(stepKinds.filter((k) => k.lane !== 'stock').map((k) => [k.kind, k] as const))('%s at strength 0 is no pass at all', (kind, k) => {
    const extreme = Object.fromEntries(
      Object.entries(k.params).map(
        ([n, p]) =>
          [
            n,
            p.type === 'number'
              ? p.max
              : p.type === 'curve'
                ? [
                    [0, 0.2],
                    [1, 0.8],
                  ]
                : p.type === 'band'
                  ? [[40, p.max, 60]]
                  : p.default,
          ] as [string, ParameterValue],
      ),
    );
    if (kind === 'colourRange') extreme['show'] = 0;
    expect(passesOf(step(kind, extreme, 0), 1)).toEqual([]);
  });
  it.each(stepKinds.map((k) => [k.kind, k] as const))('%s gives finite colours at both ends of every control', (kind, k) => {
    for (const [name, p] of Object.entries(k.params)) {
      if (p.type !== 'number') continue;
      for (const value of [p.min, p.max])
        for (const strength of [1, 2])
          for (const c of run(step(kind, { ...(kind === 'mono' ? { amount: 100 } : {}), [name]: value }, strength), [
            ...samples,
            [0, 0, 0],
            [4, 4, 4],
            [0, 0, 1],
          ]))
            expect(c.every(Number.isFinite), `${name} ${value}: ${c.join(' ')}`).toBe(true);
    }
  });
});

describe('warmth', () => {
  it('moves the white by the mired it says (mired add: 153.8 + 50 = 203.8, 4907 K)', () => {
    const white = temperatureOf(xyzToXy(apply3(rec2020ToXyz, one(step('warmth', { shiftMired: 50 }), [1, 1, 1]))));
    expect(Math.abs(1e6 / white.kelvin - 203.8)).toBeLessThan(1);
  });
  it('keeps the luminance of a neutral', () =>
    close([apply3(rec2020ToXyz, one(step('warmth', { shiftMired: 60 }), [0.4, 0.4, 0.4]))[1]], [0.4], 1e-5));
  it('positive is warmer: more red, less blue', () => {
    const c = one(step('warmth', { shiftMired: 40 }), [0.5, 0.5, 0.5]);
    expect(c[0]).toBeGreaterThan(0.5);
    expect(c[2]).toBeLessThan(0.5);
  });
  it('positive tint is greener', () => expect(temperatureOf(shiftedWhite(0, 0.01)).tintDuv).toBeGreaterThan(0.011));
});

describe('exposure shift', () => {
  it('is a power of two, and strength multiplies the EV', () => {
    close(
      one(step('exposure', { shiftEv: 1.5 }), [0.1, 0.2, 0.3]),
      [0.1, 0.2, 0.3].map((v) => v * 2 ** 1.5),
      1e-6,
    );
    close(one(step('exposure', { shiftEv: 1 }, 2), [0.1, 0.2, 0.3]), [0.4, 0.8, 1.2], 1e-6);
  });
});

describe('neutral response', () => {
  it.each([
    [1.35, 3.4],
    [0.8, 6],
    [2.2, 2.6],
    [1, 4],
  ])('contrast %f, white %f EV: 0.18 stays, white reaches 1, the slope is the contrast', (contrast, whiteEv) => {
    const c = neutralCoefficients(contrast, whiteEv),
      y = (x: number): number => (c.gain * x ** c.n) / (1 + c.kappa * x ** c.n);
    expect(y(0.18)).toBeCloseTo(0.18, 9);
    expect(y(0.18 * 2 ** whiteEv)).toBeCloseTo(1, 9);
    const slope = Math.log(y(0.18 * 1.0001) / y(0.18 / 1.0001)) / Math.log(1.0001 ** 2);
    if (c.kappa > 0) expect(slope).toBeCloseTo(contrast, 4);
    else expect(slope).toBeGreaterThanOrEqual(contrast);
  });
  it('is the straight line at contrast 1 with white at the reflectance of 1', () => {
    const s = step('neutral', { contrast: 1, whiteEv: Math.log2(1 / 0.18), toe: 0, hueGuard: 0 });
    for (const x of [0.01, 0.18, 0.5, 1]) close(one(s, [x, x, x]), [x, x, x], 3e-6);
  });
  it('kernel agrees with the formula in double precision', () => {
    const s = step('neutral', { contrast: 1.5, whiteEv: 3.2, toe: 0.4, hueGuard: 0 }),
      c = neutralCoefficients(1.5, 3.2);
    const oracle = (x: number): number => {
      const p = Math.max(0, x) ** c.n,
        y = (c.gain * p) / (1 + c.kappa * p);
      return y * (1 - 0.4 * Math.exp(-y / 0.02));
    };
    for (const x of [0, 0.001, 0.02, 0.18, 0.7, 1.9, 20]) close(one(s, [x, x / 2, x / 3]), [x, x / 2, x / 3].map(oracle), 3e-6);
  });
  it('never turns back: more light is never darker', () => {
    for (const toe of [-1, 0, 1]) {
      const s = step('neutral', { toe }),
        ys = run(
          s,
          Array.from({ length: 200 }, (_, i) => [i / 100, i / 100, i / 100] as Vector3),
        ).map((c) => c[0]);
      ys.forEach((y, i) => {
        if (i > 0) expect(y).toBeGreaterThanOrEqual(ys[i - 1]! - 1e-6);
      });
    }
  });
  it('the hue guard at 100 % keeps the middle channel where it stood between the others', () => {
    const x: Vector3 = [0.9, 0.3, 0.05],
      y = one(step('neutral', { hueGuard: 100 }), x);
    expect((y[1] - y[2]) / (y[0] - y[2])).toBeCloseTo((x[1] - x[2]) / (x[0] - x[2]), 4);
  });
});

describe('tone curve', () => {
  const points = fc
    .uniqueArray(fc.integer({ min: 0, max: 100 }), { minLength: 2, maxLength: 9 })
    .chain((xs) =>
      fc.tuple(
        fc.constant([...xs].sort((a, b) => a - b)),
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: xs.length, maxLength: xs.length }),
      ),
    );
  it('Fritsch and Carlson: the curve never leaves the range of two neighbouring points', () =>
    fc.assert(
      fc.property(points, fc.double({ min: 0, max: 1, noNaN: true }), ([xs, ys], t) => {
        const list = xs.map((x, i) => [x / 100, ys[i]!] as const),
          f = monotoneCubic(list);
        for (let i = 0; i + 1 < list.length; i++) {
          const y = f(list[i]![0] + (list[i + 1]![0] - list[i]![0]) * t),
            low = Math.min(ys[i]!, ys[i + 1]!),
            high = Math.max(ys[i]!, ys[i + 1]!);
          expect(y).toBeGreaterThanOrEqual(low - 1e-12);
          expect(y).toBeLessThanOrEqual(high + 1e-12);
        }
      }),
    ));
  it('a point (0.5, 0.6) sends encoded 0.5 to 0.6 (IEC 61966-2-1 around it)', () => {
    const y = one(
      step('curve', {
        points: [
          [0, 0],
          [0.5, 0.6],
          [1, 1],
        ],
      }),
      [decodeSrgb(0.5), decodeSrgb(0.5), decodeSrgb(0.5)],
    );
    expect(encodeSrgb(y[0])).toBeCloseTo(0.6, 4);
  });
  it('strength 50 % goes half the way, 200 % twice', () => {
    const s = (k: number): number =>
      encodeSrgb(
        one(
          step(
            'curve',
            {
              points: [
                [0, 0],
                [0.5, 0.6],
                [1, 1],
              ],
            },
            k,
          ),
          [decodeSrgb(0.5), 0, 0],
        )[0],
      );
    expect(s(0.5)).toBeCloseTo(0.55, 4);
    expect(s(2)).toBeCloseTo(0.7, 4);
  });
});

describe('saturation', () => {
  // culori 4 as the independent reference
  it.each([-60, 40])('%i %% changes only chroma, as culori has it', (change) => {
    for (const [r, g, b] of [
      [0.6, 0.4, 0.35],
      [0.35, 0.5, 0.6],
    ] as const) {
      const was = oklch({ mode: 'rgb', r, g, b }),
        want = toRgb({ ...was, c: was.c * (1 + change / 100) });
      const out = apply3(rec2020To(srgb), one(step('saturation', { change }), fromSrgb(r, g, b))).map(encodeSrgb);
      close(out, [want.r, want.g, want.b], 1e-3);
    }
  });
  it('−100 % leaves greys only', () => {
    for (const c of run(step('saturation', { change: -100 }), samples))
      expect(Math.hypot(...rec2020ToOklab(c).slice(1))).toBeLessThan(1e-4);
  });
});

describe('grade', () => {
  it('puts the colour it says into a middle tone, at the same lightness', () => {
    const grey = 0.495 ** 3,
      before = rec2020ToOklab([grey, grey, grey]),
      after = rec2020ToOklab(one(step('grade', { midsHue: 90, midsChroma: 0.05 }), [grey, grey, grey]));
    expect(after[0]).toBeCloseTo(before[0], 4);
    expect(after[1]).toBeCloseTo(0, 3);
    expect(after[2]).toBeCloseTo(0.05, 3);
  });
  it('lights alone leave the darks alone, and darks the lights', () => {
    close(one(step('grade', { lightsHue: 60, lightsChroma: 0.1 }), [0.01, 0.01, 0.01]), [0.01, 0.01, 0.01], 1e-5);
    close(one(step('grade', { darksHue: 250, darksChroma: 0.1 }), [0.7, 0.7, 0.7]), [0.7, 0.7, 0.7], 1e-4);
  });
  it('black stays black and white white', () => {
    const s = step('grade', { darksHue: 250, darksChroma: 0.15, lightsHue: 60, lightsChroma: 0.15 }, 2);
    close(one(s, [0, 0, 0]), [0, 0, 0], 1e-6);
    close(one(s, [1, 1, 1]), [1, 1, 1], 1e-4);
  });
  it('the same colour in all three ranges is the same colour everywhere between the ends (weights add to one)', () => {
    const s = step('grade', { darksHue: 30, darksChroma: 0.04, midsHue: 30, midsChroma: 0.04, lightsHue: 30, lightsChroma: 0.04 });
    for (const g of [0.03, 0.06, 0.12, 0.18, 0.3, 0.5, 0.7])
      expect(Math.hypot(...rec2020ToOklab(one(s, [g, g, g])).slice(1))).toBeCloseTo(0.04, 3);
  });
});

describe('black and white', () => {
  it('is the weighted sum of linear light: 39/50/11 by common practice', () => {
    for (const c of samples) close(one(step('mono', { amount: 100 }), c), Array(3).fill(0.39 * c[0] + 0.5 * c[1] + 0.11 * c[2]), 1e-6);
  });
  it('a neutral keeps its tone whatever the weights', () =>
    close(one(step('mono', { amount: 100, red: 85, green: 35, blue: -20 }), [0.3, 0.3, 0.3]), [0.3, 0.3, 0.3], 1e-5));
  it('no weight makes greys jump or noise grow: over the range of each, a small difference of colour stays small', () => {
    for (const name of ['red', 'green', 'blue'])
      for (let v = -50; v <= 150; v += 5) {
        const [a, b] = run(step('mono', { amount: 100, [name]: v }), [
          [0.2, 0.2, 0.2],
          [0.204, 0.198, 0.202],
        ]);
        expect(a![0]).toBeCloseTo(0.2, 5);
        expect(Math.abs(b![0] - a![0])).toBeLessThan(0.012);
      }
  });
  it('above 100 % it stays without colour', () => {
    for (const c of run(step('mono', { amount: 100, red: 90, green: 20, blue: -10 }, 2), samples))
      expect(Math.max(...c) - Math.min(...c)).toBeLessThan(1e-6);
  });
});

describe('strength', () => {
  it('of the look multiplies that of the step', () => {
    const s = step('exposure', { shiftEv: 1 }, 0.5);
    close(run(s, [[0.1, 0.1, 0.1]], 2)[0]!, [0.2, 0.2, 0.2], 1e-6);
  });
  it('of the look at 0 is the neutral response', () => {
    const look = {
      ...emptyLook('x'),
      strength: 0,
      scene: [step('warmth', { shiftMired: 50 })],
      print: [step('saturation', { change: 60 })],
      stock: step('neutral', { contrast: 2 }),
    };
    expect(lookPasses(look)).toEqual(lookPasses(emptyLook('y')));
  });
});
