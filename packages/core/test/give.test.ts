import { describe, expect, it } from 'vitest';
import { common, maskOf } from '../src/mask/mask.ts';
import { giveSteps } from '../src/look/give.ts';
import { emptyLook, newStep, type Look } from '../src/look/look.ts';
import { readLook, writeLook } from '../src/look/schema.ts';

const named = (id: string): ReturnType<typeof maskOf> => maskOf({ ...common, kind: 'named', mask: id }),
  from: Look = {
    ...emptyLook('From'),
    scene: [newStep('exposure', 'a'), { ...newStep('warmth', 'b'), skein: 'k' }],
    print: [{ ...newStep('curve', 'c'), skein: 'k2', mask: named('m') }, newStep('grain', 'd')],
    skeins: [
      { id: 'k', name: 'Ground', on: true, strength: 1.4, mask: null },
      { id: 'k2', name: 'Sky', on: true, strength: 1, mask: null },
    ],
    masks: [
      { id: 'm', name: 'Sky', mask: maskOf({ ...common, kind: 'found', what: 'sky' }) },
      { id: 'o', name: 'Unused', mask: maskOf({ ...common, kind: 'found', what: 'sky' }) },
    ],
  };

describe('steps given from one look to another', () => {
  it('stand at the ends of their lanes, with the skeins and masks they use and no others, and the look is sound', () => {
    const to = { ...emptyLook('To'), scene: [newStep('haze', 'b')], print: [newStep('border', 'x')] },
      made = giveSteps(from, to, ['b', 'c']);
    expect(made.scene.map((s) => s.kind)).toEqual(['haze', 'warmth']);
    expect(made.print.map((s) => s.kind)).toEqual(['border', 'curve']);
    expect(made.skeins.map((k) => [k.name, k.strength])).toEqual([
      ['Ground', 1.4],
      ['Sky', 1],
    ]);
    expect(made.masks.map((m) => m.name)).toEqual(['Sky']);
    expect([made.name, made.stock]).toEqual(['To', to.stock]);
    const read = readLook(writeLook(made));
    expect('look' in read && read.look).toEqual(made);
  });
  it('have ids of their own, also where they are given twice', () => {
    const twice = giveSteps(from, giveSteps(from, emptyLook('To'), ['b', 'c']), ['b', 'c']),
      ids = [...twice.scene, ...twice.print, ...twice.skeins, ...twice.masks].map((v) => v.id);
    expect(new Set(ids).size).toBe(ids.length);
    expect('look' in readLook(writeLook(twice))).toBe(true);
    expect(twice.print.map((s) => s.skein)).toEqual(twice.skeins.filter((k) => k.name === 'Sky').map((k) => k.id));
  });
});
