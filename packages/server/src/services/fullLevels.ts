import { readdir, rm, stat, utimes } from 'node:fs/promises';
import { join } from 'node:path';
import { levelFile, olderLevels } from '../work/files.ts';

/** What the plates of large pictures at full size may take on disk together, in bytes; each can be made again from its raw. */
const room = 6e9;
/** Full levels below this size (4 megapixels) stay: they are kept from the import on. */
const small = 24e6;

/** Notes that a full level is in use. */
export const noteUse = (file: string): Promise<void> => {
  const now = new Date();
  return utimes(file, now, now).catch(() => {});
};

/** Deletes the full levels used longest ago until the rest has room. Returns how many went. */
export async function pruneFullLevels(plates: string, keep = room): Promise<number> {
  const files: { file: string; size: number; used: number }[] = [];
  for (const hash of await readdir(plates)) {
    const folder = join(plates, hash);
    for (const file of [levelFile(folder, 0), ...olderLevels(folder, 0)]) {
      const s = await stat(file).catch(() => null);
      if (s && s.size >= small) files.push({ file, size: s.size, used: s.mtimeMs });
    }
  }
  let total = 0,
    gone = 0;
  for (const { file, size } of files.sort((a, b) => b.used - a.used)) {
    total += size;
    if (total > keep && size < total) {
      await rm(file, { force: true });
      gone++;
    }
  }
  return gone;
}
