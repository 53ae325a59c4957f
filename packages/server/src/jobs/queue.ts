import { setMaxListeners } from 'node:events';
import { col, fn, Op } from 'sequelize';
import { engineVersion } from '@dyepot/core/src/plan/plan.ts';
import { Job, JobItem, Shoot, type JobState } from '../db/models.ts';
import { PlainError } from '../plainError.ts';
import { found, ServiceError } from '../services/errors.ts';
import { tellNews } from '../services/news.ts';
import { FullDisk, writingError } from '../work/files.ts';
import { dataFolder } from '../places.ts';
import { whyEnded } from './whyEnded.ts';
import { countsOf, secondsLeft, viewsOf, type Counts, type JobNews, type JobView } from './jobView.ts';

/** How one kind of job is done. */
export interface Trade {
  /** Does one item; what it returns is written down with it, and items of the same job that were done with it. */
  work(job: Job, item: JobItem, signal: AbortSignal): Promise<Partial<Pick<JobItem, 'frameId'>> & { also?: JobItem[] }>;
  /** Takes away what an item that did not come to its end left half-written. */
  clear(item: JobItem): Promise<void>;
  /** Called when a job has ended, however it did. */
  ended?(job: Job): Promise<void>;
}
export interface Queue {
  /** Looks for work. */
  wake(): void;
  /** Takes up what an earlier run of the server left; jobs of another engine end, since they would not render what was ordered. */
  resume(): Promise<void>;
  stop(id: number): Promise<JobView>;
  /** Takes up no more items of a job; those under way are finished first. */
  pause(id: number): Promise<JobView>;
  /** Puts a job that waits before all others that do. */
  putFirst(id: number): Promise<JobView>;
  /** Stops all jobs of a shoot. */
  stopAllOf(shootId: number): Promise<void>;
  /** Goes on with a job that ended early; what failed is tried again. */
  goOn(id: number): Promise<JobView>;
  view(id: number): Promise<JobView>;
  list(): Promise<JobView[]>;
  close(): Promise<void>;
}

const listed = 60;
const alive: JobState[] = ['waiting', 'running'],
  /** where a job stands in the order: where it was put, else as it came */
  placed = fn('COALESCE', col('place'), col('id'));

/** Runs jobs one after the other, as many pictures of each at a time as there are hands, and tells of every step. It ends a job plainly rather than stop itself. */
export function openQueue(trades: Record<Job['kind'], Trade>, hands: () => number): Queue {
  const running = new Map<number, AbortController>(),
    /** jobs that take up no more items, and rest when those under way are done */
    pausing = new Set<number>(),
    /** jobs whose end could not be written down (the disk was full), and why they ended */
    stranded = new Map<number, string>();
  let closing = false,
    busy = false,
    wanted = false,
    working: Promise<void> = Promise.resolve();

  const view = async (id: number): Promise<JobView> => (await viewsOf([found(await Job.findByPk(id), 'this job')], stranded, hands()))[0]!;
  const tell = (job: Job, c: Counts, step: Pick<JobNews, 'failure' | 'finished'> = {}): void => {
    const state = stranded.has(job.id) ? 'failed' : pausing.has(job.id) ? 'paused' : job.state;
    tellNews({
      kind: 'job',
      job: {
        id: job.id,
        kind: job.kind,
        shootId: job.shootId,
        state,
        message: stranded.get(job.id) ?? job.message ?? null,
        total: c.total,
        done: c.done,
        failed: c.failed,
        secondsLeft: secondsLeft(c, state, hands()),
        finishedAt: job.finishedAt,
        ...step,
      },
    });
  };

  /** Ends a job with a sentence, in the database or, where that cannot be written, in mind. */
  async function end(job: Job, state: JobState, message: string | null): Promise<void> {
    try {
      await JobItem.update({ state: 'waiting' }, { where: { jobId: job.id, state: 'running' } });
      await job.update({ state, message, finishedAt: new Date() });
    } catch (error) {
      stranded.set(job.id, message ?? whyEnded(error));
    }
    const counts = await countsOf([job.id]).catch(() => null);
    tell(job, counts?.get(job.id) ?? { total: 0, done: 0, failed: 0, timed: 0, seconds: 0 });
    await trades[job.kind].ended?.(job).catch((error: unknown) => console.error(error));
  }

  /** Lets a job rest as it is, until it is gone on with; also over a restart. */
  async function rest(job: Job): Promise<void> {
    await job.update({ state: 'paused', message: null });
    tell(job, (await countsOf([job.id])).get(job.id)!);
  }

  async function runItem(job: Job, item: JobItem, counts: Counts, signal: AbortSignal): Promise<void> {
    const started = performance.now(),
      trade = trades[job.kind];
    try {
      const { also = [], ...more } = await trade.work(job, item, signal),
        seconds = (performance.now() - started) / 1000 / (1 + also.length);
      await item.update({ ...more, state: 'done', message: null, seconds });
      for (const other of also) await other.update({ state: 'done', message: null, seconds });
      counts.done += 1 + also.length;
      counts.timed += also.length;
    } catch (thrown) {
      await trade.clear(item).catch(() => {});
      if (closing) return;
      if (signal.aborted) return void (await item.update({ state: 'waiting' }));
      const error = writingError(thrown, `${dataFolder()}/dyepot.sqlite`);
      // the next picture would meet the same full disk
      if (error instanceof FullDisk) throw error;
      const plain = error instanceof PlainError || error instanceof ServiceError;
      if (!plain) console.error(error);
      const message = plain ? error.message : `${item.name}: something went wrong inside Dyepot; its log says what`;
      await item.update({ state: 'failed', message, seconds: (performance.now() - started) / 1000 });
      counts.failed++;
    }
    counts.timed++;
    counts.seconds += (performance.now() - started) / 1000;
    tell(
      job,
      counts,
      item.state === 'failed'
        ? { failure: { id: item.id, name: item.name, message: item.message ?? '' } }
        : job.kind === 'delivery' && item.frameId !== null
          ? { finished: { frameId: item.frameId, name: item.name } }
          : {},
    );
  }

  async function runJob(job: Job): Promise<void> {
    const stop = new AbortController();
    // every hand listens to it
    setMaxListeners(0, stop.signal);
    running.set(job.id, stop);
    try {
      await job.update({ state: 'running', message: null, startedAt: job.startedAt ?? new Date() });
      const counts = (await countsOf([job.id])).get(job.id)!;
      tell(job, counts);
      const crew = new Set<Promise<void>>(),
        broken: unknown[] = [];
      const fail = (error: unknown): void => {
        broken.push(error);
        stop.abort();
      };
      /** Takes the next item into hand; false where none waits. */
      const next = async (): Promise<boolean> => {
        const item = await JobItem.findOne({ where: { jobId: job.id, state: 'waiting' }, order: [['id', 'ASC']] });
        if (!item) return false;
        const [taken] = await JobItem.update({ state: 'running' }, { where: { id: item.id, state: 'waiting' } });
        if (taken !== 1) return true;
        const hand: Promise<void> = runItem(job, item, counts, stop.signal)
          .catch(fail)
          .finally(() => crew.delete(hand));
        crew.add(hand);
        return true;
      };
      while (!closing && !stop.signal.aborted && !pausing.has(job.id)) {
        // hands may come and go meanwhile
        const more = crew.size < hands() && (await next().catch(fail));
        if (more) continue;
        if (crew.size === 0) break;
        await Promise.race(crew);
      }
      await Promise.all(crew);
      if (broken.length > 0) throw broken[0] as Error;
      if (closing) return;
      if (stop.signal.aborted) await end(job, 'cancelled', null);
      else if ((await JobItem.count({ where: { jobId: job.id, state: 'waiting' } })) > 0) {
        if (pausing.has(job.id)) await rest(job);
        // gone on with in the moment it came to rest: it is taken up anew
        else await job.update({ state: 'waiting' });
      } else await end(job, 'done', null);
    } catch (error) {
      if (closing) return;
      await end(job, 'failed', whyEnded(error));
    } finally {
      running.delete(job.id);
      pausing.delete(job.id);
    }
  }

  function wake(): void {
    // what comes while the queue finds nothing more is looked for once again
    wanted = true;
    if (busy || closing) return;
    busy = true;
    working = (async () => {
      for (;;) {
        wanted = false;
        const job = await Job.findOne({
          where: { state: { [Op.in]: alive }, id: { [Op.notIn]: [...stranded.keys()] } },
          order: [
            [placed, 'ASC'],
            ['id', 'ASC'],
          ],
        });
        if (closing) return;
        if (job) await runJob(job);
        else if (!wanted) return;
      }
    })()
      .catch((error: unknown) => {
        console.error(error);
        // the database itself does not answer: look again in a while
        if (!closing) setTimeout(wake, 5000).unref();
      })
      .finally(() => {
        busy = false;
        if (wanted && !closing) setTimeout(wake, 0);
      });
  }

  return {
    wake,
    view,
    async resume() {
      const left = await Job.findAll({ where: { state: { [Op.in]: alive } } });
      // nothing is in hand yet: what was, also of jobs that rest, waits again
      await JobItem.update({ state: 'waiting' }, { where: { state: 'running' } });
      for (const job of left) {
        if (job.kind === 'delivery' && job.engineVersion !== engineVersion)
          await end(
            job,
            'failed',
            `It was ordered under engine ${job.engineVersion}, and this is engine ${engineVersion}, which renders differently. What is left can be delivered anew.`,
          );
      }
      wake();
    },
    async stop(id) {
      const job = found(await Job.findByPk(id), 'this job');
      const hand = running.get(id);
      if (hand) hand.abort();
      else if (alive.includes(job.state) || job.state === 'paused') await end(job, 'cancelled', null);
      const seen = await view(id);
      return alive.includes(seen.state) || (hand && seen.state === 'paused') ? { ...seen, state: 'cancelled', secondsLeft: null } : seen;
    },
    async pause(id) {
      const job = found(await Job.findByPk(id), 'this job');
      if (!alive.includes(job.state)) throw new ServiceError(409, 'it is not under way');
      if (running.has(id)) {
        pausing.add(id);
        // a server that ends before it has come to rest lets it rest all the same
        await job.update({ state: 'paused' });
      } else await rest(job);
      return view(id);
    },
    async putFirst(id) {
      const job = found(await Job.findByPk(id), 'this job'),
        first = (await Job.findOne({ where: { state: { [Op.in]: alive } }, order: [[placed, 'ASC']] }))!;
      if (job.state !== 'waiting') throw new ServiceError(409, 'it does not wait');
      await job.update({ place: (first.place ?? first.id) - 1 });
      return view(id);
    },
    async stopAllOf(shootId) {
      for (const job of await Job.findAll({ where: { shootId, state: { [Op.in]: [...alive, 'paused'] } } })) {
        const hand = running.get(job.id);
        if (hand) hand.abort();
        else await end(job, 'cancelled', null);
      }
    },
    async goOn(id) {
      const job = found(await Job.findByPk(id), 'this job');
      // one that was to rest goes on before it has come to that
      if (pausing.delete(id)) {
        await job.update({ state: 'running' });
        return view(id);
      }
      if (running.has(id)) throw new ServiceError(409, 'it is under way');
      if (!(await Shoot.findByPk(job.shootId, { attributes: ['id'] })))
        throw new ServiceError(409, 'its shoot is in the trash: put that back first');
      if (job.kind === 'delivery' && job.engineVersion !== engineVersion)
        throw new ServiceError(409, `it was ordered under engine ${job.engineVersion}; deliver what is left anew`);
      await JobItem.update(
        { state: 'waiting', message: null, seconds: null },
        { where: { jobId: id, state: { [Op.in]: ['failed', 'running'] } } },
      );
      await job.update({ state: 'waiting', message: null, finishedAt: null });
      stranded.delete(id);
      wake();
      return view(id);
    },
    list: async () => viewsOf(await Job.findAll({ order: [['id', 'DESC']], limit: listed }), stranded, hands()),
    async close() {
      closing = true;
      for (const hand of running.values()) hand.abort();
      await Promise.race([working, new Promise((r) => setTimeout(r, 1500))]);
    },
  };
}
