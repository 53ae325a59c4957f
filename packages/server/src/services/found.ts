import type { FigurePart } from '@dyepot/core/src/mask/mask.ts';
import { plateLevels } from '@dyepot/core/src/plate/plate.ts';
import type { Frame } from '../db/models.ts';
import type { FoundOn, PictureBox, PlatedFrame } from '../work/foundTask.ts';
import type { RenderPool } from '../work/pool.ts';
import { ensureLevel, frameById } from './frames.ts';
import { stampOf } from './frameView.ts';

const known = new Map<string, Promise<FoundOn>>(),
  mostKnown = 5000;
const plated = async (pool: RenderPool, frame: Frame): Promise<PlatedFrame> => ({
  folder: await ensureLevel(pool, frame, plateLevels - 1),
  full: { width: frame.raw.width, height: frame.raw.height },
  facts: frame.raw.facts,
  hash: frame.hash,
  groundwork: frame.ground.groundwork,
});

/** What is found of each region on a frame under its groundwork; looked for once. */
export async function foundOn(pool: RenderPool, id: number): Promise<FoundOn> {
  const frame = await frameById(id),
    key = `${frame.hash} ${stampOf(frame.ground.groundwork)}`,
    there = known.get(key);
  if (there) return there;
  const finding = pool.run('findRegions', await plated(pool, frame));
  if (known.size > mostKnown) known.clear();
  known.set(key, finding);
  finding.catch(() => known.delete(key));
  return finding;
}

/** The thing in a box on a frame's picture. `signal` ends it. */
export const figureOn = async (pool: RenderPool, id: number, box: PictureBox, signal: AbortSignal): Promise<FigurePart> =>
  pool.run('cutFigure', { ...(await plated(pool, await frameById(id))), box }, signal);
