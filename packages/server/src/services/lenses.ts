import { statSync } from 'node:fs';
import { nearness, profileOf, type DatabaseLens } from '@dyepot/core/src/formats/lensfun.ts';
import type { LensProfile } from '@dyepot/core/src/groundwork/lens.ts';
import { Setting } from '../db/models.ts';
import { typedPath } from '../places.ts';
import type { LensShelf } from '../work/lensShelf.ts';
import type { RenderPool } from '../work/pool.ts';
import { ServiceError } from './errors.ts';
import { frameById } from './frames.ts';

export interface LensFound {
  key: string;
  maker: string;
  model: string;
  crop: number;
  focalMin: number;
  focalMax: number;
  has: string[];
  inRange: boolean;
}
const name = 'lens-database';
let kept: { folder: string; shelf: Promise<LensShelf> } | null = null;

/** The database in a folder, read once. */
function shelfOf(pool: RenderPool, folder: string): Promise<LensShelf> {
  if (kept?.folder === folder) return kept.shelf;
  const shelf = pool.run('readLensShelf', { folder });
  kept = { folder, shelf };
  shelf.catch(() => {
    kept = null;
  });
  return shelf;
}
const folderSet = async (): Promise<string | null> => ((await Setting.findByPk(name))?.value as string | undefined) ?? null;

/** Where lens data are read from, and what is there. */
export async function lensSource(pool: RenderPool): Promise<{ folder: string | null; lenses: number; files: number; problems: string[] }> {
  const folder = await folderSet();
  if (folder === null) return { folder, lenses: 0, files: 0, problems: [] };
  const shelf = await shelfOf(pool, folder);
  return { folder, lenses: shelf.lenses.length, files: shelf.files, problems: shelf.problems };
}
/** Names the folder of a Lensfun database, version 1; null forgets it. */
export async function setLensSource(pool: RenderPool, folder: string | null): Promise<object> {
  if (folder === null) {
    await Setting.destroy({ where: { name } });
    return lensSource(pool);
  }
  const at = typedPath(folder);
  if (!statSync(at, { throwIfNoEntry: false })?.isDirectory()) throw new ServiceError(400, `${at} is not a folder on this machine`);
  kept = null;
  const shelf = await shelfOf(pool, at);
  if (shelf.lenses.length === 0)
    throw new ServiceError(400, shelf.problems[0] ?? `there is no lens database (XML files of Lensfun, version 1) in ${at}`);
  await Setting.upsert({ name, value: at });
  return lensSource(pool);
}

/** The camera's crop factor: from the focal length the file gives for full frame, or the database's camera, or that of the lens. */
function cropOf(shelf: LensShelf, lens: DatabaseLens, camera: string, exif: { focalMm: number; focalMm35?: number }): number {
  if (exif.focalMm35 && exif.focalMm > 0) return exif.focalMm35 / exif.focalMm;
  const words = camera.toLowerCase();
  return shelf.cameras.find((c) => c.model.length > 2 && words.includes(c.model.toLowerCase()))?.crop ?? lens.crop;
}

/** The lenses whose names answer best to some words, or to the frame's own lens. */
export async function searchLenses(pool: RenderPool, frameId: number, words: string): Promise<LensFound[]> {
  const folder = await folderSet(),
    frame = await frameById(frameId);
  if (folder === null) return [];
  const shelf = await shelfOf(pool, folder),
    wanted = words || frame.raw.facts.lens,
    focal = frame.raw.facts.exif.focalMm;
  return shelf.lenses
    .map((lens, i) => ({ lens, i, near: nearness(lens, wanted) }))
    .filter((f) => f.near > (words ? 0.99 : 0.6))
    .sort((a, b) => b.near - a.near || a.lens.model.length - b.lens.model.length)
    .slice(0, 30)
    .map(({ lens, i }) => ({
      key: String(i),
      maker: lens.maker,
      model: lens.model,
      crop: lens.crop,
      focalMin: lens.focalMin,
      focalMax: lens.focalMax,
      has: [
        lens.distortion.length > 0 ? 'distortion' : '',
        lens.aberration.length > 0 ? 'aberration' : '',
        lens.vignetting.length > 0 ? 'vignetting' : '',
      ].filter(Boolean),
      inRange: focal === 0 || (focal >= lens.focalMin * 0.98 && focal <= lens.focalMax * 1.02),
    }));
}
/** A lens of the database at a frame's focal length and aperture. */
export async function profileFor(pool: RenderPool, frameId: number, key: string): Promise<LensProfile> {
  const folder = await folderSet(),
    frame = await frameById(frameId);
  if (folder === null) throw new ServiceError(409, 'no lens database is named yet');
  const shelf = await shelfOf(pool, folder),
    lens = shelf.lenses[Number(key)];
  if (!lens) throw new ServiceError(404, 'this lens is not in the database (any more)');
  const { exif, camera } = frame.raw.facts;
  return profileOf(lens, `Lensfun database, ${lens.file}`, {
    focalMm: exif.focalMm || lens.focalMin,
    aperture: exif.aperture,
    crop: cropOf(shelf, lens, camera, exif),
  });
}
