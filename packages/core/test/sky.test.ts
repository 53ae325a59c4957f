import { describe, expect, it } from 'vitest';
import { featuresOf } from '../src/render/found/features.ts';
import { sky } from '../src/render/found/sky.ts';

// Scenes drawn by their own rules, so that what each place is is known.
const width = 240,
  height = 160;
type Thing = 'sky' | 'wall' | 'room' | 'twig' | 'ground';
type Light = readonly [number, number, number];
/** An even random number of a place (a hash by multiplication: Knuth, TAOCP 6.4). */
const random = (i: number): number => ((Math.imul(i + 1, 2654435761) >>> 8) % 65536) / 65536;
/** Clouded blue over middle grey, lighter towards the ground; a glow at the right. */
const air = (x: number, y: number): Light => {
  const v = 0.7 + 0.5 * (y / height),
    glow = Math.exp(-((x - 226) ** 2 + (y - 12) ** 2) / 90);
  return [v * (0.78 + 0.6 * glow), v * (0.9 + 0.3 * glow), v];
};
function scene(thingAt: (x: number, y: number) => Thing): { things: Thing[]; planes: Float32Array } {
  const things: Thing[] = [],
    planes = new Float32Array(3 * width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x,
        thing = thingAt(x, y),
        rough = 0.5 + random(i);
      const of: Record<Thing, Light> = {
        sky: air(x, y),
        // as light as the sky beside it, and cream
        wall: [1.06, 0.92, 0.7],
        // plaster in a room
        room: [0.26, 0.22, 0.17],
        twig: [0.08, 0.07, 0.06],
        ground: [0.06 * rough, 0.09 * rough, 0.04 * rough],
      };
      things.push(thing);
      of[thing].forEach((v, c) => (planes[c * width * height + i] = v));
    }
  return { things, planes };
}
/** What share of the places of each thing is taken for sky. */
function taken({ things, planes }: ReturnType<typeof scene>): { sure: number; share: (of: Thing) => number } {
  const { shares, sure } = sky(featuresOf(planes, width, height));
  return {
    sure,
    share: (of) => {
      const places = [...things.keys()].filter((i) => things[i] === of);
      return places.reduce((sum, i) => sum + shares[i]!, 0) / places.length;
    },
  };
}
const horizon = 90;

describe('a sky', () => {
  it('is found whole, with the glow about the sun, and ends at the ground', () => {
    const { sure, share } = taken(scene((_, y) => (y < horizon ? 'sky' : 'ground')));
    expect(sure).toBeGreaterThan(0.9);
    expect(share('sky')).toBeGreaterThan(0.98);
    expect(share('ground')).toBeLessThan(0.01);
  });
  it('is found as surely three stops under, and in noise of five percent', () => {
    const day = scene((_, y) => (y < horizon ? 'sky' : 'ground')),
      dark = taken({ ...day, planes: day.planes.map((v) => v / 8) }),
      noisy = taken({ ...day, planes: day.planes.map((v, i) => v * (1 + 0.05 * Math.sqrt(12) * (random(i + 7) - 0.5))) });
    expect(dark.sure).toBeCloseTo(taken(day).sure, 2);
    expect(dark.share('sky')).toBeGreaterThan(0.98);
    expect(noisy.sure).toBeGreaterThan(0.5);
    expect(noisy.share('sky')).toBeGreaterThan(0.9);
  });
  it('ends at a wall as light as itself, which no edge of light parts from it', () => {
    const { sure, share } = taken(scene((x, y) => (y >= 130 ? 'ground' : x > 60 && x < 190 && y > 50 ? 'wall' : 'sky')));
    expect(sure).toBeGreaterThan(0.5);
    expect(share('wall')).toBeLessThan(0.05);
    expect(share('sky')).toBeGreaterThan(0.95);
  });
  it('is seen between twigs, which are not sky', () => {
    // a mesh of twigs whose gaps are two and three places wide
    const crown = (x: number, y: number): boolean => x > 70 && x < 130 && y > 30 && y < 75;
    const { share } = taken(scene((x, y) => (y >= horizon ? 'ground' : crown(x, y) && (x % 4 === 0 || y % 5 === 0) ? 'twig' : 'sky')));
    expect(share('twig')).toBeLessThan(0.05);
    expect(share('sky')).toBeGreaterThan(0.97);
  });
  it('is seen in strips between cloths, but is no lit door and no lamp', () => {
    const strip = (x: number, y: number): boolean => y < 70 && ((x > 60 && x < 74) || (x > 150 && x < 172)),
      rest = (y: number): Thing => (y < 110 ? 'room' : 'ground'),
      seen = taken(scene((x, y) => (strip(x, y) ? 'sky' : rest(y))));
    expect(seen.sure).toBeGreaterThan(0.5);
    expect(seen.share('sky')).toBeGreaterThan(0.8);
    expect(seen.share('room')).toBe(0);
    const lit: Record<string, (x: number, y: number) => boolean> = {
      door: (x, y) => x > 60 && x < 90 && y > 40 && y < 110,
      lamp: (x, y) => x > 100 && x < 108 && y < 8,
    };
    for (const [what, at] of Object.entries(lit))
      expect([what, taken(scene((x, y) => (at(x, y) ? 'sky' : rest(y)))).sure < 0.5]).toEqual([what, true]);
  });
  it('ends where land begins in mist, which no edge parts from it', () => {
    const mist = scene((_, y) => (y < 80 ? 'sky' : y < 120 ? 'room' : 'ground')),
      // down the sky light falls by a five-hundredth of a stop a row; down the land ever faster
      fall = (y: number): number => 0.002 * y + 0.0004 * Math.max(0, y - 80) ** 2,
      planes = mist.planes.map((v, i) => {
        const at = i % (width * height),
          y = Math.floor(at / width);
        return mist.things[at] === 'ground' ? v : 2 ** -fall(y) * (1 + 0.004 * (random(i) - 0.5));
      }),
      { sure, share } = taken({ ...mist, planes });
    expect(sure).toBeGreaterThan(0.5);
    expect(share('sky')).toBeGreaterThan(0.97);
    expect(share('room')).toBeLessThan(0.15);
    expect(share('ground')).toBe(0);
  });
  it('is not where there is none: ground alone, a room’s even wall, a wall of stones', () => {
    expect(taken(scene(() => 'ground')).sure).toBeLessThan(0.5);
    expect(taken(scene((_, y) => (y < horizon ? 'room' : 'ground'))).sure).toBeLessThan(0.5);
    // each stone of twelve by eight places as light as it happens to be
    const stones = scene((_, y) => (y < horizon ? 'wall' : 'ground')),
      lit = stones.planes.map((v, i) => {
        const at = i % (width * height),
          stone = Math.floor((at % width) / 12) + 31 * Math.floor(at / width / 8);
        return stones.things[at] === 'wall' ? v * (0.8 + 0.4 * random(stone)) : v;
      });
    expect(taken({ ...stones, planes: lit }).sure).toBeLessThan(0.5);
  });
});
