import { copyFileSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { root } from '../src/places.ts';
import { call, data, end, open, origin, shootWith } from './serverTrial.ts';

interface EvenFrame {
  id: number;
  name: string;
  now: { ev: number; difference: number } | null;
  proposed: { difference: number } | null;
  why: string | null;
}
interface Even {
  missing: number;
  groups: { light: string; anchorId: number; named: boolean; frames: EvenFrame[] }[];
}
let id = 0;
const names = ['TR-0437', 'TR-0440', 'TR-0444', 'TR-0451', 'TR-0452'],
  even = async (): Promise<Even> => (await call<Even>('GET', `/shoots/${id}/evenness?under=none`)).body,
  framesNow = async (): Promise<{ id: number; name: string; light: string; rating: number; mark: string; groundwork: unknown }[]> =>
    (await call<{ frames: Awaited<ReturnType<typeof framesNow>> }>('GET', `/shoots/${id}`)).body.frames;
beforeAll(async () => {
  await open();
  const folder = join(data, 'even');
  mkdirSync(folder, { recursive: true });
  for (const n of names) copyFileSync(join(root, `packages/camera/frames/${n}.dng`), join(folder, `${n}.dng`));
  id = (await shootWith('Even', folder)).id;
});
afterAll(() => end());

describe('evenness of a shoot', () => {
  it('an import groups frames by their light; the groups can be asked for again', async () => {
    const lights = new Map<string, string[]>();
    for (const f of await framesNow()) lights.set(f.light, [...(lights.get(f.light) ?? []), f.name]);
    expect([...lights.values()]).toEqual([names.slice(0, 3), names.slice(3)]);
    const { body } = await call<{ light: string; ids: number[] }[]>('GET', `/shoots/${id}/lights`);
    expect(body.map((g) => g.ids.length)).toEqual([3, 2]);
  });
  it('frames are compared once; what stands out is proposed, taken, and given back in one step; the anchor can be named', async () => {
    expect((await even()).missing).toBeGreaterThan(0);
    await call('POST', `/shoots/${id}/evenness`);
    await expect.poll(async () => (await even()).missing, { timeout: 50_000, interval: 500 }).toBe(0);
    const before = await even(),
      out = before.groups.flatMap((g) => g.frames).filter((f) => f.why);
    expect(out.length).toBeGreaterThan(0);
    const pdf = await fetch(`${origin}/api/shoots/${id}/evenness.pdf?under=none`);
    expect([pdf.status, (await pdf.text()).slice(0, 5)]).toEqual([200, '%PDF-']);
    const { body: taken } = await call<{ was: { id: number; groundwork: null }[] }>('POST', `/shoots/${id}/match`, {
      ids: out.map((f) => f.id),
    });
    expect(taken.was.map((w) => w.groundwork)).toEqual(out.map(() => null));
    const after = await even();
    expect(after.groups.flatMap((g) => g.frames).filter((f) => f.why)).toEqual([]);
    await call('PUT', `/shoots/${id}/groundworks`, { frames: taken.was });
    expect((await framesNow()).every((f) => f.groundwork === null)).toBe(true);
    const { light, frames } = before.groups[0]!,
      other = frames.find((f) => f.id !== before.groups[0]!.anchorId)!;
    await call('PUT', `/shoots/${id}/anchor`, { light, frameId: other.id });
    expect((await even()).groups[0]).toMatchObject({ anchorId: other.id, named: true });
    const wrong = await call<{ message: string }>('PUT', `/shoots/${id}/anchor`, { light, frameId: after.groups[1]!.frames[0]!.id });
    expect([wrong.status, wrong.body.message]).toEqual([400, 'that frame does not stand in this light']);
  });
  it('frames are rated, marked and moved between lights together, all or none; nonsense changes nothing', async () => {
    const [first, second] = await framesNow(),
      { body } = await call<{ was: object[] }>('POST', '/frames/say', {
        frames: [
          { id: first!.id, rating: 4, mark: 'cover' },
          { id: second!.id, rating: -1, light: 'By the door' },
        ],
      });
    expect((await framesNow()).slice(0, 2)).toMatchObject([
      { rating: 4, mark: 'cover' },
      { rating: -1, light: 'By the door' },
    ]);
    await call('POST', '/frames/say', { frames: body.was });
    expect((await framesNow()).slice(0, 2)).toMatchObject([
      { rating: 0, mark: '', light: first!.light },
      { rating: 0, light: second!.light },
    ]);
    for (const frames of [
      [{ id: first!.id, rating: 9 }],
      [{ id: first!.id, mark: 'nonsense' }],
      [
        { id: first!.id, rating: 3 },
        { id: 99999, rating: 3 },
      ],
    ])
      expect((await call('POST', '/frames/say', { frames })).status).toBeGreaterThanOrEqual(400);
    expect((await framesNow())[0]).toMatchObject({ rating: 0, mark: '' });
    expect((await call('POST', `/shoots/${id}/match`, { ids: [first!.id], share: 7 })).status).toBe(400);
    expect((await call('POST', `/shoots/${id}/match`, {})).status).toBe(400);
  });
});
