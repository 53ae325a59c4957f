import { spawn, type ChildProcess } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { Sequelize } from 'sequelize';
import { root } from '../src/places.ts';
import { data, stop } from './serverTrial.ts';

export const pause = (ms: number): Promise<void> => new Promise((r) => setTimeout(r, ms));
const said = (child: ChildProcess, words: RegExp): Promise<void> =>
  new Promise((resolve, reject) => {
    let all = '';
    child.once('exit', () => reject(new Error(`it ended before it said ${words}: ${all}`)));
    for (const from of [child.stdout!, child.stderr!])
      from.on('data', (d: Buffer) => {
        all += d.toString();
        if (words.test(all)) resolve();
      });
  });
/** A free port below those the system hands out by itself, so that nobody takes it while Redis is away. */
const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const port = 20_000 + Math.floor(Math.random() * 10_000),
      s = createServer();
    s.once('error', () => resolve(freePort()));
    s.listen(port, '127.0.0.1', () => s.close(() => resolve(port)));
  });

/** Debian's redis-server on a free port, keeping nothing on disk, and workers for the trial's data folder. */
export class Farm {
  url = '';
  workers: ChildProcess[] = [];
  private redis: ChildProcess | null = null;
  private port = 0;
  async open(): Promise<void> {
    if (!existsSync('/usr/bin/redis-server')) throw new Error('Redis is missing: apt-get install redis-server');
    this.port ||= await freePort();
    this.url = `redis://127.0.0.1:${this.port}`;
    const keep = ['--save', '', '--appendonly', 'yes', '--appendfsync', 'always', '--dir', data];
    this.redis = spawn('redis-server', ['--port', String(this.port), '--bind', '127.0.0.1', ...keep], {
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    await said(this.redis, /Ready to accept connections/);
  }
  /** Redis goes, as by a cut cable. */
  async cut(): Promise<void> {
    await stop(this.redis!, 'SIGKILL');
  }
  async hire(): Promise<ChildProcess> {
    const args = [join(root, 'dist/dyepot.mjs'), 'work', '--queue', this.url, '--data', join(data, 'home'), '--threads', '1'],
      worker = spawn(process.execPath, args, { env: { ...process.env, DYEPOT_LOCK_MS: '2500' }, stdio: ['ignore', 'pipe', 'pipe'] });
    await said(worker, /Dyepot works/);
    this.workers.push(worker);
    return worker;
  }
  async dismiss(worker: ChildProcess, signal: NodeJS.Signals): Promise<void> {
    this.workers = this.workers.filter((w) => w !== worker);
    await stop(worker, signal);
  }
  async close(): Promise<void> {
    for (const w of [...this.workers]) await this.dismiss(w, 'SIGKILL');
    if (this.redis) await stop(this.redis, 'SIGKILL');
  }
}

/** The files of a folder by name: SHA-256 each. */
export const filesIn = (folder: string): Record<string, string> =>
  Object.fromEntries(
    readdirSync(folder)
      .sort()
      .map((f) => [
        f,
        createHash('sha256')
          .update(readFileSync(join(folder, f)))
          .digest('hex'),
      ]),
  );
/** What SQLite says of the trial's database (PRAGMA integrity_check). */
export async function integrity(): Promise<string> {
  const db = new Sequelize({ dialect: 'sqlite', storage: join(data, 'home/dyepot.sqlite'), logging: false }),
    [rows] = (await db.query('PRAGMA integrity_check')) as unknown as [{ integrity_check: string }[]];
  await db.close();
  return rows.map((r) => r.integrity_check).join();
}
