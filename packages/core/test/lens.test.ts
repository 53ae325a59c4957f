import { describe, expect, it } from 'vitest';
import { readOpcodes, turnFileLens, writeOpcodes } from '../src/formats/opcodes.ts';
import { frameView } from '../src/plan/draw.ts';
import { fillScale, placeOf } from '../src/groundwork/geometry.ts';
import { gainAt, lensGainOf, lensMapOf, plainLens, throughLens, type FileLens, type Lens } from '../src/groundwork/lens.ts';
import { identity3, invert3 } from '../src/colour/matrix.ts';
import type { Plate } from '../src/plate/plate.ts';
import { plan } from '../src/plan/plan.ts';
import { developPlanes } from '../src/render/render.ts';
import { kernels } from './kernels.ts';
import { platter, light, withLens, draw, file } from './lensTrial.ts';

describe('what a raw file says of its lens (DNG 1.7, chapter 7)', () => {
  /** WarpRectilinear from the specification's own text: x' = cx + m·(Δxr + Δxt). */
  const warped = (
    k: readonly number[],
    [ux, uy]: readonly [number, number],
    w: number,
    h: number,
    x: number,
    y: number,
  ): [number, number] => {
    const [x1, y1] = [w - 1, h - 1],
      cx = ux * x1,
      cy = uy * y1,
      m = Math.hypot(Math.max(cx, x1 - cx), Math.max(cy, y1 - cy)),
      dx = (x - cx) / m,
      dy = (y - cy) / m,
      r = Math.sqrt(dx * dx + dy * dy),
      [kr0, kr1, kr2, kr3, kt1, kt0] = k as [number, number, number, number, number, number],
      f = kr0 + kr1 * r ** 2 + kr2 * r ** 4 + kr3 * r ** 6;
    return [
      cx + m * (f * dx + kt0 * (2 * dx * dy) + kt1 * (r * r + 2 * dx * dx)),
      cy + m * (f * dy + kt1 * (2 * dx * dy) + kt0 * (r * r + 2 * dy * dy)),
    ];
  };
  it('WarpRectilinear sends places where the formula does, in each colour', () => {
    const map = lensMapOf(plainLens, file, { width: 600, height: 400 });
    for (const [x, y] of [
      [0, 0],
      [100, 30],
      [300, 200],
      [599, 399],
      [20, 380],
    ] as const)
      for (let c = 0; c < 3; c++) {
        const [a, b] = throughLens(map, c, x + 0.5, y + 0.5),
          [u, v] = warped(file.warp!.planes[c]!, file.warp!.centre, 600, 400, x, y);
        expect(a - 0.5).toBeCloseTo(u, 3);
        expect(b - 0.5).toBeCloseTo(v, 3);
      }
  });
  it('and the picture is drawn from there: a picture of coordinates comes out as the formula’s', () => {
    const plate = platter(600, 400, (x, y, c) => (c === 1 ? y / 400 : x / 600)),
      g = withLens({}),
      out = draw(g, plate, file),
      view = frameView(g, { width: 600, height: 400, fileLens: file }),
      scale = fillScale(g.geometry, 600, 400, lensMapOf(g.lens, file, { width: 600, height: 400 }));
    expect(scale).not.toBe(1);
    for (const [x, y] of [
      [40, 30],
      [250, 120],
      [310, 200],
      [560, 370],
    ] as const)
      for (const c of [0, 1, 2]) {
        // the frame is filled about its middle before the warp
        const sx = (x + 0.5 - 300) / scale + 300 - 0.5,
          sy = (y + 0.5 - 200) / scale + 200 - 0.5,
          [u, v] = warped(file.warp!.planes[c]!, file.warp!.centre, 600, 400, sx, sy);
        expect(light(out, x, y, c) * (c === 1 ? 400 : 600)).toBeCloseTo(c === 1 ? v : u, 0);
        expect(placeOf(view, c, x + 0.5, y + 0.5)[0] - 0.5).toBeCloseTo(u, 2);
      }
  });
  it('FixVignetteRadial multiplies by 1 + k0 r² + … + k4 r¹⁰, in the picture as developed', () => {
    const only: FileLens = { ...file, warp: null },
      plate = platter(90, 60, () => 0.1),
      own = {
        colour: [
          {
            kelvin: 6504,
            matrix: invert3([0.4124, 0.3576, 0.1805, 0.2126, 0.7152, 0.0722, 0.0193, 0.1192, 0.9505]),
            forward: null,
            calibration: identity3,
          },
        ],
        analogBalance: [1, 1, 1] as const,
        asShotNeutral: [1, 1, 1] as const,
        baselineExposureEv: 0,
      };
    const flat = developPlanes(kernels, plan(null, { profile: own, seed: 1 }, 'srgb'), plate, 0),
      p = plan(null, { profile: own, seed: 1, picture: { width: 90, height: 60, fileLens: only } }, 'srgb'),
      out = developPlanes(kernels, p, plate, 1);
    expect(p.passes[0]!.kernel).toBe('lensGain');
    const { terms, centre } = file.vignetting!,
      cx = centre[0] * 89,
      cy = centre[1] * 59,
      m = Math.hypot(Math.max(cx, 89 - cx), Math.max(cy, 59 - cy));
    for (const [x, y] of [
      [0, 0],
      [44, 30],
      [89, 0],
      [10, 55],
      [89, 59],
    ] as const) {
      const r = Math.hypot(x - cx, y - cy) / m,
        g = 1 + terms.reduce((s, k, i) => s + k * r ** (2 * i + 2), 0);
      expect(out[y * 90 + x]! / flat[y * 90 + x]!).toBeCloseTo(g, 4);
    }
    // the same in a piece of the picture at half its size
    const small = developPlanes(
        kernels,
        p,
        platter(20, 10, () => 0.1),
        1,
        { x: 5, y: 15, whole: { width: 45, height: 30 } },
      ),
      r = Math.hypot((10 + 0.5) * 2 - 0.5 - cx, (20 + 0.5) * 2 - 0.5 - cy) / m;
    expect(small[5 * 20 + 5]! / flat[0]!).toBeCloseTo(1 + terms.reduce((s, k, i) => s + k * r ** (2 * i + 2), 0), 4);
  });
  it('a list is written and read again; what is not understood, cut short or absurd is named and left alone', () => {
    expect(readOpcodes(writeOpcodes(file))).toEqual(file);
    expect(readOpcodes(writeOpcodes({ ...file, vignetting: { ...file.vignetting!, beforeWarp: false } })).vignetting!.beforeWarp).toBe(
      false,
    );
    const bytes = writeOpcodes(file),
      other = bytes.slice();
    new DataView(other.buffer).setUint32(4, 9);
    expect(readOpcodes(other)).toMatchObject({ vignetting: null, others: ['GainMap'] });
    for (let n = 0; n < bytes.length; n += 7) expect(() => readOpcodes(bytes.slice(0, n))).not.toThrow();
    expect(readOpcodes(bytes.slice(0, 60)).others).toEqual(['FixVignetteRadial (cut short)']);
    expect(readOpcodes(writeOpcodes({ ...file, warp: { planes: [[NaN, 0, 0, 0, 0, 0]], centre: [0.5, 0.5] } })).others).toEqual([
      'WarpRectilinear (not numbers)',
    ]);
    expect(readOpcodes(Uint8Array.from([255, 255, 255, 255]))).toEqual({ warp: null, vignetting: null, others: ['one cut short'] });
  });
  it('turns with the picture', () => {
    const turned = turnFileLens(file, 1),
      map = lensMapOf(plainLens, file, { width: 600, height: 400 }),
      other = lensMapOf(plainLens, turned, { width: 400, height: 600 });
    // a quarter turn clockwise sends (x, y) to (height − y, x)
    for (const [x, y] of [
      [30, 50],
      [420, 333],
    ] as const) {
      const [u, v] = throughLens(map, 0, x, y),
        [s, t] = throughLens(other, 0, 400 - y, x);
      expect(s).toBeCloseTo(400 - v, 4);
      expect(t).toBeCloseTo(u, 4);
    }
    expect(turnFileLens(file, 4)).toEqual(turnFileLens(turnFileLens(file, 2), 2));
  });
});

describe('by hand', () => {
  it('a bent line is made straight, whatever the sign, and the frame is filled with nothing from outside', () => {
    for (const distortion of [-100, -40, 60, 100]) {
      const view = frameView(withLens({ distortion }, { straighten: 3 }), { width: 900, height: 600 });
      for (let t = 0; t <= 1; t += 0.05)
        for (const [x, y] of [
          [t * view.width, 0],
          [t * view.width, view.height],
          [0, t * view.height],
          [view.width, t * view.height],
        ] as const) {
          const [u, v] = placeOf(view, 1, x, y);
          expect(Math.min(u, v)).toBeGreaterThan(-0.2);
          expect(u).toBeLessThan(900.2);
          expect(v).toBeLessThan(600.2);
        }
    }
    // light along a line that bows outward (barrel): corrected to the right
    const bowed = (k: number): number => {
      const view = frameView(withLens({ distortion: k }), { width: 900, height: 600 }),
        mid = placeOf(view, 1, 450, 60)[1],
        end = placeOf(view, 1, 60, 60)[1];
      return end - mid;
    };
    expect(bowed(60)).toBeGreaterThan(3);
    expect(bowed(-60)).toBeLessThan(-3);
  });
  it('red and blue grow or shrink against green, which stays', () => {
    const place = (lens: Partial<Lens>, c: number): number =>
      throughLens(lensMapOf({ ...plainLens, ...lens }, null, { width: 1001, height: 701 }), c, 1000.5, 350.5)[0] - 500.5;
    expect(place({ redSize: 50 }, 0) / 500).toBeCloseTo(1.0015, 5);
    expect(place({ redSize: 50 }, 1) / 500).toBeCloseTo(1, 9);
    expect(place({ blueSize: -50 }, 2) / 500).toBeCloseTo(0.9985, 5);
  });
  it('corner light is in EV at the corner', () => {
    for (const cornerEv of [-3, 0.5, 2])
      expect(
        gainAt(
          lensGainOf({ ...plainLens, cornerEv, cornerPower: 4 }, null, { width: 60, height: 40 })!,
          { width: 60, height: 40 },
          null,
          0.5,
          0.5,
        ),
      ).toBeCloseTo(2 ** cornerEv, 3);
  });
});

describe('fringes', () => {
  const size = 120,
    edge = (x: number): number => (x < 60 ? 0.6 : 0.03),
    purple = (x: number, c: number): number => (c === 1 ? 0 : x >= 60 && x < 64 ? 0.12 : 0);
  const photo = platter(size, 60, (x, _y, c) => edge(x) + purple(x, c)),
    excess = (p: Plate, x: number): number => Math.min(light(p, x, 30, 0), light(p, x, 30, 2)) - light(p, x, 30, 1);
  it('purple along an edge goes; the edge stays where it is, and as it is in green', () => {
    const out = draw(withLens({ purpleFringe: 100 }), photo);
    expect(excess(photo, 61)).toBeGreaterThan(0.11);
    expect(excess(out, 61)).toBeLessThan(0.012);
    for (let x = 0; x < size; x++) expect(light(out, x, 30, 1)).toBeCloseTo(light(photo, x, 30, 1), 4);
  });
  it('green likewise; each by its own amount', () => {
    const green = platter(size, 60, (x, _y, c) => edge(x) + (c === 1 && x >= 60 && x < 64 ? 0.12 : 0));
    expect(-excess(draw(withLens({ greenFringe: 100 }), green), 61)).toBeLessThan(0.03);
    expect(-excess(draw(withLens({ purpleFringe: 100 }), green), 61)).toBeCloseTo(0.12, 3);
    expect(excess(draw(withLens({ purpleFringe: 50 }), photo), 61)).toBeGreaterThan(0.03);
  });
  it('a purple cloth keeps its colour up to its edge, and flat places are left alone', () => {
    const cloth = platter(size, 60, (x, _y, c) => (x < 60 ? (c === 1 ? 0.08 : 0.25) : 0.6)),
      out = draw(withLens({ purpleFringe: 100, greenFringe: 100 }), cloth);
    for (let x = 0; x < size; x++)
      for (let c = 0; c < 3; c++) expect(Math.abs(light(out, x, 30, c) - light(cloth, x, 30, c))).toBeLessThan(2e-4);
  });
});
