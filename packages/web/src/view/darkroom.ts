import type { Readouts } from '@dyepot/core';
import type { Answer, Job, Request } from './renderWorker.ts';

/** A finished piece of picture. */
export interface Print {
  width: number;
  height: number;
  rgba: Uint8ClampedArray<ArrayBuffer>;
}
interface Slot {
  worker: number;
  rank: number;
  /** number of the request to hold its piece; answers to older ones are dropped */
  hold: number;
  ready: boolean;
  /** the render under way, and whether it was called back */
  under: { id: number; of: string; recalled: boolean; draft: boolean } | null;
  wanted: { job: Job; of: string } | null;
  /** since when what is wanted waits for drafts */
  since: number | null;
  /** number and word of the last print, whose readouts may follow */
  printed: { id: number; of: string } | null;
  done: (print: Print, of: string) => void;
  read: (readouts: Readouts, of: string) => void;
  failed: (message: string) => void;
}

/** From this rank on prints are shown together: each drawing of the page costs as much as several small pictures. */
export const lateRank = 3;
/** How long the first of them waits for the others, in milliseconds. */
const lateMs = 60;
/** How long anything waits for drafts at most, in milliseconds: a hand that never rests leaves none between them. */
const longestMs = 80;

/**
 * Two render workers and the pieces they hold. Each slot renders one plan at a time; while it is busy only the newest
 * plan waits, and one that a worker has not begun is called back for it. What goes first is the worker's to choose, by rank.
 */
export class Darkroom {
  private readonly workers = [0, 1].map(() => new Worker(new URL('./renderWorker.ts', import.meta.url), { type: 'module' }));
  private readonly slots = new Map<string, Slot>();
  private next = 1;
  /** prints that wait to be shown together */
  private late: (() => void)[] = [];
  private timer: ReturnType<typeof setTimeout> | undefined;
  /** what is gathered for each worker */
  private outbox: Request[][] | null = null;

  constructor() {
    for (const worker of this.workers) worker.onmessage = ({ data }: MessageEvent<Answer>) => this.together(() => this.answered(data));
  }

  /** Puts a piece of plate into a slot (worker 0 or 1), replacing what was there. Lower ranks go first: drafts, the lead, witnesses. */
  hold(
    name: string,
    worker: number,
    rank: number,
    url: string,
    done: Slot['done'],
    failed: Slot['failed'],
    read: Slot['read'] = () => {},
  ): void {
    const id = this.next++;
    this.slots.set(name, {
      worker,
      rank,
      hold: id,
      ready: false,
      under: null,
      wanted: this.slots.get(name)?.wanted ?? null,
      since: null,
      done,
      failed,
      read,
      printed: null,
    });
    this.send(worker, { type: 'hold', id, slot: name, rank, url });
    this.goOn();
  }

  drop(name: string): void {
    const slot = this.slots.get(name);
    if (!slot) return;
    this.slots.delete(name);
    this.send(slot.worker, { type: 'drop', slot: name });
    this.goOn();
  }

  /** Renders what a slot holds as soon as it can; the print comes with the word `of` it was asked under. */
  render(name: string, job: Job, of: string): void {
    const slot = this.slots.get(name);
    if (!slot) return;
    slot.wanted = { job, of };
    if (slot.under) this.recall(slot, false);
    else this.start(name, slot);
  }

  /** Gives up what a slot was asked to render, as far as it is not finished. */
  stop(name: string): void {
    const slot = this.slots.get(name);
    if (!slot) return;
    slot.wanted = slot.since = null;
    this.recall(slot, true);
  }

  /** Whether a slot has nothing left to render. */
  rests(name: string): boolean {
    const slot = this.slots.get(name);
    return !slot || (slot.under === null && slot.wanted === null);
  }

  close(): void {
    clearTimeout(this.timer);
    for (const worker of this.workers) worker.terminate();
  }

  /** What is asked for meanwhile goes to each worker in one message: the plan that bands share is then copied once. */
  together(ask: () => void): void {
    if (this.outbox) return ask();
    const out: Request[][] = this.workers.map(() => []);
    this.outbox = out;
    try {
      ask();
    } finally {
      this.outbox = null;
      out.forEach((requests, i) => {
        if (requests.length > 0) this.workers[i]!.postMessage(requests);
      });
    }
  }
  private send(worker: number, request: Request): void {
    if (this.outbox) this.outbox[worker]!.push(request);
    else this.workers[worker]!.postMessage([request]);
  }

  private recall({ under, worker }: Slot, begun: boolean): void {
    if (!under || (under.recalled && !begun)) return;
    under.recalled = true;
    this.send(worker, { type: 'stop', id: under.id, begun });
  }

  private start(name: string, slot: Slot): void {
    if (!slot.ready || slot.under || !slot.wanted) return;
    const { job, of } = slot.wanted,
      draft = job.draft === true || slot.rank === 0;
    // while the hand is followed, whatever else is drawn would take from it what a machine has
    if (!draft && this.drafting() && performance.now() - (slot.since ??= performance.now()) < longestMs) return;
    const id = this.next++;
    slot.wanted = slot.since = null;
    slot.under = { id, of, recalled: false, draft };
    this.send(slot.worker, { type: 'render', id, slot: name, job });
  }
  private drafting(): boolean {
    return [...this.slots.values()].some((s) => s.under?.draft);
  }
  /** What has waited for drafts begins if it may, the lowest rank first. */
  private goOn(): void {
    for (const [name, slot] of [...this.slots].sort(([, a], [, b]) => a.rank - b.rank)) this.start(name, slot);
  }

  /** Shows a print: at once, with what waits; or, of the late ones, when all others are there. */
  private show({ rank }: Slot, print: () => void): void {
    if (rank < lateRank) print();
    else this.late.push(print);
    if (rank < lateRank || ![...this.slots.values()].some((s) => s.rank >= lateRank && (s.under || s.wanted))) this.showLate();
    else this.timer ??= setTimeout(() => this.showLate(), lateMs);
  }
  private showLate(): void {
    clearTimeout(this.timer);
    this.timer = undefined;
    for (const print of this.late.splice(0)) print();
  }

  private answered(answer: Answer): void {
    const slot = this.slots.get(answer.slot);
    if (!slot) return;
    if (answer.type === 'held') {
      if (answer.id === slot.hold) slot.ready = true;
    } else if (answer.type === 'failed') {
      if (answer.id === slot.hold) {
        slot.wanted = null;
        slot.failed(answer.message);
      }
    } else if (answer.type === 'read') {
      if (answer.id === slot.printed?.id) slot.read(answer.readouts, slot.printed.of);
    } else if (answer.id === slot.under?.id) {
      const { id, of } = slot.under;
      slot.under = null;
      if (answer.type === 'unrendered') slot.failed(answer.message);
      else if (answer.type === 'rendered') {
        slot.printed = { id, of };
        if (answer.readouts) slot.read(answer.readouts, of);
        const print: Print = { width: answer.width, height: answer.height, rgba: new Uint8ClampedArray(answer.rgba) };
        this.show(slot, () => {
          if (this.slots.get(answer.slot) === slot) slot.done(print, of);
        });
      }
    }
    this.start(answer.slot, slot);
    this.goOn();
  }
}
