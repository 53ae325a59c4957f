import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { readLensDatabase, type DatabaseCamera, type DatabaseLens } from '@dyepot/core/src/formats/lensfun.ts';

/** All lenses and cameras of a folder of database files. */
export interface LensShelf {
  files: number;
  lenses: (DatabaseLens & { file: string })[];
  cameras: DatabaseCamera[];
  problems: string[];
}
const largest = 16e6;

/** Reads every XML file of a folder, or of `version_1` in it. Files that cannot be read are named and passed over. */
export function readLensShelf({ folder }: { folder: string }): Promise<LensShelf> {
  const shelf: LensShelf = { files: 0, lenses: [], cameras: [], problems: [] },
    inner = join(folder, 'version_1'),
    at = statSync(inner, { throwIfNoEntry: false })?.isDirectory() ? inner : folder;
  for (const file of readdirSync(at)
    .filter((f) => f.toLowerCase().endsWith('.xml'))
    .sort()) {
    if (statSync(join(at, file)).size > largest) {
      shelf.problems.push(`${file} is larger than ${largest / 1e6} MB and was not read`);
      continue;
    }
    const read = readLensDatabase(readFileSync(join(at, file), 'utf8'));
    if ('message' in read) {
      shelf.problems.push(`${file}: ${read.message}`);
      continue;
    }
    shelf.files++;
    shelf.lenses.push(...read.lenses.map((l) => ({ ...l, file })));
    shelf.cameras.push(...read.cameras);
  }
  return Promise.resolve(shelf);
}
