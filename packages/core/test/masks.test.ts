import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Look } from '../src/look/look.ts';
import { compileMask } from '../src/mask/compile.ts';
import { common, maskOf, type Mask, type MaskPart, type RadialPart, type Stroke } from '../src/mask/mask.ts';
import { outlinePolygon } from '../src/mask/outline.ts';
import { simplified } from '../src/mask/strokes.ts';
import { toneShare, wholeRange } from '../src/mask/tone.ts';
import { plan } from '../src/plan/plan.ts';
import { maskFields, maskOver } from '../src/render/maskFields.ts';
import { developPlanes } from '../src/render/render.ts';
import { platter, profile } from './groundTrial.ts';
import { kernels } from './kernels.ts';
import { bare, gradient, height, pool, scene, width } from './maskTrial.ts';

const plain = plan(bare, { profile, seed: 1 }, 'srgb'),
  light = developPlanes(kernels, plain, scene, 0);
/** A mask's shares over the whole picture. */
function drawn(mask: Mask, named: Look['masks'] = []): Float32Array {
  const picture = { kernels, plate: scene, light, scene: () => light, about: { edge: width } },
    compiled = compileMask(mask, named);
  return maskOver(picture, compiled, maskFields(picture, compiled));
}
const hermite = (t: number): number => {
  const v = Math.min(1, Math.max(0, t));
  return v * v * (3 - 2 * v);
};
const at = (shares: Float32Array, x: number, y: number): number => shares[y * width + x]!;
const everyPlace = (check: (x: number, y: number) => void): void => {
  for (let y = 0; y < height; y += 3) for (let x = 0; x < width; x += 5) check(x, y);
};

describe('shapes follow their stated formulas', () => {
  it('a gradient is h(tᵉ), t along its line in pixels, a half at its middle', () => {
    const shares = drawn(maskOf(gradient)),
      e = Math.log(0.5) / Math.log(0.4),
      [ax, ay, bx, by] = [0.1 * width, 0.2 * height, 0.7 * width, 0.9 * height],
      [dx, dy] = [bx - ax, by - ay];
    everyPlace((x, y) => {
      const t = Math.min(1, Math.max(0, ((x + 0.5 - ax) * dx + (y + 0.5 - ay) * dy) / (dx * dx + dy * dy)));
      expect(Math.abs(at(shares, x, y) - hermite(t ** e))).toBeLessThan(2e-6);
    });
    expect(hermite(0.4 ** e)).toBeCloseTo(0.5, 12);
  });
  it('an ellipse is 1 − h((d − inner)/feather), d in half axes, turned', () => {
    const shares = drawn(maskOf(pool)),
      [c, s] = [Math.cos((25 * Math.PI) / 180), Math.sin((25 * Math.PI) / 180)];
    everyPlace((x, y) => {
      const px = (x + 0.5 - 0.4 * width) / width,
        py = (y + 0.5 - 0.5 * height) / width,
        d = Math.hypot((c * px + s * py) / 0.3, (c * py - s * px) / 0.16);
      expect(Math.abs(at(shares, x, y) - (1 - hermite((d - 0.4) / 0.6)))).toBeLessThan(2e-6);
    });
  });
  const stroke = (points: number[], change: Partial<Stroke> = {}): Stroke => ({
    erase: false,
    size: 0.08,
    feather: 0.5,
    flow: 0.8,
    points,
    ...change,
  });
  it('a stroke falls off from its line; later ones add flow of what is left, and erasing takes it', () => {
    const points = [1000, 2000, 100, 6000, 4000, 100],
      one = drawn(maskOf({ ...common, kind: 'brush', strokes: [stroke(points)] })),
      two = drawn(maskOf({ ...common, kind: 'brush', strokes: [stroke(points), stroke(points)] })),
      gone = drawn(maskOf({ ...common, kind: 'brush', strokes: [stroke(points), stroke(points, { erase: true })] }));
    everyPlace((x, y) => {
      const [px, py] = [(x + 0.5) / width, (y + 0.5) / width],
        t = Math.min(1, Math.max(0, ((px - 0.1) * 0.5 + (py - 0.2) * 0.2) / 0.29)),
        d = Math.hypot(px - 0.1 - 0.5 * t, py - 0.2 - 0.2 * t) / 0.08,
        share = 0.8 * (1 - hermite((d - 0.5) / 0.5));
      expect(Math.abs(at(one, x, y) - share)).toBeLessThan(1e-5);
      expect(at(two, x, y)).toBeCloseTo(share + (1 - share) * share, 4);
      expect(at(gone, x, y)).toBeCloseTo(share * (1 - share), 4);
    });
  });
  it('a stroke that fades over many pixels is reckoned at every fourth: off its formula by less than 0.003, the same in any piece', () => {
    const size = { width: 640, height: 150 },
      mask = maskOf({
        ...common,
        kind: 'brush',
        strokes: [stroke([2000, 400, 100, 5000, 1900, 60], { size: 0.15, feather: 1, flow: 0.7 })],
      }),
      compiled = compileMask(mask, []),
      piece = (x: number, y: number, wide: number, high: number): Float32Array => {
        const flat = platter(wide, high, () => 0.2),
          planes = developPlanes(kernels, plain, flat, 0),
          about = { x, y, edge: size.width, whole: size };
        return maskOver({ kernels, plate: flat, light: planes, scene: () => planes, about }, compiled, []);
      },
      whole = piece(0, 0, size.width, size.height),
      cut = piece(37, 21, 301, 90),
      away = (x: number, y: number): number => {
        const [px, py] = [(x + 0.5) / 640 - 0.2, (y + 0.5) / 640 - 0.04],
          t = Math.min(1, Math.max(0, (px * 0.3 + py * 0.15) / (0.09 + 0.0225)));
        return Math.hypot(px - 0.3 * t, py - 0.15 * t) / (0.15 * (1 - 0.3 * t));
      };
    for (let y = 0; y < size.height; y += 7)
      for (let x = 0; x < size.width; x += 3) expect(Math.abs(whole[y * 640 + x]! - 0.7 * (1 - hermite(away(x, y))))).toBeLessThan(0.003);
    for (let y = 0; y < 90; y++)
      for (let x = 0; x < 301; x++) expect(Math.abs(cut[y * 301 + x]! - whole[(y + 21) * 640 + x + 37]!)).toBeLessThan(1e-5);
  });
  it('light pressure narrows a stroke', () => {
    const sum = (pressure: number): number =>
      drawn(maskOf({ ...common, kind: 'brush', strokes: [stroke([3000, 3000, pressure])] })).reduce((a, b) => a + b, 0);
    expect(sum(100)).toBeGreaterThan(3 * sum(30));
    expect(sum(0)).toBeGreaterThan(0);
  });
  it('an outline is a half on its line, whole well inside and nothing well outside, as soft as each point says', () => {
    const points = [
        [0.2, 0.1, 0.01],
        [0.7, 0.1, 0.01],
        [0.7, 0.5, 0.08],
        [0.2, 0.5, 0.08],
      ] as const,
      shares = drawn(maskOf({ ...common, kind: 'outline', points }));
    expect(at(shares, 43, 29)).toBe(1);
    expect(at(shares, 2, 2)).toBe(0);
    for (const [x, y] of outlinePolygon(points)) {
      const [px, py] = [Math.floor(x * width), Math.floor(y * width)];
      // within the pixel the line goes through
      const about = [-1, 0, 1].flatMap((i) => [-1, 0, 1].map((j) => at(shares, px + i, py + j)));
      expect(Math.min(...about)).toBeLessThanOrEqual(0.5);
      expect(Math.max(...about)).toBeGreaterThanOrEqual(0.5);
    }
    const soft = [54, 55, 56, 57, 58].map((y) => at(shares, 43, y - 8)),
      hard = [4, 5, 6, 7, 8, 9, 10, 11].map((y) => at(shares, 43, y));
    expect(soft.every((v) => v > 0.02 && v < 0.98)).toBe(true);
    expect(hard.filter((v) => v > 0.02 && v < 0.98).length).toBeLessThan(4);
  });
  it('a range of tones is the share of the light’s own tone, and a colour is near those picked', () => {
    const range = { ...wholeRange, fromEv: -2, toEv: 0 },
      shares = drawn(maskOf({ ...common, ...range })),
      n = width * height;
    everyPlace((x, y) => {
      const i = y * width + x,
        ev = Math.log2((0.2627 * light[i]! + 0.678 * light[n + i]! + 0.0593 * light[2 * n + i]!) / 0.18);
      expect(at(shares, x, y)).toBeCloseTo(toneShare(range, ev), 3);
    });
    const none = drawn(maskOf({ ...common, kind: 'colour', picks: [[0.5, 0.4, 0.4]], reach: 0.02, softness: 0.5 }));
    expect(Math.max(...none)).toBe(0);
  });
});

describe('parts together', () => {
  const parts: MaskPart[] = [gradient, pool, { ...common, ...wholeRange, fromEv: -2, toEv: 0 }];
  const shapes = fc.constantFrom(...parts);
  it('obey De Morgan: not (a or b) is not a and not b', () => {
    fc.assert(
      fc.property(shapes, shapes, (a, b) => {
        const or = drawn({ ...maskOf(a, b), inverted: true }),
          and = drawn(maskOf({ ...a, inverted: true }, { ...b, mode: 'intersect', inverted: true }));
        for (let i = 0; i < or.length; i += 7) expect(Math.abs(or[i]! - and[i]!)).toBeLessThan(1e-6);
      }),
      { numRuns: 9 },
    );
  });
  it('taking away is keeping within what is left', () => {
    const less = drawn(maskOf(gradient, { ...pool, mode: 'subtract' })),
      within = drawn(maskOf(gradient, { ...pool, mode: 'intersect', inverted: true }));
    less.forEach((v, i) => expect(Math.abs(v - within[i]!)).toBeLessThan(1e-6));
  });
  it('a list that begins by taking away has everything to begin with; one without parts is nowhere', () => {
    const outside = drawn(maskOf({ ...pool, mode: 'subtract' })),
      inside = drawn(maskOf(pool));
    outside.forEach((v, i) => expect(v).toBeCloseTo(1 - inside[i]!, 6));
    expect(Math.max(...drawn(maskOf()))).toBe(0);
  });
  it('a named one acts as its parts do', () => {
    const by = drawn(maskOf({ ...common, kind: 'named', mask: 'm' }, { ...pool, mode: 'subtract' }), [
        { id: 'm', name: 'M', mask: { ...maskOf(gradient), inverted: true } },
      ]),
      own = drawn(maskOf({ ...gradient, inverted: true }, { ...pool, mode: 'subtract' }));
    by.forEach((v, i) => expect(v).toBeCloseTo(own[i]!, 6));
  });
  it('feather spreads and never rises away from the middle; growing and shrinking move the edge by as much', () => {
    const hard = { ...pool, turn: 0, radii: [0.25, 0.25] as const, centre: [0.5, 0.5] as const, feather: 0.01 },
      row = (m: Mask): number[] => Array.from({ length: width / 2 }, (_, i) => at(drawn(m), width / 2 + i, height / 2)),
      soft = row({ ...maskOf(hard), feather: 0.04 });
    soft.slice(1).forEach((v, i) => expect(v).toBeLessThanOrEqual(soft[i]! + 1e-6));
    expect(soft.filter((v) => v > 0.02 && v < 0.98).length).toBeGreaterThan(6);
    const edge = (list: number[]): number => list.reduce((a, b) => a + b, 0);
    expect(edge(row({ ...maskOf(hard), grow: 0.03 })) - edge(row(maskOf(hard)))).toBeCloseTo(0.03 * width, 0);
    expect(edge(row(maskOf(hard))) - edge(row({ ...maskOf(hard), grow: -0.03 }))).toBeCloseTo(0.03 * width, 0);
  });
  it('snapping leaves long slopes as they are, and keeps what is weak where it is; a little of it changes little', () => {
    const size = { width: 320, height: 200 },
      // even light: nothing to snap to
      flat = platter(size.width, size.height, () => 0.2),
      even = developPlanes(kernels, plain, flat, 0),
      over = (mask: Mask): Float32Array => {
        const shown = { kernels, plate: flat, light: even, scene: () => even, about: { edge: size.width } },
          compiled = compileMask(mask, []),
          { slope, offset } = maskFields(shown, compiled)[0]!,
          log = Math.log2(0.2);
        return offset.map((v, i) => v + slope[i]! * log);
      },
      apart = (a: Mask, snap: number): number => {
        // the least growth asks for the whole to be drawn as snapping does
        const [own, snapped] = [over({ ...a, grow: 1e-6 }), over({ ...a, snap })];
        return own.reduce((most, v, i) => Math.max(most, Math.abs(v - snapped[i]!)), 0);
      };
    for (const snap of [0.2, 0.5, 1]) expect([snap, apart(maskOf(gradient), snap) < 0.03]).toEqual([snap, true]);
    const disc = (x: number, opacity: number): RadialPart => ({
        ...pool,
        turn: 0,
        centre: [x, 0.5],
        radii: [0.12, 0.12],
        feather: 0.05,
        opacity,
      }),
      two = maskOf(disc(0.25, 1), disc(0.75, 0.4)),
      weak = (m: Float32Array): number => m.reduce((sum, v, i) => sum + (i % 320 > 160 ? v : 0), 0);
    expect(weak(over({ ...two, snap: 0.5 })) / weak(over({ ...two, grow: 1e-6 }))).toBeCloseTo(1, 1);
    expect(apart(two, 0.01)).toBeLessThan(0.1);
  });
});

describe('strokes', () => {
  it('are thinned to the same line within the tolerance', () => {
    const points = Array.from({ length: 200 }, (_, i) => [i * 20, Math.round(500 * Math.sin(i / 20)), 100]).flat(),
      few = simplified(points, 4);
    expect(few.length).toBeLessThan(points.length / 4);
    expect(few.slice(0, 3)).toEqual(points.slice(0, 3));
    expect(few.slice(-3)).toEqual(points.slice(-3));
  });
});
