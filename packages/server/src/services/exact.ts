import { existsSync } from 'node:fs';
import { validateGroundwork } from '@dyepot/core/src/groundwork/schema.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { outputSize } from '@dyepot/core/src/plan/draw.ts';
import { exactRoom } from '../work/exactTask.ts';
import type { RenderPool } from '../work/pool.ts';
import { ServiceError } from './errors.ts';
import { ensureLevel, frameById, ownAsked } from './frames.ts';
import { mendedPatches } from './repairs.ts';

/** Pixels rendered at once, about: what the hand asks for meanwhile waits no longer for a thread. */
const bandPixels = 6e6,
  /** bands under way at a time */
  lanes = 2;

let turn: Promise<unknown> = Promise.resolve();
/**
 * The exact small picture of a frame under a look and groundwork that need not be saved: its full size, from the plate on disk, scaled
 * down. Width and height are at most 4096. One is made at a time; one nobody waits for any more is not begun, or ended after its band.
 */
export async function exactOf(
  pool: RenderPool,
  id: number,
  { look, groundwork, steps }: { look: Look | null; groundwork: unknown; /** those kept where not said */ steps?: unknown },
  size: { width: number; height: number },
  gone: () => boolean = () => false,
): Promise<Uint8Array> {
  const frame = await frameById(id),
    read = groundwork === null ? { groundwork: null } : validateGroundwork(groundwork);
  if ('message' in read) throw new ServiceError(400, read.message);
  const own = ownAsked(frame, steps);
  if (!existsSync(frame.path)) throw new ServiceError(409, `${frame.name} is missing: ${frame.path} is not there any more`);
  const { width, height } = outputSize(read.groundwork, frame.raw);
  if (size.width > width || size.height > height) throw new ServiceError(400, `the picture is only ${width} × ${height}`);
  const stillWanted = (): void => {
    if (gone()) throw new ServiceError(409, 'nobody waits for this view any more');
  };
  const made = turn.then(async () => {
    stillWanted();
    const folder = await ensureLevel(pool, frame, 0),
      patches = await mendedPatches(pool, frame),
      picture = new SharedArrayBuffer(exactRoom(width, height)),
      count = Math.max(1, Math.ceil((width * height) / bandPixels)),
      rowOf = (band: number): number => Math.round((band * height) / count);
    let next = 0;
    const lane = async (): Promise<void> => {
      while (next < count) {
        stillWanted();
        const band = next++;
        await pool.run('renderBand', {
          folder,
          full: { width: frame.raw.width, height: frame.raw.height },
          facts: frame.raw.facts,
          hash: frame.hash,
          look,
          groundwork: read.groundwork,
          own,
          patches,
          width,
          first: rowOf(band),
          end: rowOf(band + 1),
          into: picture,
        });
      }
    };
    // what failed or is not wanted ends the other lane too, and both have ended before the next view begins
    const ended = await Promise.allSettled(Array.from({ length: lanes }, () => lane().finally(() => (next = count))));
    for (const e of ended) if (e.status === 'rejected') throw e.reason;
    stillWanted();
    return pool.run('scaleBands', { from: picture, width, height, to: size });
  });
  turn = made.catch(() => {});
  return made;
}
