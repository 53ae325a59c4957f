import { describe, expect, it, vi } from 'vitest';
import { HandWorker, done, held, job, open } from './handWorker.ts';

describe('drafts in the darkroom', () => {
  it('while a draft is under way nothing else begins; then the lead goes first', async () => {
    const { room, worker } = await open(),
      other = HandWorker.all[1]!,
      put = (name: string, at: number, rank: number): void => {
        room.hold(
          name,
          at,
          rank,
          `/${name}`,
          () => {},
          () => {},
        );
        held(HandWorker.all[at]!, name);
      },
      begun = (): string[] => [...worker.renders(), ...other.renders()].map((r) => r.slot);
    put('witness', 0, 3);
    put('lead', 0, 1);
    put('coarse', 1, 0);
    room.render('coarse', job(1), 'a');
    room.render('witness', job(1), 'a');
    room.render('lead', job(1), 'a');
    expect(begun()).toEqual(['coarse']);
    done(other, other.renders()[0]!);
    expect(begun()).toEqual(['lead', 'witness', 'coarse']);
    // a draft may be of the same plate as the whole; given up with its plate, it holds nothing up
    for (const r of worker.renders()) done(worker, r);
    room.render('lead', { ...job(2), draft: true }, 'b');
    room.render('witness', job(2), 'b');
    expect(begun()).toEqual(['lead', 'witness', 'lead', 'coarse']);
    room.drop('lead');
    expect(begun()).toEqual(['lead', 'witness', 'lead', 'witness', 'coarse']);
  });
  it('what waits for drafts begins all the same when the hand never rests', async () => {
    vi.useFakeTimers();
    const { room, worker } = await open();
    for (const [name, rank] of [
      ['witness', 3],
      ['coarse', 0],
    ] as const) {
      room.hold(
        name,
        0,
        rank,
        `/${name}`,
        () => {},
        () => {},
      );
      held(worker, name);
    }
    const witnesses = (): number => worker.renders().filter((r) => r.slot === 'witness').length;
    // every draft is followed at once by the next one
    for (let n = 0; n < 10; n++) {
      room.render('coarse', job(n), 'a');
      room.render('coarse', job(n), 'a');
      room.render('witness', job(n), 'a');
      vi.advanceTimersByTime(20);
      done(
        worker,
        worker.renders().findLast((r) => r.slot === 'coarse')!,
      );
      if (n === 2) expect(witnesses()).toBe(0);
    }
    expect(witnesses()).toBe(1);
    vi.useRealTimers();
  });
});
