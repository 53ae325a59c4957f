import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, existsSync, mkdirSync, statfsSync, statSync } from 'node:fs';
import { link, open, rename, rm, stat, writeFile } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { plateVersion } from '@dyepot/core/src/plate/scale.ts';
import { PlainError } from '../plainError.ts';

/** A level of a plate on disk, as it is made now. */
export const levelFile = (folder: string, level: number): string => join(folder, `level-${level}.p${plateVersion}.u16`);
/** Levels made by earlier versions of the plate, newest first. */
export const olderLevels = (folder: string, level: number): string[] => [join(folder, `level-${level}.u16`)];
/** The level to read: an older one serves only until it can be made anew. */
export const levelToRead = (folder: string, level: number): string =>
  [levelFile(folder, level), ...olderLevels(folder, level)].find((f) => existsSync(f)) ?? levelFile(folder, level);

/** SHA-256 of a file's bytes, as hexadecimal. */
export async function contentHash(path: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(path)) hash.update(chunk as Buffer);
  return hash.digest('hex');
}

/** The folder itself, or the nearest one above it that is there. */
function nearestThere(path: string): string {
  let at = path;
  while (!existsSync(at) && dirname(at) !== at) at = dirname(at);
  return at;
}

/** How much room is left where a path lies, in megabytes; null where that cannot be told. */
function megabytesLeft(path: string): number | null {
  try {
    const { bavail, bsize } = statfsSync(nearestThere(path));
    return (bavail * bsize) / 1e6;
  } catch {
    return null;
  }
}
/** The same in words. */
export function roomLeft(path: string): string {
  const megabytes = megabytesLeft(path);
  if (megabytes === null) return 'how much is free cannot be told';
  return megabytes < 1000 ? `${megabytes.toFixed(megabytes < 10 ? 1 : 0)} MB free` : `${(megabytes / 1000).toFixed(1)} GB free`;
}

/** A disk with no room left. */
export class FullDisk extends PlainError {}
function isFull(error: unknown, path: string): boolean {
  const { code, message } = (error ?? {}) as { code?: unknown; message?: unknown };
  if (code === 'ENOSPC' || code === 'EDQUOT' || /SQLITE_FULL|ENOSPC|database or disk is full/.test(String(message))) return true;
  // SQLite's write-ahead log on a full disk fails as input or output
  return /SQLITE_IOERR/.test(String(message)) && (megabytesLeft(path) ?? 1) < 0.5;
}
/** An error of writing at a path, in plain words where it has them; others come back as they are. */
export function writingError(error: unknown, path: string): unknown {
  if (error instanceof PlainError) return error;
  const folder = dirname(path);
  if (isFull(error, path))
    return new FullDisk(`the disk is full: ${basename(path)} could not be written to ${folder} (${roomLeft(folder)})`);
  const { code } = error as NodeJS.ErrnoException;
  return code === 'EACCES' || code === 'EROFS' || code === 'EPERM' ? new PlainError(`${folder} may not be written to`) : error;
}

/** The name a file has until it is whole. */
export const waitingName = (path: string, token: string = randomUUID()): string => join(dirname(path), `.writing-${token}`);

/** Writes beside the place first, then renames, so that a half-written file is never met. `token` names whose it is until then. */
export async function writeWhole(path: string, data: Uint8Array, token?: string): Promise<void> {
  const waiting = waitingName(path, token && `${token}-${basename(path)}`);
  try {
    await writeFile(waiting, data);
    await rename(waiting, path);
  } catch (error) {
    await rm(waiting, { force: true }).catch(() => {});
    throw writingError(error, path);
  }
}

/** Gives a finished file its name. Where nothing may be replaced, a file that is there already stays and PlainError says so. */
export async function putInPlace(waiting: string, path: string, mayReplace: boolean): Promise<void> {
  const taken = (): PlainError => new PlainError(`${basename(path)} is there already in ${dirname(path)} and was not replaced`);
  try {
    if (mayReplace) return await rename(waiting, path);
    try {
      // a link never replaces, whoever made the file in the meantime
      await link(waiting, path);
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code === 'EEXIST') throw taken();
      if (existsSync(path)) throw taken();
      return await rename(waiting, path);
    }
    await rm(waiting, { force: true });
  } catch (error) {
    await rm(waiting, { force: true }).catch(() => {});
    throw writingError(error, path);
  }
}

/** Whether a picture says of itself that Dyepot made it (its Exif Software tag). */
export async function madeByDyepot(path: string): Promise<boolean> {
  const some = 262144,
    file = await open(path, 'r');
  try {
    const { size } = await stat(path),
      piece = Buffer.alloc(some),
      mark = Buffer.from('Dyepot\0');
    for (const at of [0, Math.max(0, size - some)]) {
      const { bytesRead } = await file.read(piece, 0, some, at);
      if (piece.subarray(0, bytesRead).includes(mark)) return true;
    }
    return false;
  } finally {
    await file.close();
  }
}

/** Makes a folder, with those above it, one by one: a file system that takes none ends it. Throws PlainError. */
export function makeFolder(path: string): void {
  const there = nearestThere(path),
    missing: string[] = [];
  if (!statSync(there).isDirectory()) throw new PlainError(`the folder ${path} cannot be made: ${there} is a file`);
  for (let at = path; at !== there; at = dirname(at)) missing.unshift(at);
  for (const folder of missing) {
    try {
      mkdirSync(folder);
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      if (code === 'EEXIST') continue;
      if (isFull(error, path)) throw new FullDisk(`the disk is full: the folder ${path} could not be made (${roomLeft(path)})`);
      const why =
        code === 'EACCES' || code === 'EPERM' || code === 'EROFS'
          ? `${dirname(folder)} may not be written to`
          : `${dirname(folder)} takes no folders (${code ?? 'unknown reason'})`;
      throw new PlainError(`the folder ${path} cannot be made: ${why}`);
    }
  }
}
