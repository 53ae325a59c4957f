import { appendFileSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { call, end, frames as demo, names, open, serve, type Job } from './serverTrial.ts';

interface Shoot {
  id: number;
  frames: { id: number; name: string }[];
}
interface Watched {
  watches: { id: number; folder: string; trouble: string | null }[];
}
const card = join(mkdtempSync(join(tmpdir(), 'dyepot-card-')), 'card'),
  out = mkdtempSync(join(tmpdir(), 'dyepot-arrived-'));
mkdirSync(card);
let shootId = 0;
const shoot = async (): Promise<Shoot> => (await call<Shoot>('GET', `/shoots/${shootId}`)).body;
async function until(what: string, is: () => Promise<boolean> | boolean): Promise<void> {
  const began = performance.now();
  while (!(await is())) {
    if (performance.now() - began > 40_000) throw new Error(`never came: ${what}`);
    await new Promise((r) => setTimeout(r, 150));
  }
}
/** A raw that arrives bit by bit. */
async function arrives(name: string, as = name): Promise<void> {
  const data = readFileSync(join(demo, name)),
    path = join(card, as);
  writeFileSync(path, data.subarray(0, data.length >> 1));
  await new Promise((r) => setTimeout(r, 700));
  appendFileSync(path, data.subarray(data.length >> 1));
}
beforeAll(async () => {
  await open();
  shootId = (await call<Shoot>('POST', '/shoots', { name: 'Tethered' })).body.id;
  const file = { format: 'jpeg', depth: 8, space: 'srgb', size: 300, quality: 80 };
  await call('PUT', '/delivery-presets', { name: 'Proofs', folder: out, pattern: '{frame}', file });
});
afterAll(() => end());

describe('a watched folder', () => {
  it('what arrives comes into the shoot when it is whole, and is delivered, with nobody touching anything', async () => {
    expect((await call('POST', '/watches', { shootId, folder: card, preset: 'Proofs' })).status).toBe(200);
    writeFileSync(join(card, 'notes.txt'), 'not a raw');
    await arrives(names[0]!);
    await until('the first frame', async () => (await shoot()).frames.length === 1);
    await until('its file', () => readdirSync(out).some((f) => f.endsWith('.jpg')));
    const job = (await call<Job[]>('GET', '/jobs')).body.find((j) => j.failed > 0);
    expect(job).toBeUndefined();
  });
  it('what arrived while the server was dead comes in when it is back, and each frame is delivered once', async () => {
    await end('SIGKILL');
    writeFileSync(join(card, names[1]!), readFileSync(join(demo, names[1]!)));
    await serve();
    await until('the second file', () => readdirSync(out).filter((f) => f.endsWith('.jpg')).length === 2);
    expect((await shoot()).frames.length).toBe(2);
    await new Promise((r) => setTimeout(r, 2500));
    expect(readdirSync(out).filter((f) => f.endsWith('.jpg')).length).toBe(2);
  });
  it('says what is wrong; ended, it takes nothing more in', async () => {
    expect((await call('POST', '/watches', { shootId, folder: card })).status).toBe(409);
    expect((await call('POST', '/watches', { shootId, folder: '/nowhere/at/all' })).body.message).toContain('not a folder');
    expect((await call('POST', '/watches', { shootId, folder: out, preset: 'None' })).body.message).toContain('no delivery preset');
    const { watches } = (await call<Watched>('GET', '/watches')).body;
    expect(watches.map((w) => [w.folder, w.trouble])).toEqual([[card, null]]);
    await call('DELETE', `/watches/${watches[0]!.id}`);
    writeFileSync(join(card, names[2]!), readFileSync(join(demo, names[2]!)));
    await new Promise((r) => setTimeout(r, 3500));
    expect((await shoot()).frames.length).toBe(2);
    expect(existsSync(join(card, names[2]!))).toBe(true);
  });
});
