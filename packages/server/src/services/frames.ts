import { createHash, randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { readFile, rm } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { drawingOf, type DrawnFrame } from '@dyepot/core/src/plan/draw.ts';
import type { Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import type { OwnSteps } from '@dyepot/core/src/look/worn.ts';
import { validateOwnSteps } from '@dyepot/core/src/look/schema.ts';
import { levelSize, plateLevels, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { engineVersion } from '@dyepot/core/src/plan/plan.ts';
import { renditionLook, type Look } from '@dyepot/core/src/look/look.ts';
import { Frame, Shoot, withRaw, type Raw } from '../db/models.ts';
import { dataPath, typedPath } from '../places.ts';
import type { RenderPool } from '../work/pool.ts';

import { readMended } from '../work/mending.ts';
import { found, ServiceError } from './errors.ts';
import { noteUse, pruneFullLevels } from './fullLevels.ts';
import { lookAt } from './looks.ts';
import { contentHash, levelFile, levelToRead } from '../work/files.ts';
import { noiseOf } from './frameView.ts';
import { mendedPatches } from './repairs.ts';

export const plateFolder = (hash: string): string => join(dataPath('plates'), hash);
export interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A frame and what its raw is. */
export const frameById = async (id: number): Promise<Frame> => found(await Frame.findByPk(id, { include: withRaw }), 'this frame');
/** A raw as geometry and drawing know it. */
export const drawn = (raw: Raw): DrawnFrame => ({
  width: raw.width,
  height: raw.height,
  noise: noiseOf(raw),
  fileLens: raw.facts.fileLens ?? null,
});

function checkArea(size: { width: number; height: number }, level: number, area: Area | null): Area {
  if (!(Number.isInteger(level) && level >= 0 && level < plateLevels))
    throw new ServiceError(400, `there is no plate level ${level}; levels go from 0 to ${plateLevels - 1}`);
  const a = area ?? { x: 0, y: 0, ...size };
  if (
    ![a.x, a.y, a.width, a.height].every(Number.isInteger) ||
    a.x < 0 ||
    a.y < 0 ||
    a.width < 1 ||
    a.height < 1 ||
    a.x + a.width > size.width ||
    a.y + a.height > size.height
  )
    throw new ServiceError(400, `the area lies outside the picture, which is ${size.width} × ${size.height} at this level`);
  return a;
}

export async function ensureLevel(pool: RenderPool, frame: Frame, level: number): Promise<string> {
  const folder = plateFolder(frame.hash);
  if (existsSync(levelFile(folder, level))) {
    if (level === 0) await noteUse(levelFile(folder, 0));
    return folder;
  }
  if (!existsSync(frame.path) && existsSync(levelToRead(folder, level))) return folder;
  if (!existsSync(frame.path)) throw new ServiceError(409, `${frame.name} is missing: ${frame.path} is not there any more`);
  // several pieces of one picture are asked for at once; it is decoded once
  const key = `${frame.hash}/${level === 0}`;
  const work =
    underWay.get(key) ??
    (level === 0
      ? pool.run('ensureFullLevel', { path: frame.path, folder })
      : pool.run('importRaw', { path: frame.path, plates: dataPath('plates') })
    ).finally(() => underWay.delete(key));
  underWay.set(key, work);
  await work;
  if (level === 0) await pruneFullLevels(dataPath('plates'));
  return folder;
}
const underWay = new Map<string, Promise<unknown>>();

/** Plate data of an area at a level, with the frame's repairs done unless said otherwise. */
export async function plateOf(pool: RenderPool, id: number, level: number, area: Area | null, mended = true): Promise<Plate> {
  const frame = await frameById(id),
    a = checkArea(levelSize(frame.raw.width, frame.raw.height, level), level, area);
  const folder = await ensureLevel(pool, frame, level);
  return readMended(folder, level, frame.raw, a, mended ? await mendedPatches(pool, frame) : []);
}

/** A frame's own steps as they are said, or those kept where nothing is; null is none. */
export function ownAsked(frame: Frame, steps: unknown): OwnSteps | null {
  if (steps === undefined) return frame.steps.own;
  const read = steps === null ? { own: null } : validateOwnSteps(steps);
  if ('message' in read) throw new ServiceError(400, read.message);
  return read.own;
}
/** Renders an area on the server: RGBA, the same bytes as a browser's worker gives. */
export async function regionOf(
  pool: RenderPool,
  id: number,
  level: number,
  area: Area | null,
  look: Look | null,
  steps: unknown,
): Promise<{ rgba: Uint8Array; width: number; height: number }> {
  const frame = await frameById(id),
    known = Number.isInteger(level) && level >= 0 && level < plateLevels ? level : plateLevels - 1,
    folder = await ensureLevel(pool, frame, drawingOf(frame.ground.groundwork, drawn(frame.raw), known, null).level);
  return await pool.run('renderRegion', {
    folder,
    level,
    full: { width: frame.raw.width, height: frame.raw.height },
    area: area && checkArea(drawingOf(frame.ground.groundwork, drawn(frame.raw), level, null).whole, level, area),
    facts: frame.raw.facts,
    hash: frame.hash,
    look,
    groundwork: frame.ground.groundwork,
    own: ownAsked(frame, steps),
    patches: await mendedPatches(pool, frame),
    space: 'srgb',
  });
}

/** The file of a small rendered picture under a look of the shelf, or the shoot's rendition; rendered when it is not in the cache. */
export async function thumbOf(
  pool: RenderPool,
  id: number,
  lookId: number | null,
  revision: number | null,
  longEdge: number,
  /** instead of the frame's own */
  instead?: Groundwork | null,
): Promise<string> {
  const frame = await frameById(id),
    look =
      lookId === null
        ? renditionLook((await Shoot.findByPk(frame.shootId))?.rendition ?? 'plain')
        : (await lookAt(lookId, revision ?? undefined)).document;
  return pictureUnder(pool, frame, look, longEdge, instead === undefined ? frame.ground.groundwork : instead);
}
/** A small picture of a frame under a look that need not be on the shelf, as a JPEG; it is not kept: a hand that moves asks for many. */
export async function thumbUnder(pool: RenderPool, id: number, look: Look, longEdge: number): Promise<Buffer> {
  const frame = await frameById(id),
    file = join(dataPath('thumbs', 'tried'), `${randomUUID()}.jpg`);
  try {
    await drawThumb(pool, frame, look, longEdge, frame.ground.groundwork, file);
    return await readFile(file);
  } finally {
    await rm(file, { force: true });
  }
}
async function pictureUnder(
  pool: RenderPool,
  frame: Awaited<ReturnType<typeof frameById>>,
  look: Look,
  longEdge: number,
  groundwork: Groundwork | null,
): Promise<string> {
  const key = createHash('sha256')
      .update(JSON.stringify([engineVersion, frame.hash, groundwork, look, longEdge, frame.steps.own, frame.mending.repairs]))
      .digest('hex')
      .slice(0, 32),
    file = join(dataPath('thumbs', key.slice(0, 2)), `${key}.jpg`);
  if (existsSync(file)) return file;
  // asked for twice at once, it is made once
  const making = beingMade.get(file) ?? drawThumb(pool, frame, look, longEdge, groundwork, file).finally(() => beingMade.delete(file));
  beingMade.set(file, making);
  await making;
  return file;
}
const beingMade = new Map<string, Promise<void>>();
async function drawThumb(
  pool: RenderPool,
  frame: Awaited<ReturnType<typeof frameById>>,
  look: Look,
  longEdge: number,
  groundwork: Groundwork | null,
  file: string,
): Promise<void> {
  const folder = await ensureLevel(pool, frame, plateLevels - 1);
  await pool.run('renderThumb', {
    folder,
    full: { width: frame.raw.width, height: frame.raw.height },
    facts: frame.raw.facts,
    hash: frame.hash,
    look,
    groundwork,
    own: frame.steps.own,
    patches: await mendedPatches(pool, frame),
    longEdge,
    file,
  });
}

/** OKLab of the light that comes to a step at a place of the picture (fractions). */
export async function lightAt(
  pool: RenderPool,
  id: number,
  { look, steps, of, at }: { look: Look | null; steps: unknown; of: string; at: { x: number; y: number } },
): Promise<{ lab: readonly number[] }> {
  const frame = await frameById(id),
    own = ownAsked(frame, steps);
  const level = 2,
    { whole } = drawingOf(frame.ground.groundwork, drawn(frame.raw), level, null),
    x = Math.min(whole.width - 3, Math.max(0, Math.floor(at.x * whole.width) - 1)),
    y = Math.min(whole.height - 3, Math.max(0, Math.floor(at.y * whole.height) - 1)),
    folder = await ensureLevel(pool, frame, drawingOf(frame.ground.groundwork, drawn(frame.raw), level, null).level);
  const lab = await pool.run('readLight', {
    folder,
    level,
    full: { width: frame.raw.width, height: frame.raw.height },
    area: { x, y, width: 3, height: 3 },
    facts: frame.raw.facts,
    hash: frame.hash,
    look,
    groundwork: frame.ground.groundwork,
    own,
    patches: await mendedPatches(pool, frame),
    space: 'srgb',
    of,
  });
  if (!lab) throw new ServiceError(404, 'this step is not there, or acts everywhere: there is no place to pick for');
  return { lab };
}

/** Points a missing frame, and the dips of the same file, at it again; refused when the content is another. */
export async function findAgain(id: number, path: string): Promise<Frame> {
  const frame = await frameById(id),
    at = typedPath(path);
  if (!existsSync(at)) throw new ServiceError(400, `${at} is not there`);
  if ((await contentHash(at)) !== frame.hash)
    throw new ServiceError(400, `${basename(at)} is another picture than ${frame.name}: its content differs`);
  await Frame.update({ path: at }, { where: { hash: frame.hash, path: frame.path } });
  return frame.update({ path: at });
}
