import { copyFileSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ColourCorrection } from '@dyepot/core/src/groundwork/colours.ts';
import type { Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { ask, call, data, end, finished, frames, jpeg, open, type Job } from './serverTrial.ts';

interface Frame {
  id: number;
  name: string;
  light: string;
  camera: string;
  groundwork: Groundwork | null;
  groundVersion: number;
  finished: string | null;
}
interface Was {
  id: number;
  groundwork: Groundwork | null;
  version: number;
}
interface Said {
  camera: string;
  frameId: number | null;
  count: number;
  before: number;
  corrections: { correction: ColourCorrection; unseen: number; others: { before: number; after: number } | null }[];
}
interface Even {
  missing: number;
  groups: { light: string; anchorId: number; frames: { id: number; now: { ev: number; difference: number } | null }[] }[];
}
interface Light {
  light: string;
  count: number;
  move: { ev: number; mired: number; duv: number };
  by: string;
}
let id = 0;
const shown = async (): Promise<Frame[]> => (await call<{ frames: Frame[] }>('GET', `/shoots/${id}`)).body.frames,
  even = async (): Promise<Even> => (await call<Even>('GET', `/shoots/${id}/evenness`)).body,
  compared = async (): Promise<Even> => {
    for (;;) {
      const now = await even();
      if (now.missing === 0) return now;
      await call('POST', `/shoots/${id}/evenness`);
      await new Promise((r) => setTimeout(r, 300));
    }
  },
  bring = async (...names: string[]): Promise<void> => {
    const folder = join(data, names.join());
    mkdirSync(folder);
    for (const name of names) copyFileSync(join(frames, `${name}.dng`), join(folder, `${name}.dng`));
    await finished((await call<Job>('POST', `/shoots/${id}/folder`, { folder })).body.id);
  },
  said = async (): Promise<{ kept: Record<string, ColourCorrection>; said: Said[] }> =>
    (await call<{ kept: Record<string, ColourCorrection>; said: Said[] }>('GET', `/shoots/${id}/colours`)).body;
beforeAll(async () => {
  await open();
  id = (await call<{ id: number }>('POST', '/shoots', { name: 'Charted' })).body.id;
  await bring('TR-0455', 'TR-0451', 'TR-0470');
  for (const f of await shown())
    await call('POST', '/frames/say', { frames: [{ id: f.id, light: f.name === 'TR-0470' ? 'Moor' : 'Dusk' }] });
  await call('PUT', `/shoots/${id}/matching`, { by: 'chart' });
  await compared();
}, 150_000);
afterAll(() => end());

describe('a camera’s colours by the charts of a shoot', () => {
  it('each chart by itself and both together: nearer to what is published, judged by what was left out, and by the other', async () => {
    const all = (await said()).said;
    expect(all.map((s) => s.count)).toEqual([1, 1, 2]);
    for (const s of all)
      for (const { correction, unseen, others } of s.corrections) {
        expect(correction.after).toBeLessThan(s.before);
        expect(unseen).toBeGreaterThan(0);
        expect(others === null).toBe(s.count === 2);
      }
  });
  it('is kept for every frame of that camera, and for those brought in later; taken back all is as it was', async () => {
    const before = await shown(),
      { camera, corrections } = (await said()).said.at(-1)!,
      { correction } = corrections[1]!,
      kept = await call<{ was: Was[]; before: ColourCorrection | null }>('PUT', `/shoots/${id}/colours`, { camera, correction });
    expect(kept.body.before).toBe(null);
    for (const f of await shown()) expect(f.groundwork?.colours).toEqual(correction);
    await bring('TR-0452');
    const later = (await shown()).find((f) => f.name === 'TR-0452')!;
    expect(later.groundwork?.colours).toEqual(correction);
    await call('POST', '/frames/say', { frames: [{ id: later.id, light: 'Dusk' }] });
    // its chart is what it was; what is judged is the camera, not the frame
    expect((await said()).kept).toEqual({ [camera]: correction });
    const back = await call('PUT', `/shoots/${id}/colours`, { camera, correction: null, frames: kept.body.was });
    expect(back.status).toBe(200);
    expect((await said()).kept).toEqual({});
    for (const f of before) expect((await shown()).find((n) => n.id === f.id)!.groundwork).toEqual(f.groundwork);
    // what came meanwhile had nothing but the correction
    expect((await shown()).find((f) => f.id === later.id)!.groundwork?.colours ?? null).toBe(null);
  });
  it('is not given to finished pictures of the same camera, nor written over groundwork that cannot be read', async () => {
    const { camera, corrections } = (await said()).said[0]!,
      { correction } = corrections[0]!,
      into = join(data, 'finished'),
      [spoilt] = await shown(),
      those = async (ids: number[]): Promise<Frame[]> => (await shown()).filter((f) => ids.includes(f.id));
    const job = await call<Job>('POST', '/deliveries', { shootId: id, frameIds: [spoilt!.id], folder: into, file: { ...jpeg, size: 600 } });
    await finished(job.body.id);
    await finished((await call<Job>('POST', `/shoots/${id}/folder`, { folder: into, finished: true })).body.id);
    const picture = (await shown()).find((f) => f.finished)!;
    expect(picture.camera).toBe(camera);
    await ask(`UPDATE frames SET groundwork = '{"format":"dyepot-groundwork","version":1,"exposureEv":99}' WHERE id = ${spoilt!.id}`);
    const before = await those([spoilt!.id, picture.id]),
      { was } = (await call<{ was: Was[] }>('PUT', `/shoots/${id}/colours`, { camera, correction })).body;
    expect(was.map((w) => w.id)).not.toContain(picture.id);
    expect(was.map((w) => w.id)).not.toContain(spoilt!.id);
    expect(was.length).toBe((await shown()).length - 2);
    expect(await those([spoilt!.id, picture.id])).toEqual(before);
    await call('PUT', `/shoots/${id}/colours`, { camera, correction: null, frames: was });
    await ask(`UPDATE frames SET groundwork = NULL WHERE id = ${spoilt!.id}`);
    await call('DELETE', `/frames/${picture.id}`);
  });
  it('of a change that cannot be written whole, neither the frames nor the shoot keep anything', async () => {
    const { camera, corrections } = (await said()).said[0]!,
      frames = await shown();
    const refused = await call<{ message: string }>('PUT', `/shoots/${id}/colours`, {
      camera,
      correction: corrections[0]!.correction,
      frames: [{ id: frames[0]!.id, groundwork: null, version: frames[0]!.groundVersion + 5 }],
    });
    expect([refused.status, refused.body.message]).toEqual([409, expect.stringContaining('changed meanwhile')]);
    expect((await said()).kept).toEqual({});
    expect(await shown()).toEqual(frames);
  });
  it('refuses a camera that is not there, and rows that would colour greys; nothing changes by it', async () => {
    const { camera, corrections } = (await said()).said[0]!,
      { correction } = corrections[0]!,
      versions = (await shown()).map((f) => f.groundVersion);
    for (const wrong of [
      { camera: 'Nobody’s', correction },
      { camera, correction: { ...correction, rows: correction.rows.map((v) => v * 1.2) } },
      { camera, correction: { kind: 'matrix' } },
      { camera },
    ])
      expect((await call('PUT', `/shoots/${id}/colours`, wrong)).status).toBe(400);
    expect((await shown()).map((f) => f.groundVersion)).toEqual(versions);
  });
});

describe('which parts are proposed', () => {
  it('are the shoot’s to choose: ends and contrast come along where they are asked for, and half way is half', async () => {
    const { groups } = await compared(),
      dusk = groups.find((g) => g.light === 'Dusk')!,
      frame = dusk.frames.find((f) => f.id !== dusk.anchorId)!;
    const proposed = async (): Promise<Groundwork> => {
      await compared();
      const { groups: now } = (
        await call<{ groups: { frames: { id: number; groundwork: Groundwork }[] }[] }>('GET', `/shoots/${id}/evenness`)
      ).body;
      return now.flatMap((g) => g.frames).find((f) => f.id === frame.id)!.groundwork;
    };
    const plain = await proposed();
    expect([plain.ends, plain.zones.ev]).toEqual([{ black: 0, whiteEv: 3.4 }, [0, 0, 0, 0, 0]]);
    const parts = { exposure: false, balance: false, ends: true, contrast: true };
    expect((await call('PUT', `/shoots/${id}/matching`, { parts })).status).toBe(200);
    const other = await proposed();
    expect(other.exposureEv).toBe(0);
    expect(other.balance.kind).toBe('asShot');
    expect(other.zones.ev.some((v) => v !== 0)).toBe(true);
    expect(other.ends).not.toEqual(plain.ends);
    const { was } = (await call<{ was: Was[] }>('POST', `/shoots/${id}/match`, { ids: [frame.id], share: 0.5 })).body,
      taken = (await shown()).find((f) => f.id === frame.id)!.groundwork!;
    taken.zones.ev.forEach((v, i) => expect(v).toBeCloseTo(other.zones.ev[i]! / 2, 6));
    expect(taken.ends.whiteEv).toBeCloseTo((3.4 + other.ends.whiteEv) / 2, 6);
    await call('PUT', `/shoots/${id}/groundworks`, { frames: was });
    expect((await call('PUT', `/shoots/${id}/matching`, { parts: { exposure: 'yes' } })).status).toBe(400);
    await call('PUT', `/shoots/${id}/matching`, { parts: { exposure: true, balance: true, ends: false, contrast: false } });
  });
});

describe('lights brought to one another', () => {
  const asked = (query: string): Promise<{ status: number; body: Light[] & { message?: string } }> =>
    call<Light[]>('GET', `/shoots/${id}/light-to-light?${query}`);
  it('in brightness alone: every frame of the light is moved by one amount, so that it is as even as it was', async () => {
    const before = await compared(),
      grounds = await shown(),
      [moor] = (await asked('to=Dusk&exposure=true&balance=false')).body;
    expect(moor).toMatchObject({ light: 'Moor', count: 1, by: 'the chart', move: { mired: 0, duv: 0 } });
    // the other way round it is the same way back
    const [dusk] = (await asked('to=Moor&exposure=true&balance=false')).body;
    expect(dusk!.move.ev).toBeCloseTo(-moor!.move.ev, 1);
    const { was } = (
      await call<{ was: Was[] }>('POST', `/shoots/${id}/light-to-light`, { to: 'Moor', lights: ['Dusk'], exposure: true, balance: false })
    ).body;
    expect(was).toHaveLength(dusk!.count);
    for (const f of await shown())
      if (f.light === 'Dusk')
        expect(f.groundwork!.exposureEv - (grounds.find((g) => g.id === f.id)!.groundwork?.exposureEv ?? 0)).toBeCloseTo(dusk!.move.ev, 3);
    const after = await compared(),
      of = (e: Even): (number | undefined)[] => e.groups.find((g) => g.light === 'Dusk')!.frames.map((f) => f.now?.ev);
    of(after).forEach((v, i) => expect(v).toBeCloseTo(of(before)[i]!, 2));
    await call('PUT', `/shoots/${id}/groundworks`, { frames: was });
    for (const f of grounds) expect((await shown()).find((n) => n.id === f.id)!.groundwork).toEqual(f.groundwork);
  });
  it('in the light’s colour too, without a chart by the middle of their tones and near greys; a light that is not there is said', async () => {
    await call('PUT', `/shoots/${id}/matching`, { by: 'statistics' });
    const [moor] = (await asked('to=Dusk&exposure=true&balance=true')).body;
    expect(moor!.by).toContain('the middle of their tones');
    expect(Number.isFinite(moor!.move.ev + moor!.move.mired)).toBe(true);
    expect((await asked('to=Nowhere&exposure=true&balance=true')).status).toBe(404);
    expect((await asked('to=Dusk')).status).toBe(400);
  });
});

describe('on every small picture', () => {
  it('how far a frame is off its light is known once it is compared, and follows what is done to it', async () => {
    const marks = async (): Promise<{ tolerance: number; off: Record<string, number> }> =>
        (await call<{ tolerance: number; off: Record<string, number> }>('GET', `/shoots/${id}/even`)).body,
      { groups } = await compared(),
      first = await marks();
    for (const f of groups.flatMap((g) => g.frames)) expect(first.off[f.id]).toBe(f.now!.difference);
    const dusk = groups.find((g) => g.light === 'Dusk')!,
      frame = dusk.frames.find((f) => f.id !== dusk.anchorId)!;
    const { was } = (await call<{ was: Was[] }>('POST', `/shoots/${id}/match`, { ids: [frame.id] })).body;
    expect((await marks()).off[frame.id]).toBeLessThan(1);
    await call('PUT', `/shoots/${id}/groundworks`, { frames: was });
    expect(await marks()).toEqual(first);
  });
});
