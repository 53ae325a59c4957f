import { describe, expect, it, vi } from 'vitest';
import type { Readouts } from '@dyepot/core';
import { HandWorker, done, held, holdOf, job, open } from './handWorker.ts';
import type { Request } from '../src/view/renderWorker.ts';

describe('the darkroom', () => {
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
  it('what is asked for together goes to each worker in one message, also where asking fails', async () => {
    const { room, worker } = await open(),
      other = HandWorker.all[1]!;
    for (const [slot, of] of [
      ['lead:0', 0],
      ['lead:1', 1],
      ['lead:2', 0],
    ] as const) {
      room.hold(
        slot,
        of,
        1,
        `/${slot}`,
        () => {},
        () => {},
      );
      held([worker, other][of]!, slot);
    }
    const before = [worker.messages, other.messages],
      shared = job(7);
    expect(() =>
      room.together(() => {
        room.render('lead:0', shared, 'a');
        room.together(() => room.render('lead:1', shared, 'a'));
        room.render('lead:2', shared, 'a');
        expect(worker.renders()).toHaveLength(0);
        throw new Error('no');
      }),
    ).toThrow('no');
    expect([worker.messages, other.messages].map((n, i) => n - before[i]!)).toEqual([1, 1]);
    expect(worker.renders().map((r) => r.slot)).toEqual(['lead:0', 'lead:2']);
    // one plan, so that it is copied once
    expect(worker.renders()[0]!.job.plan).toBe(worker.renders()[1]!.job.plan);
    expect(other.renders().map((r) => r.slot)).toEqual(['lead:1']);
    done(worker, worker.renders()[0]!);
    room.render('lead:0', job(8), 'b');
    expect(worker.renders().at(-1)!.job.plan.scene).toEqual([8]);
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
