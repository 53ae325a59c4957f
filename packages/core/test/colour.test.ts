import { differenceCiede2000, oklch } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ciede2000, xyzToLab } from '../src/colour/difference.ts';
import { apply3, invert3, multiply3, identity3, type Matrix3, type Vector3 } from '../src/colour/matrix.ts';
import { blackbody, colourMatching, daylightChromaticity } from '../src/colour/observer.ts';
import { oklabToRec2020, rec2020ToOklab, xyzToOklab } from '../src/colour/oklab.ts';
import { adapt, d50, d65, displayP3, rec2020, rec2020To, rgbToXyz, srgb, xyToXyz } from '../src/colour/spaces.ts';
import { chromaticityOf, planckian, temperatureOf, uvToXy } from '../src/colour/temperature.ts';
import { decodeOprgb, decodeSrgb, encodeOprgb, encodeSrgb } from '../src/colour/transfer.ts';

const close = (actual: readonly number[], expected: readonly number[], within: number): void => {
  expected.forEach((v, i) => expect(Math.abs(actual[i]! - v), `number ${i}: ${actual[i]} for ${v}`).toBeLessThanOrEqual(within));
};

describe('transfer curves', () => {
  // IEC 61966-2-1: the linear segment, its end, and 8-bit 128 as commonly tabulated
  it('sRGB has the values of its standard', () => {
    expect(encodeSrgb(0.0031308)).toBeCloseTo(0.04045, 5);
    expect(encodeSrgb(0.18)).toBeCloseTo(0.461356, 5);
    expect(decodeSrgb(128 / 255)).toBeCloseTo(0.215861, 5);
    expect(encodeSrgb(1)).toBeCloseTo(1, 12);
  });
  // IEC 61966-2-5: exponent 2.19921875
  it('opRGB has the exponent of its standard', () => {
    expect(decodeOprgb(0.5)).toBeCloseTo(0.5 ** 2.19921875, 12);
    expect(encodeOprgb(decodeOprgb(0.3))).toBeCloseTo(0.3, 12);
  });
});

describe('matrices', () => {
  it('RGB to XYZ agrees with IEC 61966-2-1 and ITU-R BT.2020', () => {
    close(rgbToXyz(srgb), [0.4124, 0.3576, 0.1805, 0.2126, 0.7152, 0.0722, 0.0193, 0.1192, 0.9505], 1.1e-4);
    close(rgbToXyz(rec2020).slice(3, 6), [0.2627, 0.678, 0.0593], 1e-4);
  });
  // SMPTE EG 432-1 primaries with D65, from memory of the published Display P3 matrix
  it('Display P3 agrees with its published matrix', () =>
    close(rgbToXyz(displayP3), [0.48657, 0.26567, 0.19822, 0.22897, 0.69174, 0.07929, 0, 0.04511, 1.04394], 1e-4));
  // ITU-R BT.2087-0, linear BT.709 to BT.2020
  it('Rec.2020 to sRGB inverts the matrix of BT.2087', () =>
    close(invert3(rec2020To(srgb)), [0.6274, 0.3293, 0.0433, 0.0691, 0.9195, 0.0114, 0.0164, 0.088, 0.8956], 1e-4));
  // the Bradford D65 to D50 matrix as published with ICC profiles and by Lindbloom
  it('Bradford adaptation agrees with the published D65 to D50 matrix', () =>
    close(
      adapt([0.95047, 1, 1.08883], [0.96422, 1, 0.82521]),
      [1.0478112, 0.0228866, -0.050127, 0.0295424, 0.9904844, -0.0170491, -0.0092345, 0.0150436, 0.7521316],
      2e-5,
    ));
  it('an inverse undoes its matrix, and a singular one is refused', () => {
    close(multiply3(rgbToXyz(srgb), invert3(rgbToXyz(srgb))), identity3, 1e-12);
    expect(() => invert3([1, 2, 3, 2, 4, 6, 0, 0, 1] as Matrix3)).toThrow(/no inverse/);
  });
});

describe('OKLab', () => {
  // Ottosson 2020, the table of XYZ and OKLab pairs
  it('has the published table', () => {
    close(xyzToOklab([0.95, 1, 1.089]), [1, 0, 0], 6e-4);
    close(xyzToOklab([1, 0, 0]), [0.45, 1.236, -0.019], 6e-4);
    close(xyzToOklab([0, 1, 0]), [0.922, -0.671, 0.263], 6e-4);
    close(xyzToOklab([0, 0, 1]), [0.153, -1.415, -0.449], 6e-4);
  });
  // culori 4, an independent implementation
  it('agrees with culori on sRGB colours', () => {
    for (const [r, g, b] of [
      [0.8, 0.2, 0.1],
      [0.1, 0.6, 0.3],
      [0.3, 0.3, 0.9],
      [0.5, 0.5, 0.5],
    ] as const) {
      const lab = rec2020ToOklab(apply3(invert3(rec2020To(srgb)), [decodeSrgb(r), decodeSrgb(g), decodeSrgb(b)])),
        theirs = oklch({ mode: 'rgb', r, g, b });
      expect(lab[0]).toBeCloseTo(theirs.l, 3);
      expect(Math.hypot(lab[1], lab[2])).toBeCloseTo(theirs.c, 3);
    }
  });
  it('comes back from where it went', () =>
    fc.assert(
      fc.property(
        fc.tuple(
          fc.double({ min: 0, max: 2, noNaN: true }),
          fc.double({ min: 0, max: 2, noNaN: true }),
          fc.double({ min: 0, max: 2, noNaN: true }),
        ),
        (rgb) => close(oklabToRec2020(rec2020ToOklab(rgb)), rgb, 1e-6),
      ),
    ));
});

// Sharma, Wu, Dalal 2005, table 1: all 34 pairs
const pairs = `50 2.6772 -79.7751 50 0 -82.7485 2.0425
50 3.1571 -77.2803 50 0 -82.7485 2.8615
50 2.8361 -74.02 50 0 -82.7485 3.4412
50 -1.3802 -84.2814 50 0 -82.7485 1
50 -1.1848 -84.8006 50 0 -82.7485 1
50 -0.9009 -85.5211 50 0 -82.7485 1
50 0 0 50 -1 2 2.3669
50 -1 2 50 0 0 2.3669
50 2.49 -0.001 50 -2.49 0.0009 7.1792
50 2.49 -0.001 50 -2.49 0.001 7.1792
50 2.49 -0.001 50 -2.49 0.0011 7.2195
50 2.49 -0.001 50 -2.49 0.0012 7.2195
50 -0.001 2.49 50 0.0009 -2.49 4.8045
50 -0.001 2.49 50 0.001 -2.49 4.8045
50 -0.001 2.49 50 0.0011 -2.49 4.7461
50 2.5 0 50 0 -2.5 4.3065
50 2.5 0 73 25 -18 27.1492
50 2.5 0 61 -5 29 22.8977
50 2.5 0 56 -27 -3 31.903
50 2.5 0 58 24 15 19.4535
50 2.5 0 50 3.1736 0.5854 1
50 2.5 0 50 3.2972 0 1
50 2.5 0 50 1.8634 0.5757 1
50 2.5 0 50 3.2592 0.335 1
60.2574 -34.0099 36.2677 60.4626 -34.1751 39.4387 1.2644
63.0109 -31.0961 -5.8663 62.8187 -29.7946 -4.0864 1.263
61.2901 3.7196 -5.3901 61.4292 2.248 -4.962 1.8731
35.0831 -44.1164 3.7933 35.0232 -40.0716 1.5901 1.8645
22.7233 20.0904 -46.694 23.0331 14.973 -42.5619 2.0373
36.4612 47.858 18.3852 36.2715 50.5065 21.2231 1.4146
90.8027 -2.0831 1.441 91.1528 -1.6435 0.0447 1.4441
90.9257 -0.5406 -0.9208 88.6381 -0.8985 -0.7239 1.5381
6.7747 -0.2908 -2.4247 5.8714 -0.0985 -2.2286 0.6377
2.0776 0.0795 -1.135 0.9033 -0.0636 -0.5514 0.9082`
  .split('\n')
  .map((l) => l.split(' ').map(Number));

describe('CIEDE2000', () => {
  it.each(pairs.map((p, i) => [i + 1, p] as const))('pair %i of Sharma, Wu and Dalal', (_, p) => {
    expect(ciede2000(p.slice(0, 3) as unknown as Vector3, p.slice(3, 6) as unknown as Vector3)).toBeCloseTo(p[6]!, 4);
  });
  // culori 4; its `lab65` is taken as it stands, where `lab` would be adapted from D50 first
  it('agrees with culori over the whole space', () => {
    const theirs = differenceCiede2000(),
      axis = fc.double({ min: -100, max: 100, noNaN: true }),
      light = fc.double({ min: 0, max: 100, noNaN: true });
    fc.assert(
      fc.property(fc.tuple(light, axis, axis), fc.tuple(light, axis, axis), (p, q) => {
        // the formula jumps where a hue is undefined or two hues are opposite (Sharma, Wu, Dalal 2005, section "Discontinuities"): rounding decides there
        const cosine = (p[1] * q[1] + p[2] * q[2]) / (Math.hypot(p[1], p[2]) * Math.hypot(q[1], q[2]));
        fc.pre(Math.hypot(p[1], p[2]) > 0.01 && Math.hypot(q[1], q[2]) > 0.01 && cosine > -0.99);
        expect(ciede2000(p, q)).toBeCloseTo(
          theirs({ mode: 'lab65', l: p[0], a: p[1], b: p[2] }, { mode: 'lab65', l: q[0], a: q[1], b: q[2] }),
          9,
        );
      }),
      { numRuns: 2000 },
    );
  });
  it('L* of an 18 % grey is 49.5 (CIE 015)', () =>
    expect(xyzToLab([0.18 * 0.9642, 0.18, 0.18 * 0.8252], [0.9642, 1, 0.8252])[0]).toBeCloseTo(49.5, 1));
});

describe('temperature', () => {
  // CIE 015: illuminant A and D65, D50, D55 chromaticities and nominal temperatures
  it.each([
    ['A', 0.44758, 0.40745, 2856],
    ['D65', 0.31272, 0.32903, 6504],
    ['D50', 0.34567, 0.3585, 5003],
    ['D55', 0.33243, 0.34744, 5503],
  ] as const)('illuminant %s has its temperature', (_, x, y, kelvin) => {
    expect(Math.abs(1e6 / temperatureOf([x, y]).kelvin - 1e6 / kelvin)).toBeLessThan(1);
  });
  it('illuminant A lies on Planck’s locus, daylight on its green side', () => {
    expect(Math.abs(temperatureOf([0.44758, 0.40745]).tintDuv)).toBeLessThan(2e-4);
    // Duv of D65 is 0.0032 (CIE 1960)
    expect(temperatureOf(d65).tintDuv).toBeCloseTo(0.0032, 3);
  });
  it('daylight chromaticities are those of CIE 015', () => {
    close(daylightChromaticity(6504), [0.3127, 0.3291], 2e-4);
    close(daylightChromaticity(5003), [0.3457, 0.3586], 2e-4);
  });
  it('Planck’s law under the observer falls on the table of the locus', () => {
    for (const kelvin of [2500, 3200, 5000, 8000]) {
      const sum = [0, 0, 0];
      for (let nm = 380; nm <= 780; nm += 5)
        colourMatching(nm).forEach((v, i) => {
          sum[i]! += v * blackbody(nm, kelvin);
        });
      const total = sum[0]! + sum[1]! + sum[2]!,
        p = planckian(1e6 / kelvin);
      close([sum[0]! / total, sum[1]! / total], uvToXy([p.u, p.v]), 2.5e-3);
    }
  });
  it('temperature and tint come back from their chromaticity', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 1800, max: 20000, noNaN: true }),
        fc.double({ min: -0.012, max: 0.012, noNaN: true }),
        (kelvin, tint) => {
          const back = temperatureOf(chromaticityOf(kelvin, tint));
          expect(Math.abs(1e6 / back.kelvin - 1e6 / kelvin)).toBeLessThan(3.5);
          expect(Math.abs(back.tintDuv - tint)).toBeLessThan(6e-4);
        },
      ),
    ));
  it('the white of D50 is what the standard says', () => close(xyToXyz(d50), [0.9643, 1, 0.8251], 2e-4));
});
