import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { plainGroundwork, type Groundwork } from '@dyepot/core';

const kept = new Map<string, string>();
const storage = { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => kept.set(k, v) };
Object.assign(globalThis, { localStorage: storage, sessionStorage: storage });
const { ground, groundAct: act, loadGround, saveGround } = await import('../src/ground/groundSlice.ts');
const { cropTo, pulled, ratioOf } = await import('../src/ground/CropOverlay.tsx');
type State = ReturnType<typeof ground.reducer>;
const run = (state: State, ...actions: Parameters<typeof ground.reducer>[1][]): State =>
  actions.reduce((s, a) => ground.reducer(s, a), state);
const said = (frameId: number, ground: Groundwork | null, version: number): ReturnType<typeof act.serverSaid> =>
  act.serverSaid({ frameId, ground, version });
const open = (): State => run(loadGround(), said(7, null, 0), act.frameOpened({ shootId: 1, frameId: 7 }));
const exposed = (ev: number, gesture = ''): ReturnType<typeof act.changed> =>
  act.changed({ frameId: 7, words: `Exposure ${ev}`, gesture, ground: { ...plainGroundwork, exposureEv: ev } });
beforeEach(() => kept.clear());

describe('groundwork being done', () => {
  it('one gesture is one step of undo, however many moves it had, and is called by its last words', () => {
    const s = run(open(), exposed(0.1, 'a'), exposed(0.2, 'a'), exposed(0.3, 'a'), exposed(0.5, 'b'));
    expect(s.docs[7]!.past.map((c) => c.words)).toEqual(['Exposure 0.3', 'Exposure 0.5']);
    expect(run(s, act.undone()).docs[7]!.ground.exposureEv).toBe(0.3);
    expect(run(s, act.undone(), act.undone()).docs[7]!.ground).toEqual(plainGroundwork);
    expect(run(s, act.undone(), act.undone(), act.redone(), act.redone()).docs[7]!.ground.exposureEv).toBe(0.5);
  });
  it('any walk of changes, undone as far as it goes, ends where it began; redone, where it ended (property)', () =>
    fc.assert(
      fc.property(fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: 1, maxLength: 12 }), (evs) => {
        const end = run(open(), ...evs.map((v) => exposed(v))),
          steps = end.docs[7]!.past.length;
        const back = run(end, ...Array.from({ length: steps + 2 }, () => act.undone())),
          forth = run(back, ...Array.from({ length: steps + 2 }, () => act.redone()));
        expect(back.docs[7]!.ground).toEqual(plainGroundwork);
        expect(forth.docs[7]!.ground).toEqual(end.docs[7]!.ground);
      }),
    ));
  it('what changes nothing is no step', () => expect(run(open(), exposed(0)).docs[7]!.past).toEqual([]));
  it('every frame has its own history', () => {
    const s = run(
      open(),
      exposed(1),
      said(8, { ...plainGroundwork, recovery: 10 }, 3),
      act.frameOpened({ shootId: 1, frameId: 8 }),
      act.undone(),
    );
    expect(s.docs[7]!.ground.exposureEv).toBe(1);
    expect(s.docs[8]!.ground.recovery).toBe(10);
  });
  it('this browser keeps how the Ground looked and what was copied, never what was done', () => {
    const s = run(open(), exposed(1), act.viewSet({ zoom: 4, surround: 'light' }), act.set({ copied: plainGroundwork, pickSize: 51 }));
    saveGround(s);
    const again = loadGround();
    expect(again.docs).toEqual({});
    expect([again.copied, again.view.zoom, again.view.surround, again.pickSize]).toEqual([plainGroundwork, 'fit', 'light', 51]);
    expect([...kept.keys()].filter((k) => k !== 'dyepot-copied-groundwork').map((k) => kept.get(k)!.includes('exposureEv'))).toEqual([
      false,
    ]);
  });
  it('storage that is broken does not stand in the way', () => {
    kept.set('dyepot-ground-2', 'not json');
    expect(loadGround().docs).toEqual({});
  });
  it('what the server remembers of a frame comes before what was done meanwhile, once', () => {
    const before = { words: 'Earlier', gesture: '', before: plainGroundwork },
      history = { past: [before], future: [], snapshots: [{ name: 'A', ground: plainGroundwork }], probes: [{ x: 0.5, y: 0.5 }] };
    const load = act.historyLoaded({ frameId: 7, history });
    const s = run(open(), exposed(1), load, load);
    expect(s.docs[7]!.past.map((c) => c.words)).toEqual(['Earlier', 'Exposure 1']);
    expect([s.docs[7]!.snapshots.length, s.docs[7]!.probes.length]).toEqual([1, 1]);
  });
  it('what was changed in another window stands, one undo away from what was here', () => {
    const own = run(open(), exposed(1)),
      text = JSON.stringify(own.docs[7]!.ground),
      kept1 = run(own, act.sent({ frameId: 7, text }), act.kept({ frameId: 7, known: text, version: 1 })),
      elsewhere = { ...plainGroundwork, exposureEv: 2 };
    // news of this window's own save changes nothing
    expect(run(own, act.sent({ frameId: 7, text }), said(7, own.docs[7]!.ground, 1)).docs[7]!.past).toHaveLength(1);
    // an answer that comes late changes nothing either
    expect(run(kept1, said(7, null, 0)).docs[7]!.ground.exposureEv).toBe(1);
    const taken = run(kept1, said(7, elsewhere, 2));
    expect(taken.docs[7]!.ground).toEqual(elsewhere);
    expect([taken.docs[7]!.known, taken.docs[7]!.version]).toEqual([JSON.stringify(elsewhere), 2]);
    expect(run(taken, act.undone()).docs[7]!.ground.exposureEv).toBe(1);
  });
  it('where another window was first, what is here stays on top and theirs is one undo away', () => {
    const theirs = { ...plainGroundwork, exposureEv: 3 },
      s = run(open(), exposed(1), act.overtaken({ frameId: 7, ground: theirs, version: 5 }));
    expect([s.docs[7]!.ground.exposureEv, s.docs[7]!.version]).toEqual([1, 5]);
    expect(run(s, act.undone()).docs[7]!.ground).toEqual(theirs);
  });
  it('at most eight probes are pinned', () => {
    const s = run(open(), ...Array.from({ length: 11 }, (_, i) => act.probePinned({ x: i / 11, y: 0.5 })));
    expect(s.docs[7]!.probes).toHaveLength(8);
    expect(run(s, act.probeRemoved(0)).docs[7]!.probes[0]).toEqual({ x: 1 / 11, y: 0.5 });
  });
});

describe('the crop', () => {
  const crops = fc.record({
    x: fc.double({ min: 0, max: 0.6, noNaN: true }),
    y: fc.double({ min: 0, max: 0.6, noNaN: true }),
    width: fc.double({ min: 0.1, max: 0.4, noNaN: true }),
    height: fc.double({ min: 0.1, max: 0.4, noNaN: true }),
  });
  const places = fc.record({ x: fc.double({ min: -0.5, max: 1.5, noNaN: true }), y: fc.double({ min: -0.5, max: 1.5, noNaN: true }) }),
    handle = fc.constantFrom(0, 0.5, 1),
    ratio = fc.constantFrom('free', '1:1', '4:5', '2:3', '3:4', '16:9', '65:24') as fc.Arbitrary<Groundwork['geometry']['ratio']>;
  it('wherever a handle is drawn to, it stays in the picture and is a crop the document takes (property)', () =>
    fc.assert(
      fc.property(crops, handle, handle, places, ratio, fc.boolean(), (crop, hx, hy, at, r, upright) => {
        fc.pre(!(hx === 0.5 && hy === 0.5));
        const out = pulled(crop, hx, hy, at, ratioOf(r, upright), 1.5);
        expect(out.x).toBeGreaterThanOrEqual(-1e-9);
        expect(out.y).toBeGreaterThanOrEqual(-1e-9);
        expect(out.x + out.width).toBeLessThanOrEqual(1 + 1e-9);
        expect(out.y + out.height).toBeLessThanOrEqual(1 + 1e-9);
        expect(Math.min(out.width, out.height)).toBeGreaterThan(0);
      }),
    ));
  it('a ratio is kept while a corner is drawn', () =>
    fc.assert(
      fc.property(places, ratio, fc.boolean(), (at, r, upright) => {
        fc.pre(r !== 'free');
        const wanted = ratioOf(r, upright)!,
          aspect = 1.5,
          start = cropTo(wanted, { x: 0.2, y: 0.2, width: 0.5, height: 0.5 }, aspect),
          out = pulled(start, 1, 1, at, wanted, aspect);
        expect((out.width * aspect) / out.height / wanted).toBeCloseTo(1, 6);
      }),
    ));
  it('ratios are as named, both ways up', () => {
    expect([ratioOf('4:5', false), ratioOf('4:5', true), ratioOf('1:1', true), ratioOf('free', true)]).toEqual([1.25, 0.8, 1, null]);
    expect(ratioOf('65:24', false)).toBeCloseTo(65 / 24, 12);
    const square = cropTo(1, { x: 0, y: 0, width: 1, height: 1 }, 1.5);
    expect([square.width, square.height, square.x]).toEqual([2 / 3, 1, expect.closeTo(1 / 6, 9)]);
  });
});
