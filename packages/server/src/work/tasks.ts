import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { open, rm, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { temperatureOf } from '@dyepot/core/src/colour/temperature.ts';
import { neutralToXy } from '@dyepot/core/src/colour/cameraProfile.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';
import { halvePlate, levelSize, makePlate, plateLevels, type Plate } from '@dyepot/core/src/plate/plate.ts';
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
  type DrawnFrame,
} from '@dyepot/core/src/plan/draw.ts';
import { partIsPlain, type Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { sceneParameters } from '@dyepot/core/src/groundwork/light.ts';
import { opticsOf } from '@dyepot/core/src/groundwork/detail/optics.ts';
import { estimateNoise, usualNoise } from '@dyepot/core/src/groundwork/noise.ts';
import { reachOf, type Plan } from '@dyepot/core/src/render/pass.ts';
import { plan } from '@dyepot/core/src/plan/plan.ts';
import { render, type Form, type Origin } from '@dyepot/core/src/render/render.ts';
import { decodeRaw } from '../decode/decode.ts';
import { encodeFile, renderDepth, scaleDown, writtenSize, type FileSettings } from './encodeFile.ts';
import { contentHash, levelFile, levelToRead, makeFolder, olderLevels, writeWhole, writingError } from './files.ts';
import { kernels } from './ownKernels.ts';
import { beat } from './pulse.ts';

export { readLensShelf } from './lensShelf.ts';
export { readPicture } from './storedPicture.ts';
export { bake, fitPair, readTable } from './tableTasks.ts';

export const seedOf = (hash: string): number => Number.parseInt(hash.slice(0, 7), 16);

/** Decodes a raw; its noise is measured where it is asked for. */
async function decodePlate(path: string, noisy: boolean): Promise<{ facts: RawFacts; plate: Plate }> {
  const { facts, raw } = await decodeRaw(path);
  beat();
  return { facts: noisy ? { ...facts, noise: estimateNoise(raw, facts) } : facts, plate: makePlate(await kernels(), raw, facts) };
}

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
  const [hash, { facts, plate }] = await Promise.all([contentHash(path), decodePlate(path, true)]);
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

/** A rectangle of a plate level on disk, as three planes. */
export async function readPlate(
  folder: string,
  level: number,
  full: { width: number; height: number },
  area: { x: number; y: number; width: number; height: number },
): Promise<Plate> {
  const size = levelSize(full.width, full.height, level),
    data = new Uint16Array(area.width * area.height * 3),
    n = size.width * size.height;
  const file = await open(levelToRead(folder, level), 'r');
  try {
    for (let c = 0; c < 3; c++) {
      if (area.width === size.width) {
        await file.read(
          new Uint8Array(data.buffer, c * area.width * area.height * 2, area.width * area.height * 2),
          0,
          area.width * area.height * 2,
          (c * n + area.y * size.width) * 2,
        );
        continue;
      }
      const rows = new Uint16Array(area.height * size.width);
      await file.read(new Uint8Array(rows.buffer), 0, rows.byteLength, (c * n + area.y * size.width) * 2);
      for (let j = 0; j < area.height; j++)
        data.set(rows.subarray(j * size.width + area.x, j * size.width + area.x + area.width), (c * area.height + j) * area.width);
    }
  } finally {
    await file.close();
  }
  return { width: area.width, height: area.height, data };
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
  space: FileSettings['space'];
}

/** A frame as its drawings need it. */
const drawn = (size: { width: number; height: number }, facts: RawFacts): DrawnFrame => ({
  width: size.width,
  height: size.height,
  noise: facts.noise ?? usualNoise(facts.exif.iso),
  neutral: facts.profile.asShotNeutral,
  fileLens: facts.fileLens ?? null,
  optics: opticsOf(facts.exif, size),
});

/** Renders a region of a level to RGBA; null is the whole picture. */
export const renderRegion = async (t: RegionTask): Promise<{ rgba: Uint8Array<ArrayBuffer>; width: number; height: number }> => {
  const { pixels, ...size } = await region(t, 'rgba8');
  return { rgba: pixels, ...size };
};
async function region(t: RegionTask, form: Form): Promise<{ pixels: Uint8Array<ArrayBuffer>; width: number; height: number }> {
  const k = await kernels(),
    frame = drawn(t.full, t.facts),
    p = plan(t.look, { profile: t.facts.profile, seed: seedOf(t.hash), groundwork: t.groundwork, picture: frame }, t.space),
    drawing = drawingOf(t.groundwork, frame, t.level, t.area, { reach: reachOf(p.passes) });
  const piece = await readPlate(t.folder, drawing.level, t.full, drawing.source),
    plate = drawPlate(k, drawing, piece),
    small = guideDrawing(t.groundwork, frame),
    // a small picture is often drawn from the very piece its guide is
    same = small.level === drawing.level && JSON.stringify(small.source) === JSON.stringify(drawing.source);
  const known = needsGuide(p) ? wholeFor(k, p, small, same ? piece : await readPlate(t.folder, small.level, t.full, small.source)) : null;
  return {
    pixels: shownOf(drawing, render(k, p, plate, originOf(drawing, known), form)),
    width: drawing.shown.width,
    height: drawing.shown.height,
  };
}

export interface ThumbTask {
  folder: string;
  full: { width: number; height: number };
  facts: RawFacts;
  hash: string;
  look: Look | null;
  groundwork: Groundwork | null;
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

export interface ExactTask {
  path: string;
  hash: string;
  look: Look | null;
  groundwork: Groundwork | null;
  width: number;
  height: number;
}

/** The full-size render scaled down in linear light to RGBA of a given size: what a delivered file looks like, small. */
export async function renderExact(t: ExactTask): Promise<Uint8Array<ArrayBuffer>> {
  const { pixels, width, height } = await renderFull(t.path, t.hash, t.look, t.groundwork, 'srgb', () => 16);
  const small = await scaleDown(pixels as Uint16Array, width, height, t),
    out = new Uint8Array(t.width * t.height * 4);
  for (let i = 0; i < t.width * t.height; i++) {
    for (let c = 0; c < 3; c++) out[i * 4 + c] = Math.round(small[i * 3 + c]! / 257);
    out[i * 4 + 3] = 255;
  }
  return out;
}

/** Decodes a raw and draws it at full size under its groundwork. The plate as decoded is let go when this returns: two at once are too many. */
async function drawnWhole(
  path: string,
  known: string | null,
  look: Look | null,
  groundwork: Groundwork | null,
  space: FileSettings['space'],
): Promise<{ plate: Plate; plan: Plan; origin: Origin; facts: RawFacts }> {
  const k = await kernels(),
    [hash, { facts, plate: decoded }] = await Promise.all([
      known ?? contentHash(path),
      decodePlate(path, groundwork !== null && !partIsPlain(groundwork, 'detail')),
    ]),
    frame = drawn(decoded, facts);
  const p = plan(look, { profile: facts.profile, seed: seedOf(hash), groundwork, picture: frame }, space),
    guided = guideDrawing(groundwork, frame);
  beat();
  let small = decoded;
  if (needsGuide(p)) for (let i = 0; i < guided.level; i++) small = halvePlate(k, small);
  const about = wholeFor(k, p, { ...guided, source: { x: 0, y: 0, width: small.width, height: small.height } }, small),
    drawing = drawingOf(groundwork, frame, 0, null);
  return { plate: drawPlate(k, drawing, decoded), plan: p, origin: originOf(drawing, about), facts };
}
/** Decodes and renders a raw at full size: interleaved RGB in 8 or 16 bits. */
async function renderFull(
  path: string,
  known: string | null,
  look: Look | null,
  groundwork: Groundwork | null,
  space: FileSettings['space'],
  depthFor: (width: number, height: number) => 8 | 16,
): Promise<{ pixels: Uint8Array | Uint16Array; width: number; height: number; facts: RawFacts }> {
  const { plate, plan: p, origin, facts } = await drawnWhole(path, known, look, groundwork, space),
    { width, height } = plate,
    depth = depthFor(width, height);
  beat();
  const bytes = render(await kernels(), p, plate, origin, depth === 8 ? 'rgb8' : 'rgb16');
  return { pixels: depth === 8 ? bytes : new Uint16Array(bytes.buffer), width, height, facts };
}

export interface DeliverTask {
  path: string;
  hash: string | null;
  look: Look | null;
  groundwork: Groundwork | null;
  settings: FileSettings;
  /** where the finished file waits for its name */
  waiting: string;
}

/** Renders a raw file at full size and writes the finished file where it waits for its name. */
export async function deliver(
  t: DeliverTask,
): Promise<{ width: number; height: number; bytes: number; sha256: string; doubt: string | null }> {
  makeFolder(dirname(t.waiting));
  const { pixels, width, height, facts } = await renderFull(t.path, t.hash, t.look, t.groundwork, t.settings.space, (w, h) =>
    renderDepth(t.settings, w, h),
  );
  beat();
  const file = await encodeFile(pixels, width, height, t.settings, facts);
  beat();
  try {
    await writeFile(t.waiting, file);
  } catch (error) {
    await rm(t.waiting, { force: true }).catch(() => {});
    throw writingError(error, t.waiting);
  }
  return {
    ...writtenSize(width, height, t.settings.size),
    bytes: file.length,
    sha256: createHash('sha256').update(file).digest('hex'),
    doubt: facts.doubt ?? null,
  };
}
