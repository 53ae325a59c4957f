import { describe, expect, it } from 'vitest';
import { invert3 } from '../src/colour/matrix.ts';
import { guidedFilter } from '../src/render/guided.ts';
import { emptyLook, type LookStep } from '../src/look/look.ts';
import { plateOffset, plateScale, type Plate } from '../src/plate/plate.ts';
import { hazeMap } from '../src/render/hazeMap.ts';
import { mapsFor } from '../src/render/maps.ts';
import { passesOf, plan } from '../src/plan/plan.ts';
import { developPlanes, render } from '../src/render/render.ts';
import { kernels } from './kernels.ts';
import { step, close } from './stepTrial.ts';

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
    return developPlanes(kernels, p, plate, s ? passesOf(s, 1).length : 0, { x: 0, y: 0, maps: mapsFor(kernels, p, plate, {}) });
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
      maps = mapsFor(kernels, p, foggy, {});
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
