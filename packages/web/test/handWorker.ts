import { vi } from 'vitest';
import type { Job, Request, Answer } from '../src/view/renderWorker.ts';

/** A worker that does nothing by itself: the test answers for it. */
export class HandWorker {
  static all: HandWorker[] = [];
  sent: Request[] = [];
  /** how many messages they came in */
  messages = 0;
  onmessage: ((e: { data: Answer }) => void) | null = null;
  constructor() {
    HandWorker.all.push(this);
  }
  postMessage(requests: Request[]): void {
    this.messages++;
    this.sent.push(...requests);
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

/** A darkroom of two such workers, and the first of them. */
export const open = async (): Promise<{ room: InstanceType<typeof import('../src/view/darkroom.ts').Darkroom>; worker: HandWorker }> => {
  HandWorker.all = [];
  vi.stubGlobal('Worker', HandWorker);
  const { Darkroom } = await import('../src/view/darkroom.ts');
  return { room: new Darkroom(), worker: HandWorker.all[0]! };
};
export const job = (n: number): Job => ({
  plan: { scene: [n], passes: [], space: 'srgb', seed: 1 },
  drawing: null as never,
  guide: null,
  readout: null,
});
export const done = (worker: HandWorker, r: Extract<Request, { type: 'render' }>): void =>
  worker.say({ type: 'rendered', id: r.id, slot: r.slot, width: 1, height: 1, rgba: new ArrayBuffer(4), readouts: null });

export const holdOf = (worker: HandWorker, slot: string): number =>
  (worker.sent.filter((r) => r.type === 'hold' && r.slot === slot).at(-1) as Extract<Request, { type: 'hold' }>).id;
export const held = (worker: HandWorker, slot: string, id = holdOf(worker, slot)): void => worker.say({ type: 'held', id, slot });
