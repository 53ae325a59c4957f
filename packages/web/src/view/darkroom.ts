import type { Readouts } from '@dyepot/core';
import type { Answer, Job, Request } from './renderWorker.ts';

/** A finished piece of picture. */
export interface Print { width: number; height: number; rgba: Uint8ClampedArray<ArrayBuffer> }
interface Slot { worker: number; /** lower goes first: drafts, the lead, witnesses */ rank: number; /** number of the request to hold its piece; answers to older ones are dropped */ hold: number; ready: boolean; /** the render under way */ under: { id: number; of: string } | null; wanted: { job: Job; of: string } | null; /** number and word of the last print, whose readouts may follow */ printed: { id: number; of: string } | null; done: (print: Print, of: string) => void; read: (readouts: Readouts, of: string) => void; failed: (message: string) => void }

/** How many renders a worker is given at once: one to do, and one so that it never waits for this page; drafts besides. */
const depth = 2;

/**
 * Two render workers and the pieces they hold. Each slot renders one plan at a time; while it is busy only the
 * newest plan waits, and what waits is taken by rank, so that the hand's own picture is never behind by more than one.
 */
export class Darkroom {
  private readonly workers = [0, 1].map(() => new Worker(new URL('./renderWorker.ts', import.meta.url), { type: 'module' }));
  private readonly slots = new Map<string, Slot>();
  private readonly given = [0, 0];
  private next = 1;

  constructor() {
    this.workers.forEach((worker, i) => { worker.onmessage = ({ data }: MessageEvent<Answer>) => this.answered(i, data); });
  }

  /** Puts a piece of plate into a slot (worker 0 or 1), replacing what was there. */
  hold(name: string, worker: number, rank: number, url: string, done: Slot['done'], failed: Slot['failed'], read: Slot['read'] = () => {}): void {
    const id = this.next++;
    this.slots.set(name, { worker, rank, hold: id, ready: false, under: null, wanted: this.slots.get(name)?.wanted ?? null, done, failed, read, printed: null });
    this.send(worker, { type: 'hold', id, slot: name, rank, url });
  }

  drop(name: string): void {
    const slot = this.slots.get(name);
    if (!slot) return;
    this.slots.delete(name);
    this.send(slot.worker, { type: 'drop', slot: name });
  }

  /** Renders what a slot holds as soon as it can; the print comes with the word `of` it was asked under. */
  render(name: string, job: Job, of: string): void {
    const slot = this.slots.get(name);
    if (!slot) return;
    slot.wanted = { job, of };
    this.start(slot.worker);
  }

  /** Gives up what a slot was asked to render, as far as it is not finished. */
  stop(name: string): void {
    const slot = this.slots.get(name);
    if (!slot) return;
    slot.wanted = null;
    if (slot.under) this.send(slot.worker, { type: 'stop', id: slot.under.id });
  }

  /** Whether a slot has nothing left to render. */
  rests(name: string): boolean { const slot = this.slots.get(name); return !slot || (slot.under === null && slot.wanted === null); }

  close(): void { for (const worker of this.workers) worker.terminate(); }

  private send(worker: number, request: Request): void { this.workers[worker]!.postMessage(request); }

  /** Gives a worker what waits for it, by rank. */
  private start(worker: number): void {
    for (;;) {
      let best: [string, Slot] | null = null;
      for (const entry of this.slots) { const s = entry[1]; if (s.worker === worker && s.ready && s.under === null && s.wanted && (!best || s.rank < best[1].rank)) best = entry; }
      if (!best || (this.given[worker]! >= depth && best[1].rank > 0)) return;
      const [name, slot] = best, { job, of } = slot.wanted!, id = this.next++;
      slot.wanted = null;
      slot.under = { id, of };
      this.given[worker]!++;
      this.send(worker, { type: 'render', id, slot: name, job });
    }
  }

  private answered(worker: number, answer: Answer): void {
    if (answer.type === 'rendered' || answer.type === 'unrendered' || answer.type === 'stopped') this.given[worker]!--;
    const slot = this.slots.get(answer.slot);
    if (slot && answer.type === 'held' && answer.id === slot.hold) slot.ready = true;
    else if (slot && answer.type === 'failed' && answer.id === slot.hold) { slot.wanted = null; slot.failed(answer.message); }
    else if (slot?.under && answer.type === 'stopped' && answer.id === slot.under.id) slot.under = null;
    else if (slot?.under && (answer.type === 'rendered' || answer.type === 'unrendered') && answer.id === slot.under.id) {
      const { id, of } = slot.under;
      slot.under = null;
      if (answer.type === 'rendered') {
        slot.printed = { id, of };
        if (answer.readouts) slot.read(answer.readouts, of);
        slot.done({ width: answer.width, height: answer.height, rgba: new Uint8ClampedArray(answer.rgba) }, of);
      } else slot.failed(answer.message);
    } else if (slot?.printed && answer.type === 'read' && answer.id === slot.printed.id) slot.read(answer.readouts, slot.printed.of);
    this.start(worker);
  }
}
