import { monotoneCubic, type CurvePoints } from '@dyepot/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { countedEnds, levelsOf, withLevels } from '../src/steps/curve/levels.ts';

const straight: CurvePoints = [
    [0, 0],
    [1, 1],
  ],
  curves: fc.Arbitrary<CurvePoints> = fc
    .array(fc.tuple(fc.integer({ min: 1, max: 49 }), fc.double({ min: 0.02, max: 0.98, noNaN: true })), { maxLength: 5 })
    .map((inner) => {
      const xs = [...new Map(inner.map(([x, y]) => [x, y])).entries()].sort((a, b) => a[0] - b[0]),
        ys = xs.map(([, y]) => y).sort((a, b) => a - b);
      return [[0, 0], ...xs.map(([x], i): readonly [number, number] => [x / 50, ys[i]!]), [1, 1]];
    });

describe('levels of a curve', () => {
  it('a straight one is black 0, mid 1, white 255, in and out', () =>
    expect(levelsOf(straight)).toEqual({ blackIn: 0, mid: 1, whiteIn: 255, blackOut: 0, whiteOut: 255 }));
  it('ends go where they are set, and what was set is read back', () =>
    fc.assert(
      fc.property(
        curves,
        fc.integer({ min: 0, max: 100 }),
        fc.integer({ min: 140, max: 255 }),
        fc.integer({ min: 0, max: 90 }),
        fc.integer({ min: 150, max: 255 }),
        (curve, blackIn, whiteIn, blackOut, whiteOut) => {
          const back = levelsOf(withLevels(curve, { blackIn, whiteIn, blackOut, whiteOut }));
          expect(back.blackIn).toBeCloseTo(blackIn, 1);
          expect(back.whiteIn).toBeCloseTo(whiteIn, 1);
          expect(back.blackOut).toBeCloseTo(blackOut, 1);
          expect(back.whiteOut).toBeCloseTo(whiteOut, 1);
        },
      ),
    ));
  it('every point of a curve is carried along, in order, and back again', () =>
    fc.assert(
      fc.property(curves, (curve) => {
        const moved = withLevels(curve, { blackIn: 30, whiteOut: 220 }),
          back = withLevels(moved, { blackIn: 0, whiteOut: 255 });
        expect(moved).toHaveLength(curve.length);
        for (let i = 1; i < moved.length; i++) expect(moved[i]![0]).toBeGreaterThan(moved[i - 1]![0]);
        back.forEach(([x, y], i) => {
          expect(x).toBeCloseTo(curve[i]![0], 2);
          expect(y).toBeCloseTo(curve[i]![1], 2);
        });
      }),
    ));
  it('mid 2 is the power 1/2: the middle of the tones comes out at √½', () => {
    const f = monotoneCubic(withLevels(straight, { mid: 2 }));
    expect(f(0.5)).toBeCloseTo(Math.SQRT1_2, 3);
    expect(levelsOf(withLevels(straight, { mid: 2 })).mid).toBeCloseTo(2, 2);
    expect(withLevels(withLevels(straight, { mid: 2 }), { mid: 1 })).toEqual(straight);
  });
  it('a lighter mid lightens, a darker one darkens, the ends staying', () =>
    fc.assert(
      fc.property(curves, (curve) => {
        const { mid } = levelsOf(curve),
          [darker, lighter] = [monotoneCubic(withLevels(curve, { mid: mid * 0.8 })), monotoneCubic(withLevels(curve, { mid: mid * 1.25 }))];
        expect(lighter(0.5)).toBeGreaterThanOrEqual(darker(0.5) - 1e-6);
        expect([lighter(0), lighter(1), darker(0), darker(1)]).toEqual([0, 1, 0, 1]);
      }),
    ));
  it('black and white never cross', () => {
    const own = levelsOf(withLevels(straight, { blackIn: 200, whiteIn: 100 }));
    expect(own.whiteIn - own.blackIn).toBeGreaterThanOrEqual(4.9);
  });
  it('ends are fitted a thousandth in from where the counts begin and end', () => {
    const counts = new Uint32Array(256);
    counts.fill(10, 40, 201);
    counts[3] = 1;
    expect(countedEnds(counts)).toEqual([40, 200]);
    expect(countedEnds(new Uint32Array(256).fill(5))).toEqual([0, 255]);
  });
});
