import { readFileSync, renameSync } from 'node:fs';
import { join } from 'node:path';
import { plainGroundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { call, data, end, finished, jpeg, names, open, raws, shootWith, type Job, type Shoot } from './serverTrial.ts';

type Dipped = Shoot['frames'][number] & { look: { id: number; revision: number } | null };
let shoot: Shoot, looks: { id: number; name: string }[];
beforeAll(async () => {
  await open();
  shoot = await shootWith('Dips');
  for (const [name, shiftMired] of [
    ['Warm', 60],
    ['Cold', -60],
  ] as const)
    expect(
      (
        await call('POST', '/looks', {
          format: 'dyepot-look',
          version: 2,
          name,
          family: '',
          scene: [{ id: 'warm', kind: 'warmth', params: { shiftMired } }],
          stock: { id: 'stock', kind: 'neutral' },
          print: [],
        })
      ).body.message,
    ).toBeUndefined();
  looks = (await call<{ id: number; name: string }[]>('GET', '/looks')).body;
});
afterAll(() => end());
const frames = async (): Promise<Dipped[]> => (await call<Shoot>('GET', `/shoots/${shoot.id}`)).body.frames as Dipped[];
const idOf = (name: string): number => looks.find((l) => l.name === name)!.id;

describe('a raw dipped twice', () => {
  it('stands beside itself, with its groundwork, and goes its own way from there', async () => {
    const first = shoot.frames[0]!;
    expect((await call('PUT', `/frames/${first.id}/groundwork`, { groundwork: { ...plainGroundwork, exposureEv: 0.5 } })).status).toBe(200);
    const { ids } = (await call<{ ids: number[] }>('POST', '/frames/dip', { ids: [first.id] })).body;
    await call('PUT', `/frames/${ids[0]}/groundwork`, { groundwork: { ...plainGroundwork, exposureEv: -1 } });
    const kin = (await frames()).filter((f) => f.hash === first.hash);
    expect(kin.map((f) => [f.name, f.groundwork?.exposureEv])).toEqual([
      [first.name, 0.5],
      [`${first.name} dip 2`, -1],
    ]);
  });
  it('one taken out and put back leaves the other alone; the raw is read once', async () => {
    const dip = (await frames()).find((f) => f.name.endsWith('dip 2'))!;
    await call('DELETE', `/frames/${dip.id}`);
    expect((await frames()).map((f) => f.name)).not.toContain(dip.name);
    await call('POST', `/trash/frame/${dip.id}/restore`);
    expect((await frames()).map((f) => f.name)).toContain(dip.name);
  });
  it('takes a number that none had, also when one has gone for good', async () => {
    const first = shoot.frames[0]!,
      { ids } = (await call<{ ids: number[] }>('POST', '/frames/dip', { ids: [first.id, first.id] })).body;
    await call('DELETE', `/frames/${ids[0]}`);
    expect((await call('DELETE', `/trash/frame/${ids[0]}`)).status).toBe(200);
    const again = (await call<{ ids: number[] }>('POST', '/frames/dip', { ids: [ids[1]] })).body.ids,
      names = (await frames()).filter((f) => f.hash === first.hash).map((f) => f.name);
    expect(names).toEqual([first.name, `${first.name} dip 2`, `${first.name} dip 4`, `${first.name} dip 5`]);
    for (const id of [ids[1], ...again]) await call('DELETE', `/frames/${id}`);
  });
  it('is found again with the other, since they are of one file', async () => {
    const file = join(raws, names[3]!),
      moved = join(data, 'moved.dng'),
      frame = shoot.frames[3]!;
    const { ids } = (await call<{ ids: number[] }>('POST', '/frames/dip', { ids: [frame.id] })).body;
    renameSync(file, moved);
    expect((await frames()).filter((f) => f.missing).map((f) => f.id)).toEqual([frame.id, ids[0]]);
    await call('POST', `/frames/${ids[0]}/find`, { path: moved });
    expect((await frames()).filter((f) => f.missing)).toEqual([]);
  });
  it('is not made of frames that are not there, nor without end', async () => {
    expect((await call('POST', '/frames/dip', { ids: [99999] })).status).toBe(404);
    expect((await call('POST', '/frames/dip', { ids: [] })).status).toBe(400);
    const [, other] = await frames();
    const many = Array.from({ length: 60 }, () => other!.id),
      before = (await frames()).length;
    const refused = await call('POST', '/frames/dip', { ids: many });
    expect([refused.status, refused.body.message]).toEqual([409, expect.stringMatching(/has 50 dips already/)]);
    // all of it or none
    expect(await frames()).toHaveLength(before);
  });
});

describe('a look of a frame’s own', () => {
  it('is worn instead of the shoot’s, in deliveries too, under the dip’s own name', async () => {
    await call('POST', `/shoots/${shoot.id}/look`, { lookId: idOf('Warm') });
    const dip = (await frames()).find((f) => f.name.endsWith('dip 2'))!;
    expect((await call('POST', '/frames/look', { ids: [dip.id], lookId: idOf('Cold') })).status).toBe(200);
    expect((await frames()).find((f) => f.id === dip.id)!.look).toEqual({ id: idOf('Cold'), revision: 1 });
    const kin = (await frames()).filter((f) => f.hash === dip.hash),
      folder = join(data, 'dipped');
    for (const f of kin) await call('PUT', `/frames/${f.id}/groundwork`, { groundwork: null });
    const job = await finished(
      (await call<Job>('POST', '/deliveries', { shootId: shoot.id, frameIds: kin.map((f) => f.id), folder, file: jpeg })).body.id,
    );
    expect(job.items.map((i) => i.output!.slice(folder.length + 1))).toEqual([`${kin[0]!.name}.jpg`, `${dip.name}.jpg`]);
    const [warm, cold] = job.items.map((i) => readFileSync(i.output!));
    // the shoot wearing the other look gives the dip's own picture to the frame
    await call('POST', `/shoots/${shoot.id}/look`, { lookId: idOf('Cold') });
    const other = await finished(
      (await call<Job>('POST', '/deliveries', { shootId: shoot.id, frameIds: [kin[0]!.id], folder: join(data, 'cold'), file: jpeg })).body
        .id,
    );
    expect(Buffer.compare(readFileSync(other.items[0]!.output!), cold!)).toBe(0);
    expect(Buffer.compare(warm!, cold!)).not.toBe(0);
  });
  it('is given back, and one that is not on the shelf is refused', async () => {
    const dip = (await frames()).find((f) => f.name.endsWith('dip 2'))!;
    expect((await call('POST', '/frames/look', { ids: [dip.id], lookId: 99999 })).status).toBe(404);
    expect((await call('POST', '/frames/look', { ids: [dip.id, 99999], lookId: null })).status).toBe(404);
    expect((await frames()).find((f) => f.id === dip.id)!.look).toEqual({ id: idOf('Cold'), revision: 1 });
    await call('POST', '/frames/look', { ids: [dip.id], lookId: null });
    expect((await frames()).find((f) => f.id === dip.id)!.look).toBeNull();
  });
});
