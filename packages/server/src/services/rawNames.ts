import { access } from 'node:fs/promises';
import { basename, dirname, extname, join } from 'node:path';

/** Endings by which raw files are known in a folder. */
export const rawExtensions = new Set([
  '.dng',
  '.cr2',
  '.cr3',
  '.crw',
  '.nef',
  '.nrw',
  '.arw',
  '.sr2',
  '.raf',
  '.orf',
  '.rw2',
  '.pef',
  '.srw',
  '.rwl',
  '.3fr',
  '.iiq',
  '.erf',
  '.mrw',
  '.x3f',
  '.kdc',
  '.dcr',
  '.mef',
  '.mos',
  '.raw',
]);

/** Endings by which finished pictures are known. */
export const finishedExtensions = new Set(['.jpg', '.jpeg', '.png', '.tif', '.tiff']);
const stemOf = (name: string): string => name.slice(0, name.length - extname(name).length).toLowerCase();
/**
 * The raws among a folder's files, and the finished pictures that stand for themselves: one of a raw's own name is that raw as its
 * camera showed it.
 */
export function picturesAmong(names: readonly string[]): { raws: string[]; finished: string[] } {
  const of = (endings: ReadonlySet<string>): string[] => names.filter((n) => !n.startsWith('.') && endings.has(extname(n).toLowerCase())),
    raws = of(rawExtensions),
    stems = new Set(raws.map(stemOf));
  return { raws, finished: of(finishedExtensions).filter((n) => !stems.has(stemOf(n))) };
}
/** The JPEG that a card has beside a raw, by the raw's own name; null where there is none. */
export async function shownBeside(path: string): Promise<string | null> {
  if (!rawExtensions.has(extname(path).toLowerCase())) return null;
  for (const ending of ['.JPG', '.jpg', '.JPEG', '.jpeg']) {
    const beside = join(dirname(path), basename(path, extname(path)) + ending);
    if (
      await access(beside).then(
        () => true,
        () => false,
      )
    )
      return beside;
  }
  return null;
}

/** A light's plain name from its temperature. */
export function lightName(kelvin: number): string {
  return kelvin < 3600 ? 'Tungsten' : kelvin < 4800 ? 'Low sun' : kelvin < 5900 ? 'Daylight' : kelvin < 7400 ? 'Cloud' : 'Shade';
}
