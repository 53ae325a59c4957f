import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { emptyLook, newStep, type Look } from '@dyepot/core/src/look/look.ts';
import { common, maskOf, type Mask, type Stroke } from '@dyepot/core/src/mask/mask.ts';
import { copyFileSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { root } from '../src/places.ts';
import { call, data, end, finished, jpeg, open, shootWith, type Job } from './serverTrial.ts';

const raws = join(root, 'packages/camera/frames');

interface View {
  id: number;
  shootId: number;
  steps: { scene: { mask: Mask }[] } | null;
  stepsVersion: number;
  groundStamp: string;
}
let frame: View;
/** A frame of the demo alone in a shoot. */
async function frameOf(name: string): Promise<View> {
  const folder = join(data, name);
  mkdirSync(folder, { recursive: true });
  copyFileSync(join(raws, `${name}.dng`), join(folder, `${name}.dng`));
  const { id } = await shootWith(name, folder);
  return (await call<{ frames: View[] }>('GET', `/shoots/${id}`)).body.frames[0]!;
}
beforeAll(async () => {
  await open();
  frame = await frameOf('TR-0451');
});
afterAll(() => end());
const stroke: Stroke = { erase: false, size: 0.06, feather: 0.5, flow: 0.9, points: [4000, 5000, 100, 6000, 5200, 100] },
  brightened = (mask: Mask | null): object => ({
    format: 'dyepot-local',
    version: 1,
    scene: [{ ...newStep('exposure', 'x'), params: { shiftEv: 1.5 }, mask }],
    print: [],
    skeins: [],
    masks: [],
  }),
  put = (steps: object | null, version: number): ReturnType<typeof call<View>> =>
    call<View>('PUT', `/frames/${frame.id}/steps`, { steps, version });

describe('a frame’s own steps', () => {
  it('are kept with their version, told from another window’s, go with its pictures and deliveries, and stay when the look changes', async () => {
    const made = await put(brightened(maskOf({ ...common, kind: 'brush', strokes: [stroke] })), 0);
    expect([made.status, made.body.stepsVersion]).toEqual([200, 1]);
    expect(made.body.groundStamp).not.toBe(frame.groundStamp);
    const late = await put(null, 0);
    expect([late.status, late.body.message]).toEqual([409, 'the steps of TR-0451 were changed in another window']);
    expect((await call<View>('GET', `/frames/${frame.id}`)).body.steps!.scene[0]!.mask.parts[0]).toMatchObject({
      kind: 'brush',
      strokes: [stroke],
    });
    await call('POST', `/shoots/${frame.shootId}/look`, { lookId: null });
    expect((await call<View>('GET', `/frames/${frame.id}`)).body.stepsVersion).toBe(1);
    const job = await finished(
      (await call<Job>('POST', '/deliveries', { shootId: frame.shootId, folder: join(data, 'out'), file: jpeg })).body.id,
    );
    expect(job.state).toBe('done');
  });
  it('that are none are refused in words that say where, and change nothing', async () => {
    const said = async (steps: object): Promise<string> => {
      const r = await put(steps, 1);
      expect(r.status, JSON.stringify(r.body)).toBe(400);
      return r.body.message!;
    };
    const brush = (strokes: unknown): Mask => maskOf({ ...common, kind: 'brush', strokes: strokes as Stroke[] });
    expect(await said(brightened(brush([{ ...stroke, points: [1, 2, null] }])))).toMatch(/step 1 of the scene lane/);
    expect(await said(brightened(brush([{ ...stroke, size: 'NaN' }])))).toMatch(/“size”/);
    expect(await said(brightened(brush([{ ...stroke, points: Array.from({ length: 600_000 }, () => 1) }])))).toMatch(
      /strokes of 200000 points; at most 60000 fit/,
    );
    expect(await said(brightened(maskOf({ ...common, kind: 'named', mask: 'gone' })))).toMatch(/uses a place that is not there \(“gone”\)/);
    const itself = maskOf({ ...common, kind: 'named', mask: 'a' });
    expect(await said({ ...brightened(itself), masks: [{ id: 'a', name: 'Round and round', mask: itself }] })).toMatch(
      /“Round and round” is made of places with names/,
    );
    expect(await said({ ...brightened(null), scene: [{ ...newStep('exposure', 'x'), params: {}, skein: 'lost' }] })).toMatch(
      /in a skein that is not there/,
    );
    expect((await call<View>('GET', `/frames/${frame.id}`)).body.stepsVersion).toBe(1);
  });
  it('with a brush are refused in a look, with a sentence', async () => {
    const look: Look = {
      ...emptyLook('Mine'),
      scene: [{ ...newStep('exposure', 'x'), params: { shiftEv: 1 }, mask: maskOf({ ...common, kind: 'brush', strokes: [stroke] }) }],
    };
    const r = await call('POST', '/looks', look);
    expect([r.status, r.body.message]).toEqual([
      400,
      expect.stringMatching(/step 1 of the scene lane.*a brush belongs to one frame; a look cannot hold it/) as string,
    ]);
  });
});

describe('what is on a frame', () => {
  it('is found with how sure that is; indoors there is no sky', async () => {
    const found = (await call<Record<string, { sure: number; share: number }>>('GET', `/frames/${frame.id}/found`)).body;
    expect(found['sky']!.sure).toBeGreaterThan(0.9);
    expect(found['sky']!.share).toBeGreaterThan(0.25);
    expect(found['foliage']!.share).toBeGreaterThan(0.3);
    const other = await frameOf('TR-0412');
    expect((await call<Record<string, { sure: number; share: number }>>('GET', `/frames/${other.id}/found`)).body['sky']).toMatchObject({
      share: 0,
    });
  });
  it('gives the light that comes to a step at a place; a step that acts everywhere says so', async () => {
    const look = (mask: Mask | null): Look => ({
        ...emptyLook('t'),
        scene: [{ ...newStep('exposure', 'x'), params: { shiftEv: 1 }, mask }],
      }),
      ask = (l: Look, y: number): ReturnType<typeof call<{ lab: number[] }>> =>
        call<{ lab: number[] }>('POST', `/frames/${frame.id}/light`, { look: l, steps: null, of: 'x', at: { x: 0.5, y } });
    const picked = look(maskOf({ ...common, kind: 'colour', picks: [], reach: 0.1, softness: 0.5 }));
    const [sky, grass] = [(await ask(picked, 0.1)).body.lab, (await ask(picked, 0.9)).body.lab];
    expect(sky[0]).toBeGreaterThan(grass[0]! + 0.4);
    // grass is greenish: a under nothing
    expect(grass[1]).toBeLessThan(0);
    expect((await ask(look(null), 0.5)).status).toBe(404);
    // one that does nothing yet has its place all the same
    const idle = look(picked.scene[0]!.mask);
    idle.scene[0]!.params = { shiftEv: 0 };
    expect((await ask(idle, 0.9)).body.lab).toEqual(grass);
  });
});
