import { describe, expect, it } from 'vitest';
import { surroundOf } from '../src/groundwork/surround.ts';
import { plan } from '../src/plan/plan.ts';
import { developPlanes } from '../src/render/render.ts';
import { kernels } from './kernels.ts';
import { platter, profile } from './groundTrial.ts';

const frame = { profile, seed: 1 };
/** A flame: an orange light that grows towards its middle; camera light clips at one. */
const colour = [1, 0.5, 0.18] as const,
  middle = 48,
  light = (x: number, y: number): number => 3.2 * Math.exp(-((x - middle) ** 2 + (y - middle) ** 2) / 500) + 0.02,
  truth = (x: number, y: number, c: number): number => light(x, y) * colour[c]!,
  seen = platter(96, 96, (x, y, c) => Math.min(1, truth(x, y, c))),
  p = plan(null, frame, 'srgb'),
  n = 96 * 96;
const planes = (surround: ReturnType<typeof surroundOf>): Float32Array =>
  developPlanes(kernels, p, seen, 0, { x: 0, y: 0, whole: { width: 96, height: 96 }, surround });
/** Share of red and of blue, over green, at a place. */
const ratios = (o: Float32Array, x: number, y = middle): [number, number] => {
  const i = y * 96 + x;
  return [o[i]! / o[n + i]!, o[2 * n + i]! / o[n + i]!];
};

describe('clipped light is rebuilt from the colour around it', () => {
  const around = surroundOf(seen)!,
    rebuilt = planes(around),
    blind = planes(null),
    // far out nothing has clipped
    [redThere, blueThere] = ratios(rebuilt, 90);
  it('where red alone has gone the flame keeps its hue', () => {
    for (const x of [middle + 24, middle + 20, middle - 22]) {
      expect(truth(x, middle, 0)).toBeGreaterThan(1);
      expect(truth(x, middle, 1)).toBeLessThan(1);
      const [red, blue] = ratios(rebuilt, x);
      expect(red / redThere).toBeGreaterThan(0.93);
      expect(red / redThere).toBeLessThan(1.07);
      expect(blue / blueThere).toBeGreaterThan(0.9);
      expect(blue / blueThere).toBeLessThan(1.1);
    }
  });
  it('nearer to the truth than a rule that knows no surround, over all that one or two channels of have gone', () => {
    const off = (o: Float32Array): number => {
      let sum = 0;
      for (let y = 0; y < 96; y++)
        for (let x = 0; x < 96; x++) {
          if (truth(x, y, 0) < 1.02 || truth(x, y, 2) > 0.95) continue;
          const [red, blue] = ratios(o, x, y);
          sum += Math.abs(Math.log2(red / redThere)) + Math.abs(Math.log2(blue / blueThere));
        }
      return sum;
    };
    expect(off(rebuilt)).toBeLessThan(off(blind) * 0.35);
  });
  it('brightness never falls towards the middle: no grey ring', () => {
    for (let x = 6; x < middle - 1; x++) {
      const at = middle * 96 + x,
        most = (i: number): number => Math.max(rebuilt[i]!, rebuilt[n + i]!, rebuilt[2 * n + i]!);
      expect(most(at + 1)).toBeGreaterThan(most(at) * 0.985);
    }
  });
  it('a neutral light in coloured surroundings stays neutral where two channels still say so', () => {
    // grey to white, with an orange cloth beside it that clips nowhere
    const sky = platter(96, 96, (x, y, c) => (y < 48 ? Math.min(1, (0.4 + x / 80) * [0.6, 1, 0.7][c]!) : 0.6 * colour[c]!)),
      own = { ...frame, profile: { ...frame.profile, asShotNeutral: [0.6, 1, 0.7] as const } },
      o = developPlanes(kernels, plan(null, own, 'srgb'), sky, 0, {
        x: 0,
        y: 0,
        whole: { width: 96, height: 96 },
        surround: surroundOf(sky),
      });
    const plain = ratios(o, 20, 20);
    for (const x of [52, 60, 66]) {
      const [red, blue] = ratios(o, x, 20);
      expect(red / plain[0]).toBeCloseTo(1, 1);
      expect(blue / plain[1]).toBeCloseTo(1, 1);
    }
  });
  it('is none where nothing has clipped', () => {
    expect(surroundOf(platter(32, 32, () => 0.5))).toBe(null);
    expect(surroundOf(platter(32, 32, () => 1))).toBe(null);
  });
});
