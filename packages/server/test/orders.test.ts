import { chmodSync, copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { plainGroundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import sqlite3 from 'sqlite3';
import { call, data, end, finished, frames, jpeg, names, open, serve, shootWith, type Job, type Shoot } from './serverTrial.ts';

let shoot: Shoot;
beforeAll(async () => {
  await open();
  shoot = await shootWith('Orders');
});
afterAll(() => end());
const hashOf = (file: string): string => createHash('sha256').update(readFileSync(file)).digest('hex');
const order = (folder: string | null, more: object = {}): ReturnType<typeof call<Job & { question?: string; names?: string[] }>> =>
  call('POST', '/deliveries', { shootId: shoot.id, folder, file: jpeg, ...more });
/** Asks the database itself, while the server does not run. */
const ask = (sql: string): Promise<void> =>
  new Promise((resolve, reject) => {
    const d = new sqlite3.Database(join(data, 'home', 'dyepot.sqlite'));
    d.exec(sql, (error) => d.close(() => (error ? reject(error) : resolve())));
  });

describe('a delivery into a folder where files of the same names are', () => {
  const folder = join(data, 'camera'),
    mine = join(folder, names[0]!.replace('.dng', '.jpg'));
  beforeAll(() => {
    mkdirSync(folder);
    writeFileSync(mine, 'a camera made this');
  });
  it('asks, and does nothing before it is answered', async () => {
    const { status, body } = await order(folder);
    expect([status, body.question, body.names]).toEqual([409, 'conflict', [names[0]!.replace('.dng', '.jpg')]]);
    expect(body.message).toMatch(/Dyepot did not make/);
    expect(readdirSync(folder)).toHaveLength(1);
  });
  it('takes other names, and leaves what was there', async () => {
    const job = await finished((await order(folder, { conflict: 'rename' })).body.id);
    expect([job.done, job.failed]).toEqual([4, 0]);
    expect(readFileSync(mine, 'utf8')).toBe('a camera made this');
    expect(existsSync(mine.replace('.jpg', '-2.jpg'))).toBe(true);
  });
  it('replaces without asking what its own record says it made, but not when that was changed since', async () => {
    const own = join(data, 'own'),
      first = await finished((await order(own)).body.id);
    expect(first.done).toBe(4);
    expect((await finished((await order(own)).body.id)).done).toBe(4);
    writeFileSync(first.items[1]!.output!, 'somebody else’s picture now');
    expect((await order(own)).body.question).toBe('conflict');
    expect((await finished((await order(own, { conflict: 'replace' })).body.id)).done).toBe(4);
    expect(readFileSync(first.items[1]!.output!).subarray(0, 2).toString('hex')).toBe('ffd8');
  });
  it('a file that comes into its way after the order stays', async () => {
    const late = join(data, 'late'),
      id = (await order(late, { file: { ...jpeg, size: null, format: 'png', depth: 16 } })).body.id,
      last = (await call<Job>('GET', `/jobs/${id}`)).body.items[3]!.output!;
    mkdirSync(late, { recursive: true });
    writeFileSync(last, 'came meanwhile');
    const job = await finished(id);
    expect([job.done, job.failed, job.items[3]!.message]).toEqual([3, 1, expect.stringMatching(/is there already/)]);
    expect(readFileSync(last, 'utf8')).toBe('came meanwhile');
    expect(readdirSync(late).filter((f) => f.includes('writing'))).toEqual([]);
  });
});

describe('a delivery renders what was ordered', () => {
  it('groundwork changed after the order does not go into it', async () => {
    const plain = await finished((await order(join(data, 'before'), { file: { ...jpeg, size: null } })).body.id);
    const job = (await order(join(data, 'meanwhile'), { file: { ...jpeg, size: null } })).body;
    for (const f of shoot.frames) await call('PUT', `/frames/${f.id}/groundwork`, { groundwork: { ...plainGroundwork, exposureEv: 2 } });
    const after = await finished(job.id);
    expect(after.items.map((i) => hashOf(i.output!))).toEqual(plain.items.map((i) => hashOf(i.output!)));
    for (const f of shoot.frames) await call('PUT', `/frames/${f.id}/groundwork`, { groundwork: null });
  });
  it('one left over from another engine says so, and what is left can be ordered anew', async () => {
    const id = (await order(join(data, 'older'), { file: { ...jpeg, size: null, format: 'png', depth: 16 } })).body.id;
    await end('SIGKILL');
    await ask(`UPDATE jobs SET engineVersion = 1, state = 'running' WHERE id = ${id};
      UPDATE job_items SET state = 'waiting' WHERE jobId = ${id} AND id > (SELECT MIN(id) FROM job_items WHERE jobId = ${id});`);
    await serve();
    const job = (await call<Job & { olderEngine: boolean }>('GET', `/jobs/${id}`)).body;
    expect([job.state, job.olderEngine]).toEqual(['failed', true]);
    expect(job.message).toMatch(/ordered under engine 1, and this is engine \d+, which renders differently/);
    expect((await call('POST', `/jobs/${id}/go-on`)).status).toBe(409);
    const rest = await finished((await call<Job>('POST', `/jobs/${id}/rest`)).body.id);
    expect([rest.failed, rest.total >= 3]).toEqual([0, true]);
  });
});

describe('a raw that may not be whole', () => {
  it('is marked on its frame and delivered only when asked for', async () => {
    const folder = join(data, 'doubtful');
    mkdirSync(folder);
    copyFileSync(join(frames, names[2]!), join(folder, 'sound.dng'));
    // a lossless JPEG whose last bytes are gone: one strip or tile does not end as it should
    const bytes = Buffer.from(readFileSync(join(frames, names[0]!))),
      at = bytes.lastIndexOf(Buffer.from([0xff, 0xd9]));
    bytes.fill(0, at, at + 2);
    writeFileSync(join(folder, 'doubtful.dng'), bytes);
    const doubted = await shootWith('Doubtful', folder),
      [bad] = doubted.frames as (Shoot['frames'][number] & { doubt: string | null })[];
    expect(bad!.doubt).toMatch(/part \d+ of \d+ of its picture does not end as a lossless JPEG should/);
    const ordered = (more: object = {}): ReturnType<typeof call<Job & { question?: string }>> =>
      call('POST', '/deliveries', { shootId: doubted.id, file: jpeg, ...more });
    expect((await ordered()).body.question).toBe('doubtful');
    expect((await finished((await ordered({ doubtful: 'leave out' })).body.id)).total).toBe(1);
    expect((await finished((await ordered({ doubtful: 'deliver' })).body.id)).total).toBe(2);
  });
});

describe('folders that take no files', () => {
  it.each([
    ['a file', (): string => join(data, 'a-file', 'inside'), /is a file/],
    ['a pseudo file system', (): string => '/proc/dyepot/out', /takes no folders/],
  ])('%s is said before anything is begun', async (_, folder, words) => {
    if (!existsSync(join(data, 'a-file'))) writeFileSync(join(data, 'a-file'), '');
    const { status, body } = await order(folder());
    expect([status, body.message]).toEqual([422, expect.stringMatching(words)]);
  });
  it('~ is the home folder', async () => {
    const { body } = await order('~/dyepot-never-made-by-tests\0');
    expect(body.message).toMatch(/characters that no name can have/);
    chmodSync(join(data, 'a-file'), 0o600);
    expect((await call<{ folder: string }>('GET', '/folders?folder=~')).body.folder).toBe(process.env['HOME']);
    expect(statSync(join(data, 'a-file')).isFile()).toBe(true);
  });
});
