import { autoBalance, pickNeutral, type Picked } from '@dyepot/core/src/groundwork/balance.ts';
import { placeOf, viewAtLevel } from '@dyepot/core/src/groundwork/geometry.ts';
import { plainGroundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { validateGroundwork } from '@dyepot/core/src/groundwork/schema.ts';
import type { Start } from '@dyepot/core/src/groundwork/start/start.ts';
import { frameView } from '@dyepot/core/src/plan/draw.ts';
import { levelSize, plateLevels } from '@dyepot/core/src/plate/plate.ts';
import { readPlate } from '../work/plates.ts';
import type { RenderPool } from '../work/pool.ts';
import { ServiceError } from './errors.ts';
import { drawn, ensureLevel, frameById } from './frames.ts';

/** The light that makes a place of the picture neutral (fractions of the picture after geometry, side in full-size pixels). */
export async function balanceAt(
  pool: RenderPool,
  id: number,
  at: { x: number; y: number; size: number },
  groundwork: unknown,
): Promise<Picked> {
  const frame = await frameById(id),
    read = validateGroundwork(groundwork ?? plainGroundwork),
    level = at.size >= 12 ? 1 : 0,
    folder = await ensureLevel(pool, frame, level),
    size = levelSize(frame.raw.width, frame.raw.height, level);
  if ('message' in read) throw new ServiceError(400, read.message);
  const view = viewAtLevel(frameView(read.groundwork, drawn(frame.raw)), level),
    [x, y] = placeOf(view, 1, at.x * view.width, at.y * view.height);
  const side = Math.max(1, Math.round(at.size / 2 ** level)),
    clamp = (v: number, top: number): number => Math.min(top - side, Math.max(0, Math.round(v - side / 2)));
  const area = {
    x: clamp(x, size.width),
    y: clamp(y, size.height),
    width: Math.min(side, size.width),
    height: Math.min(side, size.height),
  };
  const picked = pickNeutral(await readPlate(folder, level, frame.raw, area), frame.raw.facts.profile, { x: 0.5, y: 0.5 }, side);
  if ('message' in picked) throw new ServiceError(422, picked.message);
  return picked;
}

/** Automatic balance of a frame. */
export async function automaticBalance(pool: RenderPool, id: number): Promise<{ kelvin: number; tintDuv: number }> {
  const frame = await frameById(id),
    level = plateLevels - 2,
    folder = await ensureLevel(pool, frame, level),
    size = levelSize(frame.raw.width, frame.raw.height, level);
  const found = autoBalance(await readPlate(folder, level, frame.raw, { x: 0, y: 0, ...size }), frame.raw.facts.profile);
  if (!found) throw new ServiceError(422, 'nothing in this picture looks grey under any usual light; pick something neutral instead');
  return found;
}

/** What groundwork Dyepot would begin with on a frame. */
export async function startOf(pool: RenderPool, id: number): Promise<Start> {
  const frame = await frameById(id);
  return pool.run('startFrame', {
    folder: await ensureLevel(pool, frame, 1),
    full: { width: frame.raw.width, height: frame.raw.height },
    facts: frame.raw.facts,
    groundwork: frame.ground.groundwork,
  });
}
