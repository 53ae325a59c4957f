import { existsSync } from 'node:fs';
import { readdir, rm } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { Queue, QueueEvents, type Job } from 'bullmq';
import { dataFolder } from '../places.ts';
import { PlainError } from '../plainError.ts';
import { answerOf, stoppedError, type RenderPool } from '../work/pool.ts';
import type { DeliverTask } from '../work/wholeFrame.ts';
import { openRedis, shownAddress } from './redis.ts';
import { farmed, jobIdOf, openOutcome, ownQueue, pack, stopChannel, type FarmedName, type Outcome, type Parcel } from './tasks.ts';

/** A worker, and what it does. */
export interface WorkerView {
  host: string;
  process: number;
  threads: number;
  doing: string[];
}
export interface FarmView {
  address: string;
  /** whether Redis answers now */
  answers: boolean;
  workers: WorkerView[];
}
export interface FarmPool extends RenderPool {
  view(): Promise<FarmView>;
}

/** A worker lost so often over one frame is not the worker's fault. */
export const mostLosses = 3;
/** Events may be lost while Redis is away: what is waited for is looked at this often, in milliseconds. */
const lookMs = 5000;
/** How many workers there are is asked this often, in milliseconds. */
const countMs = 2000;
/** What nobody came back for is dropped after a day, in seconds. */
const forgotten = 86_400;

/** What Redis says, or null where it does not within a second. */
const soon = <T>(answer: Promise<T>): Promise<T | null> =>
  Promise.race([answer.catch(() => null), new Promise<null>((r) => setTimeout(r, 1000, null))]);

/** Hands the long tasks of jobs to workers by BullMQ on Redis; what a screen waits for is done here. */
export async function openFarm(url: string, here: RenderPool): Promise<FarmPool> {
  const redis = await openRedis(url),
    hearing = redis.duplicate(),
    name = await ownQueue(),
    queue = new Queue<Parcel, Outcome>(name, { connection: redis }),
    events = new QueueEvents(name, { connection: hearing }),
    waiting = new Map<string, () => void>();
  // Redis may be away for a while: it is waited for
  for (const part of [redis, hearing]) part.on('error', () => {});
  queue.on('error', () => {});
  events.on('error', () => {});
  const heard = ({ jobId }: { jobId: string }): void => waiting.get(jobId)?.();
  events.on('completed', heard).on('failed', heard);
  await events.waitUntilReady();
  let threads = 0,
    closing = false;
  const count = async (): Promise<void> => {
    threads = (await workersOf(queue)).reduce((n, w) => n + w.threads, 0);
  };
  await count();
  const counting = setInterval(() => void (redis.status === 'ready' && count().catch(() => {})), countMs);

  /** Waits until a job has ended; null where it was stopped. */
  const ended = (id: string, signal?: AbortSignal): Promise<Job<Parcel, Outcome> | null> =>
    new Promise((resolve) => {
      const finish = (job: Job<Parcel, Outcome> | null): void => {
        waiting.delete(id);
        clearInterval(looking);
        signal?.removeEventListener('abort', stop);
        resolve(job);
      };
      const look = (): void => {
        if (redis.status !== 'ready') return;
        queue
          .getJob(id)
          .then(async (job) => {
            if (!job || (await job.isCompleted()) || (await job.isFailed())) finish((await queue.getJob(id)) ?? null);
          })
          // Redis is away: it is looked at again
          .catch(() => {});
      };
      const stop = (): void => finish(null),
        looking = setInterval(look, lookMs);
      waiting.set(id, look);
      signal?.addEventListener('abort', stop);
      if (signal?.aborted) stop();
      else look();
    });

  async function send(task: FarmedName, wish: object, signal?: AbortSignal, first = true): Promise<unknown> {
    const about = basename((wish as { path: string }).path),
      parcel: Parcel = { name: task, about, data: dataFolder(), task: pack(wish) },
      id = jobIdOf(parcel);
    await queue.add(task, parcel, {
      jobId: id,
      removeOnComplete: { age: forgotten },
      removeOnFail: { age: forgotten },
    });
    const job = await ended(id, signal);
    if (signal?.aborted) {
      await takeBack(id);
      throw stoppedError(closing);
    }
    if (!job) throw new Error(`${about} was taken out of the queue by someone else`);
    await job.remove().catch(() => {});
    // a worker that was lost left what it was writing
    if (job.attemptsStarted > 1 && task === 'deliver') await dropLeftovers(wish as DeliverTask, job.returnvalue);
    if (job.returnvalue) {
      const value = answerOf(openOutcome(job.returnvalue));
      // what was done for a server that was killed since may have been swept meanwhile
      if (task !== 'deliver' || madeIn(value).every((f) => existsSync(f))) return value;
      if (first) return send(task, wish, signal, false);
      throw new PlainError(
        `${about}: a worker made its file where this server does not see it; both must see the folder under the same path`,
      );
    }
    if (/stalled/.test(job.failedReason))
      throw new PlainError(`${about}: its worker was lost ${mostLosses + 1} times; it may need more memory than there is`);
    throw new Error(`${about}: ${job.failedReason}`);
  }
  /** Takes a job out that nobody wants any more; a worker that has it stops. */
  async function takeBack(id: string): Promise<void> {
    if (redis.status !== 'ready') return;
    await soon(redis.publish(stopChannel(name), id));
    for (let i = 0; i < 20; i++) {
      const job = await soon(queue.getJob(id));
      if (!job || (await soon(job.remove().then(() => true)))) return;
      await new Promise((r) => setTimeout(r, 100));
    }
  }

  return {
    hands: () => Math.max(2, threads + 2),
    run(task, wish, signal) {
      if (!(farmed as readonly string[]).includes(task)) return here.run(task, wish, signal);
      return send(task as FarmedName, wish, signal) as ReturnType<typeof here.run<typeof task>>;
    },
    async view() {
      // a question under way when Redis goes is answered only once it is back: nobody waits for that
      const workers = redis.status === 'ready' ? await soon(workersOf(queue)) : null;
      return { address: shownAddress(url), answers: workers !== null && redis.status === 'ready', workers: workers ?? [] };
    },
    async close() {
      closing = true;
      clearInterval(counting);
      await soon(events.close());
      await soon(queue.close());
      hearing.disconnect();
      redis.disconnect();
      await here.close();
    },
  };
}

/** The files a delivered frame has, where they wait for their names. */
const madeIn = (value: unknown): string[] => (value as { files: { waiting: string }[] }).files.map((f) => f.waiting);
/** Takes away what other tries at a frame were writing; what is to be put in place stays. */
async function dropLeftovers(task: DeliverTask, outcome: Outcome | undefined): Promise<void> {
  const sent = outcome && openOutcome(outcome),
    made = sent && 'value' in sent ? madeIn(sent.value) : [];
  for (const { waiting } of task.files) {
    const folder = dirname(waiting);
    for (const file of await readdir(folder).catch(() => []))
      if (file.startsWith(`${basename(waiting)}-`) && !made.includes(join(folder, file))) await rm(join(folder, file), { force: true });
  }
}

/** The workers there are, by the names they gave themselves, and what each has in hand. */
async function workersOf(queue: Queue<Parcel, Outcome>): Promise<WorkerView[]> {
  const [there, active] = await Promise.all([queue.getWorkers(), queue.getActive()]);
  return there.flatMap(({ rawname }) => {
    const own = /:w:(.+)$/.exec(rawname ?? '')?.[1],
      parts = own && /^(.+)\/(\d+)\/(\d+)$/.exec(own);
    if (!parts) return [];
    return [
      {
        host: decodeURIComponent(parts[1]!),
        process: Number(parts[2]),
        threads: Number(parts[3]),
        doing: active.filter((j) => j.processedBy === own).map((j) => j.data.about),
      },
    ];
  });
}
