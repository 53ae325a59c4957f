import { converter } from 'culori';
import { describe, expect, it } from 'vitest';
import { apply3, invert3, type Vector3 } from '../src/colour/matrix.ts';
import { rec2020ToOklab } from '../src/colour/oklab.ts';
import { rec2020To, srgb } from '../src/colour/spaces.ts';
import { decodeSrgb } from '../src/colour/transfer.ts';
import { toSourceOf, warped } from './warped.ts';
import { sendThrough } from '../src/plan/dyestrip.ts';
import { emptyLook, newStep, type LookStep } from '../src/look/look.ts';
import { plateOffset, plateScale } from '../src/plate/plate.ts';
import { encodeParameters, type OutputSpace } from '../src/render/output.ts';
import { foldPasses, isPointwise, type PointwisePass } from '../src/render/pass.ts';
import { lookPasses, passesOf, plan } from '../src/plan/plan.ts';
import { render } from '../src/render/render.ts';
import { stepKinds } from '../src/look/kinds.ts';
import { kernels } from './kernels.ts';

/** An even scatter of numbers in 0–1 (additive recurrence of the golden ratio's kin; Roberts 2018). */
const scatter = (i: number, k: number): number => (0.5 + [0.8191725, 0.6710436, 0.5497005][k]! * (i + 1)) % 1;
const colours = (count: number, low: number, high: number): Vector3[] =>
  Array.from({ length: count }, (_, i) => [0, 1, 2].map((k) => low + (high - low) * scatter(i, k)) as unknown as Vector3);
const profile = {
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
const step = (kind: string, params: LookStep['params']): LookStep => ({
  ...newStep(kind, kind),
  params: { ...newStep(kind, kind).params, ...params },
});
const lively: Record<string, LookStep['params']> = {
  warmth: { shiftMired: 30 },
  exposure: { shiftEv: 1 },
  contrast: { contrast: 30 },
  gel: { hue: 40, density: 0.5 },
  mixer: { redFromGreen: 40, blueOffset: 20 },
  neutral: { contrast: 1.4 },
  curve: {
    points: [
      [0, 0.05],
      [0.4, 0.5],
      [1, 0.9],
    ],
    red: [
      [0, 0.1],
      [1, 1],
    ],
  },
  saturation: { change: 40 },
  grade: { darksHue: 250, darksChroma: 0.05, lightsHue: 70, lightsChroma: 0.05 },
  mono: { amount: 50 },
  hueBands: { hue: [[100, 30, 80]], chroma: [[200, 40, 60]], lightness: [[255, -0.2, 60]] },
  colourRange: { evenHue: 50, chromaShift: 20 },
  vibrance: { change: 50 },
  cdl: { slopeRed: 1.2, offsetBlue: 0.05, powerGreen: 1.2, saturation: 0.8 },
};

describe('the way to OKLab', () => {
  const oklab = converter('oklab'),
    toSrgb = rec2020To(srgb);
  it('agrees with culori, and back again, from the deepest dark to four times white', () => {
    const list = [...colours(600, 0, 1), ...colours(200, 0, 4), ...colours(200, 0, 1e-4)],
      lab = sendThrough(kernels, [passesOf(step('saturation', { change: 50 }), 1)[0]!], list),
      back = sendThrough(kernels, passesOf(step('saturation', { change: 1e-9 }), 1), list);
    list.forEach((c, i) => {
      const [r, g, b] = apply3(toSrgb, c),
        want = oklab({ mode: 'lrgb', r, g, b }),
        peak = Math.max(...c);
      // culori's matrices are given for sRGB to ten digits, ours for XYZ
      [want.l, want.a, want.b].forEach((v, k) => expect(Math.abs(lab[i]![k]! - v)).toBeLessThan(4e-4 * Math.max(1, want.l)));
      c.forEach((v, k) => expect(Math.abs(back[i]![k]! - v)).toBeLessThan(4e-6 * peak + 1e-9));
    });
  });
  it('is gone once for neighbouring steps, and what comes out is the same', () => {
    const steps = ['saturation', 'grade', 'hueBands', 'colourRange', 'vibrance'].map((k) => step(k, lively[k]!)),
      look = { ...emptyLook('t'), print: steps },
      fused = lookPasses(look);
    expect(fused.filter((p) => p.kernel === 'toLab' || p.kernel === 'fromLab').map((p) => p.kernel)).toEqual(['toLab', 'fromLab']);
    const list = colours(400, 0.01, 0.9),
      apart = steps.reduce((c, s) => sendThrough(kernels, passesOf(s, 1), c), sendThrough(kernels, passesOf(look.stock, 1), list));
    sendThrough(kernels, fused, list).forEach((c, i) => c.forEach((v, k) => expect(Math.abs(v - apart[i]![k]!)).toBeLessThan(3e-6)));
  });
  it('only a way out that leads straight back in is left out', () => {
    const named = (...kernelsOf: PointwisePass['kernel'][]): PointwisePass[] =>
      kernelsOf.map((kernel) => ({ kernel, parameters: [1, 0, 0, 0, 1, 0, 0, 0, 1] }));
    expect(foldPasses(named('toLab', 'grade', 'fromLab', 'curve', 'toLab', 'vibrance', 'fromLab')).map((p) => p.kernel)).toEqual([
      'toLab',
      'grade',
      'fromLab',
      'curve',
      'toLab',
      'vibrance',
      'fromLab',
    ]);
    expect(
      foldPasses(named('matrix', 'matrix', 'toLab', 'grade', 'fromLab', 'toLab', 'saturation', 'fromLab')).map((p) => p.kernel),
    ).toEqual(['matrix', 'toLab', 'grade', 'saturation', 'fromLab']);
  });
});

describe('elementary functions', () => {
  it('powers are right to a part in a million over sixteen stops (contrast against Math.pow)', () => {
    const list = Array.from({ length: 321 }, (_, i): Vector3 => {
        const v = 0.18 * 2 ** (i / 20 - 10);
        return [v, v * 1.1, v * 0.9];
      }),
      out = sendThrough(kernels, passesOf(step('contrast', { contrast: 45, on: 'channels' }), 1), list);
    list.forEach((c, i) =>
      c.forEach((v, k) => {
        const want = 0.18 * (v / 0.18) ** (2 ** 0.45);
        expect(Math.abs(out[i]![k]! / want - 1)).toBeLessThan(2e-6);
      }),
    );
  });
  it('light that is no number, or endless, stops nothing: every step and the encoding give codes', () => {
    const bad: Vector3[] = [
      [NaN, 0.2, 0.3],
      [Infinity, 0.1, 0.1],
      [-Infinity, 0.5, 0.5],
      [1e30, 1e30, 1e30],
      [-1e30, 0, 1e30],
      [0, 0, 0],
      [NaN, NaN, NaN],
      [1e-40, 0, 0],
    ];
    for (const kind of stepKinds) {
      const passes = passesOf(step(kind.kind, lively[kind.kind] ?? {}), 1).filter(isPointwise),
        out = sendThrough(kernels, passes, bad);
      expect(out).toHaveLength(bad.length);
      // and the ones beside them are as they are alone
      if (passes.length > 0)
        expect(sendThrough(kernels, passes, [...bad.slice(0, 3), [0.2, 0.3, 0.4]])[3]).toEqual(
          sendThrough(kernels, passes, [[0.2, 0.3, 0.4]])[0],
        );
    }
    expect(encoded(bad, 'srgb', null)).toHaveLength(bad.length * 3);
  });
});

/** Codes of 16 bits for a list of colours; `share` stands for what the least channel needs to be left alone. */
function encoded(list: readonly Vector3[], space: OutputSpace, share: number | null): Uint16Array {
  const numbers = Float32Array.from(encodeParameters(space)),
    n = (list.length + 3) & ~3,
    intervals = numbers[29]!;
  if (share !== null) {
    numbers[27] = share;
    numbers.fill(share, 30 + 3 * (intervals + 2));
  }
  const at = kernels.reserve(n * 12 + numbers.length * 4 + n * 6 + 256),
    params = at + n * 12,
    out = (params + numbers.length * 4 + 31) & ~15,
    f = kernels.f32();
  list.forEach((c, i) =>
    c.forEach((v, k) => {
      f[at / 4 + k * n + i] = v;
    }),
  );
  f.set(numbers, params / 4);
  kernels.exports.encode(at, at + n * 4, at + n * 8, n, params, out, 0, 0, 7, 6);
  return kernels.u16().slice(out / 2, out / 2 + list.length * 3);
}

describe('encoding', () => {
  it.each(['srgb', 'p3'] as const)('%s: the quick look at the least channel passes over no colour that has to be drawn in', (space) => {
    for (const list of [colours(6000, 0, 1), colours(6000, -0.1, 0.6), colours(3000, 0, 1.6), colours(2000, 0, 0.02)]) {
      const quick = encoded(list, space, null),
        slow = encoded(list, space, 2);
      // beyond white both say white, the long way with its rounding
      quick.forEach((v, i) => {
        const o = i - (i % 3),
          white = [0, 1, 2].every((k) => quick[o + k] === 65535);
        expect(Math.abs(v - slow[i]!), list[o / 3]!.join(' ')).toBeLessThanOrEqual(white ? 30 : 0);
      });
    }
  });
  const width = 203,
    height = 31,
    plate = {
      width,
      height,
      data: Uint16Array.from({ length: width * height * 3 }, (_, i) => plateOffset + plateScale * (0.02 + 0.9 * scatter(i, i % 3))),
    },
    p = plan(null, { profile, seed: 99 }, 'srgb');
  it('bytes with and without their fourth are the same picture, in rows of any width', () => {
    const four = render(kernels, p, plate, { x: 0, y: 0 }, 'rgba8'),
      three = render(kernels, p, plate, { x: 0, y: 0 }, 'rgb8');
    expect(three).toHaveLength(width * height * 3);
    for (let i = 0; i < width * height; i++) {
      for (let k = 0; k < 3; k++) if (three[i * 3 + k] !== four[i * 4 + k]) throw new Error(`pixel ${i}`);
      if (four[i * 4 + 3] !== 255) throw new Error(`pixel ${i} is not whole`);
    }
    const deep = new Uint16Array(render(kernels, p, plate, { x: 0, y: 0 }, 'rgb16').buffer);
    for (let i = 0; i < deep.length; i++) expect(Math.abs(deep[i]! / 257 - three[i]!)).toBeLessThanOrEqual(1);
  });
  it('dither keeps the mean of an even tone to a hundredth of a code, and no channel knows of another or of its neighbour', () => {
    const side = 256,
      n = side * side,
      level = 0.1234,
      even = { width: side, height: side, data: new Uint16Array(n * 3).fill(plateOffset + plateScale * level) },
      bytes = render(kernels, p, even, { x: 0, y: 0 }, 'rgb8'),
      deep = new Uint16Array(render(kernels, p, even, { x: 0, y: 0 }, 'rgb16').buffer);
    const mean = (of: ArrayLike<number>, c: number): number => {
        let s = 0;
        for (let i = 0; i < n; i++) s += of[i * 3 + c]!;
        return s / n;
      },
      means = [0, 1, 2].map((c) => mean(bytes, c));
    // a code is the value rounded down after noise of one code: on average the value itself
    for (let c = 0; c < 3; c++) expect(Math.abs(means[c]! - (mean(deep, c) / 65535) * 255)).toBeLessThan(0.01);
    const together = (a: (i: number) => number, b: (i: number) => number): number => {
        let s = 0,
          aa = 0,
          bb = 0;
        for (let i = 0; i < n - side - 1; i++) {
          const x = a(i),
            y = b(i);
          s += x * y;
          aa += x * x;
          bb += y * y;
        }
        return s / Math.sqrt(aa * bb);
      },
      of =
        (c: number, off = 0) =>
        (i: number): number =>
          bytes[(i + off) * 3 + c]! - means[c]!;
    for (const r of [
      together(of(0), of(1)),
      together(of(1), of(2)),
      together(of(0), of(2)),
      together(of(1), of(1, 1)),
      together(of(1), of(1, side)),
    ])
      expect(Math.abs(r)).toBeLessThan(0.02);
  });
  it('middle grey under the neutral response is the sRGB code of 18 %', () => {
    const grey = { width: 64, height: 64, data: new Uint16Array(64 * 64 * 3).fill(plateOffset + plateScale * 0.18) },
      deep = new Uint16Array(render(kernels, p, grey, { x: 0, y: 0 }, 'rgb16').buffer);
    expect(decodeSrgb(deep.reduce((a, b) => a + b, 0) / deep.length / 65535)).toBeCloseTo(0.18, 3);
    expect(rec2020ToOklab([0.18, 0.18, 0.18])[0]).toBeCloseTo(Math.cbrt(0.18), 5);
  });
});

describe('resampling', () => {
  const constant =
    (v: number): ((x: number, y: number, c: number) => number) =>
    () =>
      v;
  it.each([2048, 2049, 32768, 62048, 65535])('an even plate of %i stays so, however it is turned, out to its corners', (v) => {
    for (const degrees of [0.3, 7, 45])
      expect(warped(61, 43, constant(v), toSourceOf(degrees, 61, 43)).data.every((x) => Math.abs(x - v) <= 1)).toBe(true);
  });
  it('half a pixel along a ramp is half a step, and a whole pixel is exact', () => {
    const ramp = (x: number): number => 5000 + 400 * x,
      half = warped(40, 12, ramp, [1, 0, 0.5, 0, 1, 0, 0, 0, 1]),
      whole = warped(40, 12, ramp, [1, 0, 3 + 1e-6, 0, 1, 0, 0, 0, 1]);
    for (let x = 4; x < 34; x++) {
      expect(Math.abs(half.data[6 * 40 + x]! - ramp(x + 0.5))).toBeLessThanOrEqual(2);
      expect(Math.abs(whole.data[6 * 40 + x]! - ramp(x + 3))).toBeLessThanOrEqual(2);
    }
  });
  it('a view that looks past its own horizon stops nothing', () => {
    const out = warped(48, 16, (x) => 3000 + 900 * x, [1, 0, 0, 0, 1, 0, 0.05, 0, -1.025]);
    expect(out.data).toHaveLength(48 * 16 * 3);
    // near the middle column the place is nowhere at all; what is shown there is of the picture's own range
    expect(Math.max(...out.data)).toBeLessThan(60000);
  });
  it('keeps each colour to itself, and repeats the border', () => {
    const out = warped(30, 20, (_x, _y, c) => [9000, 30000, 60000][c]!, toSourceOf(20, 30, 20));
    for (let c = 0; c < 3; c++)
      for (let i = 0; i < 600; i++) expect(Math.abs(out.data[c * 600 + i]! - [9000, 30000, 60000][c]!)).toBeLessThanOrEqual(1);
  });
});
