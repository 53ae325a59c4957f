import { createHash } from 'node:crypto';
import { existsSync, readFileSync, statSync, utimesSync } from 'node:fs';
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

/** Tables follow from the program too: another build's are not taken. */
const build = (): number => statSync(distFile('render-worker.mjs')).mtimeMs;
const digestOf = (bytes: Uint8Array): Buffer => createHash('sha256').update(bytes).digest();
const fileOf = (of: string): string => join(filmsFolder(), `${digestOf(Buffer.from(`${build()} ${of}`)).toString('hex')}.table`);

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
      utimesSync(path, now, now);
      return new Float32Array(new Uint8Array(numbers).buffer);
    } catch {
      return null;
    }
  },
  keep(of, packed) {
    if (!existsSync(filmsFolder())) return;
    const numbers = new Uint8Array(packed.buffer);
    // where it cannot be kept it is made again next time
    writeWhole(fileOf(of), Buffer.concat([digestOf(numbers), numbers])).catch(() => {});
  },
};
