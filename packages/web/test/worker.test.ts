import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import { drawingOf, newStep, plan, render, emptyLook, type Look, type Plan, type Plate } from '@dyepot/core';
import { kernelsFile } from '@dyepot/server/src/places.ts';
import { loadKernels } from '@dyepot/core/src/kernels/kernels.ts';
import type { Answer, Job, Request } from '../src/view/renderWorker.ts';
import { trialFrame, trialProfile } from './trialFrame.ts';

const plateOf = (width: number, height: number): Plate => ({
  width,
  height,
  data: Uint16Array.from({ length: width * height * 3 }, (_, i) => 2048 + ((i * 7919) % 40000)),
});
const plates: Record<string, Plate> = { large: plateOf(900, 700), small: plateOf(120, 80) };
const looks = [5, 20, 60].map((change): Look => ({ ...emptyLook('t'), print: [{ ...newStep('saturation', 's'), params: { change } }] }));
let planned: Plan[];

const answers: Answer[] = [],
  worker: { onmessage: ((e: { data: Request[] }) => void) | null; postMessage: (a: Answer) => void } = {
    onmessage: null,
    postMessage: (a) => answers.push(a),
  };
const tell = (data: Request): void => worker.onmessage!({ data: [data] });
const until = async (come: () => boolean): Promise<void> => {
  for (let i = 0; i < 2000 && !come(); i++) await new Promise((r) => setTimeout(r, 2));
  expect(come()).toBe(true);
};
/** The worker's own messages, one a turn, as a browser passes them on between others. */
class TurnChannel {
  port1: { onmessage: (() => void) | null } = { onmessage: null };
  port2 = {
    postMessage: (): void => {
      setImmediate(() => this.port1.onmessage?.());
    },
  };
}
const turns = async (count: number): Promise<void> => {
  for (let i = 0; i < count; i++) await new Promise((r) => setImmediate(r));
};
const jobFor = (name: string, look: number): Job => ({
  plan: planned[look]!,
  drawing: drawingOf(null, trialFrame(plates[name]!.width, plates[name]!.height), 0, null),
  guide: null,
  readout: { kind: 'histogram', part: null, of: plates[name]!.width * plates[name]!.height },
});
const order = (): string[] => answers.filter((a) => a.type !== 'held').map((a) => `${a.type} ${a.id}`);

beforeAll(async () => {
  vi.stubGlobal('self', worker);
  vi.stubGlobal('MessageChannel', TurnChannel);
  vi.stubGlobal('fetch', async (url: string) => {
    const plate = plates[url];
    return plate
      ? new Response(plate.data.buffer as ArrayBuffer, { headers: { 'X-Width': String(plate.width), 'X-Height': String(plate.height) } })
      : url.includes('kernels')
        ? new Response(readFileSync(kernelsFile))
        : new Response('{"message":"no such plate"}', { status: 404 });
  });
  planned = looks.map((l) => plan(l, { profile: trialProfile, seed: 7 }, 'srgb'));
  await import('../src/view/renderWorker.ts');
  for (const [id, slot, rank] of [
    [1, 'large', 1],
    [2, 'small', 0],
  ] as const)
    tell({ type: 'hold', id, slot, rank, url: slot });
  await until(() => answers.length === 2);
});

describe('the render worker', () => {
  it('says when a plate cannot be had', async () => {
    answers.length = 0;
    tell({ type: 'hold', id: 3, slot: 'none', rank: 1, url: 'none' });
    await until(() => answers.length === 1);
    expect(answers[0]).toEqual({ type: 'failed', id: 3, slot: 'none', message: 'no such plate' });
  });
  it('draws what is more urgent between the rows of a large picture, and both come out as by themselves', async () => {
    answers.length = 0;
    tell({ type: 'render', id: 10, slot: 'large', job: jobFor('large', 0) });
    await turns(3);
    tell({ type: 'render', id: 11, slot: 'small', job: jobFor('small', 1) });
    await until(() => answers.some((a) => a.type === 'read'));
    expect(order()).toEqual(['rendered 11', 'rendered 10', 'read 10']);
    const kernels = await loadKernels(readFileSync(kernelsFile));
    for (const [name, look, id] of [
      ['large', 0, 10],
      ['small', 1, 11],
    ] as const) {
      const came = answers.find((a) => a.type === 'rendered' && a.id === id) as Extract<Answer, { type: 'rendered' }>,
        own = render(kernels, planned[look]!, plates[name]!, { x: 0, y: 0 }, 'rgba8');
      expect(Buffer.compare(Buffer.from(came.rgba), Buffer.from(own))).toBe(0);
      expect(came.readouts === null).toBe(name === 'large');
    }
    const read = answers.find((a) => a.type === 'read') as Extract<Answer, { type: 'read' }>;
    expect(read.readouts.histogram.pixels).toBe(900 * 700);
  });
  it('gives up a picture that was begun only when told so, and one that waits at once', async () => {
    answers.length = 0;
    tell({ type: 'render', id: 20, slot: 'large', job: jobFor('large', 1) });
    await turns(3);
    tell({ type: 'stop', id: 20, begun: false });
    await until(() => answers.some((a) => a.type === 'read'));
    expect(order()).toEqual(['rendered 20', 'read 20']);
    answers.length = 0;
    tell({ type: 'render', id: 21, slot: 'large', job: jobFor('large', 2) });
    await turns(3);
    tell({ type: 'render', id: 22, slot: 'large', job: jobFor('large', 0) });
    tell({ type: 'stop', id: 22, begun: false });
    tell({ type: 'stop', id: 21, begun: true });
    await until(() => answers.length === 2);
    expect(order()).toEqual(['stopped 22', 'stopped 21']);
  });
  it('readouts wait for other pictures, but not for the next of their own', async () => {
    answers.length = 0;
    tell({ type: 'hold', id: 4, slot: 'other', rank: 1, url: 'large' });
    await until(() => answers.length === 1);
    tell({ type: 'render', id: 25, slot: 'large', job: jobFor('large', 0) });
    tell({ type: 'render', id: 26, slot: 'other', job: jobFor('large', 1) });
    tell({ type: 'render', id: 27, slot: 'large', job: jobFor('large', 1) });
    await until(() => answers.filter((a) => a.type === 'read').length === 3);
    expect(order().slice(0, 4)).toEqual(['rendered 25', 'rendered 26', 'read 25', 'rendered 27']);
  });
  it('a stop that comes too late spoils no later picture', async () => {
    answers.length = 0;
    tell({ type: 'stop', id: 21, begun: true });
    tell({ type: 'render', id: 30, slot: 'large', job: jobFor('large', 2) });
    await until(() => answers.some((a) => a.type === 'read'));
    expect(order()).toEqual(['rendered 30', 'read 30']);
  });
  it('a slot let go is said so', async () => {
    answers.length = 0;
    tell({ type: 'drop', slot: 'small' });
    tell({ type: 'render', id: 40, slot: 'small', job: jobFor('small', 0) });
    await until(() => answers.length === 1);
    expect(answers[0]).toEqual({ type: 'unrendered', id: 40, slot: 'small', message: 'the frame was let go' });
  });
});
