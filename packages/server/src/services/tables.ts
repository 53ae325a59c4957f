import { createWriteStream } from 'node:fs';
import { readFile, rm } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { basename, join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Look } from '@dyepot/core/src/look/look.ts';
import type { Encoding } from '@dyepot/core/src/steps/lookup/index.ts';
import { leanly } from '../db/keptDocuments.ts';
import { dataPath } from '../places.ts';
import type { RenderPool } from '../work/pool.ts';
import type { BakeFormat, Baked } from '../work/bakeFile.ts';
import { makeFolder, writingError } from '../work/files.ts';
import { ServiceError } from './errors.ts';
import { tooLarge } from './uploads.ts';

const largest = 300e6,
  mostWaiting = 8;
interface Given {
  path: string;
  name: string;
}
const waiting = new Map<string, Given>();

/** Keeps a file sent to the server for as long as it is worked on; it is written to disk as it comes. */
async function receive(body: Readable, name: string): Promise<Given> {
  const folder = dataPath('uploads', `table-${randomUUID()}`),
    path = join(folder, 'file');
  makeFolder(folder);
  let size = 0;
  const within = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      size += chunk.length;
      if (size > largest) done(tooLarge(name, largest));
      else done(null, chunk);
    },
  });
  try {
    await pipeline(body, within, createWriteStream(path));
  } catch (error) {
    await rm(folder, { recursive: true, force: true });
    throw writingError(error, path);
  }
  return { path, name: basename(name.replaceAll('\\', '/')).slice(0, 200) };
}
const forget = (given: Given): Promise<void> => rm(join(given.path, '..'), { recursive: true, force: true });

/** Reads a table file that is being sent. */
export async function readTable(pool: RenderPool, body: Readable, name: string): Promise<object> {
  const given = await receive(body, name);
  try {
    const read = await pool.run('readTable', given);
    leanly(read);
    return read;
  } finally {
    await forget(given);
  }
}
/** Reads a picture that is being sent, to stand in a look. */
export async function readPicture(pool: RenderPool, body: Readable, name: string): Promise<object> {
  const given = await receive(body, name);
  try {
    const read = await pool.run('readPicture', given);
    leanly(read);
    return read;
  } finally {
    await forget(given);
  }
}
/** Takes a picture that something is found from; it is named by what this returns. */
export async function takePicture(body: Readable, name: string): Promise<{ id: string }> {
  const id = randomUUID();
  waiting.set(id, await receive(body, name));
  // pictures sent are not kept for ever
  for (const [old, given] of [...waiting].slice(0, -mostWaiting)) {
    waiting.delete(old);
    await forget(given);
  }
  return { id };
}
/** A picture that was taken, by what `takePicture` named it. */
export function takenPicture(id: string): Given {
  const given = waiting.get(id);
  if (!given) throw new ServiceError(404, 'send the picture once more');
  return given;
}
/** The table that takes the one picture to the other. */
export async function fitPair(pool: RenderPool, before: string, after: string, size: number): Promise<object> {
  const [a, b] = [waiting.get(before), waiting.get(after)];
  if (!a || !b) throw new ServiceError(404, 'send both pictures first');
  try {
    return await pool.run('fitPair', { before: a, after: b, size });
  } finally {
    waiting.delete(before);
    waiting.delete(after);
    await Promise.all([forget(a), forget(b)]);
  }
}
/** What a bake would leave out and how near it would come. */
export const bakeReport = (pool: RenderPool, look: Look, format: BakeFormat, size: number, input: Encoding): Promise<Omit<Baked, 'file'>> =>
  pool.run('bake', { look, format, size, input, out: null });
/** A baked table's bytes. */
export async function bakeFile(pool: RenderPool, look: Look, format: BakeFormat, size: number, input: Encoding): Promise<Buffer> {
  const folder = dataPath('uploads', `bake-${randomUUID()}`),
    out = join(folder, 'table');
  try {
    await pool.run('bake', { look, format, size, input, out });
    return await readFile(out);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
