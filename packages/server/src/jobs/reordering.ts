import { existsSync } from 'node:fs';
import { basename } from 'node:path';
import { Op } from 'sequelize';
import { engineVersion } from '@dyepot/core/src/plan/plan.ts';
import { together } from '../db/database.ts';
import { Job, JobItem } from '../db/models.ts';
import { found, ServiceError } from '../services/errors.ts';
import { notOurs } from './ours.ts';

/** Orders anew what a delivery left undone, with its own look and groundwork, under the engine at hand. */
export async function orderRest(id: number): Promise<Job> {
  const left = await JobItem.findAll({ where: { jobId: id, state: { [Op.ne]: 'done' } }, order: [['id', 'ASC']] });
  if (left.length === 0) throw new ServiceError(409, 'there is nothing left of it to deliver');
  return orderedLike(id, left, (i) => i.mayReplace);
}
/** Orders a whole delivery once more as it was ordered: under the same engine the files are the same, byte for byte. */
export async function orderAgain(id: number): Promise<Job> {
  const job = found(await Job.findByPk(id), 'this delivery');
  if (job.engineVersion !== engineVersion)
    throw new ServiceError(
      409,
      `it was rendered by engine ${job.engineVersion}, and this is engine ${engineVersion}, which renders differently`,
    );
  const items = await JobItem.findAll({ where: { jobId: id }, order: [['id', 'ASC']] }),
    foreign = await notOurs(new Map(items.map((i) => [i.output!, i])));
  if (foreign.size > 0)
    throw new ServiceError(
      409,
      `${basename([...foreign.keys()][0]!)}${foreign.size > 1 ? ` and ${foreign.size - 1} more` : ''} in its folder is not what it wrote there: move it away first`,
    );
  return orderedLike(id, items, (i) => existsSync(i.output!));
}
async function orderedLike(id: number, items: readonly JobItem[], mayReplace: (item: JobItem) => boolean): Promise<Job> {
  const job = found(await Job.findByPk(id), 'this delivery');
  if (job.kind !== 'delivery') throw new ServiceError(409, 'this is an import, which delivers nothing');
  return together(async (transaction) => {
    const { shootId, settings } = job,
      next = await Job.create(
        { kind: 'delivery', shootId, state: 'waiting', settings, engineVersion, startedAt: null, finishedAt: null },
        { transaction },
      );
    await JobItem.bulkCreate(
      items.map((item) => {
        const { frameId, name, path, output, file, groundwork, own, repairs, look, lookSaid } = item;
        return {
          jobId: next.id,
          frameId,
          name,
          path,
          output,
          file,
          groundwork,
          own,
          repairs,
          look,
          lookSaid,
          mayReplace: mayReplace(item),
          state: 'waiting' as const,
          message: null,
          seconds: null,
        };
      }),
      { transaction },
    );
    return next;
  });
}
