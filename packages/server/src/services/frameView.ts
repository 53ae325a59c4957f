import { createHash } from 'node:crypto';
import { access } from 'node:fs/promises';
import type { CameraProfile } from '@dyepot/core/src/colour/cameraProfile.ts';
import { outputSize } from '@dyepot/core/src/plan/draw.ts';
import { opticsOf } from '@dyepot/core/src/groundwork/detail/optics.ts';
import { usualNoise, type NoiseModel } from '@dyepot/core/src/groundwork/noise.ts';
import type { InferAttributes } from 'sequelize';
import { checkedGround } from '../db/checkedGround.ts';
import { checkedOwn } from '../db/checkedOwn.ts';
import { checkedRepairs } from '../db/checkedRepairs.ts';
import type { Frame, Raw } from '../db/models.ts';
import { tellNews } from './news.ts';
import { isUpload } from './uploads.ts';

/** What is stored of a frame and its raw, without the survey. */
export type FrameRow = Omit<InferAttributes<Frame>, 'ground' | 'steps' | 'mending'> & {
  raw: Omit<InferAttributes<Raw>, 'survey' | 'signature'>;
};

export const noiseOf = ({ facts }: Pick<Raw, 'facts'>): NoiseModel => facts.noise ?? usualNoise(facts.exif.iso);

const stamps = new WeakMap<object, string>();
/** A short name of groundwork, or of steps, so that pictures under others have other addresses. */
export function stampOf(g: object | null): string {
  if (!g) return '';
  const known = stamps.get(g);
  if (known) return known;
  const stamp = createHash('sha256').update(JSON.stringify(g)).digest('hex').slice(0, 8);
  stamps.set(g, stamp);
  return stamp;
}

/** Whether a file is there. */
export const isThere = (path: string): Promise<boolean> =>
  access(path).then(
    () => true,
    () => false,
  );

/** What the pages need to know of a frame. */
export function frameView(f: FrameRow, missing: boolean): { profile: CameraProfile } & Record<string, unknown> {
  const { groundwork, trouble } = checkedGround(f.groundwork),
    own = checkedOwn(f.own),
    mended = checkedRepairs(f.repairs),
    { raw } = f,
    { facts } = raw;
  return {
    id: f.id,
    shootId: f.shootId,
    name: f.name,
    path: f.path,
    own: isUpload(f.path),
    hash: f.hash,
    width: raw.width,
    height: raw.height,
    light: f.light,
    rating: f.rating,
    mark: f.mark,
    look: f.lookId === null || f.lookId === undefined ? null : { id: f.lookId, revision: f.lookRevision },
    kelvin: raw.kelvin,
    tintDuv: raw.tintDuv,
    profile: facts.profile,
    camera: facts.camera,
    lens: facts.lens,
    mosaic: facts.mosaic,
    finished: facts.finished ?? null,
    exif: facts.exif,
    noise: noiseOf(raw),
    optics: opticsOf(facts.exif, raw),
    fileLens: facts.fileLens ?? null,
    lightSource: facts.lightSource ?? 0,
    neutral: facts.profile.asShotNeutral,
    doubt: raw.doubt ?? null,
    groundwork,
    groundTrouble: trouble,
    steps: own.own,
    stepsTrouble: own.trouble,
    stepsVersion: f.ownVersion ?? 0,
    repairs: mended.repairs,
    repairCount: mended.repairs.length,
    repairTrouble: mended.trouble,
    repairVersion: f.repairVersion ?? 0,
    repairStamp: mended.repairs.length > 0 ? stampOf(mended.repairs) : '',
    groundVersion: f.groundVersion ?? 0,
    groundStamp: stampOf(groundwork) + stampOf(own.own) + (mended.repairs.length > 0 ? stampOf(mended.repairs) : ''),
    output: outputSize(groundwork, raw),
    missing,
  };
}
/** The same, looking whether its raw is there. */
export const frameViewNow = async (f: Frame): Promise<object> => frameView(f, !(await isThere(f.path)));
/** Tells what became of frames: of a few one by one; where there are many, their shoots are asked for anew. */
export async function tellFrames(frames: readonly Frame[]): Promise<void> {
  if (frames.length <= 20) for (const f of frames) tellNews({ kind: 'frame', shootId: f.shootId, frame: await frameViewNow(f) });
  else for (const id of new Set(frames.map((f) => f.shootId))) tellNews({ kind: 'shoot', id });
}
