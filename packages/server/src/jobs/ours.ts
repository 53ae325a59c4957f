import { existsSync, statSync } from 'node:fs';
import { Op } from 'sequelize';
import { Frame, JobItem, type Written } from '../db/models.ts';
import { contentHash, madeByDyepot } from '../work/files.ts';

/** Whether a file is the one an item wrote: of its size and time, or, where the time is another, of its content. */
export async function isAsWritten(path: string, { bytes, sha256, mtimeMs }: Written): Promise<boolean> {
  const now = statSync(path, { throwIfNoEntry: false });
  if (now?.size !== bytes) return false;
  return now.mtimeMs === mtimeMs || (await contentHash(path)) === sha256;
}

/** The files in some folders that stand as frames in any shoot, or in its trash. */
export async function sourcesIn(folders: readonly string[]): Promise<Set<string>> {
  if (folders.length === 0) return new Set();
  const frames = await Frame.findAll({
    where: { [Op.or]: folders.map((f) => ({ path: { [Op.startsWith]: f } })) },
    attributes: ['path'],
    paranoid: false,
  });
  return new Set(frames.map((f) => f.path));
}

/** The frame a file is made of: it keeps its name and its raw in whatever shoot it stands. */
export type Maker = Pick<JobItem, 'frameId' | 'name' | 'path'>;
const isOf = (item: Maker, frame: Maker): boolean =>
  item.frameId === frame.frameId || (item.name === frame.name && item.path === frame.path);

/**
 * Which files that are there already are not the same frame's own: `another` is a file Dyepot made of another frame, `foreign` one
 * that no record of a delivery, nor the file itself, says it made. Only what is in neither may be replaced without asking.
 */
export async function notOurs(wanted: ReadonlyMap<string, Maker>): Promise<Map<string, 'foreign' | 'another'>> {
  const there = [...wanted.keys()].filter((p) => existsSync(p)),
    others = new Map<string, 'foreign' | 'another'>();
  if (there.length === 0) return others;
  const records = new Map<string, JobItem>();
  for (const item of await JobItem.findAll({
    where: { output: { [Op.in]: there }, state: 'done' },
    attributes: ['id', 'frameId', 'name', 'path', 'output', 'written'],
    order: [['id', 'ASC']],
  }))
    records.set(item.output!, item);
  for (const path of there) {
    const record = records.get(path);
    const ours = record && (record.written ? await isAsWritten(path, record.written) : await madeByDyepot(path));
    if (!ours) others.set(path, 'foreign');
    else if (!isOf(record, wanted.get(path)!)) others.set(path, 'another');
  }
  return others;
}
