import sharp from 'sharp';
import { extname } from 'node:path';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { cloudDistance, cloudOf, stepsTowards, withProposed, type Cloud, type Proposed } from '@dyepot/core/src/match/toPicture.ts';
import type { RenderPool } from '../work/pool.ts';
import { shownFile } from './asShown.ts';
import { frameById, thumbUnder } from './frames.ts';
import { takenPicture } from './tables.ts';

/** Pixels along the longer edge of the picture that colours are read from. */
const edge = 360;
async function coloursUnder(pool: RenderPool, frameId: number, look: Look): Promise<Cloud> {
  return cloudOf(
    await sharp(await thumbUnder(pool, frameId, look, edge))
      .raw()
      .toBuffer(),
  );
}
/** Steps that bring a frame under a look near a finished picture, null being the one its camera made beside the raw, and how far it was and is then, as the engine draws it. */
export async function towardsPicture(
  pool: RenderPool,
  frameId: number,
  look: Look,
  picture: string | null,
): Promise<{ steps: Proposed[]; before: number; after: number }> {
  await frameById(frameId);
  const given = picture === null ? await shownFile(frameId) : takenPicture(picture),
    [from, stored] = await Promise.all([coloursUnder(pool, frameId, look), pool.run('readPicture', given)]),
    to = cloudOf(Buffer.from(stored.data, 'base64')),
    steps = stepsTowards(from, to, given.name.slice(0, given.name.length - extname(given.name).length)),
    near = steps.length > 0 ? await coloursUnder(pool, frameId, withProposed(look, steps)) : from;
  return { steps, before: cloudDistance(from, to), after: cloudDistance(near, to) };
}
