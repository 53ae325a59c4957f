import { describe, expect, it } from 'vitest';
import { plainGroundwork } from '../src/groundwork/groundwork.ts';
import { segmentsIn } from '../src/groundwork/start/segments.ts';
import { setUpright } from '../src/groundwork/start/upright.ts';
import { startParts, withStart, type Start } from '../src/groundwork/start/start.ts';
import { validateGroundwork } from '../src/groundwork/schema.ts';
import { profile } from './groundTrial.ts';
import { seeded } from '@dyepot/camera/src/random.ts';

const [width, height] = [600, 400];
/** A picture of what is dark where `dark` says so, each pixel the mean of nine places in it, with a little noise. */
function picture(dark: (x: number, y: number) => boolean, noise = 1): Float32Array {
  const random = seeded(5),
    out = new Float32Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let v = 0;
      for (let k = 0; k < 9; k++) v += dark(x + (k % 3) / 3 + 1 / 6, y + Math.floor(k / 3) / 3 + 1 / 6) ? 60 : 190;
      out[y * width + x] = v / 9 + noise * (random() - 0.5) * 4;
    }
  return out;
}
const turnedBy = (degrees: number, x: number, y: number): [number, number] => {
  const a = (degrees * Math.PI) / 180,
    [u, v] = [x - width / 2, y - height / 2];
  return [Math.cos(a) * u + Math.sin(a) * v, -Math.sin(a) * u + Math.cos(a) * v];
};

describe('lines', () => {
  it('an edge is found where it lies, within half a pixel and a tenth of a degree', () => {
    const found = segmentsIn(
      picture((x, y) => turnedBy(7, x, y)[0] > 0 && Math.abs(turnedBy(7, x, y)[1]) < 120),
      width,
      height,
    ).sort((a, b) => Math.hypot(b.to[0] - b.from[0], b.to[1] - b.from[1]) - Math.hypot(a.to[0] - a.from[0], a.to[1] - a.from[1]));
    const long = found.find((s) => Math.abs(s.to[1] - s.from[1]) > 150)!,
      way = (Math.atan2(long.to[1] - long.from[1], long.to[0] - long.from[0]) * 180) / Math.PI;
    expect(Math.abs(((way - 97 + 450) % 180) - 90)).toBeLessThan(0.1);
    for (const [x, y] of [long.from, long.to]) expect(Math.abs(turnedBy(7, x, y)[0])).toBeLessThan(0.5);
  });
  it('noise shows none: fewer than one false line is to be expected (Grompone von Gioi and others 2012)', () => {
    expect(
      segmentsIn(
        picture(() => false, 30),
        width,
        height,
      ).length,
    ).toBeLessThanOrEqual(1);
  });
});

describe('upright', () => {
  const none = plainGroundwork.geometry,
    windows = (x: number, y: number): boolean => Math.abs(((x + 1000) % 75) - 37) < 18 && Math.abs(y) < 150;
  it('a house front turned by 3° is turned back', () => {
    const found = setUpright(
      segmentsIn(
        picture((x, y) => windows(...turnedBy(3, x, y))),
        width,
        height,
      ),
      none,
      width,
      height,
    )!;
    expect(found.by).toBe('verticals');
    expect(Math.abs(found.righting.straighten - -3)).toBeLessThan(0.2);
    expect(Math.abs(found.righting.vertical)).toBeLessThan(3);
  });
  it('a horizon that hangs by 2° is made level; one that lies level is left', () => {
    const horizon = (degrees: number): ReturnType<typeof setUpright> =>
      setUpright(
        segmentsIn(
          picture((x, y) => turnedBy(degrees, x, y)[1] > 20),
          width,
          height,
        ),
        none,
        width,
        height,
      );
    expect(horizon(2)).toMatchObject({ by: 'horizon' });
    expect(Math.abs(horizon(2)!.righting.straighten - -2)).toBeLessThan(0.1);
    expect(Math.abs(horizon(-4)!.righting.straighten - 4)).toBeLessThan(0.1);
    expect(horizon(0)).toBe(null);
  });
  it('lines that go every way say nothing', () => {
    const random = seeded(9),
      some = Array.from({ length: 60 }, () => {
        const [x, y, a] = [random() * width, random() * height, random() * Math.PI];
        return { from: [x, y] as const, to: [x + 60 * Math.cos(a), y + 60 * Math.sin(a)] as const, sure: 5 };
      });
    expect(setUpright(some, none, width, height)).toBe(null);
  });
});

describe('a start', () => {
  const start: Start = {
    balance: { kelvin: 5000, tintDuv: 0.004 },
    exposureEv: 1,
    zones: [0.2, 0.4, 0, -0.2, -0.4],
    ends: { black: 0.01, whiteEv: 3 },
    upright: { righting: { straighten: -2, vertical: 20, horizontal: 0 }, by: 'verticals', lines: 9, length: 2 },
  };
  it('at 100 % is what is proposed, at 0 % what was there, and warmth goes half way in mired', () => {
    const all = withStart(null, start, ['balance', 'exposure', 'zones', 'ends', 'upright'], 1, profile);
    expect(all).toMatchObject({ exposureEv: 1, ends: start.ends, balance: { kind: 'own', kelvin: 5000 } });
    expect(all.geometry).toMatchObject({ straighten: -2, vertical: 20 });
    expect(withStart(null, start, ['exposure', 'zones', 'ends', 'upright'], 0, profile)).toEqual(plainGroundwork);
    const from = { ...plainGroundwork, balance: { kind: 'own' as const, kelvin: 10000, tintDuv: 0 } };
    expect(withStart(from, start, ['balance'], 0.5, profile).balance.kelvin).toBe(6667);
  });
  it('gives groundwork that can be kept, at both ends of its amount and from the ends of every range', () => {
    const ends = {
      ...plainGroundwork,
      exposureEv: 5,
      zones: { ...plainGroundwork.zones, ev: [4, 4, -4, -4, 4] },
      balance: { kind: 'own' as const, kelvin: 2000, tintDuv: -0.05 },
    };
    for (const share of [0, 1.5])
      for (const from of [null, ends]) {
        const far: Start = { ...start, balance: { kelvin: 24000, tintDuv: 0.05 }, exposureEv: -2.5 },
          g = withStart(from, far, startParts, share, profile),
          read = validateGroundwork(JSON.parse(JSON.stringify(g)));
        expect('message' in read ? read.message : '').toBe('');
      }
    expect(withStart(ends, start, ['zones'], 0, profile).zones.ev).toEqual(ends.zones.ev);
  });
  it('leaves the parts that are not wanted, and goes no further than upright', () => {
    const g = withStart(null, start, ['upright'], 1.5, profile);
    expect(g.geometry.straighten).toBe(-2);
    expect(g.exposureEv).toBe(0);
    expect(withStart(null, start, ['exposure'], 1.5, profile).exposureEv).toBe(1.5);
  });
});
