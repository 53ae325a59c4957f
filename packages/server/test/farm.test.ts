import { copyFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { seeded } from '@dyepot/camera/src/random.ts';
import { Farm, filesIn, integrity, pause } from './farmTrial.ts';
import { call, data, end, finished, frames, jpeg, many, names, open, raws, serve, shootWith, type Job } from './serverTrial.ts';

/** `npm run kill` asks for 200 frames and 20 kills. */
const count = Number(process.env['DYEPOT_KILL_FRAMES'] ?? 10),
  kills = Number(process.env['DYEPOT_KILLS'] ?? 3);
const farm = new Farm();
let folder = '',
  shootId = 0,
  quiet: Record<string, string> = {};
const order = async (name: string): Promise<{ id: number; into: string }> => {
  const into = join(data, name);
  return { into, id: (await call<Job>('POST', '/deliveries', { shootId, folder: into, file: jpeg })).body.id };
};
beforeAll(async () => {
  await open();
  folder = many(join(data, 'many'), count);
  shootId = (await shootWith('Many', folder)).id;
  const { id, into } = await order('quiet');
  await finished(id);
  quiet = filesIn(into);
  expect(Object.keys(quiet)).toHaveLength(count);
  await end();
}, 1_500_000);
afterAll(() => farm.close());

describe.each(['embedded', 'redis'] as const)('jobs done by the %s queue', (kind) => {
  const away = kind === 'redis';
  const begin = (): Promise<void> => serve({}, away ? ['--queue', farm.url] : []);
  beforeAll(async () => {
    if (away) {
      await farm.open();
      await begin();
      // the queue is named by the server that has it
      await farm.hire();
      await farm.hire();
    } else await begin();
  }, 60_000);
  afterAll(() => end());

  it('give the same bytes, ordered anew and delivered again', async () => {
    const { id, into } = await order(`${kind} plain`),
      job = await finished(id);
    expect([job.state, job.done, job.failed]).toEqual(['done', count, 0]);
    expect(filesIn(into)).toEqual(quiet);
    const again = await finished((await call<Job>('POST', `/jobs/${id}/again`)).body.id);
    expect(again.state).toBe('done');
    expect(filesIn(into)).toEqual(quiet);
    const farmed = (await call<{ farm: { workers: object[] } | null }>('GET', '/workers')).body.farm;
    expect(farmed?.workers.length ?? 0).toBe(away ? 2 : 0);
  });
  it('rest, go on, and are stopped; nothing half-written stays', async () => {
    const { id, into } = await order(`${kind} resting`);
    const done = async (): Promise<number> => (await call<Job>('GET', `/jobs/${id}`)).body.done;
    await expect.poll(done, { timeout: 30_000 }).toBeGreaterThan(0);
    await call('POST', `/jobs/${id}/pause`);
    await expect.poll(async () => (await call<Job>('GET', `/jobs/${id}`)).body.state, { timeout: 30_000 }).toBe('paused');
    // what was in hand is finished
    const inHand = async (): Promise<number> =>
      (await call<Job>('GET', `/jobs/${id}`)).body.items.filter((i) => i.state === 'running').length;
    await expect.poll(inHand, { timeout: 60_000, interval: 200 }).toBe(0);
    await pause(1000);
    const rested = await done();
    expect(rested).toBeLessThan(count);
    await pause(800);
    expect(await done()).toBe(rested);
    await call('POST', `/jobs/${id}/go-on`);
    await expect.poll(done, { timeout: 30_000 }).toBeGreaterThan(rested);
    await call('POST', `/jobs/${id}/cancel`);
    expect((await finished(id)).state).toBe('cancelled');
    // who had a frame in hand puts it away
    await expect.poll(() => Object.keys(filesIn(into)).filter((name) => name.startsWith('.writing-')), { timeout: 60_000 }).toEqual([]);
    for (const [name, sum] of Object.entries(filesIn(into))) expect([name, sum]).toEqual([name, quiet[name]]);
  });
  it('say what is wrong with a raw in the same words, and bring in the sound ones', async () => {
    const bad = join(data, `bad ${kind}`);
    mkdirSync(bad);
    writeFileSync(join(bad, 'cut.dng'), readFileSync(join(frames, names[0]!)).subarray(0, 30_000));
    copyFileSync(join(raws, names[1]!), join(bad, 'sound.dng'));
    const shoot = (await call<{ id: number }>('POST', '/shoots', { name: kind })).body,
      job = await finished((await call<Job>('POST', `/shoots/${shoot.id}/folder`, { folder: bad })).body.id);
    expect(job.items.map((i) => i.state)).toEqual(['failed', 'done']);
    expect(job.items[0]!.message).toMatch(/cut\.dng/);
  });
  it('killed at any moment, each file is there once and whole, and nothing else', { timeout: 900_000 }, async () => {
    const random = seeded(away ? 12 : 11),
      { id, into } = await order(`${kind} killed`);
    for (let i = 0; i < kills; i++) {
      await pause(100 + random() * Math.max(800, (count * 150) / kills));
      // with workers, one of them goes as often as the server does
      if (away && i % 2 === 1) {
        await farm.dismiss(farm.workers[0]!, 'SIGKILL');
        await farm.hire();
      } else {
        await end('SIGKILL');
        expect(await integrity()).toBe('ok');
        await begin();
      }
      for (const [name, sum] of Object.entries(filesIn(into)))
        if (!name.startsWith('.writing-')) expect([name, sum]).toEqual([name, quiet[name]]);
    }
    const job = await finished(id);
    expect([job.state, job.done, job.failed, await integrity()]).toEqual(['done', count, 0, 'ok']);
    // what a killed process was writing is swept when the next one tidies up
    await end();
    await serve({ DYEPOT_TIDY_MS: '10' }, away ? ['--queue', farm.url] : []);
    await expect.poll(() => filesIn(into), { timeout: 30_000 }).toEqual(quiet);
  });
});

describe('workers on Redis', () => {
  beforeAll(() => serve({}, ['--queue', farm.url]));
  afterEach(async () => {
    if (farm.workers.length === 0) await farm.hire();
  });
  afterAll(() => end());

  it('a frame whose worker is lost is taken over by another', { timeout: 120_000 }, async () => {
    const { id, into } = await order('taken over');
    const doing = async (): Promise<string[]> =>
      (await call<{ farm: { workers: { doing: string[] }[] } }>('GET', '/workers')).body.farm.workers.flatMap((w) => w.doing);
    await expect.poll(async () => (await doing()).length, { timeout: 20_000 }).toBe(2);
    await farm.dismiss(farm.workers[0]!, 'SIGKILL');
    const job = await finished(id);
    expect([job.state, job.failed]).toEqual(['done', 0]);
    expect(filesIn(into)).toEqual(quiet);
  });
  it('with none of them a delivery waits, and begins when one comes', { timeout: 120_000 }, async () => {
    for (const w of [...farm.workers]) await farm.dismiss(w, 'SIGTERM');
    const { id } = await order('waiting for hands');
    await pause(1500);
    expect((await call<Job>('GET', `/jobs/${id}`)).body.done).toBe(0);
    await farm.hire();
    expect((await finished(id)).state).toBe('done');
  });
  it('goes on when Redis was away for a while', { timeout: 120_000 }, async () => {
    const { id, into } = await order('cut off');
    await pause(900);
    await farm.cut();
    await expect
      .poll(async () => (await call<{ farm: { answers: boolean } }>('GET', '/workers')).body.farm.answers, { timeout: 20_000 })
      .toBe(false);
    expect((await call('GET', '/shoots')).status).toBe(200);
    await farm.open();
    expect((await finished(id)).state).toBe('done');
    expect(filesIn(into)).toEqual(quiet);
  });
  it('is said plainly where it never answers, or a folder is no server’s', async () => {
    await end();
    await expect(serve({}, ['--queue', 'redis://127.0.0.1:1'])).rejects.toThrow(/Redis at redis:\/\/127\.0\.0\.1:1 does not answer/);
    await expect(serve({}, ['--queue', 'localhost:6379'])).rejects.toThrow(/is no address of Redis/);
    await serve({}, ['--queue', farm.url]);
  });
});
