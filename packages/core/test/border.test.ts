import { describe, expect, it } from 'vitest';
import { distanceFrom } from '../src/render/distance.ts';
import { borderMoved } from '../src/render/found/border.ts';
import { featuresOf } from '../src/render/found/features.ts';

const [width, height] = [160, 120],
  from = (i: number): number => Math.hypot((i % width) - 80, Math.floor(i / width) - 60),
  disc = (radius: number): Uint8Array => Uint8Array.from({ length: width * height }, (_, i) => (from(i) <= radius ? 1 : 0)),
  /** a red thing of 40 pixels on blue ground, both with a grain that is the same each time */
  planes = Float32Array.from({ length: 3 * width * height }, (_, k) => {
    const i = k % (width * height),
      c = Math.floor(k / (width * height)),
      grain = 1 + 0.3 * (((i * 48271 + c * 7919) % 997) / 997 - 0.5);
    return grain * (from(i) <= 40 ? [0.5, 0.2, 0.1] : [0.1, 0.2, 0.5])[c]!;
  }),
  features = featuresOf(planes, width, height),
  /** the mean distance of one's border from the other's, in pixels */
  apart = (a: Uint8Array, b: Uint8Array): number => {
    const edge = (m: Uint8Array): Uint8Array =>
        m.map((v, i) => (v && [i - 1, i + 1, i - width, i + width].some((j) => m[j] === 0) ? 1 : 0)),
      away = distanceFrom(edge(b), width, height),
      rim = edge(a),
      own = [...rim.keys()].filter((i) => rim[i]);
    return own.reduce((sum, i) => sum + away[i]! / 3, 0) / own.length;
  };

describe('a border that was drawn roughly', () => {
  it('drawn 6 pixels too wide, or too narrow, comes to within half a pixel of the thing’s own', () => {
    for (const radius of [46, 34]) {
      const moved = borderMoved(features, disc(radius), 8);
      expect(apart(disc(radius), disc(40))).toBeGreaterThan(5);
      expect(apart(moved, disc(40))).toBeLessThan(0.5);
    }
  });
  it('does not move further than it may, and stays where a side has too little to be told by', () => {
    const moved = borderMoved(features, disc(54), 5);
    moved.forEach((v, i) => {
      if (from(i) <= 48) expect(v).toBe(1);
      if (from(i) > 60) expect(v).toBe(0);
    });
    const nothing = new Uint8Array(width * height),
      all = nothing.map(() => 1);
    expect(borderMoved(features, nothing, 8)).toEqual(nothing);
    expect(borderMoved(features, all, 8)).toEqual(all);
  });
  it('distances of a chamfer 3-4 are within 6 % of the true ones (Borgefors 1986)', () => {
    const one = new Uint8Array(width * height);
    one[60 * width + 80] = 1;
    const away = distanceFrom(one, width, height);
    for (let i = 0; i < away.length; i += 7) {
      const plain = from(i);
      expect(away[i]! / 3).toBeGreaterThanOrEqual(0.94 * plain);
      expect(away[i]! / 3).toBeLessThanOrEqual(1.06 * plain);
    }
  });
});
