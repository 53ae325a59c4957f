import { existsSync, statSync } from 'node:fs';
import { Op } from 'sequelize';
import { JobItem, type Written } from '../db/models.ts';
import { contentHash, madeByDyepot } from '../work/files.ts';

/** Whether a file is the one an item wrote: of its size and time, or, where the time is another, of its content. */
export async function isAsWritten(path: string, { bytes, sha256, mtimeMs }: Written): Promise<boolean> {
  const now = statSync(path, { throwIfNoEntry: false });
  if (now?.size !== bytes) return false;
  return now.mtimeMs === mtimeMs || (await contentHash(path)) === sha256;
}

/** Which of some paths hold files that no record of a delivery, nor the file itself, says Dyepot made. */
export async function notOurs(paths: readonly string[]): Promise<Set<string>> {
  const there = paths.filter((p) => existsSync(p));
  if (there.length === 0) return new Set();
  const records = new Map<string, JobItem>();
  for (const item of await JobItem.findAll({
    where: { output: { [Op.in]: there }, state: 'done' },
    attributes: ['id', 'output', 'written'],
    order: [['id', 'ASC']],
  }))
    records.set(item.output!, item);
  const others = new Set<string>();
  for (const path of there) {
    const record = records.get(path);
    const ours = record && (record.written ? await isAsWritten(path, record.written) : await madeByDyepot(path));
    if (!ours) others.add(path);
  }
  return others;
}
