import { Op, fn, col } from 'sequelize';
import { plainPattern } from '@dyepot/core/src/formats/fileNames.ts';
import { engineVersion as engineNow } from '@dyepot/core/src/plan/plan.ts';
import { Job, JobItem, type JobState } from '../db/models.ts';
import type { FileSettings } from '../work/encodeFile.ts';

/** What the pages see of a job: its counts, and what went wrong. */
export interface JobView {
  id: number;
  kind: Job['kind'];
  shootId: number;
  state: JobState;
  message: string | null;
  folder: string | null;
  lookName: string | null;
  lookRevision: number | null;
  settings: FileSettings | null;
  /** how its files are named */
  pattern: string;
  /** the preset they come from, and more files made of each frame */
  preset: string | null;
  also: { name?: string; folder: string; file: FileSettings }[];
  engineVersion: number;
  /** ordered under another engine than the one at hand */
  olderEngine: boolean;
  total: number;
  done: number;
  failed: number;
  secondsLeft: number | null;
  createdAt: Date;
  finishedAt: Date | null;
  failures: Failure[];
  /** frames finished last, the newest last, while it is not over */
  recent: Recent[];
}
export interface Recent {
  frameId: number;
  name: string;
}
export interface Failure {
  id: number;
  name: string;
  message: string;
}
/** One step of a job: what changed of it. */
export interface JobNews extends Pick<
  JobView,
  'id' | 'kind' | 'shootId' | 'state' | 'message' | 'total' | 'done' | 'failed' | 'secondsLeft'
> {
  finishedAt: Date | null;
  failure?: Failure;
  finished?: Recent;
}

/** Failures told of one job; the rest are counted. */
const mostFailures = 200,
  /** frames shown as finished last */
  mostRecent = 12;

/** How far a job is. */
export interface Counts {
  total: number;
  done: number;
  failed: number;
  /** of those finished: how many were timed, and how long they took together */
  timed: number;
  seconds: number;
}
/** How long the rest of a job takes with so many hands, by what was timed. */
export const secondsLeft = (c: Counts, state: JobState, hands: number): number | null => {
  const left = c.total - c.done - c.failed;
  const alive = state === 'running' || state === 'waiting';
  return alive && c.timed > 0 && left > 0 ? Math.ceil((left * c.seconds) / c.timed / hands) : null;
};

/** The counts of some jobs in one question. */
export async function countsOf(jobIds: readonly number[]): Promise<Map<number, Counts>> {
  const rows = (await JobItem.findAll({
    where: { jobId: { [Op.in]: [...jobIds] } },
    attributes: [
      'jobId',
      'state',
      [fn('COUNT', col('id')), 'n'],
      [fn('COUNT', col('seconds')), 'timed'],
      [fn('TOTAL', col('seconds')), 'seconds'],
    ],
    group: ['jobId', 'state'],
    raw: true,
  })) as unknown as { jobId: number; state: JobItem['state']; n: number; timed: number; seconds: number }[];
  const counts = new Map(jobIds.map((id) => [id, { total: 0, done: 0, failed: 0, timed: 0, seconds: 0 }]));
  for (const r of rows) {
    const c = counts.get(r.jobId)!;
    c.total += r.n;
    c.timed += r.timed;
    c.seconds += r.seconds;
    if (r.state === 'done') c.done += r.n;
    if (r.state === 'failed') c.failed += r.n;
  }
  return counts;
}

/** Jobs as the pages see them; `stranded` says how those ended that could not be written down. */
export async function viewsOf(jobs: readonly Job[], stranded: ReadonlyMap<number, string>, hands: number): Promise<JobView[]> {
  const ids = jobs.map((j) => j.id),
    counts = await countsOf(ids),
    failures = await JobItem.findAll({
      where: { jobId: { [Op.in]: ids }, state: 'failed' },
      attributes: ['id', 'jobId', 'name', 'message'],
      order: [['id', 'ASC']],
      raw: true,
    });
  const byJob = grouped(failures),
    recent = new Map(
      await Promise.all(
        jobs.filter((j) => j.finishedAt === null && j.kind === 'delivery').map(async (j) => [j.id, await recentOf(j.id)] as const),
      ),
    );
  return jobs.map((job) => {
    const c = counts.get(job.id)!,
      state = stranded.has(job.id) ? 'failed' : job.state;
    return {
      id: job.id,
      kind: job.kind,
      shootId: job.shootId,
      state,
      message: stranded.get(job.id) ?? job.message ?? null,
      folder: job.settings.folder ?? null,
      lookName: job.settings.lookName ?? null,
      lookRevision: job.settings.lookRevision ?? null,
      settings: job.settings.file ?? null,
      pattern: job.settings.pattern ?? plainPattern,
      preset: job.settings.name ?? null,
      also: job.settings.also ?? [],
      engineVersion: job.engineVersion,
      olderEngine: job.engineVersion !== engineNow,
      total: c.total,
      done: c.done,
      failed: c.failed,
      secondsLeft: secondsLeft(c, state, hands),
      createdAt: job.createdAt,
      finishedAt: job.finishedAt,
      failures: (byJob.get(job.id) ?? []).slice(0, mostFailures).map(({ id, name, message }) => ({ id, name, message: message ?? '' })),
      recent: recent.get(job.id) ?? [],
    };
  });
}
/** The frames of a job that were finished last, the newest last. */
async function recentOf(jobId: number): Promise<Recent[]> {
  const items = await JobItem.findAll({
    where: { jobId, state: 'done' },
    attributes: ['frameId', 'name'],
    group: ['frameId'],
    order: [['id', 'DESC']],
    limit: mostRecent,
    raw: true,
  });
  return items.reverse().map(({ frameId, name }) => ({ frameId: frameId!, name }));
}
function grouped(items: readonly JobItem[]): Map<number, JobItem[]> {
  const groups = new Map<number, JobItem[]>();
  for (const item of items) {
    const group = groups.get(item.jobId);
    if (group) group.push(item);
    else groups.set(item.jobId, [item]);
  }
  return groups;
}
