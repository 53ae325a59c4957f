import { basename } from 'node:path';
import { Job, JobItem, type JobSettings } from '../db/models.ts';
import { found } from '../services/errors.ts';
import type { RenderPool } from '../work/pool.ts';
import { delivering } from './delivering.ts';
import { orderDelivery, type Order } from './ordering.ts';
import { orderAgain, orderRest } from './reordering.ts';
import { importing, orderImport, picturesIn, type FolderWish } from './importing.ts';
import { openQueue, type Queue } from './queue.ts';
import type { JobView } from './jobView.ts';

/** Imports and deliveries: ordered, run in turn, and told of. */
export interface Jobs extends Omit<Queue, 'wake'> {
  importFiles(shootId: number, paths: readonly string[], wears?: JobSettings['wears']): Promise<JobView>;
  importFolder(shootId: number, folder: string, wish: FolderWish): Promise<JobView>;
  deliver(order: Order): Promise<JobView>;
  deliverRest(id: number): Promise<JobView>;
  deliverAgain(id: number): Promise<JobView>;
  /** The finished files of a delivery, with the names they have. */
  filesOf(id: number): Promise<{ path: string; name: string }[]>;
}

export function startJobs(pool: RenderPool): Jobs {
  const queue = openQueue({ import: importing(pool), delivery: delivering(pool) }, () => pool.hands());
  const taken = async (job: Job): Promise<JobView> => {
    queue.wake();
    return queue.view(job.id);
  };
  return {
    ...queue,
    importFiles: async (shootId, paths, wears) => taken(await orderImport(shootId, paths, wears)),
    importFolder: async (shootId, folder, wish) => taken(await orderImport(shootId, await picturesIn(folder, wish))),
    deliver: async (order) => taken(await orderDelivery(order)),
    deliverRest: async (id) => taken(await orderRest(id)),
    deliverAgain: async (id) => taken(await orderAgain(id)),
    async filesOf(id) {
      found(await Job.findByPk(id, { attributes: ['id'] }), 'this delivery');
      const items = await JobItem.findAll({ where: { jobId: id, state: 'done' }, attributes: ['output'], order: [['id', 'ASC']] });
      // files of several folders may have one name
      const given = new Map<string, string>();
      for (const { output } of items) {
        if (!output) continue;
        let name = basename(output);
        for (let k = 2; given.has(name); k++) name = `${k}/${basename(output)}`;
        given.set(name, output);
      }
      return [...given].map(([name, path]) => ({ name, path }));
    },
  };
}
