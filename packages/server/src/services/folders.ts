import { readdir } from 'node:fs/promises';
import { homedir } from 'node:os';
import { dirname, join } from 'node:path';
import { typedPath } from '../places.ts';
import { ServiceError } from './errors.ts';
import { picturesAmong } from './rawNames.ts';

const most = 2000;
/** The folders in a folder of this machine, and how many raws and finished pictures lie in it; the home folder where none is named. */
export async function browse(
  folder: string | null,
): Promise<{ folder: string; above: string | null; folders: string[]; raws: number; finished: number; more: number }> {
  const at = typedPath(folder || homedir());
  const entries = await readdir(at, { withFileTypes: true }).catch((error: NodeJS.ErrnoException) => {
    throw new ServiceError(400, error.code === 'EACCES' ? `${at} may not be read` : `${at} is not a folder on this machine`);
  });
  const folders = entries
    .filter((e) => e.isDirectory() && !e.name.startsWith('.'))
    .map((e) => e.name)
    .sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
  const { raws, finished } = picturesAmong(entries.filter((e) => !e.isDirectory()).map((e) => e.name));
  return {
    folder: at,
    above: dirname(at) === at ? null : dirname(at),
    folders: folders.slice(0, most).map((f) => join(at, f)),
    raws: raws.length,
    finished: finished.length,
    more: Math.max(0, folders.length - most),
  };
}
