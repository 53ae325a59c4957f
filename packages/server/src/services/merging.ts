import { existsSync } from 'node:fs';
import { access, constants } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { basename, dirname, extname, join } from 'node:path';
import { Op } from 'sequelize';
import { bracketsAmong, lightLetIn } from '@dyepot/core/src/match/bracket/find.ts';
import { Frame, Shoot, withRaw } from '../db/models.ts';
import type { JobView } from '../jobs/jobView.ts';
import type { Jobs } from '../jobs/jobs.ts';
import { dataPath } from '../places.ts';
import { takenAt } from '../work/matching.ts';
import type { MergedFile } from '../work/bracketTask.ts';
import type { RenderPool } from '../work/pool.ts';
import { plated } from './comparing.ts';
import { found, ServiceError } from './errors.ts';

/** Exposures merged at once, at most. */
export const mostExposures = 9;
/** Brackets proposed at once, at most. */
const mostFound = 40;
/** Frames of a shoot that may be one picture at several exposures: by time and exposure, then by what they show. */
export async function bracketsOf(pool: RenderPool, shootId: number): Promise<number[][]> {
  found(await Shoot.findByPk(shootId, { attributes: ['id'] }), 'this shoot');
  const frames = (await Frame.findAll({ where: { shootId }, include: withRaw, order: [['name', 'ASC']] })).filter(
      (f) => !f.raw.facts.finished,
    ),
    evs = frames.map((f) => lightLetIn(f.raw.facts.exif)),
    runs = bracketsAmong(
      frames.map(({ raw }, i) => ({
        takenAt: evs[i] === null ? null : takenAt(raw.facts.exif),
        ev: evs[i] ?? 0,
        shutterSeconds: raw.facts.exif.shutterSeconds,
        alike: [raw.facts.camera, raw.facts.lens, raw.facts.exif.focalMm, raw.width, raw.height].join(),
      })),
    ).filter((r) => r.length <= mostExposures),
    out: number[][] = [];
  for (const run of runs.slice(0, mostFound)) {
    const own = run.map((i) => frames[i]!),
      alike = await pool.run('sameView', {
        frames: await Promise.all(own.map((f) => plated(pool, f))),
        evs: run.map((i) => evs[i]!),
      });
    if (alike) out.push(own.map((f) => f.id));
  }
  return out;
}

/** Where a merged file goes: beside its raws, or among Dyepot's own copies where nothing may be written there. */
async function placeBeside(path: string): Promise<string> {
  const name = basename(path, extname(path)),
    beside = dirname(path),
    writable = await access(beside, constants.W_OK).then(
      () => true,
      () => false,
    ),
    folder = writable ? beside : dataPath('uploads', randomUUID());
  let out = join(folder, `${name}-merged.dng`);
  for (let i = 2; existsSync(out); i++) out = join(folder, `${name}-merged ${i}.dng`);
  return out;
}
/** Merges frames of one view into a linear DNG beside them, and brings that into the shoot. */
export async function mergeFrames(
  pool: RenderPool,
  jobs: Jobs,
  shootId: number,
  ids: readonly number[],
  signal: AbortSignal,
): Promise<MergedFile & { name: string; job: JobView }> {
  const frames = await Frame.findAll({ where: { shootId, id: { [Op.in]: [...ids] } }, include: withRaw, order: [['name', 'ASC']] });
  if (frames.length !== new Set(ids).size) throw new ServiceError(404, 'one of these frames does not exist (any more)');
  const hashes = new Set(frames.map((f) => f.hash));
  if (hashes.size < frames.length) throw new ServiceError(400, 'two of these frames are the same raw');
  const out = await placeBeside(frames[0]!.path),
    merged = await pool.run('mergeRaws', { paths: frames.map((f) => f.path), out }, signal);
  return { ...merged, name: basename(out), job: await jobs.importFiles(shootId, [out]) };
}
