import { rm } from 'node:fs/promises';
import { hostname } from 'node:os';
import { Worker, type Job } from 'bullmq';
import { PlainError } from '../plainError.ts';
import { FullDisk } from '../work/files.ts';
import { openPool, type Sent } from '../work/pool.ts';
import type { DeliverTask } from '../work/wholeFrame.ts';
import { openRedis } from './redis.ts';
import { mostLosses } from './sending.ts';
import { moved, pack, queueIn, stopChannel, unpack, type Outcome, type Parcel } from './tasks.ts';

/** A worker that does not say for so long that it has a frame has lost it to another, in milliseconds. */
const lockMs = Number(process.env['DYEPOT_LOCK_MS']) || 30_000;

export interface FarmWorker {
  /** Finishes what is in hand, and takes no more. */
  close(): Promise<void>;
}

/** What a worker calls itself; Redis takes no spaces in it. */
const ownName = (threads: number): string => `${encodeURIComponent(hostname())}/${process.pid}/${threads}`;
/** The task as this try does it: what it writes has a name of its own until it is put in place, so that two tries never meet. */
function ownTry(name: Parcel['name'], task: object, token: string): object {
  if (name === 'importRaw') return { ...task, token: `${(task as { token: string }).token}-${token}` };
  const { files } = task as DeliverTask;
  return { ...task, files: files.map((f) => ({ ...f, waiting: `${f.waiting}-${token}` })) };
}

/** Takes frames from a queue and does them, so many at a time. `data` is the server's data folder as this machine sees it. */
export async function openWorker({ url, data, threads }: { url: string; data: string; threads: number }): Promise<FarmWorker> {
  const name = queueIn(data),
    redis = await openRedis(url),
    hearing = redis.duplicate(),
    pool = openPool({ threads, expected: [] }),
    inHand = new Map<string, AbortController>();
  for (const part of [redis, hearing]) part.on('error', () => {});
  await hearing.subscribe(stopChannel(name));
  hearing.on('message', (_channel: string, id: string) => inHand.get(id)?.abort());

  async function work(job: Job<Parcel, Outcome>, token: string | undefined): Promise<Outcome> {
    const stop = new AbortController(),
      { data: theirs } = job.data,
      task = ownTry(job.data.name, moved(unpack(job.data.task) as object, theirs, data), (token ?? '0').replace(/[^\w-]/g, '-'));
    inHand.set(job.id!, stop);
    // whoever lost a frame leaves nothing of it
    const leave = async (): Promise<void> => {
      for (const { waiting } of (task as Partial<DeliverTask>).files ?? []) await rm(waiting, { force: true });
    };
    try {
      const sent = await pool.run(job.data.name, task as never, stop.signal).then(
        (value): Sent => ({ value: moved(value as unknown, data, theirs) }),
        (error: unknown): Sent => {
          if (error instanceof PlainError) return { plain: error.message, full: error instanceof FullDisk };
          throw error;
        },
      );
      if ('plain' in sent || (await job.extendLock(token ?? '', lockMs).catch(() => 0)) === 0) await leave();
      return { sent: pack(sent) };
    } catch (error) {
      await leave();
      throw error;
    } finally {
      inHand.delete(job.id!);
    }
  }
  const worker = new Worker<Parcel, Outcome>(name, work, {
    connection: redis,
    concurrency: threads,
    lockDuration: lockMs,
    stalledInterval: Math.round(lockMs / 2),
    maxStalledCount: mostLosses,
    name: ownName(threads),
  });
  worker.on('error', (error) => console.error(error.message));
  await worker.waitUntilReady();
  return {
    async close() {
      await worker.close();
      hearing.disconnect();
      redis.disconnect();
      await pool.close();
    },
  };
}
