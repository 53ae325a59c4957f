import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { call, data, end, finished, jpeg, many, open, serve, type Job, type Shoot } from './serverTrial.ts';

beforeAll(open);
afterAll(() => end());
const hashes = (folder: string): string[] =>
  readdirSync(folder)
    .sort()
    .map(
      (f) =>
        `${f} ${createHash('sha256')
          .update(readFileSync(join(folder, f)))
          .digest('hex')}`,
    );
const pause = (ms: number): Promise<void> => new Promise((r) => setTimeout(r, ms));

describe('killed at any moment', () => {
  it('an import goes on, and every raw is in once', { timeout: 180000 }, async () => {
    const folder = many(join(data, 'import'), 10),
      shoot = (await call<Shoot>('POST', '/shoots', { name: 'Killed' })).body,
      { id } = (await call<Job>('POST', `/shoots/${shoot.id}/folder`, { folder })).body;
    for (let i = 0; i < 10; i++) {
      await pause(20 + i * 45);
      await end('SIGKILL');
      await serve();
    }
    const job = await finished(id);
    expect([job.state, job.done, job.failed]).toEqual(['done', 10, 0]);
    const { frames: came } = (await call<Shoot>('GET', `/shoots/${shoot.id}`)).body;
    expect(new Set(came.map((f) => f.name)).size).toBe(10);
    expect(came).toHaveLength(10);
  });
  it('a delivery goes on: no byte differs, nothing half-written stays', { timeout: 180000 }, async () => {
    const shoot = (await call<{ id: number }[]>('GET', '/shoots')).body[0]!,
      quiet = join(data, 'quiet'),
      harsh = join(data, 'harsh');
    await finished((await call<Job>('POST', '/deliveries', { shootId: shoot.id, folder: quiet, file: jpeg })).body.id);
    const { id } = (await call<Job>('POST', '/deliveries', { shootId: shoot.id, folder: harsh, file: jpeg })).body;
    for (let i = 0; i < 10; i++) {
      await pause(30 + i * 60);
      await end('SIGKILL');
      await serve();
    }
    const job = await finished(id);
    expect([job.state, job.done, job.failed]).toEqual(['done', 10, 0]);
    expect(hashes(harsh).filter((h) => !h.startsWith('.writing'))).toEqual(hashes(quiet));
  });
});
