import { createWriteStream } from 'node:fs';
import { rm, rmdir } from 'node:fs/promises';
import type { IncomingMessage } from 'node:http';
import { basename, dirname, join, sep } from 'node:path';
import { randomUUID } from 'node:crypto';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { headTrouble } from '../decode/rawHead.ts';
import { dataFolder, dataPath } from '../places.ts';
import { writingError } from '../work/files.ts';
import { ServiceError } from './errors.ts';
import { settings } from './settings.ts';

/** Whether a path is Dyepot's own copy of a file. */
export const isUpload = (path: string): boolean => path.startsWith(join(dataFolder(), 'uploads') + sep);

/** A name of letters, digits and a few signs, no longer than file systems take (255 bytes). */
export function safeName(given: string): string {
  const clean = basename(given.replaceAll('\\', '/'))
    .replace(/[^\p{L}\p{N}._ -]/gu, '_')
    .replace(/^\.+/, '_');
  const ending = /\.[^.]{1,8}$/.exec(clean)?.[0] ?? '';
  let stem = clean.slice(0, clean.length - ending.length);
  while (Buffer.byteLength(stem + ending) > 200) stem = stem.slice(0, -1);
  return stem + ending || 'unnamed';
}

const looked = 512;
/** Lets a stream through as long as its first bytes are those of a raw and it stays within a limit. */
function gate(name: string, limit: number): Transform {
  let head = Buffer.alloc(0),
    size = 0,
    passed = false;
  const check = (): ServiceError | null => {
    const trouble = headTrouble(head.subarray(0, looked));
    return trouble ? new ServiceError(trouble.startsWith('is empty') ? 400 : 415, `${name} ${trouble}`) : null;
  };
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      size += chunk.length;
      if (size > limit) return done(tooLarge(name, limit));
      if (passed) return done(null, chunk);
      head = Buffer.concat([head, chunk]);
      if (head.length < looked) return done();
      const refused = check();
      if (refused) return done(refused);
      passed = true;
      done(null, head);
    },
    flush(done) {
      if (passed) return done();
      const refused = check();
      if (refused) return done(refused);
      done(null, head);
    },
  });
}
export const tooLarge = (name: string, limit: number): ServiceError =>
  new ServiceError(
    413,
    `${name} is larger than ${limit >= 1e9 ? `${limit / 1e9} GB` : `${Math.round(limit / 1e6)} MB`}, the most that is taken`,
  );

/** Keeps a raw that is being sent, in a folder of its own; its first bytes are looked at before the rest is taken. */
export async function keepUpload(request: IncomingMessage, given: string): Promise<{ path: string }> {
  const name = safeName(given),
    limit = (await settings()).uploadLimitBytes,
    told = Number(request.headers['content-length']);
  if (told > limit) throw tooLarge(name, limit);
  const path = join(dataPath('uploads', randomUUID()), name);
  try {
    await pipeline(request, gate(name, limit), createWriteStream(path));
    return { path };
  } catch (error) {
    await rm(path, { force: true }).catch(() => {});
    await rmdir(dirname(path)).catch(() => {});
    throw writingError(error, path);
  }
}
