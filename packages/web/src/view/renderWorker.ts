import {
  isAreaPass,
  isPointwise,
  masksReadPicture,
  needsGuide,
  maskPixels,
  type Area,
  drawingKey,
  drawPlate,
  knowsNothing,
  originOf,
  shownOf,
  wholeFor,
  loadKernels,
  readoutsOf,
  render,
  renderRows,
  type Drawing,
  type GuideDrawing,
  type WholePicture,
  type Kernels,
  type Pass,
  type Plan,
  type Plate,
  type ReadoutKind,
  type Readouts,
} from '@dyepot/core';
import { draftFrom, goOn, nothingKept, type Kept } from './kept.ts';
import kernelsUrl from '@dyepot/core/src/render/kernels.wasm?url';

/** One picture to make of what a slot holds. `guide` says where the frame's small plate is, for plans that need it. */
export interface Job {
  plan: Plan;
  drawing: Drawing;
  guide: { url: string; drawing: GuideDrawing } | null;
  /** for the moment: by a table of what the hand moves, where one can stand for it */
  draft?: boolean;
  /** a part of what the slot holds, drawn once: nothing is kept of it */
  apart?: boolean;
  /** `of`: how many pixels are read of all bands */
  readout: { kind: ReadoutKind; part: Area | null; of: number } | null;
}
/** Asks a worker to hold a piece of a plate under a slot's name, or to render what a slot holds. */
export type Request =
  | { type: 'hold'; id: number; slot: string; rank: number; url: string }
  | { type: 'drop'; slot: string }
  | { type: 'render'; id: number; slot: string; job: Job }
  /** gives up a render that waits; one that was `begun` too, if said */
  | { type: 'stop'; id: number; begun: boolean };
export type Answer =
  | { type: 'held'; id: number; slot: string }
  | { type: 'failed'; id: number; slot: string; message: string }
  | { type: 'unrendered'; id: number; slot: string; message: string }
  | { type: 'stopped'; id: number; slot: string }
  /** what is read off a small picture comes with it */
  | { type: 'rendered'; id: number; slot: string; width: number; height: number; rgba: ArrayBuffer; readouts: Readouts | null }
  /** what was read off a picture already sent */
  | { type: 'read'; id: number; slot: string; readouts: Readouts };

interface Held {
  rank: number;
  piece: Plate;
  drawn: { key: string; plate: Plate } | null;
  kept: Kept;
}
const slots = new Map<string, Held>(),
  /** the newest request to hold for each slot */ asked = new Map<string, number>(),
  smallPlates = new Map<string, Promise<Plate>>();
const kernels: Promise<Kernels> = fetch(kernelsUrl)
  .then((r) => r.arrayBuffer())
  .then((bytes) => loadKernels(bytes));
const post = (answer: Answer, transfer: Transferable[] = []): void => (self as unknown as Worker).postMessage(answer, transfer);

/** A session that ran out is asked for on the page; what was under way waits for it. */
const loggedOut = 401,
  askAgainMs = 1500;
async function fetchPlate(url: string): Promise<Plate | { message: string }> {
  let response = await fetch(url);
  while (response.status === loggedOut) {
    await new Promise((r) => setTimeout(r, askAgainMs));
    response = await fetch(url);
  }
  if (!response.ok) {
    const body = (await response.json().catch(() => ({}))) as { message?: string };
    return { message: body.message ?? 'the frame could not be loaded' };
  }
  return {
    width: Number(response.headers.get('X-Width')),
    height: Number(response.headers.get('X-Height')),
    data: new Uint16Array(await response.arrayBuffer()),
  };
}

async function hold({ id, slot, rank, url }: Extract<Request, { type: 'hold' }>): Promise<void> {
  asked.set(slot, id);
  const piece = await fetchPlate(url);
  if (asked.get(slot) !== id) return;
  if ('message' in piece) return post({ type: 'failed', id, slot, message: piece.message });
  slots.set(slot, { rank, piece, drawn: null, kept: nothingKept() });
  post({ type: 'held', id, slot });
}

/** A number that tells long lists apart (FNV-1a over their bytes). */
function sumOf(list: Float32Array | Uint8Array): string {
  const bytes = new Uint8Array(list.buffer, list.byteOffset, list.byteLength);
  let sum = 0x811c9dc5;
  for (const b of bytes) sum = Math.imul(sum ^ b, 0x01000193);
  return `${bytes.length} ${sum >>> 0}`;
}

/** What plans lately asked needed to know of their whole pictures, newest last. */
const known = new Map<string, WholePicture>();
/** What a plan needs to know of the whole picture; kept as long as what stands before it stays. */
async function wholeOf(k: Kernels, { plan, guide }: Job): Promise<WholePicture> {
  if (!guide || !needsGuide(plan)) return knowsNothing;
  // what comes after the last pass that asks does not matter to it
  let last = plan.passes.length;
  while (last > 0 && (isPointwise(plan.passes[last - 1]!) || isAreaPass(plan.passes[last - 1]!))) last--;
  const key = JSON.stringify([guide.url, drawingKey(guide.drawing), plan.scene, plan.passes.slice(0, last)], (_, v: unknown) =>
    ArrayBuffer.isView(v) ? sumOf(v as Float32Array) : (v as Partial<Pass> | null)?.kernel === 'lensGain' ? 0 : v,
  );
  const kept = known.get(key);
  if (kept) return kept;
  const small = await (smallPlates.get(guide.url) ??
    (() => {
      const coming = fetchPlate(guide.url).then((p) => {
        if ('message' in p) throw new Error(p.message);
        return p;
      });
      smallPlates.set(guide.url, coming);
      return coming;
    })());
  if (masksReadPicture(plan)) await import('./foundEngine.ts');
  const whole = wholeFor(k, plan, guide.drawing, small);
  known.set(key, whole);
  if (known.size > 12) known.delete(known.keys().next().value!);
  return whole;
}

type Order = Extract<Request, { type: 'render' }>;
const waiting: Order[] = [],
  /** by slot, the picture sent whose readouts are still to be counted: when nothing else waits, and before the slot's next picture */ unread =
    new Map<string, () => void>(),
  stopped = new Set<number>();
/** Pixels between two looks at what has come in, and in pictures drawn without any. */
const stretch = 4e4,
  smallPicture = 1.5e5;
const channel = new MessageChannel();
let wake = (): void => {};
channel.port1.onmessage = () => wake();
/** Lets messages in. */
const breathe = (): Promise<void> =>
  new Promise((resolve) => {
    wake = resolve;
    channel.port2.postMessage(0);
  });
const rankOf = ({ slot }: Order): number => slots.get(slot)?.rank ?? 0;

/** Draws what a slot holds; what is more urgent goes between the rows of a large picture. */
async function draw({ id, slot, job }: Order): Promise<void> {
  count(slot);
  const k = await kernels,
    held = slots.get(slot);
  if (!held) throw new Error('the frame was let go');
  const { plan, drawing } = job,
    about = await wholeOf(k, job),
    key = drawing.view || drawing.detail || drawing.fringes ? drawingKey(drawing) : '';
  if (job.apart) {
    const own = drawPlate(k, drawing, held.piece),
      { width, height } = drawing.shown,
      rgba = shownOf(drawing, render(k, plan, own, originOf(drawing, about), 'rgba8'));
    return post({ type: 'rendered', id, slot, width, height, rgba: rgba.buffer, readouts: null }, [rgba.buffer]);
  }
  if (held.drawn?.key !== key) {
    held.drawn = { key, plate: drawPlate(k, drawing, held.piece) };
    held.kept = nothingKept();
  }
  if (drawing.detail?.mask) {
    const { plate: grey } = held.drawn,
      rgba = maskPixels(grey);
    post({ type: 'rendered', id, slot, width: grey.width, height: grey.height, rgba: rgba.buffer, readouts: null }, [rgba.buffer]);
    return;
  }
  const { plate } = held.drawn,
    origin = originOf(drawing, about),
    { shown } = drawing;
  // what stands before the change is kept, so that a drag only computes from there on
  const from = goOn(k, held.kept, plan, plate, origin),
    pixels = plate.width * plate.height,
    draft = job.draft && from ? draftFrom(k, plan, from) : null,
    drawn = draft ?? new Uint8Array(pixels * 4),
    large = pixels > smallPicture,
    rows = large ? Math.ceil(stretch / plate.width) : plate.height;
  for (let first = draft ? plate.height : 0; first < plate.height; first += rows) {
    if (first > 0) {
      await breathe();
      for (let urgent = next(held.rank); urgent; urgent = next(held.rank)) await draw(urgent).catch(unrendered(urgent));
      if (stopped.delete(id)) return post({ type: 'stopped', id, slot });
    }
    renderRows(k, plan, plate, origin, 'rgba8', from, { first, end: Math.min(plate.height, first + rows), into: drawn });
  }
  const rgba = shownOf(drawing, drawn);
  // what is read off a draft goes with it, off a whole picture after it
  const { readout } = job,
    read = (of: Uint8Array): Readouts => readoutsOf(of, shown.width, readout!.kind, readout!.part, draft !== null, readout!.of),
    later = large && !draft,
    copy = readout && later ? rgba.slice() : null;
  post(
    {
      type: 'rendered',
      id,
      slot,
      width: shown.width,
      height: shown.height,
      rgba: rgba.buffer,
      readouts: readout && !later ? read(rgba) : null,
    },
    [rgba.buffer],
  );
  if (copy) unread.set(slot, () => post({ type: 'read', id, slot, readouts: read(copy) }));
}

/** Takes the first of the most urgent that wait, if it is more urgent than `than`. */
function next(than: number): Order | null {
  const best = waiting.reduce<Order | null>((a, b) => (a && rankOf(a) <= rankOf(b) ? a : b), null);
  if (!best || rankOf(best) >= than) return null;
  waiting.splice(waiting.indexOf(best), 1);
  return best;
}
const unrendered =
  ({ id, slot }: Order) =>
  (error: unknown): void =>
    post({ type: 'unrendered', id, slot, message: error instanceof Error ? error.message : 'rendering stopped' });
function count(slot: string): void {
  const read = unread.get(slot);
  unread.delete(slot);
  read?.();
}
let working = false;
async function work(): Promise<void> {
  if (working) return;
  working = true;
  while (waiting.length > 0 || unread.size > 0) {
    const order = next(Infinity);
    if (order) await draw(order).catch(unrendered(order));
    else {
      count(unread.keys().next().value!);
      await breathe();
    }
  }
  working = false;
  stopped.clear();
}
function stop(id: number, begun: boolean): void {
  const order = waiting.find((o) => o.id === id);
  if (!order) {
    if (working && begun) stopped.add(id);
    return;
  }
  waiting.splice(waiting.indexOf(order), 1);
  post({ type: 'stopped', id, slot: order.slot });
}
function take(request: Request): void {
  if (request.type === 'hold')
    void hold(request).catch(() =>
      post({ type: 'failed', id: request.id, slot: request.slot, message: 'the frame could not be loaded: the server does not answer' }),
    );
  else if (request.type === 'drop') {
    asked.delete(request.slot);
    slots.delete(request.slot);
    unread.delete(request.slot);
  } else if (request.type === 'stop') stop(request.id, request.begun);
  else waiting.push(request);
}
self.onmessage = ({ data }: MessageEvent<Request[]>): void => {
  data.forEach(take);
  if (waiting.length > 0) void work();
};
