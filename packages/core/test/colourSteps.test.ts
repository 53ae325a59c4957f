import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apply3, type Vector3 } from '../src/colour/matrix.ts';
import { rec2020ToOklab } from '../src/colour/oklab.ts';
import { xyzToXy, rec2020ToXyz } from '../src/colour/spaces.ts';
import { temperatureOf } from '../src/colour/temperature.ts';
import { decodeSrgb, encodeSrgb } from '../src/colour/transfer.ts';
import type { LookStep } from '../src/look/look.ts';
import { applyCdl } from '../src/colour/cdl.ts';
import { gelTransmission } from '../src/steps/gel/index.ts';
import { step, one, close, fromSrgb } from './stepTrial.ts';

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
