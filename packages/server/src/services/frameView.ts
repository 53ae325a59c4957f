import { createHash } from 'node:crypto';
import { access } from 'node:fs/promises';
import type { CameraProfile } from '@dyepot/core/src/colour/cameraProfile.ts';
import { outputSize } from '@dyepot/core/src/plan/draw.ts';
import type { Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { opticsOf } from '@dyepot/core/src/groundwork/detail/optics.ts';
import { usualNoise, type NoiseModel } from '@dyepot/core/src/groundwork/noise.ts';
import type { InferAttributes } from 'sequelize';
import { checkedGround } from '../db/checkedGround.ts';
import type { Frame } from '../db/models.ts';
import { isUpload } from './uploads.ts';

/** What is stored of a frame, without its survey. */
export type FrameRow = Omit<InferAttributes<Frame>, 'survey' | 'ground'>;

export const noiseOf = (f: Pick<Frame, 'facts'>): NoiseModel => f.facts.noise ?? usualNoise(f.facts.exif.iso);

const stamps = new WeakMap<Groundwork, string>();
/** A short name of groundwork, so that pictures of other groundwork have other addresses. */
export function stampOf(g: Groundwork | null): string {
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
  const { groundwork, trouble } = checkedGround(f.groundwork);
  return {
    id: f.id,
    shootId: f.shootId,
    name: f.name,
    path: f.path,
    own: isUpload(f.path),
    hash: f.hash,
    width: f.width,
    height: f.height,
    light: f.light,
    kelvin: f.kelvin,
    tintDuv: f.tintDuv,
    profile: f.facts.profile,
    camera: f.facts.camera,
    lens: f.facts.lens,
    mosaic: f.facts.mosaic,
    exif: f.facts.exif,
    noise: noiseOf(f),
    optics: opticsOf(f.facts.exif, f),
    fileLens: f.facts.fileLens ?? null,
    lightSource: f.facts.lightSource ?? 0,
    neutral: f.facts.profile.asShotNeutral,
    doubt: f.doubt ?? null,
    groundwork,
    groundTrouble: trouble,
    groundVersion: f.groundVersion ?? 0,
    groundStamp: stampOf(groundwork),
    output: outputSize(groundwork, f),
    missing,
  };
}
/** The same, looking whether its raw is there. */
export const frameViewNow = async (f: Frame): Promise<object> => frameView(f, !(await isThere(f.path)));
