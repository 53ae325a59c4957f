import { existsSync, statSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { Frame, JobItem, type Job } from '../db/models.ts';
import { dataPath } from '../places.ts';
import { PlainError } from '../plainError.ts';
import { found } from '../services/errors.ts';
import { putInPlace, waitingName } from '../work/files.ts';
import type { RenderPool } from '../work/pool.ts';
import { isAsWritten } from './ours.ts';
import type { Trade } from './queue.ts';

const unfinished = (item: JobItem): string | null => (item.output ? waitingName(item.output, `item-${item.id}`) : null);

/** Renders frames into finished files, each as it was ordered; all files of a frame from one decoded raw. */
export function delivering(pool: RenderPool): Trade {
  return {
    async clear(item) {
      const waiting = unfinished(item);
      if (waiting) await rm(waiting, { force: true });
    },
    async work(job, item, signal) {
      const frame = found(
        await Frame.findByPk(item.frameId!, { attributes: ['id', 'name', 'hash', 'path'], paranoid: false }),
        'this frame',
      );
      // a file put in place just before a crash is finished, though the record was not yet
      if (item.written && (await isAsWritten(item.output!, item.written))) return {};
      if (!existsSync(frame.path)) throw new PlainError(`${frame.name} is missing: ${frame.path} is not there any more`);
      const others = await taken(job, item),
        all = [item, ...others];
      try {
        const made = await pool.run(
          'deliver',
          {
            path: frame.path,
            hash: frame.hash,
            look: item.look ?? job.settings.look ?? null,
            groundwork: item.groundwork ?? null,
            own: item.own ?? null,
            repairs: item.repairs ?? null,
            plates: dataPath('plates'),
            files: all.map((i) => ({ settings: i.file ?? job.settings.file!, waiting: unfinished(i)! })),
            lookSaid: item.lookSaid ?? { name: job.settings.lookName ?? '', revision: job.settings.lookRevision ?? null },
          },
          signal,
        );
        for (const [k, i] of all.entries()) {
          const { bytes, sha256, waiting } = made.files[k]!;
          await i.update({ written: { bytes, sha256, mtimeMs: statSync(waiting).mtimeMs } });
          await putInPlace(waiting, i.output!, i.mayReplace);
        }
        return { also: others };
      } catch (error) {
        if (others.length === 0) throw error;
        for (const i of others) {
          await rm(unfinished(i)!, { force: true }).catch(() => {});
          // each of them says for itself what is wrong with it; what is in place already is found so
          await i.update({ state: 'waiting', alone: !signal.aborted }).catch(() => {});
        }
        if (signal.aborted) throw error;
        await item.update({ alone: true });
        return this.work(job, item, signal);
      }
    },
  };
}
/** The other files of an item's frame that wait, taken with it; none where one of them failed before. */
async function taken(job: Job, item: JobItem): Promise<JobItem[]> {
  if (item.alone || !job.settings.also) return [];
  const where = { jobId: job.id, frameId: item.frameId, state: 'waiting' as const, alone: false },
    ids = (await JobItem.findAll({ where, attributes: ['id'], order: [['id', 'ASC']] })).map((i) => i.id),
    mine: JobItem[] = [];
  for (const id of ids) {
    const [count] = await JobItem.update({ state: 'running' }, { where: { ...where, id } });
    if (count === 1) mine.push((await JobItem.findByPk(id))!);
  }
  return mine;
}
