import { readdir, rm } from 'node:fs/promises';
import { statSync } from 'node:fs';
import { basename, join } from 'node:path';
import { engineVersion } from '@dyepot/core/src/plan/plan.ts';
import { together } from '../db/database.ts';
import { Frame, Job, JobItem, Raw, Shoot, type JobSettings } from '../db/models.ts';
import { dataPath, typedPath } from '../places.ts';
import { PlainError } from '../plainError.ts';
import { found, ServiceError } from '../services/errors.ts';
import { groupNewLights } from '../services/lights.ts';
import { frameView } from '../services/frameView.ts';
import { tellNews } from '../services/news.ts';
import { withShootColours } from '../services/colours.ts';
import { presetGroundwork } from '../services/presets.ts';
import { lightName, picturesAmong } from '../services/rawNames.ts';
import type { RenderPool } from '../work/pool.ts';
import type { Trade } from './queue.ts';

/** Raws brought in at a time, at most; and folders looked through for them. */
export const mostPaths = 20_000;
const mostFolders = 20_000;

/** Brings raws and finished pictures into a shoot: one frame an item. */
export function importing(pool: RenderPool): Trade {
  const tokenOf = (item: JobItem): string => `item-${item.id}`;
  return {
    async clear(item) {
      const plates = dataPath('plates');
      for (const hash of await readdir(plates))
        for (const name of (await readdir(join(plates, hash)).catch(() => [])).filter((f) => f.startsWith(`.writing-${tokenOf(item)}-`)))
          await rm(join(plates, hash, name), { force: true });
    },
    async work(job, item, signal) {
      const known = await Frame.findOne({ where: { shootId: job.shootId, path: item.path } });
      if (known) return { frameId: known.id };
      const r = await pool.run('importRaw', { path: item.path, plates: dataPath('plates'), token: tokenOf(item) }, signal);
      const twin = await Frame.findOne({ where: { shootId: job.shootId, hash: r.hash } });
      if (twin) throw new PlainError(`${item.name} is already in this shoot, as ${twin.name}`);
      const { hash, width, height, kelvin, tintDuv, facts, survey, signature } = r,
        groundwork = await withShootColours(job.shootId, facts, await presetGroundwork(facts.camera, facts.exif.iso));
      const frame = await together(async (transaction) => {
        // the same raw may stand in another shoot: what was read now is the newest that is known of it
        const [raw] = await Raw.upsert(
          { hash, width, height, kelvin, tintDuv, facts, survey, signature, doubt: facts.doubt ?? null },
          { transaction },
        );
        const made = await Frame.create(
          {
            shootId: job.shootId,
            name: item.name.replace(/\.[^.]+$/, ''),
            path: item.path,
            hash,
            light: lightName(kelvin),
            groundwork,
            ...job.settings.wears,
          },
          { transaction },
        );
        made.raw = raw;
        return made;
      });
      tellNews({ kind: 'frame', shootId: job.shootId, frame: frameView(frame, false) });
      return { frameId: frame.id };
    },
    async ended(job) {
      // frames that cannot be read again are no reason for an import to fail
      await groupNewLights(pool, job.shootId).catch(() => {});
      tellNews({ kind: 'shoot', id: job.shootId });
    },
  };
}

/** Orders files to be brought into a shoot, in a look of their own where one is named. */
export async function orderImport(shootId: number, paths: readonly string[], wears?: JobSettings['wears']): Promise<Job> {
  found(await Shoot.findByPk(shootId), 'this shoot');
  return together(async (transaction) => {
    const job = await Job.create(
      { kind: 'import', shootId, state: 'waiting', settings: wears ? { wears } : {}, engineVersion, startedAt: null, finishedAt: null },
      { transaction },
    );
    await JobItem.bulkCreate(
      [...new Set(paths)].map((path) => ({
        jobId: job.id,
        frameId: null,
        name: basename(path),
        path,
        state: 'waiting' as const,
        output: null,
        message: null,
        seconds: null,
      })),
      { transaction },
    );
    return job;
  });
}

/** What of a folder is brought in: what lies in the folders in it too, and finished pictures too. */
export interface FolderWish {
  deep: boolean;
  finished: boolean;
}
/** The pictures of a folder that are wished for. Throws ServiceError where there are none, or too many. */
export async function picturesIn(folder: string, { deep, finished }: FolderWish): Promise<string[]> {
  const at = typedPath(folder);
  if (!statSync(at, { throwIfNoEntry: false })?.isDirectory()) throw new ServiceError(400, `${at} is not a folder on this machine`);
  const taken: string[] = [],
    waiting = [at];
  let left = 0;
  // the list grows while it is walked
  for (let i = 0; i < waiting.length; i++) {
    if (i === mostFolders)
      throw new ServiceError(400, `there are more than ${mostFolders} folders in ${at}; bring them in by smaller folders`);
    const here = waiting[i]!,
      entries = await readdir(here, { withFileTypes: true }).catch((error: NodeJS.ErrnoException) => {
        if (here === at) throw new ServiceError(400, `${at} may not be read (${error.code ?? 'unknown reason'})`);
        return [];
      }),
      among = picturesAmong(entries.filter((e) => !e.isDirectory()).map((e) => e.name));
    if (deep) waiting.push(...entries.filter((e) => e.isDirectory() && !e.name.startsWith('.')).map((e) => join(here, e.name)));
    taken.push(...[...among.raws, ...(finished ? among.finished : [])].map((name) => join(here, name)));
    left += among.finished.length;
    if (taken.length > mostPaths)
      throw new ServiceError(400, `there are more than ${mostPaths} pictures in ${at}; bring them in by smaller folders`);
  }
  if (taken.length > 0) return taken.sort();
  const where = `${at}${deep ? ' or the folders in it' : ''}`;
  throw new ServiceError(
    400,
    left > 0
      ? `there are no raw files in ${where}, but ${left === 1 ? 'a finished picture' : `${left} finished pictures`}: ask for those too`
      : `there are no raw files${finished ? ' and no finished pictures' : ''} in ${where}`,
  );
}
