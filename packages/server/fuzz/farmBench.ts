import { spawn, type ChildProcess } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'bullmq';
import { openDatabase } from '../src/db/database.ts';
import { Frame, Job, JobItem, Raw } from '../src/db/models.ts';
import { openFarm } from '../src/farm/sending.ts';
import { openRedis } from '../src/farm/redis.ts';
import { ownQueue, pack, type Outcome, type Parcel } from '../src/farm/tasks.ts';
import { openQueue } from '../src/jobs/queue.ts';
import { startJobs } from '../src/jobs/jobs.ts';
import { distFile, root } from '../src/places.ts';
import { createShoot } from '../src/services/shoots.ts';
import { lockDataFolder } from '../src/services/lock.ts';
import { openPool } from '../src/work/pool.ts';

type Say = (words: string) => void;
const pause = (ms: number): Promise<void> => new Promise((r) => setTimeout(r, ms));
const jpeg = { format: 'jpeg', depth: 8, space: 'srgb', size: null, quality: 90 } as const;
/** What a frame of 24 megapixels takes, in milliseconds: between a look of twelve steps (4.9 s) and one with film, grain and halation (7.9 s), as `npm run bench` measures them here; simulated frames vary by a quarter round it. */
const frameMs = 6000,
  /** and how much faster the simulation runs: sleeping costs nothing, the queue's own work stays what it is */
  hurry = 10;

async function ended(id: number): Promise<void> {
  for (;;) {
    const job = await Job.findByPk(id, { attributes: ['state'] });
    if (job && !['waiting', 'running'].includes(job.state)) return;
    await pause(50);
  }
}

/** 1, 2 and 4 workers of one thread on this machine: seconds for the demo's raws at full size. */
async function real(url: string, say: Say): Promise<void> {
  const farm = await openFarm(url, openPool({ threads: 1 })),
    jobs = startJobs(farm),
    shoot = await createShoot('Real'),
    workers: ChildProcess[] = [];
  const hire = async (): Promise<void> => {
    const args = [distFile('dyepot.mjs'), 'work', '--queue', url, '--data', process.env['DYEPOT_DATA']!, '--threads', '1'],
      child = spawn(process.execPath, args, { stdio: ['ignore', 'pipe', 'inherit'] });
    await new Promise((r) => child.stdout.once('data', r));
    workers.push(child);
  };
  await hire();
  await ended((await jobs.importFolder(shoot.id, join(root, 'packages/camera/frames'), false)).id);
  const frames = await Frame.count({ where: { shootId: shoot.id } });
  let one = 0;
  for (const n of [1, 2, 4]) {
    while (workers.length < n) await hire();
    await pause(2500);
    const order = {
      shootId: shoot.id,
      frameIds: null,
      file: jpeg,
      pattern: '{frame}',
      conflict: 'replace',
      doubtful: 'deliver',
      room: 'deliver',
    } as const;
    const run = async (folder: string): Promise<number> => {
      const began = performance.now();
      await ended((await jobs.deliver({ ...order, folder: join(process.env['DYEPOT_DATA']!, folder) })).id);
      return (performance.now() - began) / 1000;
    };
    // what is compiled and learned at first is not what is measured
    await run(`warm-${n}`);
    const seconds = await run(`out-${n}`);
    one ||= seconds;
    say(`${n} ${n === 1 ? 'worker' : 'workers'}: ${frames} frames in ${seconds.toFixed(1)} s, ×${(one / seconds).toFixed(2)}`);
  }
  for (const w of workers) w.kill('SIGKILL');
  await jobs.close();
  await farm.close();
}

/** So many workers that sleep: how near to as many times one worker they come, and what the queue itself costs. */
async function simulated(url: string, count: number, say: Say): Promise<void> {
  const name = await ownQueue(),
    crew: Worker<Parcel, Outcome>[] = [],
    farm = await openFarm(url, openPool({ threads: 1 }));
  let asleep = 0;
  for (let i = 0; i < count; i++) {
    const redis = await openRedis(url);
    redis.on('error', () => {});
    const nap = (): number => (frameMs / hurry) * (0.75 + 0.5 * Math.random());
    const work = async (): Promise<Outcome> => {
      const ms = nap();
      await pause(ms);
      asleep += ms;
      return { sent: pack({ value: { files: [], doubt: null } }) };
    };
    crew.push(new Worker<Parcel, Outcome>(name, work, { connection: redis, name: `simulated/${1000 + i}/1`, lockDuration: 30_000 }));
  }
  await Promise.all(crew.map((w) => w.waitUntilReady()));
  const frames = Math.max(60, count * 20),
    shoot = await createShoot(`Simulated ${count}`),
    raw = (await Raw.findOne())!,
    [frame] = await Frame.findAll({ where: { hash: raw.hash }, limit: 1 }),
    job = await Job.create({
      kind: 'delivery',
      shootId: shoot.id,
      state: 'waiting',
      settings: {},
      engineVersion: 0,
      startedAt: null,
      finishedAt: null,
    });
  await JobItem.bulkCreate(
    Array.from({ length: frames }, (_, i) => ({
      jobId: job.id,
      frameId: frame!.id,
      name: `frame ${i}`,
      path: frame!.path,
      state: 'waiting' as const,
      output: null,
      message: null,
      seconds: null,
    })),
  );
  await pause(2500);
  const task = (item: JobItem): Parameters<typeof farm.run<'deliver'>>[1] => ({
    path: item.path,
    hash: raw.hash + String(item.id),
    look: null,
    groundwork: null,
    own: null,
    repairs: null,
    plates: null,
    files: [],
  });
  const queue = openQueue(
      {
        import: { work: () => Promise.reject(new Error('none')), clear: () => Promise.resolve() },
        delivery: {
          clear: () => Promise.resolve(),
          async work(_job, item, signal) {
            await farm.run('deliver', task(item), signal);
            return {};
          },
        },
      },
      () => farm.hands(),
    ),
    before = process.cpuUsage(),
    began = performance.now();
  queue.wake();
  await ended(job.id);
  const seconds = (performance.now() - began) / 1000,
    used = process.cpuUsage(before),
    ideal = asleep / 1000 / count,
    perFrame = (used.user + used.system) / 1000 / frames;
  say(
    `${String(count).padStart(3)} simulated workers: ${frames} frames in ${seconds.toFixed(1)} s, ${((100 * ideal) / seconds).toFixed(0)} % of what they could do; ` +
      `${(frames / seconds).toFixed(0)} frames a second; this process (server, Redis’s clients and all workers) ${perFrame.toFixed(1)} ms a frame`,
  );
  await Promise.all(crew.map((w) => w.close()));
  await queue.close();
  await farm.close();
}

/** Measures, and says each figure. */
export async function measure(url: string, say: Say): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'dyepot-farm-'));
  process.env['DYEPOT_DATA'] = data;
  mkdirSync(data, { recursive: true });
  const lock = await lockDataFolder(),
    database = await openDatabase();
  await real(url, say);
  say(
    `A simulated frame sleeps ${frameMs / hurry} ms: a tenth of one of 24 megapixels, so that the queue is asked ten times as much as it will be.`,
  );
  for (const count of [1, 10, 50, 100]) await simulated(url, count, say);
  await database.close();
  await lock.release();
  rmSync(data, { recursive: true, force: true });
}
