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

/** A light's plain name from its temperature. */
export function lightName(kelvin: number): string {
  return kelvin < 3600 ? 'Tungsten' : kelvin < 4800 ? 'Low sun' : kelvin < 5900 ? 'Daylight' : kelvin < 7400 ? 'Cloud' : 'Shade';
}
