import sharp from 'sharp';
import { basename } from 'node:path';
import { PlainError } from '../plainError.ts';
import { ServiceError } from './errors.ts';
import { frameById } from './frames.ts';
import { shownBeside } from './rawNames.ts';

/** Pixels along the longer edge of the picture that is sent. */
const edge = 1280;

/** The JPEG a card has beside a frame's raw: the frame as its camera showed it. Throws ServiceError where there is none. */
export async function shownFile(frameId: number): Promise<{ path: string; name: string }> {
  const path = await shownBeside((await frameById(frameId)).path);
  if (!path) throw new ServiceError(404, 'no JPEG lies beside this raw');
  return { path, name: basename(path) };
}
/** Its name; null where there is none. */
export async function shownName(frameId: number): Promise<string | null> {
  const path = await shownBeside((await frameById(frameId)).path);
  return path && basename(path);
}
/** It as a JPEG for the page. Throws PlainError where it cannot be read. */
export async function asShown(frameId: number): Promise<Buffer> {
  const { path, name } = await shownFile(frameId);
  return sharp(path, { autoOrient: true })
    .resize(edge, edge, { fit: 'inside', withoutEnlargement: true })
    .jpeg({ quality: 88 })
    .toBuffer()
    .catch(() => {
      throw new PlainError(`${name} is damaged: it could not be read as a JPEG`);
    });
}
