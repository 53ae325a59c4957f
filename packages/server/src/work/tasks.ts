import { existsSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { temperatureOf } from '@dyepot/core/src/colour/temperature.ts';
import { neutralToXy } from '@dyepot/core/src/colour/cameraProfile.ts';
import { rec2020ToOklab } from '@dyepot/core/src/colour/oklab.ts';
import type { Vector3 } from '@dyepot/core/src/colour/matrix.ts';
import type { Kernels } from '@dyepot/core/src/kernels/kernels.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';
import { halvePlate, plateLevels, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { lightSignature, makeSurvey, type Survey } from '@dyepot/core/src/plate/survey.ts';
import {
  drawingOf,
  drawPlate,
  guideDrawing,
  needsGuide,
  originOf,
  shownOf,
  wholeFor,
  type Area,
  type Drawing,
  type WholePicture,
} from '@dyepot/core/src/plan/draw.ts';
import { type Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { sceneParameters } from '@dyepot/core/src/groundwork/light.ts';
import { reachOf, type Plan } from '@dyepot/core/src/render/pass.ts';
import { plan, placePlan } from '@dyepot/core/src/plan/plan.ts';
import type { OwnSteps } from '@dyepot/core/src/look/worn.ts';
import { developPlanes, render, type Form } from '@dyepot/core/src/render/render.ts';
import { encodeFile, type FileSettings } from './encodeFile.ts';
import { levelFile, levelToRead, makeFolder, olderLevels, writeWhole } from './files.ts';
import { decodeHashed, decodePlate, drawn, seedOf } from './frameAsDrawn.ts';
import { kernels } from './ownKernels.ts';
import { readMended, type Patch } from './mending.ts';
import { beat } from './pulse.ts';

export { deliver, drawPlace, renderExact } from './wholeFrame.ts';
export { compareFrames, readLightFacts } from './compareTask.ts';
export { cutFigure, cutFigureOf, findRegions } from './foundTask.ts';
export { readLensShelf } from './lensShelf.ts';
export { drawDust, mendFrame, seekDust, seekSource } from './mending.ts';
export { mergeRaws, sameView } from './bracketTask.ts';
export { findSpot, readChart, readGreys, readSpot, readTones } from './matchTask.ts';
export { startFrame } from './startTask.ts';
export { readPicture } from './storedPicture.ts';
export { bake, fitPair, readTable } from './tableTasks.ts';

export interface Imported {
  hash: string;
  facts: RawFacts;
  width: number;
  height: number;
  survey: Survey;
  signature: number[];
  kelvin: number;
  tintDuv: number;
}

/** Reads a raw: its facts, its plate's smaller levels into `plates/<hash>`, its survey. */
export async function importRaw({ path, plates, token }: { path: string; plates: string; token?: string }): Promise<Imported> {
  // the file is summed up while another thread decodes it
  const { hash, facts, plate } = await decodeHashed(path, true);
  const folder = join(plates, hash);
  makeFolder(folder);
  let level = plate;
  // each level goes to disk while the next is made; what goes wrong there is met at the end
  const written: Promise<void>[] = [];
  for (let i = 0; i < plateLevels; i++) {
    beat();
    if (i > 0) level = halvePlate(await kernels(), level);
    // a full level is kept only where it is small; a larger one is made again when asked for
    if (i === 0 && plate.width * plate.height >= 4e6) continue;
    const kept = writeWhole(levelFile(folder, i), new Uint8Array(level.data.buffer), token);
    kept.catch(() => {});
    written.push(kept);
  }
  const survey = makeSurvey(level, sceneParameters(facts.profile));
  const { kelvin, tintDuv } = temperatureOf(neutralToXy(facts.profile, facts.profile.asShotNeutral));
  await Promise.all(written);
  for (let i = 0; i < plateLevels; i++) await dropOlder(folder, i);
  return { hash, facts, width: plate.width, height: plate.height, survey, signature: lightSignature(survey), kelvin, tintDuv };
}

/** Makes the full level of a plate on disk when it is not there. */
export async function ensureFullLevel({ path, folder }: { path: string; folder: string }): Promise<void> {
  if (existsSync(levelFile(folder, 0))) return;
  const { plate } = await decodePlate(path, false);
  makeFolder(folder);
  await writeWhole(levelFile(folder, 0), new Uint8Array(plate.data.buffer));
  await dropOlder(folder, 0);
}

/** Takes away what earlier versions made of a level that is made anew. */
async function dropOlder(folder: string, level: number): Promise<void> {
  for (const old of olderLevels(folder, level)) await rm(old, { force: true });
}

export interface RegionTask {
  folder: string;
  level: number;
  full: { width: number; height: number };
  area: Area | null;
  facts: RawFacts;
  hash: string;
  look: Look | null;
  groundwork: Groundwork | null;
  /** the frame's own steps */
  own: OwnSteps | null;
  /** its repairs, done */
  patches: readonly Patch[];
  space: FileSettings['space'];
}

/** Renders a region of a level to RGBA; null is the whole picture. */
export const renderRegion = async (t: RegionTask): Promise<{ rgba: Uint8Array<ArrayBuffer>; width: number; height: number }> => {
  const { pixels, ...size } = await region(t, 'rgba8');
  return { rgba: pixels, ...size };
};
async function region(t: RegionTask, form: Form): Promise<{ pixels: Uint8Array<ArrayBuffer>; width: number; height: number }> {
  const { k, p, plate, drawing, known } = await regionDrawn(t, plan);
  return {
    pixels: shownOf(drawing, render(k, p, plate, originOf(drawing, known), form)),
    width: drawing.shown.width,
    height: drawing.shown.height,
  };
}
/** Linear light, in the mean over a region, as it comes to the place of a step; null where that has none. OKLab. */
export async function readLight(t: RegionTask & { of: string }): Promise<Vector3 | null> {
  const { k, p, plate, drawing, known } = await regionDrawn(t, (...of) => placePlan(...of, t.of));
  if (!p) return null;
  const n = plate.width * plate.height,
    planes = developPlanes(k, p, plate, p.passes.length - 2, originOf(drawing, known));
  return rec2020ToOklab([0, 1, 2].map((c) => planes.subarray(c * n, (c + 1) * n).reduce((sum, v) => sum + v, 0) / n) as unknown as Vector3);
}
async function regionDrawn<P extends Plan | null>(
  t: RegionTask,
  made: (...of: Parameters<typeof plan>) => P,
): Promise<{ k: Kernels; p: P; plate: Plate; drawing: Drawing; known: WholePicture | null }> {
  const k = await kernels(),
    frame = drawn(t.full, t.facts),
    p = made(t.look, { profile: t.facts.profile, seed: seedOf(t.hash), groundwork: t.groundwork, picture: frame, steps: t.own }, t.space),
    drawing = drawingOf(t.groundwork, frame, t.level, t.area, { reach: p ? reachOf(p.passes) : 0 });
  const piece = await readMended(t.folder, drawing.level, t.full, drawing.source, t.patches),
    plate = drawPlate(k, drawing, piece),
    small = guideDrawing(t.groundwork, frame),
    // a small picture is often drawn from the very piece its guide is
    same = small.level === drawing.level && JSON.stringify(small.source) === JSON.stringify(drawing.source);
  const needs = p !== null && needsGuide(p),
    known = needs ? wholeFor(k, p, small, same ? piece : await readMended(t.folder, small.level, t.full, small.source, t.patches)) : null;
  return { k, p, plate, drawing, known };
}

export interface ThumbTask {
  folder: string;
  full: { width: number; height: number };
  facts: RawFacts;
  hash: string;
  look: Look | null;
  groundwork: Groundwork | null;
  /** the frame's own steps */
  own: OwnSteps | null;
  patches: readonly Patch[];
  longEdge: number;
  file: string;
}

/** Renders a small JPEG of a frame into the cache. */
export async function renderThumb(t: ThumbTask): Promise<void> {
  let level = plateLevels - 1;
  while (level > 0 && Math.max(t.full.width, t.full.height) >> level < t.longEdge) level--;
  // the full level may not be kept; a smaller one then serves
  while (level < plateLevels - 1 && !existsSync(levelToRead(t.folder, drawingOf(t.groundwork, drawn(t.full, t.facts), level, null).level)))
    level++;
  const { pixels, width, height } = await region({ ...t, level, area: null, space: 'srgb' }, 'rgb8');
  await writeWhole(
    t.file,
    await encodeFile(pixels, width, height, { format: 'jpeg', depth: 8, space: 'srgb', size: null, quality: 88 }, null),
  );
}
