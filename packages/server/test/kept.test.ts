import { copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import sqlite3 from 'sqlite3';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { plainGroundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { emptyLook, newStep, type Look } from '@dyepot/core/src/look/look.ts';
import { root } from '../src/places.ts';
import { ask, call, data, end, finished, frames, names, open, origin, serve, shootWith, type Job, type Shoot } from './serverTrial.ts';

let shoot: Shoot;
beforeAll(async () => {
  await open();
  shoot = await shootWith('Kept');
});
afterAll(() => end());
interface Draft {
  id: number;
  version: number;
  look: Look;
  past: object[];
  now?: Draft;
}
const look = (name: string): Look => ({ ...emptyLook(name), print: [newStep('grade', 'g')] });
const wish = (l: Look, more: object = {}): object => ({ lookId: null, revision: null, look: l, past: [], future: [], ...more });

describe('a draft', () => {
  it('is kept with what can be undone of it, and is there after the server is killed', async () => {
    const begun = (await call<Draft>('POST', '/drafts', wish(look('Under way'), { past: [{ words: 'Grade' }] }))).body;
    expect((await call<Draft>('PUT', `/drafts/${begun.id}`, { ...wish(look('Further')), version: 1 })).body.version).toBe(2);
    await end('SIGKILL');
    await serve();
    const again = (await call<Draft>('GET', `/drafts/${begun.id}`)).body;
    expect([again.look.name, again.version]).toEqual(['Further', 2]);
    expect((await call<{ name: string; strip: string[] }[]>('GET', '/drafts')).body[0]).toMatchObject({ name: 'Further', steps: 2 });
  });
  it('is not written over by a window that did not see its last state', async () => {
    const begun = (await call<Draft>('POST', '/drafts', wish(look('Two windows')))).body;
    await call('PUT', `/drafts/${begun.id}`, { ...wish(look('First window')), version: 1 });
    const late = await call<Draft>('PUT', `/drafts/${begun.id}`, { ...wish(look('Second window')), version: 1 });
    expect([late.status, late.body.now!.look.name]).toEqual([409, 'First window']);
    expect(late.body.message).toMatch(/changed in another window/);
  });
  it('there is one for each look; it goes and comes back with it', async () => {
    const shelf = (await call<{ id: number }>('POST', '/looks', look('With a draft'))).body;
    const begun = (await call<Draft>('POST', '/drafts', wish(look('With a draft'), { lookId: shelf.id, revision: 1 }))).body;
    expect((await call('POST', '/drafts', wish(look('Another'), { lookId: shelf.id, revision: 1 }))).status).toBe(409);
    await call('DELETE', `/looks/${shelf.id}`);
    expect((await call('GET', `/drafts/${begun.id}`)).status).toBe(404);
    await call('POST', `/trash/look/${shelf.id}/restore`);
    expect((await call('GET', `/drafts/${begun.id}`)).status).toBe(200);
  });
  it('a revision that is not the newest is not saved onto unasked', async () => {
    const { id } = (await call<{ id: number }>('POST', '/looks', look('Newer'))).body;
    await call('POST', `/looks/${id}/revisions`, { look: look('Newer'), from: 1 });
    const late = await call('POST', `/looks/${id}/revisions`, { look: look('Newer'), from: 1 });
    expect([late.status, late.body.message]).toEqual([409, 'Newer is at revision 2, and this was made from revision 1']);
    expect((await call<{ revision: number }>('POST', `/looks/${id}/revisions`, { look: look('Newer'), from: null })).body.revision).toBe(3);
    expect((await call<object[]>('GET', `/looks/${id}/revisions`)).body).toHaveLength(3);
  });
});

describe('groundwork', () => {
  const id = (): number => shoot.frames[0]!.id;
  it('kept as a preset by an earlier version is read as this one has it; one that cannot be read hides no other', async () => {
    const preset = { camera: null, isoFrom: 0, isoTo: 900000, parts: ['detail'], groundwork: plainGroundwork },
      older = JSON.stringify({ format: 'dyepot-groundwork', version: 1, detail: { luminanceNoise: 50, colourNoise: 50 } });
    for (const name of ['Older', 'Broken', 'Sound']) await call('POST', '/groundwork-presets', { ...preset, name });
    await ask(`UPDATE groundwork_presets SET groundwork = '${older}' WHERE name = 'Older';
      UPDATE groundwork_presets SET groundwork = '{"format":"dyepot-groundwork","version":1,"detail":7}' WHERE name = 'Broken';`);
    const list = (await call<{ id: number; name: string; groundwork: typeof plainGroundwork }[]>('GET', '/groundwork-presets')).body;
    expect(list.map((p) => p.name)).toEqual(['Older', 'Sound']);
    expect(list[0]!.groundwork).toMatchObject({ version: 2, detail: { noise: { luma: { fine: 2.1, coarse: 2.1 } } } });
    expect((await call('PUT', `/frames/${id()}/groundwork`, { groundwork: list[0]!.groundwork })).status).toBe(200);
    for (const p of list) await call('DELETE', `/groundwork-presets/${p.id}`);
  });
  it.each([[[]], [{ grounwork: null }], [{}], [{ groundwork: { ...plainGroundwork, exposur: 1 } }], [{ groundwork: null, versoin: 1 }]])(
    'is not wiped by %j',
    async (body) => {
      await call('PUT', `/frames/${id()}/groundwork`, { groundwork: { ...plainGroundwork, exposureEv: 1 } });
      expect((await call('PUT', `/frames/${id()}/groundwork`, body)).status).toBe(400);
      const { groundwork } = (await call<{ groundwork: { exposureEv: number } }>('GET', `/frames/${id()}`)).body;
      expect(groundwork.exposureEv).toBe(1);
    },
  );
  it('saved from a window that did not see the last change is refused with what stands', async () => {
    const { groundVersion } = (await call<{ groundVersion: number }>('GET', `/frames/${id()}`)).body,
      save = (exposureEv: number): ReturnType<typeof call<{ now: { groundwork: { exposureEv: number } } }>> =>
        call('PUT', `/frames/${id()}/groundwork`, { groundwork: { ...plainGroundwork, exposureEv }, version: groundVersion });
    expect((await save(2)).status).toBe(200);
    const late = await save(3);
    expect([late.status, late.body.now.groundwork.exposureEv]).toEqual([409, 2]);
  });
  it('keeps what was done, in order, and refuses what is no such thing', async () => {
    const history = { past: [{ words: 'A', gesture: '', before: plainGroundwork }], future: [], snapshots: [], probes: [{ x: 0.5, y: 1 }] };
    expect((await call('PUT', `/frames/${id()}/history`, { history })).status).toBe(200);
    expect((await call<typeof history>('GET', `/frames/${id()}/history`)).body).toEqual(history);
    expect((await call('PUT', `/frames/${id()}/history`, { history: { ...history, past: [{ words: 1 }] } })).status).toBe(400);
  });
});

describe('what is taken out', () => {
  it('a frame comes back with its groundwork; its shoot too, with what it wore', async () => {
    const frame = shoot.frames[1]!;
    await call('PUT', `/frames/${frame.id}/groundwork`, { groundwork: { ...plainGroundwork, exposureEv: 0.7 } });
    await call('DELETE', `/frames/${frame.id}`);
    expect((await call<Shoot>('GET', `/shoots/${shoot.id}`)).body.frames).toHaveLength(3);
    const [item] = (await call<{ kind: string; id: number; words: string }[]>('GET', '/trash')).body;
    expect(item).toMatchObject({ kind: 'frame', id: frame.id, words: expect.stringMatching(/the raw stays at/) as string });
    await call('POST', `/trash/frame/${frame.id}/restore`);
    const back = (await call<{ groundwork: { exposureEv: number } }>('GET', `/frames/${frame.id}`)).body;
    expect(back.groundwork.exposureEv).toBe(0.7);
    await call('DELETE', `/shoots/${shoot.id}`);
    expect((await call('GET', `/shoots/${shoot.id}`)).status).toBe(404);
    await call('POST', `/trash/shoot/${shoot.id}/restore`);
    expect((await call<Shoot>('GET', `/shoots/${shoot.id}`)).body.frames).toHaveLength(4);
  });
  it('an upload’s copy is kept with its frame, and goes with it for good after 30 days, with its plates', async () => {
    const put = await fetch(`${origin}/api/shoots/${shoot.id}/upload?name=sent.dng`, {
      method: 'PUT',
      body: new Uint8Array(readFileSync(join(frames, 'TR-0472.dng'))),
    });
    const { path } = (await put.json()) as { path: string };
    await finished((await call<Job>('POST', `/shoots/${shoot.id}/import`, { paths: [path] })).body.id);
    const sent = (await call<Shoot>('GET', `/shoots/${shoot.id}`)).body.frames.find((f) => f.name === 'sent')!,
      plates = join(data, 'home', 'plates', sent.hash);
    await call('DELETE', `/frames/${sent.id}`);
    await end();
    await ask(`UPDATE frames SET deletedAt = datetime('now', '-29 days') WHERE id = ${sent.id}`);
    await serve({ DYEPOT_TIDY_MS: '0' });
    await new Promise((r) => setTimeout(r, 800));
    expect([existsSync(path), existsSync(plates)]).toEqual([true, true]);
    await end();
    // what came today is left alone by the sweep
    const { utimesSync } = await import('node:fs'),
      old = new Date(Date.now() - 2 * 86.4e6);
    for (const p of [plates, join(path, '..')]) utimesSync(p, old, old);
    await ask(`UPDATE frames SET deletedAt = datetime('now', '-31 days') WHERE id = ${sent.id}`);
    await serve({ DYEPOT_TIDY_MS: '0' });
    for (let i = 0; i < 100 && existsSync(path); i++) await new Promise((r) => setTimeout(r, 100));
    expect([existsSync(path), existsSync(join(path, '..')), existsSync(plates)]).toEqual([false, false, false]);
  });
});

describe('what belongs together', () => {
  it('a look without its revision, or one that cannot be read, hides no other', async () => {
    const before = (await call<object[]>('GET', '/looks')).body.length;
    await end();
    await ask(`INSERT INTO looks (name, family, revision, createdAt) VALUES ('Half written', '', 1, '2026-01-01');
      INSERT INTO looks (name, family, revision, createdAt) VALUES ('Spoilt', '', 1, '2026-01-01');
      INSERT INTO look_revisions (lookId, revision, document, strip, createdAt)
        SELECT id, 1, '{"format":"dyepot-look","version":1,"name":"Spoilt","scene":[],"print":[{"kind":"sparkle"}]}', '[]', '2026-01-01' FROM looks WHERE name = 'Spoilt';
      UPDATE frames SET groundwork = '{"format":"dyepot-groundwork","version":1,"exposureEv":99}' WHERE id = ${shoot.frames[3]!.id};`);
    await serve();
    const looks = (await call<{ name: string; broken: string | null }[]>('GET', '/looks')).body;
    expect(looks).toHaveLength(before + 2);
    expect(looks.filter((l) => l.broken).map((l) => [l.name, l.broken])).toEqual([
      ['Half written', 'revision 1 is not there'],
      ['Spoilt', 'step 1 of the print lane: there is no step kind called “sparkle”'],
    ]);
    const frame = (await call<{ groundwork: null; groundTrouble: string }>('GET', `/frames/${shoot.frames[3]!.id}`)).body;
    expect([frame.groundwork, frame.groundTrouble]).toEqual([null, expect.stringMatching(/exposureEv/)]);
    expect(
      (await call('POST', '/deliveries', { shootId: shoot.id, file: { format: 'jpeg', depth: 8, space: 'srgb', size: 300, quality: 80 } }))
        .body.message,
    ).toMatch(/groundwork kept for .* cannot be read/);
  });
  it('a folder of the version before has its raws told from their treatments, and nothing else changes', async () => {
    await end();
    const old = join(data, 'before-raws'),
      file = join(old, 'dyepot.sqlite');
    mkdirSync(old);
    copyFileSync(join(root, 'packages/server/test/golden/data-folder-5.sqlite'), file);
    await serve({ DYEPOT_DATA: old });
    const shoots = (await call<{ id: number; name: string }[]>('GET', '/shoots')).body,
      view = async (name: string): Promise<Shoot> => (await call<Shoot>('GET', `/shoots/${shoots.find((s) => s.name === name)!.id}`)).body;
    const demo = await view('Tansy Row, autumn catalogue'),
      again = await view('The same raws again');
    expect(demo.frames.map((f) => [f.name, f.light])).toEqual([
      ['TR-0412', 'North window'],
      ['TR-0437', 'Vat room, tungsten'],
    ]);
    // one raw in two shoots: one file's facts, two treatments
    expect(again.frames[0]).toMatchObject({ name: 'TR-0412', groundwork: null, hash: demo.frames[0]!.hash });
    expect(demo.frames[0]).toMatchObject({ groundVersion: 3, groundwork: { exposureEv: 0.75 }, width: 1632, look: null });
    expect((await call('GET', `/frames/${demo.frames[0]!.id}/history`)).body).toMatchObject({ probes: [{ x: 0.25, y: 0.5 }] });
    const [out] = (await call<{ id: number; name: string }[]>('GET', '/trash')).body;
    expect(out!.name).toBe('TR-0440');
    await call('POST', `/trash/frame/${out!.id}/restore`);
    expect((await view('Tansy Row, autumn catalogue')).frames.find((f) => f.name === 'TR-0440')).toMatchObject({
      doubt: 'its end is missing',
    });
    await end();
    const counted = await new Promise<{ raws: number; frames: number; broken: number }[]>((resolve, reject) => {
      const d = new sqlite3.Database(file);
      d.all(
        'SELECT (SELECT COUNT(*) FROM raws) AS raws, (SELECT COUNT(*) FROM frames) AS frames, (SELECT COUNT(*) FROM pragma_foreign_key_check) AS broken',
        (error, rows) => d.close(() => (error ? reject(error) : resolve(rows as never))),
      );
    });
    expect(counted).toEqual([{ raws: 3, frames: 4, broken: 0 }]);
    await serve();
  });
  it('a data folder of an earlier version opens with all that was in it', async () => {
    await end();
    const old = join(data, 'old');
    mkdirSync(old);
    copyFileSync(join(root, 'packages/server/test/golden/data-folder-4.sqlite'), join(old, 'dyepot.sqlite'));
    await serve({ DYEPOT_DATA: old });
    const [kept] = (await call<{ id: number; name: string }[]>('GET', '/shoots')).body,
      view = (await call<Shoot & { look: { revision: number; newest: number } }>('GET', `/shoots/${kept!.id}`)).body;
    expect([kept!.name, view.frames.map((f) => f.name), view.look.revision, view.look.newest]).toEqual([
      'Kept from before',
      ['TR-0412', 'TR-0437'],
      1,
      2,
    ]);
    expect(view.frames[0]).toMatchObject({ groundVersion: 0, groundwork: { exposureEv: 0.5 } });
    expect((await call<Job[]>('GET', '/jobs')).body.map((j) => [j.state, j.done])).toEqual([
      ['done', 2],
      ['done', 2],
    ]);
    expect(readdirSync(old)).toContain('running.lock');
    expect(statSync(join(old, 'dyepot.sqlite')).size).toBeGreaterThan(1e5);
    expect(names.length).toBe(4);
    await end();
    await serve();
  });
});
