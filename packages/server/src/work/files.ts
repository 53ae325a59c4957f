import { randomUUID } from 'node:crypto';
import { mkdirSync } from 'node:fs';
import { rename, rm, writeFile } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { PlainError } from '../decode/decode.ts';

export const levelFile = (folder: string, level: number): string => join(folder, `level-${level}.u16`);

/** Writes beside the place first, then renames, so that a half-written file is never met. */
export async function writeWhole(path: string, data: Uint8Array): Promise<void> {
  const waiting = `${path}.writing-${randomUUID()}`;
  try {
    await writeFile(waiting, data);
    await rename(waiting, path);
  } catch (error) {
    await rm(waiting, { force: true });
    const code = (error as NodeJS.ErrnoException).code;
    if (code === 'ENOSPC') throw new PlainError(`the disk is full: ${basename(path)} could not be written to ${dirname(path)}`);
    if (code === 'EACCES' || code === 'EROFS' || code === 'EPERM') throw new PlainError(`${dirname(path)} may not be written to`);
    throw error;
  }
}

/** Makes a folder, with those above it. */
export function makeFolder(path: string): void {
  try {
    mkdirSync(path, { recursive: true });
  } catch (error) {
    throw new PlainError(`the folder ${path} cannot be made (${(error as NodeJS.ErrnoException).code ?? 'unknown reason'})`);
  }
}
