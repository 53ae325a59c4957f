import { existsSync } from 'node:fs';
import { homedir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { makeFolder } from './work/files.ts';

/** The repository's root, found upwards from this file (as source or as built). */
export const root = ((): string => {
  let folder = dirname(fileURLToPath(import.meta.url));
  while (!existsSync(join(folder, 'packages', 'core', 'kernels'))) {
    const up = dirname(folder);
    if (up === folder) throw new Error('Dyepot is not complete: packages/core/kernels is missing');
    folder = up;
  }
  return folder;
})();

/** A built file that is started on its own (a worker, the web pages). */
export const distFile = (name: string): string => join(root, 'dist', name);
export const kernelsFile = join(root, 'packages/core/src/render/kernels.wasm');

/** Where Dyepot keeps what it makes. */
export function dataFolder(): string {
  // whole, since workers on other machines are told of it
  return resolve(process.env['DYEPOT_DATA'] ?? join(homedir(), '.dyepot'));
}

/** A folder inside the data folder, made when missing. */
export function dataPath(...parts: string[]): string {
  const folder = join(dataFolder(), ...parts);
  makeFolder(folder);
  return folder;
}

/** A path as a person types it, made whole; `~` is their home. */
export const typedPath = (typed: string): string => resolve(/^~(?=\/|$)/.test(typed) ? join(homedir(), typed.slice(1)) : typed);
