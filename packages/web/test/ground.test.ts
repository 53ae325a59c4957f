import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { plainGroundwork, type Groundwork } from '@dyepot/core';
import { validateGroundwork } from '@dyepot/core/src/groundwork/schema.ts';

const kept = new Map<string, string>();
Object.assign(globalThis, {
  localStorage: { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => kept.set(k, v) },
});
const { ground, groundAct: act, loadGround, saveGround } = await import('../src/ground/groundSlice.ts');
const { cropTo, pulled, ratioOf } = await import('../src/ground/CropOverlay.tsx');
type State = ReturnType<typeof ground.reducer>;
const run = (state: State, ...actions: Parameters<typeof ground.reducer>[1][]): State =>
  actions.reduce((s, a) => ground.reducer(s, a), state);
const open = (): State => run(loadGround(), act.frameOpened({ shootId: 1, frameId: 7, ground: null }));
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
      act.frameOpened({ shootId: 1, frameId: 8, ground: { ...plainGroundwork, recovery: 10 } }),
      act.undone(),
    );
    expect(s.docs[7]!.ground.exposureEv).toBe(1);
    expect(s.docs[8]!.ground.recovery).toBe(10);
  });
  it('is kept over a reload, with snapshots, probes and what was copied, but not a zoom', () => {
    const s = run(
      open(),
      exposed(1),
      act.snapshotTaken('A'),
      act.probePinned({ x: 0.2, y: 0.3 }),
      act.viewSet({ zoom: 4 }),
      act.set({ copied: plainGroundwork }),
    );
    saveGround(s);
    const again = loadGround();
    expect(again.docs[7]).toEqual(s.docs[7]);
    expect([again.copied, again.view.zoom]).toEqual([plainGroundwork, 'fit']);
  });
  it('storage that is broken or of another time does not stand in the way', () => {
    kept.set('dyepot-ground-1', '{"docs":{"7":{"ground":{"exposureEv":1},"past":[],"future":[],"snapshots":[]}}}');
    expect(validateGroundwork(loadGround().docs[7]!.ground)).toHaveProperty('groundwork');
    kept.set('dyepot-ground-1', 'not json');
    expect(loadGround().docs).toEqual({});
  });
  it('what was changed elsewhere stands when the frame is opened again, and is not overwritten; own changes not yet sent stay', () => {
    const own = run(open(), exposed(1)),
      elsewhere = { ...plainGroundwork, exposureEv: 2 },
      again = (s: State, told: Groundwork | null): State => run(s, act.frameOpened({ shootId: 1, frameId: 7, ground: told }));
    expect(again(own, null).docs[7]!.ground.exposureEv).toBe(1);
    const sent = run(own, act.kept({ frameId: 7, known: JSON.stringify(own.docs[7]!.ground) }));
    // the page still says what stood before its last save
    expect(again(sent, null).docs[7]!.ground.exposureEv).toBe(1);
    const taken = again(sent, elsewhere);
    expect(taken.docs[7]!.ground).toEqual(elsewhere);
    expect(taken.docs[7]!.known).toBe(JSON.stringify(elsewhere));
    expect(run(taken, act.undone()).docs[7]!.ground.exposureEv).toBe(1);
  });
  it('at most eight probes are pinned', () => {
    const s = run(open(), ...Array.from({ length: 11 }, (_, i) => act.probePinned({ x: i / 11, y: 0.5 })));
    expect(s.docs[7]!.probes).toHaveLength(8);
    expect(run(s, act.probeRemoved(0)).docs[7]!.probes![0]).toEqual({ x: 1 / 11, y: 0.5 });
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
