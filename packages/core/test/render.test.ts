import { describe, expect, it } from 'vitest';
import { dyeStrip } from '../src/plan/dyestrip.ts';
import { emptyLook, newStep, type Look } from '../src/look/look.ts';
import { oklabToRec2020, rec2020ToOklab } from '../src/colour/oklab.ts';
import { invert3, apply3, type Vector3 } from '../src/colour/matrix.ts';
import { displayP3, rec2020To, srgb } from '../src/colour/spaces.ts';
import { decodeSrgb } from '../src/colour/transfer.ts';
import { cutPlate, halvePlate, makePlate, plateOffset, plateScale, turn, type Plate } from '../src/plate/plate.ts';
import type { RawFacts } from '../src/plate/mosaic.ts';
import { lightSignature, makeSurvey, mostDifferent } from '../src/plate/survey.ts';
import { sceneParameters } from '../src/groundwork/light.ts';
import { plan } from '../src/plan/plan.ts';
import { developPlanes, render } from '../src/render/render.ts';
import { encodeParameters } from '../src/render/output.ts';
import { histogramOf, clippedShare } from '../src/render/histogram.ts';
import { kernels } from './kernels.ts';

// a camera whose RGB is linear sRGB itself, under D65
const toXyz = [0.4124, 0.3576, 0.1805, 0.2126, 0.7152, 0.0722, 0.0193, 0.1192, 0.9505] as const;
const profile = {
  colour: [{ kelvin: 6504, matrix: invert3(toXyz), forward: null, calibration: [1, 0, 0, 0, 1, 0, 0, 0, 1] as const }],
  analogBalance: [1, 1, 1] as const,
  asShotNeutral: [1, 1, 1] as const,
  baselineExposureEv: 0,
};
const facts = (over: Partial<RawFacts> = {}): RawFacts => ({
  width: 64,
  height: 48,
  camera: '',
  lens: '',
  mosaic: 'Bayer RGGB',
  black: [100, 100, 100, 100],
  white: 4095,
  quarterTurns: 0,
  profile,
  exif: { iso: 100, shutterSeconds: 1, aperture: 1, focalMm: 1, takenAt: null },
  ...over,
});
const platter = (width: number, height: number, at: (x: number, y: number, c: number) => number): Plate => {
  const data = new Uint16Array(width * height * 3);
  for (let c = 0; c < 3; c++)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) data[(c * height + y) * width + x] = Math.round(at(x, y, c) * plateScale + plateOffset);
  return { width, height, data };
};
const look: Look = {
  ...emptyLook('t'),
  scene: [{ ...newStep('warmth', 'w'), params: { shiftMired: 20, tint: 3 } }],
  print: [
    {
      ...newStep('curve', 'c'),
      params: {
        points: [
          [0, 0.05],
          [0.5, 0.55],
          [1, 0.97],
        ],
      },
    },
    { ...newStep('saturation', 's'), params: { change: 20 } },
    { ...newStep('grade', 'g'), params: { ...newStep('grade', 'g').params, lightsHue: 70, lightsChroma: 0.04 } },
  ],
};
const frame = { profile, seed: 12345 };
const test = platter(203, 117, (x, y, c) => (x / 203) * (c === 0 ? 0.9 : 0.6) + (y / 117) * 0.1 * c);

describe('demosaic', () => {
  const cells = { RGGB: [0, 1, 1, 2], BGGR: [2, 1, 1, 0], GRBG: [1, 0, 2, 1], GBRG: [1, 2, 0, 1] } as const;
  it.each(Object.entries(cells))('%s: a linear ramp comes out as it went in', (pattern, cell) => {
    const width = 46,
      height = 34,
      truth = (x: number, y: number, c: number): number => 0.1 + 0.008 * x + 0.004 * y + c * 0.07,
      data = new Uint16Array(width * height);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) data[y * width + x] = Math.round(100 + 3995 * truth(x, y, cell[(y & 1) * 2 + (x & 1)]!));
    const p = makePlate(kernels, { width, height, data, colours: 1, cell }, facts({ width, height, mosaic: `Bayer ${pattern}` }));
    let worst = 0;
    for (let c = 0; c < 3; c++)
      for (let y = 12; y < height - 12; y++)
        for (let x = 12; x < width - 12; x++)
          worst = Math.max(worst, Math.abs((p.data[(c * height + y) * width + x]! - plateOffset) / plateScale - truth(x, y, c)));
    expect(worst).toBeLessThan(4e-4);
  });
  it('odd sizes and rows beyond a strip are whole', () => {
    const width = 37,
      height = 131,
      data = new Uint16Array(width * height).fill(100 + 800);
    const p = makePlate(kernels, { width, height, data, colours: 1, cell: [0, 1, 1, 2] }, facts({ width, height }));
    const want = (800 / 3995) * plateScale + plateOffset;
    expect(p.data.every((v) => Math.abs(v - want) <= 1)).toBe(true);
  });
  it('own black of each place of the cell is taken away', () => {
    const width = 16,
      height = 16,
      black = [100, 120, 140, 160] as const,
      data = new Uint16Array(width * height);
    for (let i = 0; i < data.length; i++) data[i] = black[((i >> 4) & 1) * 2 + (i & 1)]!;
    const p = makePlate(kernels, { width, height, data, colours: 1, cell: [0, 1, 1, 2] }, facts({ width, height, black }));
    expect(p.data.every((v) => v === plateOffset)).toBe(true);
  });
});

describe('plate', () => {
  it('half size is the mean of 2 × 2, and an odd edge is left out', () => {
    const half = halvePlate(
      kernels,
      platter(5, 3, (x, y, c) => 0.1 * x + 0.05 * y + 0.01 * c),
    );
    expect([half.width, half.height]).toEqual([2, 1]);
    expect((half.data[1]! - plateOffset) / plateScale).toBeCloseTo(0.275, 4);
  });
  it('a quarter turn four times is no turn, and one puts the left column on top', () => {
    const p = platter(4, 3, (x, y, c) => x * 0.1 + y * 0.02 + c * 0.001);
    expect([1, 1, 1, 1].reduce((q) => turn(q, 1), p).data).toEqual(p.data);
    const turned = turn(p, 1);
    expect([turned.width, turned.height]).toEqual([3, 4]);
    expect(Array.from(turned.data.subarray(0, 3))).toEqual([p.data[8], p.data[4], p.data[0]]);
    expect(turn(turn(p, 2), 2).data).toEqual(p.data);
    expect(turn(turn(p, 1), 3).data).toEqual(p.data);
  });
});

describe('rendering', () => {
  it('a region is the same bytes as that region of the whole', () => {
    const p = plan(look, frame, 'srgb'),
      whole = render(kernels, p, test, { x: 0, y: 0 }, 'rgba8'),
      area = { x: 37, y: 21, width: 101, height: 63 };
    const part = render(kernels, p, cutPlate(test, area.x, area.y, area.width, area.height), area, 'rgba8');
    for (let j = 0; j < area.height; j++)
      expect(
        Buffer.from(part.subarray(j * area.width * 4, (j + 1) * area.width * 4)).equals(
          Buffer.from(whole.subarray(((j + area.y) * 203 + area.x) * 4, ((j + area.y) * 203 + area.x + area.width) * 4)),
        ),
      ).toBe(true);
  });
  it('going on from kept planes is the same bytes as starting over', () => {
    const p = plan(look, frame, 'srgb'),
      whole = render(kernels, p, test, { x: 0, y: 0 }, 'rgba8');
    for (let count = 0; count <= p.passes.length; count++)
      expect(
        Buffer.from(render(kernels, p, test, { x: 0, y: 0 }, 'rgba8', { planes: developPlanes(kernels, p, test, count), count })).equals(
          Buffer.from(whole),
        ),
      ).toBe(true);
  });
  it('16 bits agree with 8 bits to within a code', () => {
    const p = plan(look, frame, 'srgb'),
      eight = render(kernels, p, test, { x: 0, y: 0 }, 'rgba8'),
      sixteen = new Uint16Array(render(kernels, p, test, { x: 0, y: 0 }, 'rgb16').buffer);
    let worst = 0;
    for (let i = 0; i < 203 * 117; i++)
      for (let c = 0; c < 3; c++) worst = Math.max(worst, Math.abs(eight[i * 4 + c]! - sixteen[i * 3 + c]! / 257));
    expect(worst).toBeLessThan(1.01);
  });
  it('a grey stays grey through camera, response and output', () => {
    const grey = platter(64, 64, () => 0.18),
      rgba = render(kernels, plan(null, frame, 'srgb'), grey, { x: 0, y: 0 }, 'rgba8');
    const mean = [0, 1, 2].map((c) => rgba.filter((_, i) => i % 4 === c).reduce((a, b) => a + b, 0) / 4096);
    // sRGB of 0.18 is 117.6 (IEC 61966-2-1); dither keeps the mean
    for (const m of mean) expect(m).toBeCloseTo(117.65 - 0.0, 0);
  });
  it('clipped light is neutral whatever the balance', () => {
    const warmProfile = { ...profile, asShotNeutral: [0.45, 1, 0.6] as const },
      blown = platter(16, 16, () => 1);
    const planes = developPlanes(kernels, plan(null, { profile: warmProfile, seed: 1 }, 'srgb'), blown, 0);
    expect(planes[0]! / planes[256]!).toBeCloseTo(1, 3);
    expect(planes[512]! / planes[256]!).toBeCloseTo(1, 3);
  });
  describe.each([
    ['srgb', srgb],
    ['p3', displayP3],
  ] as const)('the edge of %s', (space, primaries) => {
    const numbers = encodeParameters(space),
      back = invert3(rec2020To(primaries));
    const out = (c: Vector3): Vector3 => {
      const at = kernels.reserve(200000),
        f = kernels.f32();
      f.set([c[0], 0, 0, 0, c[1], 0, 0, 0, c[2], 0, 0, 0, ...numbers], at / 4);
      kernels.exports.encode(at, at + 16, at + 32, 1, at + 48, at + 150000, 0, 0, 0, 6);
      const u = kernels.u16().subarray((at + 150000) / 2, (at + 150000) / 2 + 3);
      return [u[0]! / 65535, u[1]! / 65535, u[2]! / 65535];
    };
    const seen = (c: Vector3): Vector3 => rec2020ToOklab(apply3(back, out(c).map((v) => decodeSrgb(v)) as unknown as Vector3));
    const pures: Vector3[] = [];
    for (let e = 0; e < 6; e++)
      for (let t = 0; t < 1; t += 0.1) {
        const corners: Vector3[] = [
          [1, 0, 0],
          [1, 1, 0],
          [0, 1, 0],
          [0, 1, 1],
          [0, 0, 1],
          [1, 0, 1],
          [1, 0, 0],
        ];
        pures.push(corners[e]!.map((v, k) => v * (1 - t) + corners[e + 1]![k]! * t) as unknown as Vector3);
      }
    it('no hue turns by more than 1°, out to the pure primaries of Rec.2020 and under a light of twice white', () => {
      for (const pure of pures)
        for (const light of [0.02, 0.3, 0.9, 2])
          for (const t of [0.6, 0.9, 1]) {
            const c = pure.map((v) => light * (0.3 * (1 - t) + v * t)) as unknown as Vector3,
              want = rec2020ToOklab(c),
              got = seen(c),
              chroma = Math.hypot(got[1], got[2]);
            if (chroma < 0.02) continue;
            const turned = Math.abs(Math.atan2(want[1] * got[2] - want[2] * got[1], want[1] * got[1] + want[2] * got[2])) * (180 / Math.PI);
            expect(turned, `hue of ${c.join(' ')}`).toBeLessThan(1);
            expect(Math.abs(Math.min(1, want[0]) - got[0]), `lightness of ${c.join(' ')}`).toBeLessThan(0.006);
          }
    });
    it('rising chroma never turns back and stays told apart (no flat patches)', () => {
      for (const pure of pures) {
        const from = rec2020ToOklab([0.2, 0.2, 0.2]),
          to = rec2020ToOklab(pure.map((v) => v * 0.5) as unknown as Vector3);
        let last = -1;
        for (let t = 0.3; t <= 1.0001; t += 0.05) {
          const got = seen(oklabToRec2020([from[0], to[1] * t, to[2] * t])),
            chroma = Math.hypot(got[1], got[2]);
          expect(chroma, `${pure.join(' ')} at ${t}`).toBeGreaterThan(last - 2e-5);
          last = chroma;
        }
      }
    });
    it('colours within 85 % of the edge are left alone', () => {
      for (const pure of pures) {
        const lab = rec2020ToOklab(apply3(back, pure.map((v) => 0.4 * (0.35 + 0.65 * v)) as unknown as Vector3)),
          got = seen(oklabToRec2020(lab));
        for (let k = 0; k < 3; k++) expect(got[k]!).toBeCloseTo(lab[k]!, 3);
      }
    });
  });
});

describe('readings', () => {
  it('a histogram counts every pixel once, and what is clipped', () => {
    const h = histogramOf(Uint8Array.from([0, 10, 20, 255, 255, 255, 255, 255]));
    expect(h.pixels).toBe(2);
    expect(h.luma.reduce((a, b) => a + b, 0)).toBe(2);
    expect(clippedShare(h, 'white')).toBe(0.5);
  });
  it('a dye strip of the empty look keeps greys grey and in order', () => {
    const strip = dyeStrip(kernels, emptyLook('n')),
      greys = strip.slice(1, 5).map((c) => [1, 3, 5].map((i) => Number.parseInt(c.slice(i, i + 2), 16)));
    for (const g of greys) expect(Math.max(...g) - Math.min(...g)).toBeLessThanOrEqual(1);
    expect(greys.map((g) => g[0]!)).toEqual([...greys.map((g) => g[0]!)].sort((a, b) => a - b));
  });
  it('witnesses are the most different lights', () => {
    const survey = (r: number, b: number): { signature: number[] } => ({
      signature: lightSignature(
        makeSurvey(
          platter(48, 32, (_, __, c) => (c === 0 ? r : c === 1 ? 0.3 : b)),
          sceneParameters(profile),
        ),
      ),
    });
    const lead = survey(0.3, 0.3),
      same = survey(0.31, 0.3),
      warm = survey(0.6, 0.1),
      cold = survey(0.1, 0.6);
    expect(mostDifferent(lead, [same, warm, cold], 2)).toEqual(expect.arrayContaining([warm, cold]));
  });
});
