import fc from 'fast-check';
import { describe, expect, it, vi } from 'vitest';
import { levelSize, plateLevels, type Readouts } from '@dyepot/core';
import { layOut, nextZoom, pinched, scaleOf, zoomAt, zoomSteps, type Zoom } from '../src/view/layout.ts';
import { Gathered } from '../src/view/gathered.ts';
import type { Answer, Job, Request } from '../src/view/renderWorker.ts';

const pictures = fc.record({ width: fc.integer({ min: 200, max: 9000 }), height: fc.integer({ min: 200, max: 9000 }) }),
  stages = fc.record({ width: fc.integer({ min: 400, max: 2500 }), height: fc.integer({ min: 300, max: 1500 }) });
const centres = fc.record({ x: fc.double({ min: 0, max: 1, noNaN: true }), y: fc.double({ min: 0, max: 1, noNaN: true }) }),
  zooms = fc.constantFrom<Zoom>('fit', 'fill', 0.25, 0.5, 1, 2, 4, 8);

describe('the view of a frame', () => {
  it('fitted, the whole picture lies inside the stage, in the middle, and is never enlarged', () =>
    fc.assert(
      fc.property(pictures, stages, (picture, stage) => {
        const { box, piece, scale } = layOut(picture, stage, { zoom: 'fit', centre: { x: 0.3, y: 0.9 } }, 1);
        expect(box.left).toBeGreaterThanOrEqual(20);
        expect(box.left + box.width).toBeLessThanOrEqual(stage.width - 20);
        expect(box.top + box.height).toBeLessThanOrEqual(stage.height - 20);
        expect(Math.abs(box.left - (stage.width - box.width - box.left))).toBeLessThanOrEqual(1);
        expect(scale).toBeLessThanOrEqual(1);
        expect(piece).toEqual({ level: piece.level, x: 0, y: 0, ...levelSize(picture.width, picture.height, piece.level) });
      }),
    ));
  it('filling, the stage is covered', () =>
    fc.assert(
      fc.property(pictures, stages, (picture, stage) => {
        const scale = scaleOf('fill', picture, stage, 1);
        expect(picture.width * scale).toBeGreaterThanOrEqual(stage.width - 1e-6);
        expect(picture.height * scale).toBeGreaterThanOrEqual(stage.height - 1e-6);
      }),
    ));
  it('every piece lies in its level and covers what is seen; from 100 % on it is the picture’s own pixels', () =>
    fc.assert(
      fc.property(pictures, stages, centres, zooms, (picture, stage, centre, zoom) => {
        const { piece, box, seen, scale } = layOut(picture, stage, { zoom, centre }, 1),
          size = levelSize(picture.width, picture.height, piece.level);
        expect(piece.x).toBeGreaterThanOrEqual(0);
        expect(piece.x + piece.width).toBeLessThanOrEqual(size.width);
        expect(piece.y + piece.height).toBeLessThanOrEqual(size.height);
        expect(piece.level).toBeLessThan(plateLevels);
        if (scale >= 1) expect(piece.level).toBe(0);
        expect(seen.left).toBeGreaterThanOrEqual(0);
        expect(seen.left + seen.width).toBeLessThanOrEqual(1 + 1e-9);
        // what is drawn reaches at least as far as the stage or the picture's edge
        const right = Math.min(stage.width, box.left + box.width),
          shown = Math.min(stage.width, picture.width * (box.width / (piece.width * (picture.width / size.width))));
        if (zoom !== 'fit')
          expect(right - Math.max(0, box.left)).toBeGreaterThan(Math.min(shown, stage.width) - 4 - 2 ** piece.level * scale * 2);
      }),
    ));
  it('zooming keeps the place under the pointer where it is', () =>
    fc.assert(
      fc.property(
        fc.record({ x: fc.integer({ min: 300, max: 500 }), y: fc.integer({ min: 250, max: 350 }) }),
        fc.constantFrom<Zoom>(1, 2, 4),
        (at, zoom) => {
          const picture = { width: 6000, height: 4000 },
            stage = { width: 800, height: 600 },
            from = { zoom: 0.5 as Zoom, centre: { x: 0.5, y: 0.5 } },
            to = zoomAt(picture, stage, from, zoom, at, 1);
          const place = (view: { zoom: Zoom; centre: { x: number; y: number } }): [number, number] => {
            const s = scaleOf(view.zoom, picture, stage, 1);
            return [
              view.centre.x * picture.width + (at.x - stage.width / 2) / s,
              view.centre.y * picture.height + (at.y - stage.height / 2) / s,
            ];
          };
          const [ax, ay] = place(from),
            [bx, by] = place(to);
          expect(Math.abs(ax - bx)).toBeLessThan(3);
          expect(Math.abs(ay - by)).toBeLessThan(3);
        },
      ),
    ));
  it('plus and minus go through 25 to 800 %, and below fitting comes fit', () => {
    const picture = { width: 6000, height: 4000 },
      stage = { width: 800, height: 600 };
    let zoom: Zoom = 'fit';
    const seen: Zoom[] = [];
    for (let i = 0; i < 7; i++) {
      zoom = nextZoom(zoom, 1, picture, stage, 1);
      seen.push(zoom);
    }
    expect(seen).toEqual([...zoomSteps, 8]);
    for (let i = 0; i < 8; i++) zoom = nextZoom(zoom, -1, picture, stage, 1);
    expect(zoom).toBe('fit');
  });
});

describe('two fingers', () => {
  const picture = { width: 6000, height: 4000 },
    stage = { width: 900, height: 600 },
    view = { zoom: 0.5 as Zoom, centre: { x: 0.4, y: 0.6 } };
  const placeAt = (v: { zoom: Zoom; centre: { x: number; y: number } }, p: { x: number; y: number }): number[] => {
    const k = scaleOf(v.zoom, picture, stage, 1);
    return [v.centre.x * picture.width + (p.x - stage.width / 2) / k, v.centre.y * picture.height + (p.y - stage.height / 2) / k];
  };
  it.each([
    [120, 240, 1],
    [240, 180, 0.375],
    [100, 5000, 8],
  ])('%f to %f pixels apart magnify by their ratio; what was between them still is', (gap, to, zoom) => {
    const from = { view, middle: { x: 300, y: 200 }, gap },
      next = pinched(picture, stage, from, { middle: { x: 340, y: 180 }, gap: to }, 1) as {
        zoom: number;
        centre: { x: number; y: number };
      };
    expect(next.zoom).toBeCloseTo(zoom, 9);
    placeAt(next, { x: 340, y: 180 }).forEach((v, i) => expect(v).toBeCloseTo(placeAt(view, from.middle)[i]!, 0));
  });
  it('closed far enough, they fit the picture', () =>
    expect(pinched(picture, stage, { view, middle: { x: 300, y: 200 }, gap: 400 }, { middle: { x: 300, y: 200 }, gap: 40 }, 1)).toEqual({
      zoom: 'fit',
    }));
});

/** A worker that does nothing by itself: the test answers for it. */
class HandWorker {
  static all: HandWorker[] = [];
  sent: Request[] = [];
  onmessage: ((e: { data: Answer }) => void) | null = null;
  constructor() {
    HandWorker.all.push(this);
  }
  postMessage(r: Request): void {
    this.sent.push(r);
  }
  terminate(): void {
    this.sent = [];
  }
  renders(): Extract<Request, { type: 'render' }>[] {
    return this.sent.filter((r): r is Extract<Request, { type: 'render' }> => r.type === 'render');
  }
  say(data: Answer): void {
    this.onmessage!({ data });
  }
}

describe('bands of a picture', () => {
  it('come together when all were asked with the same word', () => {
    const bands = new Gathered<number>(2);
    expect(bands.add(0, 1, 'a', false)).toBeNull();
    expect(bands.add(1, 2, 'b', false)).toBeNull();
    expect(bands.add(0, 3, 'b', false)).toEqual([3, 2]);
  });
  it('mixed ones come when each is new, and the last word’s always come', () => {
    const bands = new Gathered<number>(2);
    bands.add(0, 1, 'a', true);
    expect(bands.add(0, 2, 'b', true)).toBeNull();
    expect(bands.add(1, 3, 'a', true)).toEqual([2, 3]);
    expect(bands.add(1, 4, 'b', true)).toEqual([2, 4]);
  });
});

describe('the darkroom', () => {
  const open = async (): Promise<{ room: InstanceType<typeof import('../src/view/darkroom.ts').Darkroom>; worker: HandWorker }> => {
    HandWorker.all = [];
    vi.stubGlobal('Worker', HandWorker);
    const { Darkroom } = await import('../src/view/darkroom.ts');
    return { room: new Darkroom(), worker: HandWorker.all[0]! };
  };
  const job = (n: number): Job => ({
    plan: { scene: [n], passes: [], space: 'srgb', seed: 1 },
    drawing: null as never,
    guide: null,
    readout: null,
  });
  const done = (worker: HandWorker, r: Extract<Request, { type: 'render' }>): void =>
    worker.say({ type: 'rendered', id: r.id, slot: r.slot, width: 1, height: 1, rgba: new ArrayBuffer(4), readouts: null });

  const holdOf = (worker: HandWorker, slot: string): number =>
    (worker.sent.filter((r) => r.type === 'hold' && r.slot === slot).at(-1) as Extract<Request, { type: 'hold' }>).id;
  const held = (worker: HandWorker, slot: string, id = holdOf(worker, slot)): void => worker.say({ type: 'held', id, slot });

  it('renders nothing before the plate is there, then the newest wish only', async () => {
    const { room, worker } = await open(),
      seen: string[] = [];
    room.hold(
      'lead',
      0,
      1,
      '/p',
      () => seen.push('done'),
      () => {},
    );
    room.render('lead', job(1), 'a');
    room.render('lead', job(2), 'a');
    expect(worker.renders()).toHaveLength(0);
    held(worker, 'lead');
    expect(worker.renders().map((r) => r.job.plan.scene)).toEqual([[2]]);
    room.render('lead', job(3), 'a');
    room.render('lead', job(4), 'a');
    done(worker, worker.renders()[0]!);
    expect(worker.renders().map((r) => r.job.plan.scene)).toEqual([[2], [4]]);
    expect(seen).toEqual(['done']);
  });
  it('witnesses are shown together: when all are there, with the lead, or after a while', async () => {
    vi.useFakeTimers();
    const { room, worker } = await open(),
      seen: string[] = [],
      names = ['witness-1', 'witness-2', 'lead'],
      last = (slot: string): Extract<Request, { type: 'render' }> =>
        worker
          .renders()
          .filter((r) => r.slot === slot)
          .at(-1)!;
    names.forEach((s) => {
      room.hold(
        s,
        0,
        s === 'lead' ? 1 : 3,
        `/${s}`,
        () => seen.push(s),
        () => {},
      );
      held(worker, s);
    });
    const ask = (...slots: string[]): void => slots.forEach((s) => room.render(s, job(1), 'a'));
    ask('witness-1', 'witness-2');
    done(worker, last('witness-1'));
    expect(seen).toEqual([]);
    done(worker, last('witness-2'));
    expect(seen.splice(0)).toEqual(['witness-1', 'witness-2']);
    ask(...names);
    done(worker, last('witness-2'));
    done(worker, last('lead'));
    expect(seen.splice(0)).toEqual(['lead', 'witness-2']);
    done(worker, last('witness-1'));
    expect(seen.splice(0)).toEqual(['witness-1']);
    ask('witness-1', 'witness-2');
    done(worker, last('witness-1'));
    vi.advanceTimersByTime(100);
    expect(seen).toEqual(['witness-1']);
    vi.useRealTimers();
  });
  it('a newer wish calls back, once, what the worker has not begun', async () => {
    const { room, worker } = await open(),
      calls = (): Request[] => worker.sent.filter((r) => r.type === 'stop');
    room.hold(
      'witness',
      0,
      3,
      '/w',
      () => {},
      () => {},
    );
    held(worker, 'witness');
    for (const n of [1, 2, 3]) room.render('witness', job(n), 'a');
    expect(calls()).toEqual([{ type: 'stop', id: worker.renders()[0]!.id, begun: false }]);
    worker.say({ type: 'stopped', id: worker.renders()[0]!.id, slot: 'witness' });
    expect(worker.renders().map((r) => r.job.plan.scene)).toEqual([[1], [3]]);
  });
  it('what is given up is told to the worker, paints nothing, and the next wish is rendered', async () => {
    const { room, worker } = await open(),
      seen: string[] = [];
    room.hold(
      'lead',
      0,
      1,
      '/p',
      (_print, of) => seen.push(of),
      () => {},
    );
    held(worker, 'lead');
    room.render('lead', job(1), 'a');
    room.render('lead', job(2), 'b');
    room.stop('lead');
    expect(worker.sent.at(-1)).toEqual({ type: 'stop', id: worker.renders()[0]!.id, begun: true });
    expect(room.rests('lead')).toBe(false);
    room.render('lead', job(3), 'c');
    worker.say({ type: 'stopped', id: worker.renders()[0]!.id, slot: 'lead' });
    expect(worker.renders().map((r) => r.job.plan.scene)).toEqual([[1], [3]]);
    done(worker, worker.renders()[1]!);
    expect(seen).toEqual(['c']);
    expect(room.rests('lead')).toBe(true);
  });
  it('answers for a piece that was replaced are dropped, and a slot given up gives its place back', async () => {
    const { room, worker } = await open(),
      seen: string[] = [];
    room.hold(
      'lead',
      0,
      1,
      '/old',
      () => seen.push('old'),
      () => {},
    );
    held(worker, 'lead');
    room.render('lead', job(1), 'a');
    room.hold(
      'lead',
      0,
      1,
      '/new',
      () => seen.push('new'),
      () => {},
    );
    done(worker, worker.renders()[0]!);
    expect(seen).toEqual([]);
    room.render('lead', job(2), 'a');
    held(worker, 'lead');
    done(worker, worker.renders()[1]!);
    expect(seen).toEqual(['new']);
    room.drop('lead');
    room.hold(
      'other',
      0,
      1,
      '/x',
      () => {},
      (m) => seen.push(m),
    );
    worker.say({ type: 'failed', id: holdOf(worker, 'other'), slot: 'other', message: 'no such plate' });
    expect(seen).toEqual(['new', 'no such plate']);
  });
  it('a plate let go and asked for again is not taken for there because the first one came', async () => {
    const { room, worker } = await open(),
      seen: string[] = [];
    room.hold(
      'lead',
      0,
      1,
      '/p',
      (_, of) => seen.push(of),
      () => {},
    );
    const first = holdOf(worker, 'lead');
    room.drop('lead');
    room.hold(
      'lead',
      0,
      1,
      '/p',
      (_, of) => seen.push(of),
      () => {},
    );
    room.render('lead', job(1), 'whole');
    held(worker, 'lead', first);
    expect(worker.renders()).toHaveLength(0);
    held(worker, 'lead');
    done(worker, worker.renders()[0]!);
    expect(seen).toEqual(['whole']);
    expect(room.rests('lead')).toBe(true);
  });
  it('what was read off a picture comes after it, and is dropped once another picture has come', async () => {
    const { room, worker } = await open(),
      seen: string[] = [],
      readouts = { kind: 'histogram' } as Readouts;
    room.hold(
      'lead',
      0,
      1,
      '/p',
      (_, of) => seen.push(`picture ${of}`),
      () => {},
      (r, of) => seen.push(`${r.kind} ${of}`),
    );
    held(worker, 'lead');
    room.render('lead', job(1), 'a');
    room.render('lead', job(2), 'b');
    done(worker, worker.renders()[0]!);
    worker.say({ type: 'read', id: worker.renders()[0]!.id, slot: 'lead', readouts });
    done(worker, worker.renders()[1]!);
    worker.say({ type: 'read', id: worker.renders()[0]!.id, slot: 'lead', readouts });
    worker.say({ type: 'read', id: worker.renders()[1]!.id, slot: 'lead', readouts });
    expect(seen).toEqual(['picture a', 'histogram a', 'picture b', 'histogram b']);
  });
  it('a render that failed is told, and the next one still comes', async () => {
    const { room, worker } = await open(),
      said: string[] = [];
    room.hold(
      'lead',
      0,
      1,
      '/p',
      () => said.push('done'),
      (m) => said.push(m),
    );
    held(worker, 'lead');
    room.render('lead', job(1), 'a');
    worker.say({ type: 'unrendered', id: worker.renders()[0]!.id, slot: 'lead', message: 'out of memory' });
    room.render('lead', job(2), 'a');
    done(worker, worker.renders()[1]!);
    expect(said).toEqual(['out of memory', 'done']);
  });
});
