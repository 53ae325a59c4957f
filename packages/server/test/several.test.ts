import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { lacking } from '../src/jobs/ordering.ts';
import { root } from '../src/places.ts';
import { call, data, end, finished, open, origin, raws, serve, type Job, type Shoot } from './serverTrial.ts';

beforeAll(open);
afterAll(() => end());

const web = { format: 'webp', depth: 8, space: 'srgb', size: 600, quality: 80 },
  print = { format: 'tiff', depth: 16, space: 'p3', size: null, quality: 92 },
  proof = { format: 'jpeg', depth: 8, space: 'srgb', size: 800, quality: 85, sharpen: 'screen' };
const folderOf = (name: string): string => join(data, name);
let shoot: Shoot;
beforeAll(async () => {
  const { id } = (await call<Shoot>('POST', '/shoots', { name: 'Several' })).body;
  await finished((await call<Job>('POST', `/shoots/${id}/folder`, { folder: raws })).body.id);
  shoot = (await call<Shoot>('GET', `/shoots/${id}`)).body;
});
const order = (body: object): Promise<{ status: number; body: Job }> =>
  call<Job>('POST', '/deliveries', { shootId: shoot.id, pattern: '{frame}', ...body });

describe('several files of each frame', () => {
  it('are made from one decoded raw, and are byte for byte those that each preset makes alone', async () => {
    const together = await finished(
      (
        await order({
          folder: folderOf('all'),
          file: proof,
          also: [
            { name: 'For print', folder: folderOf('print'), file: print, pattern: '{frame}' },
            { name: 'For a page', folder: folderOf('all'), file: web, pattern: '{frame}-page' },
            // the same name in the same folder: each has its own all the same
            { folder: folderOf('all'), file: { ...proof, size: 400 }, pattern: '{frame}' },
          ],
        })
      ).body.id,
    );
    expect([together.state, together.done, together.total]).toEqual(['done', 16, 16]);
    const first = shoot.frames[0]!.name;
    expect(readdirSync(folderOf('all')).filter((n) => n.startsWith(first))).toEqual([
      `${first}-2.jpg`,
      `${first}-page.webp`,
      `${first}.jpg`,
    ]);
    for (const [name, file, made] of [
      ['a', proof, join('all', `${first}.jpg`)],
      ['b', print, join('print', `${first}.tif`)],
      ['c', web, join('all', `${first}-page.webp`)],
    ] as const) {
      const alone = await finished((await order({ folder: folderOf(name), file, frameIds: [shoot.frames[0]!.id] })).body.id);
      expect(readFileSync(alone.items[0]!.output!).equals(readFileSync(folderOf(made)))).toBe(true);
    }
    // the record knows where each lies, and how it was made
    const record = await (await fetch(`${origin}/api/jobs/${together.id}/record`)).text(),
      path = join(data, 'several.record.json');
    writeFileSync(path, record);
    expect((JSON.parse(record) as { files: { settings?: object }[] }).files.filter((f) => f.settings)).toHaveLength(12);
    const schema = JSON.parse(readFileSync(join(root, 'docs/schemas/record.schema.json'), 'utf8')) as object,
      holds = new Ajv2020({ allErrors: true, allowUnionTypes: true }).compile(schema);
    expect([holds(JSON.parse(record)), holds.errors]).toEqual([true, null]);
    // a page of A4 holds 24 of them
    const sheet = await fetch(`${origin}/api/jobs/${together.id}/sheet.pdf`);
    expect([
      sheet.status,
      Buffer.from(await sheet.arrayBuffer())
        .toString('latin1')
        .match(/\/Type \/Page\b/g)?.length,
    ]).toEqual([200, 1]);
    expect((await call('GET', '/jobs/999/sheet.pdf')).status).toBe(404);
    const checked = spawnSync(process.execPath, [join(root, 'dist/dyepot.mjs'), 'verify', path], { encoding: 'utf8' });
    expect(checked.stdout).toMatch(/^16 of 16 files/m);
  });
  it('one that cannot be written fails by itself; the others are there', async () => {
    const blocked = folderOf('blocked');
    writeFileSync(folderOf('in-the-way'), '');
    const refused = await order({ folder: blocked, file: proof, also: [{ folder: join(folderOf('in-the-way'), 'sub'), file: web }] });
    expect(refused.status).toBeGreaterThanOrEqual(400);
    expect(refused.status).toBeLessThan(500);
    const bad = await order({ folder: blocked, file: proof, also: [{ name: 'Deep', folder: null, file: { ...web, depth: 16 } }] });
    expect([bad.status, (bad.body as { message?: string }).message]).toEqual([400, expect.stringMatching(/^Deep: a WebP holds 8 bits/)]);
  });
});

describe('a delivery under way', () => {
  it('rests when it is paused and goes on where it was; one that waits can be put first', async () => {
    const slow = { ...print, format: 'png' },
      first = (await order({ folder: folderOf('slow'), file: slow, also: [{ folder: folderOf('slow-2'), file: proof }] })).body.id,
      second = (await order({ folder: folderOf('second'), file: proof })).body.id,
      third = (await order({ folder: folderOf('third'), file: proof })).body.id;
    const put = await call<Job>('POST', `/jobs/${third}/first`);
    expect(put.status).toBe(200);
    const state = async (id: number): Promise<Job> => (await call<Job>('GET', `/jobs/${id}`)).body;
    expect((await call<Job>('POST', `/jobs/${first}/pause`)).body.state).toBe('paused');
    // the others are done meanwhile, the third before the second
    const ended = await finished(third),
      { done } = await state(first);
    expect(ended.state).toBe('done');
    expect(done).toBeLessThan(8);
    expect((await finished(second)).state).toBe('done');
    const at = async (id: number): Promise<string> => ((await state(id)) as unknown as { finishedAt: string }).finishedAt;
    expect(new Date(await at(third)).getTime()).toBeLessThan(new Date(await at(second)).getTime());
    expect(await state(first)).toMatchObject({ state: 'paused', done });
    await call('POST', `/jobs/${first}/go-on`);
    expect(await finished(first)).toMatchObject({ state: 'done', done: 8 });
    expect(readdirSync(folderOf('slow')).length + readdirSync(folderOf('slow-2')).length).toBe(8);
    expect((await call<Job>('POST', `/jobs/${first}/pause`)).status).toBe(409);
    expect((await call<Job>('POST', `/jobs/${first}/first`)).status).toBe(409);
  });
  it('that was asked to rest rests, though the server is killed before it has come to that', async () => {
    const { id } = (await order({ folder: folderOf('at rest'), file: { ...print, format: 'png' } })).body;
    await expect.poll(async () => (await call<Job>('GET', `/jobs/${id}`)).body.state).toBe('running');
    await call('POST', `/jobs/${id}/pause`);
    await end('SIGKILL');
    await serve();
    expect((await call<Job>('GET', `/jobs/${id}`)).body.state).toBe('paused');
    await call('POST', `/jobs/${id}/go-on`);
    expect(await finished(id)).toMatchObject({ state: 'done', done: 4 });
  });
  it('asks before it is ordered where the disk likely has not the room', () => {
    const frames = Array.from({ length: 400 }, () => ({ raw: { width: 6000, height: 4000 } })),
      file = { ...print, size: null } as Parameters<typeof lacking>[0][number]['file'];
    expect(lacking([{ file, folder: '/somewhere' }], frames, () => 5e9)).toBe(
      'It would take about 57.6 GB in /somewhere, and 5.0 GB are free there',
    );
    expect(lacking([{ file, folder: '/somewhere' }], frames, () => 90e9)).toBeNull();
    // two presets on one disk are counted together
    expect(
      lacking(
        [
          { file, folder: '/a' },
          { file, folder: '/a' },
        ],
        frames,
        () => 90e9,
      ),
    ).toMatch(/115\.2 GB/);
    expect(lacking([{ file, folder: '/a' }], frames.slice(0, 2), () => 1)).toBeNull();
    expect(existsSync('/somewhere')).toBe(false);
  });
});
