import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sqlite3 from 'sqlite3';
import { plan } from '@dyepot/core/src/plan/plan.ts';
import { root } from '../src/places.ts';

export const data = mkdtempSync(join(tmpdir(), 'dyepot-server-')),
  raws = join(data, 'raws'),
  frames = join(root, 'packages/camera/frames');
export const names = readdirSync(frames)
  .filter((f) => f.endsWith('.dng'))
  .sort()
  .slice(0, 4);
/** The server under trial and where it answers. */
let server: ChildProcess;
export let origin = '';

export interface Started {
  process: ChildProcess;
  origin: string;
}
/** Starts the real server on this trial's own data folder. */
export function start(extra: Record<string, string> = {}, options: string[] = []): Promise<Started> {
  const args = ['serve', '--port', extra['DYEPOT_TRIAL_PORT'] ?? '0', ...options],
    child = spawn(process.execPath, [join(root, 'dist/dyepot.mjs'), ...args], {
      env: { ...process.env, DYEPOT_DATA: join(data, 'home'), ...extra },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
  let said = '';
  child.stderr.on('data', (d: Buffer) => {
    said += d.toString();
    if (!/dyepot:/.test(d.toString())) process.stderr.write(d);
  });
  return new Promise((resolve, reject) => {
    child.once('exit', () => reject(new Error(`the server did not start: ${said.trim()}`)));
    child.stdout.on('data', (d: Buffer) => {
      const m = /http:\/\/127\.0\.0\.1:\d+/.exec(d.toString());
      if (m) resolve({ process: child, origin: m[0] });
    });
  });
}
export const stop = (child: ChildProcess, signal: NodeJS.Signals): Promise<void> =>
  new Promise((resolve) => {
    if (child.exitCode !== null || child.signalCode !== null) return resolve();
    child.once('exit', () => resolve());
    child.kill(signal);
  });
export async function call<T>(method: string, path: string, body?: unknown): Promise<{ status: number; body: T & { message?: string } }> {
  const r = await fetch(`${origin}/api${path}`, {
    method,
    ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
  });
  return { status: r.status, body: (await r.json()) as T & { message?: string } };
}
/** Writes into the database behind the server's back. */
export const ask = (sql: string): Promise<void> =>
  new Promise((resolve, reject) => {
    const d = new sqlite3.Database(join(data, 'home', 'dyepot.sqlite'));
    d.exec(sql, (error) => d.close(() => (error ? reject(error) : resolve())));
  });
export interface Job {
  id: number;
  state: string;
  message: string | null;
  done: number;
  failed: number;
  total: number;
  folder: string;
  secondsLeft: number | null;
  items: { name: string; state: string; message: string | null; output: string | null }[];
}
export async function finished(id: number): Promise<Job> {
  for (;;) {
    const { body } = await call<Job>('GET', `/jobs/${id}`);
    if (['done', 'cancelled', 'failed'].includes(body.state)) return body;
    await new Promise((r) => setTimeout(r, 100));
  }
}
export interface Shoot {
  id: number;
  frames: {
    id: number;
    name: string;
    width: number;
    height: number;
    hash: string;
    light: string;
    groundwork: { exposureEv: number } | null;
    profile: Parameters<typeof plan>[1]['profile'];
    missing: boolean;
  }[];
}
export const jpeg = { format: 'jpeg', depth: 8, space: 'srgb', size: 400, quality: 85 };

/** Starts the server, or starts it anew with other settings of its surroundings. */
export async function serve(extra: Record<string, string> = {}, options: string[] = []): Promise<void> {
  ({ process: server, origin } = await start(extra, options));
}
export const end = (signal: NodeJS.Signals = 'SIGTERM'): Promise<void> => stop(server, signal);
/** The server's process under trial. */
export const running = (): ChildProcess => server;
/** A shoot with the trial's raws in it. */
export async function shootWith(name: string, folder = raws): Promise<Shoot> {
  const shoot = (await call<Shoot>('POST', '/shoots', { name })).body,
    job = await finished((await call<Job>('POST', `/shoots/${shoot.id}/folder`, { folder })).body.id);
  if (job.failed > 0) throw new Error(JSON.stringify(job.items));
  return (await call<Shoot>('GET', `/shoots/${shoot.id}`)).body;
}
/** A small disk of its own, for filling; what it returns unmounts it. Needs root, as CI has. */
export function smallDisk(megabytes: number): { path: string; free: () => void } {
  const path = mkdtempSync(join(tmpdir(), 'dyepot-disk-')),
    { status, stderr } = spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${megabytes}m`, 'tmpfs', path], { encoding: 'utf8' });
  if (status !== 0) throw new Error(`a small disk cannot be mounted here (it needs root): ${stderr}`);
  return { path, free: () => void spawnSync('umount', ['-l', path]) };
}
/** Fills a disk to its last byte. */
export function fill(path: string): string {
  const file = join(path, 'filler');
  spawnSync('dd', ['if=/dev/zero', `of=${file}`, 'bs=64k'], { stdio: 'ignore' });
  spawnSync('sh', ['-c', `dd if=/dev/zero bs=1 count=65536 >> ${file}`], { stdio: 'ignore' });
  return file;
}
/** Lays raws out in a folder and serves. */
export async function open(): Promise<void> {
  mkdirSync(raws);
  for (const n of names) copyFileSync(join(frames, n), join(raws, n));
  await serve();
}
/** A folder of many small raws: the trial's own, each made another by one byte after its end. */
export function many(folder: string, count: number): string {
  mkdirSync(folder);
  const bytes = readFileSync(join(frames, names[0]!));
  for (let i = 0; i < count; i++)
    writeFileSync(join(folder, `many-${String(i).padStart(3, '0')}.dng`), Buffer.concat([bytes, Buffer.from([i])]));
  return folder;
}
