import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import type { BenchState } from '../src/bench/benchSlice.ts';
import { justify } from '../src/shoots/justify.ts';
import { timeLeft } from '../src/kit/timeLeft.ts';
import { formatNumber } from '../src/kit/NumberControl.tsx';
import { stepsOf } from '@dyepot/core';
import { validateLook } from '@dyepot/core/src/look/schema.ts';

const kept = new Map<string, string>();
Object.assign(globalThis, {
  localStorage: { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => kept.set(k, v) },
});
let slice: typeof import('../src/bench/benchSlice.ts'), remembered: typeof import('../src/bench/remembered.ts');
beforeAll(async () => {
  slice = await import('../src/bench/benchSlice.ts');
  remembered = await import('../src/bench/remembered.ts');
});

type Edit = { kind: 'add' | 'remove' | 'duplicate' | 'switch' | 'move' | 'strength' | 'set' | 'rename'; at: number; value: number };
const edits = fc.array(
  fc.record<Edit>({
    kind: fc.constantFrom('add', 'remove', 'duplicate', 'switch', 'move', 'strength', 'set', 'rename'),
    at: fc.nat(12),
    value: fc.double({ min: 0, max: 1, noNaN: true }),
  }),
  { minLength: 1, maxLength: 25 },
);
function apply(state: BenchState, e: Edit): BenchState {
  const { act, bench } = slice,
    steps = stepsOf(state.look),
    step = steps[e.at % steps.length]!,
    run = (a: Parameters<typeof bench.reducer>[1]): BenchState => bench.reducer(state, a);
  switch (e.kind) {
    case 'add':
      return run(act.stepAdded(['warmth', 'curve', 'grade', 'mono'][e.at % 4]!));
    case 'remove':
      return run(act.stepRemoved(step.id));
    case 'duplicate':
      return run(act.stepDuplicated(step.id));
    case 'switch':
      return run(act.stepSwitched(step.id));
    case 'move':
      return state.look.print.length > 1
        ? run(
            act.stepMoved({
              lane: 'print',
              from: e.at % state.look.print.length,
              to: Math.floor(e.value * (state.look.print.length - 0.01)),
            }),
          )
        : state;
    case 'strength':
      return run(act.strengthSet({ id: step.id, strength: e.value * 2, gesture: `g${e.at}` }));
    case 'set':
      return step.kind === 'curve'
        ? run(
            act.parameterSet({
              id: step.id,
              name: 'points',
              value: [
                [0, e.value / 2],
                [1, 1],
              ],
              words: '',
              gesture: '',
            }),
          )
        : step.kind === 'warmth'
          ? run(act.parameterSet({ id: step.id, name: 'shiftMired', value: e.value * 50, words: '', gesture: 'w' }))
          : state;
    case 'rename':
      return run(act.stepRenamed({ id: step.id, name: `n${e.at}` }));
  }
}
const start = (): BenchState => slice.bench.reducer(undefined, { type: 'start' });

describe('editing a look', () => {
  it('every edit can be undone to exactly where it began, and redone to exactly where it was', () =>
    fc.assert(
      fc.property(edits, (list) => {
        const first = start();
        let state = list.reduce(apply, first);
        const last = state.look,
          steps = state.past.length;
        for (let i = 0; i < steps; i++) state = slice.bench.reducer(state, slice.act.undone());
        expect(state.look).toEqual(first.look);
        for (let i = 0; i < steps; i++) state = slice.bench.reducer(state, slice.act.redone());
        expect(state.look).toEqual(last);
      }),
      { numRuns: 60 },
    ));
  it('whatever is done by hand, the look stays a valid document with one stock, and a step is selected', () =>
    fc.assert(
      fc.property(edits, (list) => {
        const state = list.reduce(apply, start());
        expect(validateLook(JSON.parse(JSON.stringify(state.look)))).toHaveProperty('look');
        expect(stepsOf(state.look).some((s) => s.id === state.selected)).toBe(true);
        expect(new Set(stepsOf(state.look).map((s) => s.id)).size).toBe(stepsOf(state.look).length);
      }),
      { numRuns: 60 },
    ));
  it('one gesture is one step of undo', () => {
    const { act, bench } = slice;
    let state = start();
    for (const v of [0.2, 0.4, 0.9]) state = bench.reducer(state, act.lookStrengthSet({ strength: v, gesture: 'drag-1' }));
    state = bench.reducer(state, act.lookStrengthSet({ strength: 1.5, gesture: 'drag-2' }));
    expect(state.past.length).toBe(2);
    state = bench.reducer(state, act.undone());
    expect(state.look.strength).toBe(0.9);
  });
  it('undone to where it was saved, it is not edited; saving gives it a name that no undo takes away', () => {
    const { act, bench, isEdited } = slice,
      run = (s: BenchState, ...actions: Parameters<typeof bench.reducer>[1][]): BenchState =>
        actions.reduce((x, a) => bench.reducer(x, a), s);
    const set = (strength: number, gesture: string): ReturnType<typeof act.lookStrengthSet> => act.lookStrengthSet({ strength, gesture });
    let s = run(start(), set(0.5, 'a'));
    expect(isEdited(s)).toBe(true);
    expect(isEdited(run(s, act.undone()))).toBe(false);
    s = run(s, act.revisionSaved({ lookId: 4, revision: 1, described: { name: 'Weld' } }));
    expect(isEdited(s)).toBe(false);
    const undone = run(s, act.undone());
    expect([undone.look.name, undone.look.strength, isEdited(undone)]).toEqual(['Weld', 1, true]);
    expect(isEdited(run(undone, act.redone()))).toBe(false);
    // the gesture goes on after the save: that is an edit of its own
    const onward = run(s, set(0.7, 'a'));
    expect([onward.past.length, isEdited(onward), isEdited(run(onward, act.undone()))]).toEqual([2, true, false]);
  });
  it('this browser remembers where one was, never the look; a spoilt record begins anew', () => {
    const state = apply(start(), { kind: 'add', at: 1, value: 0.5 });
    remembered.saveBench({ ...state, shootId: 3, leadId: 9, draft: { id: 7, version: 2 } });
    expect(remembered.rememberedBench()).toMatchObject({ shootId: 3, leadId: 9, draftId: 7 });
    expect([...kept.values()].some((v) => v.includes('"scene"') || v.includes('"params"'))).toBe(false);
    kept.set('dyepot-bench-2', 'not JSON');
    expect(remembered.loadBench().look.name).toBe('New look');
  });
});

describe('a contact sheet', () => {
  it('rows fill the width exactly, but for the last, and lose no picture', () =>
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.4, max: 2.5, noNaN: true }), { minLength: 1, maxLength: 60 }),
        fc.integer({ min: 500, max: 2400 }),
        (aspects, width) => {
          const rows = justify(aspects, (a) => a, width, 200, 6);
          expect(rows.flatMap((r) => r.items.map((i) => i.item))).toEqual(aspects);
          for (const row of rows.slice(0, -1))
            expect(row.items.reduce((s, i) => s + i.width, 0) + 6 * (row.items.length - 1)).toBeCloseTo(width, 6);
          for (const row of rows) {
            expect(row.items.reduce((s, i) => s + i.width, 0) + 6 * (row.items.length - 1)).toBeLessThan(width + 0.01);
            expect(row.height).toBeGreaterThan(0);
          }
        },
      ),
    ));
  it('a thousand frames are laid out in linear time: ten times the frames give ten times the rows', () => {
    const rows = (n: number): number =>
      justify(
        Array.from({ length: n }, () => 1.5),
        (a) => a,
        1248,
        200,
        6,
      ).length;
    expect(rows(1000)).toBe(10 * rows(100));
  });
});

describe('words', () => {
  it('time left is said plainly', () =>
    expect([null, 4, 90, 3700].map(timeLeft)).toEqual(['', 'about 4 s left', 'about 2 min left', 'about 1 h 2 min left']));
  it('numbers carry their unit, and a true minus', () => {
    expect(formatNumber({ decimals: 2, unit: 'EV', min: -3 }, -0.35)).toBe('−0.35 EV');
    expect(formatNumber({ decimals: 0, unit: '°', min: 0 }, 72)).toBe('72°');
    expect(formatNumber({ decimals: 0, unit: 'mired', min: -70 }, 12)).toBe('+12 mired');
  });
});
