import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { chromaticityOf } from '../src/colour/temperature.ts';
import { xyToNeutral } from '../src/colour/cameraProfile.ts';
import { plainGroundwork } from '../src/groundwork/groundwork.ts';
import { loadKernels } from '../src/kernels/kernels.ts';
import { apart, brought, type Shift, type Subject, usualWish } from '../src/match/card.ts';
import { homographyOf, leastSquares, project } from '../src/match/homography.ts';
import { groupsOfLight, type LightFacts } from '../src/match/lights.ts';
import { featuresOf, pairsOf } from '../src/match/features.ts';
import { pairsToCompare, typical } from '../src/match/set.ts';
import { settle } from '../src/match/settle.ts';
import { exposures } from '../src/match/statistics.ts';
import type { Evidence } from '../src/match/pair.ts';
import { profile as demoProfile } from './groundTrial.ts';

const kernels = await loadKernels(readFileSync(new URL('../src/render/kernels.wasm', import.meta.url)));
const under = (kelvin: number, exposureEv = 0): Subject => ({
  profile: demoProfile,
  groundwork: { ...plainGroundwork, balance: { kind: 'own', kelvin, tintDuv: 0 }, exposureEv },
});
const evidence = (ev: number, weight: number): Evidence => ({
  score: Float64Array.from(
    { length: exposures.count },
    (_, i) => weight * Math.exp(-((i * exposures.step - exposures.reach - ev) ** 2) / 0.03),
  ),
  ratios: [0.01, -0.01],
  deviation: 0.02,
  agreeing: weight,
});

describe('frames beside their anchor', () => {
  it('a frame of one light that was exposed and balanced otherwise is told so, and what is proposed undoes it; half of it half', () => {
    const anchor = under(5200),
      frame = under(6000, 0.3),
      // the frame's raw is half a stop darker than the anchor's
      shift: Shift = { ev: 0.5, ratios: [0, 0] };
    const now = apart(kernels, frame, anchor, shift, null);
    expect(apart(kernels, under(5200, 0.3), anchor, shift, null).ev).toBeCloseTo(0.3 - 0.5, 6);
    // developed for bluer light than there is, it looks warmer: by as many mired as the two lights are apart
    expect(now.mired).toBeGreaterThan(15);
    expect(Math.abs(now.mired - (1e6 / 5200 - 1e6 / 6000))).toBeLessThan(8);
    const all = apart(kernels, { ...frame, groundwork: brought(frame, anchor, shift) }, anchor, shift, null),
      half = apart(kernels, { ...frame, groundwork: brought(frame, anchor, shift, usualWish, 0.5) }, anchor, shift, null);
    expect(all.difference).toBeLessThan(0.15);
    expect(Math.abs(all.ev)).toBeLessThan(0.002);
    expect(half.ev).toBeCloseTo(now.ev / 2, 2);
    expect(half.mired / now.mired).toBeGreaterThan(0.4);
    expect(half.mired / now.mired).toBeLessThan(0.6);
    // the balance found is the light's own
    expect(brought(frame, anchor, shift).balance.kelvin).toBeCloseTo(5200, -2);
    expect(xyToNeutral(demoProfile, chromaticityOf(5200, 0)).every((v) => v > 0)).toBe(true);
  });
  it('frames of a set are brought to one of them so that all pairs agree, and a pair that errs is outvoted', () => {
    const true_ = [0, 0.5, -0.7, 1.2],
      ties = pairsToCompare(4, 0).map(({ from, to }) => ({ from, to, evidence: evidence(true_[to]! - true_[from]!, 20) }));
    ties[0] = { ...ties[0]!, evidence: evidence(2.5, 12) };
    const settled = settle(4, 0, ties);
    settled.forEach((s, i) => expect(s.ev).toBeCloseTo(-true_[i]!, 1));
    expect(settled.every((s) => s.sure)).toBe(true);
    // too little in common: no exposure is given
    expect(settle(2, 0, [{ from: 1, to: 0, evidence: evidence(1, 3) }])[1]).toMatchObject({ ev: 0, sure: false });
    expect(typical(4, settled)).toBeLessThan(2);
    expect(pairsToCompare(1000, 0).length).toBeLessThan(3000);
  });
});

describe('groups of light', () => {
  const at = (minutes: number, mired: number, brightness: number, red = -0.6, blue = -0.8): LightFacts => ({
    takenAt: minutes * 60_000,
    mired,
    brightness,
    ratios: [red, blue],
  });
  it('are found by themselves, however many there are; one light alone is one group; no frames are none', () => {
    const day = [0, 8, 15, 22].map((m) => at(m, 155 + m / 4, 9.7)),
      lamps = [110, 115, 121].map((m) => at(m, 330, 7.2, 0.2, -2)),
      dusk = [540, 547, 555].map((m) => at(m, 160, 8.4, -0.7, -0.9));
    expect(groupsOfLight([...day, ...lamps, ...dusk])).toEqual([0, 0, 0, 0, 1, 1, 1, 2, 2, 2]);
    expect(groupsOfLight(day)).toEqual([0, 0, 0, 0]);
    expect(groupsOfLight([])).toEqual([]);
    expect(groupsOfLight([at(0, 200, 8)])).toEqual([0]);
  });
});

describe('places known again', () => {
  it('are found in a picture turned, made smaller and exposed otherwise (Lowe 2004)', () => {
    const n = 220,
      // blobs of several sizes
      blobs = Array.from({ length: 60 }, (_, i) => ({
        x: (i * 67) % 200,
        y: (i * 131) % 200,
        s: 3 + (i % 5) * 1.5,
        v: i % 2 ? 1 : -1,
      })),
      draw = (place: (x: number, y: number) => [number, number], scale: number, ev: number): Float32Array =>
        Float32Array.from({ length: n * n }, (_, i) => {
          const [x, y] = place(i % n, Math.floor(i / n));
          return ev + blobs.reduce((sum, b) => sum + b.v * Math.exp(-((x - b.x) ** 2 + (y - b.y) ** 2) / (2 * b.s * b.s)), 0) * scale;
        });
    const turn = 0.4,
      factor = 1.25,
      back = (x: number, y: number): [number, number] => {
        const [u, v] = [(x - 110) * factor, (y - 110) * factor];
        return [110 + u * Math.cos(turn) + v * Math.sin(turn), 110 - u * Math.sin(turn) + v * Math.cos(turn)];
      };
    const pairs = pairsOf(
        featuresOf(
          draw((x, y) => [x, y], 1, 0),
          n,
          n,
        ),
        featuresOf(draw(back, 1, -1.5), n, n),
      ),
      right = pairs.filter(({ a, b }) => {
        const [x, y] = back(b.x, b.y);
        return Math.hypot(x - a.x, y - a.y) < 3;
      });
    expect(pairs.length).toBeGreaterThan(12);
    expect(right.length / pairs.length).toBeGreaterThan(0.7);
  });
});

describe('the plane of a chart', () => {
  it('a projective map is found from points and takes them where they were', () => {
    const map = [1.2, 0.1, 3, -0.05, 0.9, 7, 0.0004, -0.0002, 1] as const,
      points = [
        [0, 0],
        [100, 0],
        [100, 80],
        [0, 80],
        [40, 30],
      ] as const,
      found = homographyOf(
        points,
        points.map((p) => project(map, p)),
      )!;
    found.forEach((v, i) => expect(v).toBeCloseTo(map[i]!, 6));
    expect(homographyOf([[0, 0]], [[1, 1]])).toBeNull();
    expect(
      leastSquares(
        [
          [1, 0],
          [0, 2],
          [1, 1],
        ],
        [1, 4, 3],
      ),
    ).toEqual([1, 2]);
  });
});
