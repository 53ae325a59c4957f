import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { call, data, end, finished, many, open, serve, type Job, type Shoot } from './serverTrial.ts';

beforeAll(open);
afterAll(() => end());
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
});
