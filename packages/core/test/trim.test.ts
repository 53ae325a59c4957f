import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  dressed,
  emptyLook,
  isTrimmed,
  newStep,
  noTrim,
  trimOf,
  trimParameters,
  withStepWorn,
  withTrim,
  type OwnSteps,
  type Trim,
} from '../src/index.ts';
import { validateOwnSteps } from '../src/look/schema.ts';

const look = (): ReturnType<typeof emptyLook> => {
  const l = emptyLook('tried');
  l.scene.push({ ...newStep('exposure', 'a'), params: { shiftEv: 1 } });
  l.print.push({ ...newStep('saturation', 'b'), params: { change: 40 } });
  return l;
};
const kept = (own: OwnSteps | null): unknown => own && JSON.parse(JSON.stringify({ format: 'dyepot-local', version: 1, ...own }));
const someTrim = fc.record(
  Object.fromEntries(
    Object.entries(trimParameters).map(([k, p]) => [
      k,
      fc.double({ min: p.min, max: p.max, noNaN: true }).map((v) => Math.round(v / p.step) * p.step),
    ]),
  ),
) as unknown as fc.Arbitrary<Trim>;

describe('a trim', () => {
  it('is ordinary steps of the frame’s own: an exposure of one stop doubles the light', () => {
    const passes = dressed(emptyLook(''), withTrim(null, { exposureEv: 1 }));
    expect(passes[0]).toMatchObject({ kernel: 'matrix', parameters: [2, 0, 0, 0, 2, 0, 0, 0, 2] });
  });
  it('is read back as it was said, survives being kept, and is none when all is put back', () => {
    fc.assert(
      fc.property(someTrim, (trim) => {
        const own = withTrim(null, trim),
          read = own && validateOwnSteps(kept(own));
        if (read && 'message' in read) throw new Error(read.message);
        const back = trimOf(read && 'own' in read ? read.own : null);
        for (const k of Object.keys(noTrim) as (keyof Trim)[]) expect(back[k]).toBeCloseTo(trim[k], 1);
        expect(withTrim(own, noTrim)).toBe(null);
      }),
      { numRuns: 60 },
    );
  });
  it('leaves what was painted alone, and stands before it', () => {
    const local = { scene: [newStep('haze', 'mine')], print: [], skeins: [], masks: [] },
      own = withTrim(local, { exposureEv: 0.5, warmthMired: 10 })!;
    expect(own.scene.map((s) => s.id)).toEqual(['trim-exposure', 'trim-warmth', 'mine']);
    expect(withTrim(own, noTrim)).toEqual(local);
  });
  it('lets a look be worn half as strongly: what a look of half the strength would give', () => {
    const worn = dressed(look(), withTrim(null, { strength: 50 })),
      half = dressed({ ...look(), strength: 0.5 }, null);
    expect(worn).toEqual(half);
  });
  it('lets one step of a look be worn less: what that step at that strength would give', () => {
    const l = look(),
      without = look();
    without.print[0]!.strength = 0.25;
    expect(dressed(l, withStepWorn(null, 'b', 0.25))).toEqual(dressed(without, null));
    expect(isTrimmed(withStepWorn(null, 'b', 0.25))).toBe(true);
    expect(withStepWorn(withStepWorn(null, 'b', 0.25), 'b', 1)).toBe(null);
  });
  it('takes no nonsense', () => {
    expect(trimOf(withTrim(null, { exposureEv: Number.NaN, colour: 1e9, strength: -4 }))).toMatchObject({
      exposureEv: 0,
      colour: 80,
      strength: 0,
    });
    expect(validateOwnSteps({ format: 'dyepot-local', version: 1, scene: [], print: [], worn: { strength: 3 } })).toHaveProperty('message');
    expect(
      validateOwnSteps({ format: 'dyepot-local', version: 1, scene: [], print: [], worn: { strength: 1, steps: { a: 'x' } } }),
    ).toHaveProperty('message');
  });
});
