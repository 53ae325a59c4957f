import { existsSync, readdirSync, readFileSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import sqlite3 from 'sqlite3';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { emptyLook, newStep, type Look } from '@dyepot/core/src/look/look.ts';
import type { StoredPicture } from '@dyepot/core/src/formats/storedPicture.ts';
import { ask, call, data, end, open, origin, serve, shootWith } from './serverTrial.ts';

beforeAll(open);
afterAll(() => end());

const folder = join(data, 'home', 'documents'),
  lying = (): string[] => (existsSync(folder) ? readdirSync(folder).sort() : []);
async function bringIn(red: number): Promise<StoredPicture> {
  const png = await sharp({ create: { width: 90, height: 60, channels: 3, background: { r: red, g: 40, b: 20 } } })
      .png()
      .toBuffer(),
    r = await fetch(`${origin}/api/pictures/read?name=paper.png`, { method: 'POST', body: new Uint8Array(png) });
  return (await r.json()) as StoredPicture;
}
const printed = (name: string, picture: object): Look => ({
  ...emptyLook(name),
  print: [{ ...newStep('overprint', 'o'), params: { picture } as unknown as Look['print'][0]['params'] }],
});
const rows = (sql: string): Promise<Record<string, string>[]> =>
  new Promise((resolve, reject) => {
    const d = new sqlite3.Database(join(data, 'home', 'dyepot.sqlite'));
    d.all(sql, (error, all) => d.close(() => (error ? reject(error) : resolve(all as Record<string, string>[]))));
  });
/** As the pages ask. */
const byHash = async (method: string, path: string, body?: object): Promise<{ status: number; text: string }> => {
  const r = await fetch(`${origin}/api${path}`, {
    method,
    headers: { 'Content-Type': 'application/json', 'X-Kept-By-Hash': 'yes' },
    ...(body && { body: JSON.stringify(body) }),
  });
  return { status: r.status, text: await r.text() };
};

describe('a picture that looks use', () => {
  it('lies in the data folder once, by its content; looks say its hash there, and have it whole outside', async () => {
    const picture = await bringIn(200),
      [file] = lying();
    expect(lying()).toHaveLength(1);
    expect(JSON.parse(readFileSync(join(folder, file!), 'utf8'))).toEqual(picture);
    const one = (await call<{ id: number }>('POST', '/looks', printed('One', picture))).body,
      kept = { kept: file!.slice(0, 64) },
      two = await byHash('POST', '/looks', printed('Two', kept));
    expect([two.status, lying()]).toEqual([200, [file]]);
    expect(two.text).toContain(JSON.stringify(kept));
    const written = (await rows('SELECT document FROM look_revisions')).map((r) => r['document']!).filter((d) => d.includes('overprint'));
    expect(written).toHaveLength(2);
    for (const text of written) expect([text.includes(kept.kept), text.length < 3000]).toEqual([true, true]);
    const whole = (await call<{ document: Look }>('GET', `/looks/${one.id}`)).body.document;
    expect(whole.print[0]!.params['picture']).toEqual(picture);
    expect((await byHash('GET', `/documents/${kept.kept}`)).text).toBe(JSON.stringify(picture));
  });
  it('is said by its hash all through a draft and what can be undone of it', async () => {
    const picture = await bringIn(90),
      look = printed('Draft', picture),
      past = Array.from({ length: 30 }, (_, i) => ({ words: String(i), back: [look], forward: [look] })),
      begun = await byHash('POST', '/drafts', { lookId: null, revision: null, look, past, future: [] }),
      { id } = JSON.parse(begun.text) as { id: number };
    const sent = await byHash('GET', `/drafts/${id}`);
    expect(sent.text.length).toBeLessThan(40_000);
    const [row] = await rows(`SELECT past FROM drafts WHERE id = ${id}`);
    expect(row!['past']!.length).toBeLessThan(40_000);
    expect((await call<{ past: { back: Look[] }[] }>('GET', `/drafts/${id}`)).body.past[29]!.back[0]).toEqual(look);
  });
  it('stands whole in what leaves: a look’s file, and rows of an older folder, which are read as they are', async () => {
    const picture = await bringIn(140),
      { id } = (await call<{ id: number }>('POST', '/looks', printed('Older', picture))).body;
    await ask(`UPDATE look_revisions SET document = '${JSON.stringify(printed('Older', picture))}' WHERE lookId = ${id}`);
    await end();
    await serve();
    const { document } = (await call<{ document: Look }>('GET', `/looks/${id}`)).body;
    expect(document.print[0]!.params['picture']).toEqual(picture);
    const file = (await (await fetch(`${origin}/api/looks/${id}/file`, { headers: { 'X-Kept-By-Hash': 'yes' } })).json()) as Look;
    expect(file.print[0]!.params['picture']).toEqual(picture);
    await call('POST', `/looks/${id}/revisions`, { look: document, from: 1 });
    const [row] = await rows(`SELECT document FROM look_revisions WHERE lookId = ${id} AND revision = 2`);
    expect(row!['document']!.length).toBeLessThan(3000);
    expect((await call<{ document: Look }>('GET', `/looks/${id}`)).body.document.print[0]!.params['picture']).toEqual(picture);
  });
  it('laid over one frame alone is there in the frame and in its shoot', async () => {
    const picture = await bringIn(170),
      { id } = (await shootWith('Own')).frames[0]!,
      steps = { format: 'dyepot-local', version: 1, scene: [], print: printed('', picture).print, skeins: [], masks: [] };
    expect((await call('PUT', `/frames/${id}/steps`, { steps, version: 0 })).status).toBe(200);
    const [row] = await rows(`SELECT own FROM frames WHERE id = ${id}`);
    expect(row!['own']!.length).toBeLessThan(3000);
    const shoots = (await call<{ id: number; name: string }[]>('GET', '/shoots')).body,
      { frames } = (
        await call<{ frames: { id: number; steps: { print: Look['print'] } }[] }>(
          'GET',
          `/shoots/${shoots.find((s) => s.name === 'Own')!.id}`,
        )
      ).body;
    expect(frames.find((f) => f.id === id)!.steps.print[0]!.params['picture']).toEqual(picture);
  });
  it('that is not here is asked for whole, and nothing is kept of what spoke of it', async () => {
    const before = (await rows('SELECT id FROM looks')).length,
      r = await byHash('POST', '/looks', printed('Nowhere', { kept: 'a'.repeat(64) }));
    expect([r.status, r.text]).toEqual([424, expect.stringContaining('not kept here any more') as string]);
    expect(await rows('SELECT id FROM looks')).toHaveLength(before);
    // sent whole by one who has it no more, what can be undone hinders nothing, and the look itself is refused in words
    const gone = printed('Gone', { kept: 'b'.repeat(64) });
    expect((await call('POST', '/looks', gone)).body.message).toMatch(/bbbbbbbbbbbb….json is missing/);
    const draft = { lookId: null, revision: null, look: emptyLook('Here'), past: [{ words: 'x', back: [gone] }], future: [] };
    expect([(await byHash('POST', '/drafts', draft)).status, (await call('POST', '/drafts', draft)).status]).toEqual([424, 200]);
    for (const odd of ['../dyepot', 'a', 'A'.repeat(64)])
      expect((await byHash('GET', `/documents/${encodeURIComponent(odd)}`)).status).toBe(404);
  });
  it('whose file is damaged is said with its look, and hides no other', async () => {
    const picture = await bringIn(10),
      file = lying().find((f) => readFileSync(join(folder, f), 'utf8') === JSON.stringify(picture))!,
      { id } = (await call<{ id: number }>('POST', '/looks', printed('Damaged', picture))).body;
    writeFileSync(join(folder, file), readFileSync(join(folder, file), 'utf8').slice(0, 900));
    await end();
    await serve();
    const list = (await call<{ id: number; broken: string | null }[]>('GET', '/looks')).body;
    expect(list.find((l) => l.id === id)!.broken).toMatch(
      /“Picture”: documents\/[0-9a-f]{12}….json is missing from the data folder, or damaged/,
    );
    expect(list.filter((l) => l.broken !== null)).toHaveLength(1);
    // brought in again it is whole again
    await bringIn(10);
    await end();
    await serve();
    expect((await call<{ document: Look }>('GET', `/looks/${id}`)).body.document.print[0]!.params['picture']).toEqual(picture);
  });
  it('is swept away when nothing has used it for a day, and stays while anything does', async () => {
    const spare = await bringIn(250),
      fileOf = (p: object): string => lying().find((f) => readFileSync(join(folder, f), 'utf8') === JSON.stringify(p))!,
      file = fileOf(spare),
      old = (Date.now() - 2 * 86_400_000) / 1000;
    await end();
    for (const f of lying()) utimesSync(join(folder, f), old, old);
    await serve({ DYEPOT_TIDY_MS: '10' });
    for (let i = 0; i < 100 && lying().includes(file); i++) await new Promise((r) => setTimeout(r, 100));
    expect(lying()).toHaveLength(5);
    expect(lying()).not.toContain(file);
    expect(lying().every((f) => statSync(join(folder, f)).size > 10_000)).toBe(true);
  });
});
