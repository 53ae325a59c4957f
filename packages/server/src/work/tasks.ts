import { existsSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { temperatureOf } from '@dyepot/core/src/colour/temperature.ts';
import { neutralToXy } from '@dyepot/core/src/colour/cameraProfile.ts';
import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';
import { halvePlate, plateLevels } from '@dyepot/core/src/plate/plate.ts';
import { lightSignature, makeSurvey, type Survey } from '@dyepot/core/src/plate/survey.ts';
import { drawingOf } from '@dyepot/core/src/plan/draw.ts';
import { sceneParameters } from '@dyepot/core/src/groundwork/light.ts';
import { encodeFile } from './encodeFile.ts';
import { levelFile, levelToRead, makeFolder, olderLevels, writeWhole } from './files.ts';
import { decodeHashed, decodePlate, drawn } from './frameAsDrawn.ts';
import { kernels } from './ownKernels.ts';
import { beat } from './pulse.ts';
import { region, type FrameTask } from './region.ts';

export { deliver, drawPlace } from './wholeFrame.ts';
export { renderBand, scaleBands } from './exactTask.ts';
export { readLight, renderRegion } from './region.ts';
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

export interface ThumbTask extends FrameTask {
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
