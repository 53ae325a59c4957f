import { developPlanes, histogramOf, loadKernels, render, type Kernels, type Plan, type Plate, type Planes } from '@dyepot/core';
import kernelsUrl from '@dyepot/core/src/render/kernels.wasm?url';

/** Asks a worker to hold a piece of a plate under a slot's name, or to render what a slot holds. */
export type Request =
  | { type: 'hold'; slot: string; url: string }
  | { type: 'drop'; slot: string }
  | { type: 'render'; id: number; slot: string; plan: Plan; origin: { x: number; y: number }; counted: boolean };
export type Answer =
  | { type: 'held'; slot: string; url: string; width: number; height: number }
  | { type: 'failed'; slot: string; message: string }
  /** nothing is held there any more, or rendering failed in the words of `message` */
  | { type: 'unrendered'; id: number; slot: string; message: string }
  | { type: 'rendered'; id: number; slot: string; width: number; height: number; rgba: ArrayBuffer; histogram: ReturnType<typeof histogramOf> | null };

interface Held { plate: Plate; last: Plan | null; kept: { count: number; plan: Plan; planes: Planes } | null }
const slots = new Map<string, Held>();
const kernels: Promise<Kernels> = fetch(kernelsUrl).then((r) => r.arrayBuffer()).then((bytes) => loadKernels(bytes));
const post = (answer: Answer, transfer: Transferable[] = []): void => (self as unknown as Worker).postMessage(answer, transfer);

const same = (a: ArrayLike<number>, b: ArrayLike<number>): boolean => {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
};
/** How many passes two plans begin with in common; −1 when already the scene stage differs. */
function commonPasses(a: Plan, b: Plan): number {
  if (!same(a.scene, b.scene)) return -1;
  let i = 0;
  while (i < a.passes.length && i < b.passes.length && a.passes[i]!.kernel === b.passes[i]!.kernel && same(a.passes[i]!.parameters, b.passes[i]!.parameters)) i++;
  return i;
}

async function hold({ slot, url }: Extract<Request, { type: 'hold' }>): Promise<void> {
  const response = await fetch(url);
  if (!response.ok) {
    const body = (await response.json().catch(() => ({}))) as { message?: string };
    return post({ type: 'failed', slot, message: body.message ?? 'the frame could not be loaded' });
  }
  const width = Number(response.headers.get('X-Width')), height = Number(response.headers.get('X-Height'));
  slots.set(slot, { plate: { width, height, data: new Uint16Array(await response.arrayBuffer()) }, last: null, kept: null });
  post({ type: 'held', slot, url, width, height });
}

async function draw({ id, slot, plan, origin, counted }: Extract<Request, { type: 'render' }>): Promise<void> {
  const k = await kernels, held = slots.get(slot);
  if (!held) return post({ type: 'unrendered', id, slot, message: '' });
  // what stands before the change is kept, so that a drag only computes from there on
  let from: { planes: Planes; count: number } | null = null;
  if (held.last) {
    const count = Math.min(commonPasses(held.last, plan), plan.passes.length);
    if (count >= 1) {
      // kept planes serve as long as the plan still begins as theirs did, unless the hand has moved on to a later step
      const serves = held.kept && held.kept.count <= count && commonPasses(held.kept.plan, plan) >= held.kept.count;
      if (!serves || count - held.kept!.count > 1) held.kept = { count, plan, planes: developPlanes(k, plan, held.plate, count) };
      from = held.kept;
    }
  }
  held.last = plan;
  const rgba = render(k, plan, held.plate, origin, 8, from);
  post({ type: 'rendered', id, slot, width: held.plate.width, height: held.plate.height, rgba: rgba.buffer, histogram: counted ? histogramOf(rgba) : null }, [rgba.buffer]);
}

let queue = Promise.resolve();
self.onmessage = ({ data }: MessageEvent<Request>): void => {
  if (data.type === 'hold') void hold(data).catch(() => post({ type: 'failed', slot: data.slot, message: 'the frame could not be loaded: the server does not answer' }));
  else if (data.type === 'drop') slots.delete(data.slot);
  else queue = queue.then(() => draw(data)).catch((error: unknown) => post({ type: 'unrendered', id: data.id, slot: data.slot, message: error instanceof Error ? error.message : 'rendering stopped' }));
};
