import type { histogramOf, Plan } from '@dyepot/core';
import type { Answer, Request } from './renderWorker.ts';

/** A finished piece of picture. */
export interface Piece { width: number; height: number; rgba: Uint8ClampedArray<ArrayBuffer>; histogram: ReturnType<typeof histogramOf> | null }
interface Slot { worker: number; url: string; ready: boolean; /** number of the request under way, 0 for none; answers to older ones are dropped */ under: number; wanted: { plan: Plan; counted: boolean } | null; origin: { x: number; y: number }; done: (piece: Piece) => void; failed: (message: string) => void }

/**
 * Two render workers and the pieces they hold. Each slot renders one plan at a time; while it is busy only the
 * newest plan waits, so a drag is never behind by more than one picture.
 */
export class Darkroom {
  private readonly workers = [0, 1].map(() => new Worker(new URL('./renderWorker.ts', import.meta.url), { type: 'module' }));
  private readonly slots = new Map<string, Slot>();
  private next = 1;

  constructor() {
    for (const worker of this.workers) worker.onmessage = ({ data }: MessageEvent<Answer>) => this.answered(data);
  }

  /** Puts a piece of plate into a slot (worker 0 or 1), replacing what was there. */
  hold(name: string, worker: number, url: string, origin: { x: number; y: number }, done: Slot['done'], failed: Slot['failed']): void {
    const before = this.slots.get(name);
    const wanted = before?.wanted ?? null;
    this.slots.set(name, { worker, url, ready: false, under: 0, wanted, origin, done, failed });
    this.send(worker, { type: 'hold', slot: name, url });
  }

  drop(name: string): void {
    const slot = this.slots.get(name);
    if (!slot) return;
    this.slots.delete(name);
    this.send(slot.worker, { type: 'drop', slot: name });
  }

  /** Renders a slot under a plan as soon as it can. */
  render(name: string, plan: Plan, counted = false): void {
    const slot = this.slots.get(name);
    if (!slot) return;
    slot.wanted = { plan, counted };
    this.start(name, slot);
  }

  close(): void { for (const worker of this.workers) worker.terminate(); }

  private send(worker: number, request: Request): void { this.workers[worker]!.postMessage(request); }

  private start(name: string, slot: Slot): void {
    if (!slot.ready || slot.under !== 0 || !slot.wanted) return;
    const { plan, counted } = slot.wanted;
    slot.wanted = null;
    slot.under = this.next++;
    this.send(slot.worker, { type: 'render', id: slot.under, slot: name, plan, origin: slot.origin, counted });
  }

  private answered(answer: Answer): void {
    const slot = this.slots.get(answer.slot);
    if (!slot) return;
    if (answer.type === 'failed') { slot.under = 0; slot.failed(answer.message); return; }
    if (answer.type === 'held') {
      if (answer.url !== slot.url) return;
      slot.ready = true;
    } else {
      if (answer.id !== slot.under) return;
      slot.under = 0;
      slot.done({ width: answer.width, height: answer.height, rgba: new Uint8ClampedArray(answer.rgba), histogram: answer.histogram });
    }
    this.start(answer.slot, slot);
  }
}
