import { describe, expect, it } from 'vitest';
import { expose } from '@dyepot/camera/src/sensor.ts';
import { seeded } from '@dyepot/camera/src/random.ts';
import { mergeExposures, type Shot } from '../src/match/bracket/merge.ts';
import { usualNoise } from '../src/groundwork/noise.ts';
import { makePlate } from '../src/plate/plate.ts';
import type { RawFacts } from '../src/plate/mosaic.ts';
import { kernels } from './kernels.ts';

const [width, height] = [720, 480],
  random = seeded(5),
  /** soft blots of many sizes, so that every place can be known again */
  blots = Array.from({ length: 420 }, () => ({
    x: random() * width,
    y: random() * height,
    r: 4 + 22 * random() ** 2,
    light: [0.4 + 1.6 * random(), 0.4 + 1.6 * random(), 0.4 + 1.6 * random()] as const,
  }));
/** The blots that may reach a cell of 32 pixels. */
const cells = new Map<string, typeof blots>();
for (const b of blots)
  for (let i = Math.floor((b.x - b.r) / 32); i <= (b.x + b.r) / 32; i++)
    for (let j = Math.floor((b.y - b.r) / 32); j <= (b.y + b.r) / 32; j++) cells.set(`${i} ${j}`, [...(cells.get(`${i} ${j}`) ?? []), b]);
/** Light of nine stops from left to right, at any place. */
function lightAt(x: number, y: number, c: number): number {
  let v = 1;
  for (const b of cells.get(`${Math.floor(x / 32)} ${Math.floor(y / 32)}`) ?? []) {
    const d = Math.hypot(x - b.x, y - b.y) / b.r;
    if (d < 1) v *= 1 + (b.light[c]! - 1) * (1 - d * d) ** 2;
  }
  return v * 0.2 * 2 ** (9 * (x / width) - 6);
}
interface Taken {
  ev: number;
  /** of the camera about the reference: turn in degrees, and shift in pixels */
  turn?: number;
  by?: readonly [number, number];
  disc?: readonly [number, number];
}
const placeIn = ({ turn = 0, by = [0, 0] }: Taken, x: number, y: number): [number, number] => {
  const a = (turn * Math.PI) / 180,
    [dx, dy] = [x - width / 2, y - height / 2];
  return [width / 2 + Math.cos(a) * dx - Math.sin(a) * dy + by[0], height / 2 + Math.sin(a) * dx + Math.cos(a) * dy + by[1]];
};
function take(t: Taken, seed: number): Shot {
  const camera = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [u, v] = placeIn(t, x, y);
      for (let c = 0; c < 3; c++)
        camera[(y * width + x) * 3 + c] = t.disc && Math.hypot(x - t.disc[0], y - t.disc[1]) < 24 ? 0.3 : lightAt(u, v, c);
    }
  const shot = expose(camera, width, height, { ev: t.ev, iso: 100, seed, bits: 14, black: 512, pattern: 'RGGB', believedKelvin: 5000 }),
    facts = { black: [512, 512, 512, 512], white: 16383, quarterTurns: 0, profile: { asShotNeutral: [1, 1, 1] } } as unknown as RawFacts,
    plate = makePlate(kernels, { width, height, data: shot.mosaic, colours: 1, cell: [0, 1, 1, 2] }, facts);
  return { plate, ev: t.ev, noise: usualNoise(100) };
}
const merged = (list: readonly Taken[]): ReturnType<typeof mergeExposures> =>
  mergeExposures(
    kernels,
    list.map((t, i) => take(t, i + 1)),
  );
/** Light of the reference, of a square about a place. */
function read(m: ReturnType<typeof mergeExposures>, x: number, y: number, c: number, half = 3): number[] {
  const out: number[] = [];
  for (let j = y - half; j <= y + half; j++)
    for (let i = x - half; i <= x + half; i++) out.push((m.data[(j * width + i) * 3 + c]! / 65535) * 2 ** m.overShortest);
  return out;
}
const mean = (v: readonly number[]): number => v.reduce((a, b) => a + b, 0) / v.length;

describe('exposures of one view, merged', () => {
  const bracket: Taken[] = [{ ev: -3 }, { ev: 0 }, { ev: 3 }];
  it('hold light that the middle one clips, and darks with the noise that is left by weights of inverse variance (Hasinoff, Durand, Freeman 2010)', () => {
    const m = merged(bracket);
    expect([m.reference, m.moved]).toEqual([1, [0, 0, 0]]);
    expect(Math.abs(m.overShortest - 3)).toBeLessThan(0.02);
    for (const x of [60, 200, 350, 500, 640, 700])
      for (const y of [90, 240, 400]) {
        const there: number[] = [];
        for (let j = y - 3; j <= y + 3; j++) for (let i = x - 3; i <= x + 3; i++) there.push(lightAt(i, j, 1));
        // the lightest are beyond even the shortest one's reach
        if (Math.max(...there) > 6.5) continue;
        expect(Math.abs(mean(read(m, x, y, 1)) / mean(there) - 1)).toBeLessThan(0.03);
      }
    // noise in the dark: of many takes of one flat place, beside what the three variances allow together
    const dark = 0.004,
      flat = (ev: number, seed: number): Shot => {
        const camera = new Float32Array(width * height * 3);
        for (let i = 0; i < width * height; i++) {
          const [x, y] = [i % width, Math.floor(i / width)];
          camera.fill(Math.abs(x - 400) < 130 && Math.abs(y - 240) < 130 ? dark : lightAt(x, y, 1), i * 3, i * 3 + 3);
        }
        const shot = expose(camera, width, height, { ev, iso: 100, seed, bits: 14, black: 512, pattern: 'RGGB', believedKelvin: 5000 });
        // three colours at each place, so that no interpolation averages noise away
        const data = new Uint16Array(width * height * 3);
        for (let i = 0; i < width * height; i++) for (let c = 0; c < 3; c++) data[i * 3 + c] = Math.max(0, shot.mosaic[i]! - 512) * 4;
        const facts = { white: 15871 * 4, quarterTurns: 0 } as unknown as RawFacts;
        return { plate: makePlate(kernels, { width, height, data, colours: 3, cell: [0, 1, 1, 2] }, facts), ev, noise: usualNoise(100) };
      },
      { slope, floor } = usualNoise(100),
      best = 1 / [-3, 0, 3].reduce((sum, ev) => sum + 4 ** ev / (slope * dark * 2 ** ev + floor), 0);
    const still = mergeExposures(kernels, [flat(-3, 21), flat(0, 22), flat(3, 23)]),
      values = read(still, 400, 240, 1, 100),
      middle = mean(values),
      variance = mean(values.map((v) => (v - middle) ** 2)) - (2 ** still.overShortest / 65535) ** 2 / 12;
    expect(Math.abs(middle / dark - 1)).toBeLessThan(0.01);
    expect(variance / best).toBeLessThan(1.15);
  });
  it('from the hand: each is laid on the middle one to a third of a pixel, turned and moved as it is', () => {
    const list: Taken[] = [{ ev: -2, turn: 0.6, by: [7.3, -4.6] }, { ev: 0 }, { ev: 2, turn: -0.4, by: [-3.4, 5.1] }],
      m = merged(list);
    list.forEach((t, k) => {
      // the camera's move takes what the reference has at p to the inverse of the move
      const far = Math.max(
        ...(
          [
            [0, 0],
            [width, 0],
            [0, height],
            [width, height],
          ] as const
        ).map(([x, y]) => Math.hypot(placeIn(t, x, y)[0] - x, placeIn(t, x, y)[1] - y)),
      );
      expect(Math.abs(m.moved[k]! - far)).toBeLessThan(0.34);
    });
    let [off, n] = [0, 0];
    for (let x = 40; x < 640; x += 11)
      for (let y = 40; y < 440; y += 11) {
        off += Math.abs(Math.log2(mean(read(m, x, y, 1, 1)) / lightAt(x, y, 1)));
        n++;
      }
    expect(off / n).toBeLessThan(0.03);
  });
  it('what moves is there once, where the middle one has it', () => {
    const m = merged([
      { ev: -2, disc: [250, 150] },
      { ev: 0, disc: [330, 240] },
      { ev: 2, disc: [420, 330] },
    ]);
    expect(Math.abs(mean(read(m, 330, 240, 1)) / 0.3 - 1)).toBeLessThan(0.03);
    for (const [x, y] of [
      [250, 150],
      [420, 330],
    ] as const)
      for (const c of [0, 1, 2]) expect(Math.abs(mean(read(m, x, y, c)) / lightAt(x, y, c) - 1)).toBeLessThan(0.08);
    expect(m.left[1]).toBeLessThan(0.002);
    expect(m.left[0]).toBeGreaterThan(0.002);
  });
  it('of several views, of several sizes, and one alone are refused', () => {
    const other = seeded(99),
      noise = take({ ev: 0 }, 3);
    const strange = { ...noise, plate: { ...noise.plate, data: Uint16Array.from(noise.plate.data, () => 4000 + 30000 * other()) } };
    expect(() => mergeExposures(kernels, [take({ ev: -2 }, 1), strange])).toThrow('do not show one view');
    const small = { ...noise, plate: { width: 100, height: 80, data: new Uint16Array(24000) } };
    expect(() => mergeExposures(kernels, [take({ ev: -2 }, 1), small])).toThrow('not of one size');
    expect(() => mergeExposures(kernels, [noise])).toThrow('at least two');
  });
});
