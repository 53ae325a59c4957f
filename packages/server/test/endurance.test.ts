import { once } from 'node:events';
import { connect, type AddressInfo, type Socket } from 'node:net';
import express from 'express';
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventRoutes } from '../src/routes/events.ts';
import { tellNews } from '../src/services/news.ts';
import { openPool } from '../src/work/pool.ts';
import {
  call,
  data,
  end,
  fill,
  finished,
  frames,
  jpeg,
  many,
  names,
  open,
  origin,
  raws,
  running,
  serve,
  shootWith,
  smallDisk,
  start,
  stop,
  type Job,
  type Shoot,
} from './serverTrial.ts';

/** A shoot of ten small raws, that stays. */
let ten: Shoot;
beforeAll(async () => {
  await open();
  ten = await shootWith('Ten', many(join(data, 'ten'), 10));
});
afterAll(() => end());
const pause = (ms: number): Promise<void> => new Promise((r) => setTimeout(r, ms));
describe('one server a data folder', () => {
  it('a second one ends with a sentence and touches nothing, on any port', async () => {
    const { id } = ten,
      job = (await call<Job>('POST', '/deliveries', { shootId: id, folder: join(data, 'first'), file: jpeg })).body;
    await expect(start()).rejects.toThrow(/Dyepot already runs on .*home, at http:\/\/127\.0\.0\.1:\d+ \(process \d+\)/);
    const after = await finished(job.id);
    expect([after.done, after.failed]).toEqual([10, 0]);
    expect(readdirSync(join(data, 'first'))).toHaveLength(10);
  });
  it('a port that is taken is said so', async () => {
    const port = new URL(origin).port;
    await expect(start({ DYEPOT_DATA: join(data, 'elsewhere'), PORT: port, DYEPOT_TRIAL_PORT: port })).rejects.toThrow(/port \d+ is taken/);
  });
});

describe('the queue never stops', () => {
  it('a shoot taken out while its job runs ends that job, and the next is done', async () => {
    const gone = await shootWith('Gone', raws);
    const big = { ...jpeg, format: 'png', depth: 16, size: null },
      first = (await call<Job>('POST', '/deliveries', { shootId: gone.id, file: big })).body,
      second = (await call<Job>('POST', '/deliveries', { shootId: ten.id, file: jpeg })).body;
    await call('DELETE', `/shoots/${gone.id}`);
    expect((await finished(second.id)).done).toBe(10);
    expect((await call<Job>('GET', `/jobs/${first.id}`)).body.state).toBe('cancelled');
  });
  it('a worker that spins is ended with a sentence and replaced', async () => {
    const spins = join(data, 'spins.mjs');
    writeFileSync(
      spins,
      `export default async ({ name, pulse }) => {
        Atomics.add(new Int32Array(pulse), 0, 1);
        if (name === 'bake') for (;;) ;
        return { value: 'answered' };
      };`,
    );
    const pool = openPool({ threads: 1, filename: spins, patience: 400 });
    await expect(pool.run('bake', { name: 'endless.cube' } as never)).rejects.toThrow(
      'endless.cube made no progress for 0 s and was given up',
    );
    expect(await pool.run('readTable', {} as never)).toBe('answered');
    const hand = new AbortController(),
      stuck = pool.run('bake', {} as never, hand.signal);
    setTimeout(() => hand.abort(), 100);
    await expect(stuck).rejects.toThrow('stopped');
    await pool.close();
  });
  it('SIGTERM ends the server in the middle of a delivery', async () => {
    const { id } = ten;
    await call('POST', '/deliveries', { shootId: id, file: { ...jpeg, format: 'png', depth: 16, size: null } });
    await pause(300);
    const began = Date.now();
    await end();
    expect(Date.now() - began).toBeLessThan(6500);
    await serve();
  });
});

describe('a full disk', () => {
  it('ends a delivery with a sentence, leaves nothing half-written, and goes on when there is room', { timeout: 120000 }, async () => {
    const disk = smallDisk(4);
    try {
      const { id } = ten,
        folder = join(disk.path, 'out'),
        big = { ...jpeg, format: 'tiff', size: null };
      mkdirSync(folder);
      const filler = fill(disk.path),
        job = await finished((await call<Job>('POST', '/deliveries', { shootId: id, folder, file: { ...big, format: 'jpeg' } })).body.id);
      expect([job.state, job.done]).toEqual(['failed', 0]);
      expect(job.message).toMatch(/^The disk is full: .* could not be written to .* \(0\.0 MB free\)\. Make room, then go on\.$/);
      expect(readdirSync(folder)).toEqual([]);
      rmSync(filler);
      await call('POST', `/jobs/${job.id}/go-on`);
      const after = await finished(job.id);
      expect(after.done).toBeGreaterThan(0);
      expect((await call('GET', '/shoots')).status).toBe(200);
    } finally {
      disk.free();
    }
  });
  it('under the data folder ends an import plainly, and the server starts or says why not', { timeout: 120000 }, async () => {
    await end();
    const disk = smallDisk(24);
    try {
      const home = join(disk.path, 'home');
      await serve({ DYEPOT_DATA: home });
      const shoot = (await call<Shoot>('POST', '/shoots', { name: 'Full' })).body;
      const { id } = (await call<Job>('POST', `/shoots/${shoot.id}/folder`, { folder: raws })).body;
      await pause(700);
      const filler = fill(disk.path);
      const job = await finished(id);
      expect(['failed', 'done']).toContain(job.state);
      if (job.state === 'failed') expect(job.message).toMatch(/disk is full/);
      expect((await call('GET', '/shoots')).status).toBe(200);
      const refused = await call('POST', '/shoots', { name: 'One more' });
      expect([201, 200, 507]).toContain(refused.status);
      await end();
      const again = await start({ DYEPOT_DATA: home }).catch((error: Error) => error.message);
      if (typeof again === 'string') expect(again).toMatch(/disk is full/);
      else await stop(again.process, 'SIGTERM');
      rmSync(filler);
      await serve({ DYEPOT_DATA: home });
      expect((await call('POST', '/shoots', { name: 'Room again' })).status).toBe(200);
      for (const hash of readdirSync(join(home, 'plates')))
        expect(readdirSync(join(home, 'plates', hash)).filter((f) => f.includes('writing'))).toEqual([]);
      await end();
    } finally {
      disk.free();
      await serve();
    }
  });
});

describe('uploads', () => {
  const put = (name: string, body: Uint8Array | ReadableStream, more: RequestInit = {}): Promise<Response> =>
    fetch(`${origin}/api/shoots/1/upload?name=${encodeURIComponent(name)}`, { method: 'PUT', body, ...more } as RequestInit);
  it('are looked at before the rest is taken: a gigabyte of zeros costs no memory and is refused at once', { timeout: 60000 }, async () => {
    const memory = (): number => Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${running().pid}/status`, 'utf8'))![1]) / 1024,
      before = memory(),
      chunk = new Uint8Array(4e6);
    let left = 250;
    const zeros = new ReadableStream({ pull: (c) => (left-- > 0 ? c.enqueue(chunk) : c.close()) });
    const answer = await put('zeros.dng', zeros, { duplex: 'half' } as RequestInit).catch(() => null);
    if (answer) expect(answer.status).toBe(415);
    expect(memory() - before).toBeLessThan(150);
    expect(readdirSync(join(data, 'home', 'uploads')).length).toBe(0);
  });
  it('have a limit that can be set', async () => {
    await call('PATCH', '/settings', { uploadLimitBytes: 1e6 });
    const answer = await put('large.dng', new Uint8Array(readFileSync(join(frames, names[0]!))));
    expect([answer.status, ((await answer.json()) as { message: string }).message]).toEqual([
      413,
      'large.dng is larger than 1 MB, the most that is taken',
    ]);
    await call('PATCH', '/settings', { uploadLimitBytes: 2e9 });
    expect((await call('PATCH', '/settings', { uploadLimitBytes: 'much' })).status).toBe(400);
  });
});

describe('a client that sleeps', () => {
  it('does not grow the server: it is let go when too much waits for it, and the others hear on', async () => {
    const app = express().use(eventRoutes(false)),
      server = app.listen(0, '127.0.0.1');
    await once(server, 'listening');
    const { port } = server.address() as AddressInfo,
      listen = (): Socket => {
        const socket = connect(port, '127.0.0.1');
        socket.on('error', () => {});
        socket.write(`GET /events HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\n\r\n`);
        return socket;
      };
    const [sleeper, waker] = [listen(), listen()];
    let heard = 0;
    waker.on('data', (d: Buffer) => (heard += d.length));
    sleeper.pause();
    await pause(200);
    const open = (): Promise<number> => new Promise((resolve) => server.getConnections((_, n) => resolve(n))),
      piece = 'x'.repeat(100_000);
    expect(await open()).toBe(2);
    // the kernel's own buffers fill first, then the server's
    for (let i = 0; i < 300; i++) {
      tellNews({ kind: 'frame', shootId: 1, frame: { piece } });
      await pause(1);
    }
    await pause(300);
    expect(await open()).toBe(1);
    expect(heard).toBeGreaterThan(300 * piece.length);
    waker.destroy();
    sleeper.destroy();
    server.close();
  });
  it('hears only what changed: a job’s events cost what its frames do', { timeout: 90000 }, async () => {
    const { id } = ten,
      leave = new AbortController(),
      stream = await fetch(`${origin}/api/events`, { signal: leave.signal });
    let heard = '';
    const listening = (async () => {
      const reader = stream.body!.getReader(),
        text = new TextDecoder();
      for (let piece = await reader.read(); !piece.done; piece = await reader.read()) heard += text.decode(piece.value, { stream: true });
    })().catch(() => {});
    await finished((await call<Job>('POST', '/deliveries', { shootId: id, folder: join(data, 'heard'), file: jpeg })).body.id);
    await pause(200);
    leave.abort();
    await listening;
    const events = heard.match(/event: job/g)!.length;
    expect(events).toBeGreaterThanOrEqual(10);
    expect(heard.length / events).toBeLessThan(400);
  });
});
