import { createHash } from 'node:crypto';
import { existsSync, readFileSync, statSync } from 'node:fs';
import { readdir, rm, stat, utimes } from 'node:fs/promises';
import { join } from 'node:path';
import type { KeptTables } from '@dyepot/core/src/stock/film/engine.ts';
import { packedLength } from '@dyepot/core/src/stock/film/table.ts';
import { dataFolder, distFile } from '../places.ts';
import { makeFolder, writeWhole } from './files.ts';

/** A film's table on disk: the SHA-256 of its numbers, then they, as little-endian 32-bit floats. */
const digestBytes = 32,
  fileBytes = digestBytes + 4 * packedLength;
/** Where films' tables are kept; nothing is kept while that is not there. */
export const filmsFolder = (): string => join(dataFolder(), 'films');
/** Keeps films' tables from now on, where there is a data folder, and room. */
export function keepFilms(): void {
  if (!existsSync(dataFolder())) return;
  try {
    makeFolder(filmsFolder());
  } catch {
    // without it each is made by whoever needs it
  }
}

/** Tables follow from the program too: another build's are not taken. That of this process is the one it began with, whatever is built meanwhile. */
const build = statSync(distFile('render-worker.mjs'), { throwIfNoEntry: false })?.mtimeMs ?? 0;
const digestOf = (bytes: Uint8Array): Buffer => createHash('sha256').update(bytes).digest();
const fileOf = (of: string): string => join(filmsFolder(), `${digestOf(Buffer.from(`${build} ${of}`)).toString('hex')}.table`);

/** How many are kept: a hand that tries a film's values makes many. */
const most = 64;
/** Takes away those used longest ago that are too many. */
async function prune(): Promise<void> {
  const names = (await readdir(filmsFolder())).filter((f) => f.endsWith('.table'));
  if (names.length <= most) return;
  const used = await Promise.all(
    names.map(async (name) => {
      const path = join(filmsFolder(), name);
      return { path, at: (await stat(path).catch(() => null))?.mtimeMs ?? 0 };
    }),
  );
  for (const { path } of used.sort((a, b) => b.at - a.at).slice(most)) await rm(path, { force: true });
}

/** Films' tables in the data folder: made once, not by each worker anew at each start. */
export const keptFilms: KeptTables = {
  find(of) {
    const path = fileOf(of);
    if (!existsSync(path)) return null;
    try {
      const file = readFileSync(path),
        numbers = file.subarray(digestBytes);
      // what was damaged on disk is made again
      if (file.length !== fileBytes || !digestOf(numbers).equals(file.subarray(0, digestBytes))) return null;
      const now = new Date();
      utimes(path, now, now).catch(() => {});
      return new Float32Array(new Uint8Array(numbers).buffer);
    } catch {
      return null;
    }
  },
  keep(of, packed) {
    if (!existsSync(filmsFolder())) return;
    const numbers = new Uint8Array(packed.buffer);
    // where it cannot be kept it is made again next time
    writeWhole(fileOf(of), Buffer.concat([digestOf(numbers), numbers]))
      .then(prune)
      .catch(() => {});
  },
};
