import { plateLevels } from '@dyepot/core/src/plate/plate.ts';
import type { FoundOn } from '../work/foundTask.ts';
import type { RenderPool } from '../work/pool.ts';
import { ensureLevel, frameById } from './frames.ts';
import { stampOf } from './frameView.ts';

const known = new Map<string, Promise<FoundOn>>(),
  mostKnown = 5000;
/** What is found of each region on a frame under its groundwork; looked for once. */
export async function foundOn(pool: RenderPool, id: number): Promise<FoundOn> {
  const frame = await frameById(id),
    { groundwork } = frame.ground,
    key = `${frame.hash} ${stampOf(groundwork)}`,
    there = known.get(key);
  if (there) return there;
  const folder = await ensureLevel(pool, frame, plateLevels - 1),
    finding = pool.run('findRegions', {
      folder,
      full: { width: frame.raw.width, height: frame.raw.height },
      facts: frame.raw.facts,
      hash: frame.hash,
      groundwork,
    });
  if (known.size > mostKnown) known.clear();
  known.set(key, finding);
  finding.catch(() => known.delete(key));
  return finding;
}
