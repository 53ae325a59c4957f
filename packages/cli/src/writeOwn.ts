import { existsSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { madeByDyepot, putInPlace, waitingName, writingError } from '@dyepot/server/src/work/files.ts';

/** Writes a file whole, over one of the same name only if Dyepot made it: `own` tells. */
export async function writeOwn(path: string, data: Uint8Array, own: (path: string) => Promise<boolean> = madeByDyepot): Promise<void> {
  const waiting = waitingName(path),
    mayReplace = existsSync(path) && (await own(path));
  await writeFile(waiting, data).catch((error: unknown) => {
    throw writingError(error, path);
  });
  await putInPlace(waiting, path, mayReplace);
}
