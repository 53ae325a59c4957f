import { basename } from 'node:path';
import { writeLinearDng } from '@dyepot/core/src/formats/linearDng.ts';
import { alignExposures } from '@dyepot/core/src/match/bracket/align.ts';
import { lightLetIn } from '@dyepot/core/src/match/bracket/find.ts';
import { mergeExposures, type Shot } from '@dyepot/core/src/match/bracket/merge.ts';
import { usualNoise } from '@dyepot/core/src/groundwork/noise.ts';
import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';
import { levelSize } from '@dyepot/core/src/plate/plate.ts';
import { PlainError } from '../plainError.ts';
import { sampleLevel, type PlatedRaw } from './compareTask.ts';
import { putInPlace, waitingName, writeWhole } from './files.ts';
import { decodePlate } from './frameAsDrawn.ts';
import { kernels } from './ownKernels.ts';
import { readPlate } from './plates.ts';
import { beat } from './pulse.ts';

/** What became of a bracket: how far each exposure was moved, in pixels, and what share of it was left out. */
export interface MergedFile {
  moved: number[];
  left: number[];
}
/** Merges raws of one view into a linear DNG. Throws PlainError where that cannot be done. */
export async function mergeRaws({
  paths,
  out,
  mayReplace = false,
}: {
  paths: readonly string[];
  out: string;
  /** a file of that name that is there already may go */
  mayReplace?: boolean;
}): Promise<MergedFile> {
  const k = await kernels(),
    facts: RawFacts[] = [],
    shots: Shot[] = [];
  for (const path of paths) {
    const { facts: said, plate } = await decodePlate(path, true),
      ev = lightLetIn(said.exif);
    if (said.finished) throw new PlainError(`${basename(path)} is a finished picture; brackets are merged from raws`);
    if (ev === null) throw new PlainError(`${basename(path)} does not say how long, at what f-number and ISO it was exposed`);
    facts.push(said);
    shots.push({ plate, ev, noise: said.noise ?? usualNoise(said.exif.iso) });
    beat();
  }
  if (new Set(shots.map((s) => s.ev.toFixed(1))).size < 2)
    throw new PlainError('the frames are all exposed alike: there is nothing to merge');
  if (new Set(facts.map((f) => f.camera)).size > 1) throw new PlainError('the frames are of several cameras');
  try {
    const m = mergeExposures(k, shots, beat),
      own = facts[m.reference]!,
      profile = { ...own.profile, baselineExposureEv: own.profile.baselineExposureEv + m.overShortest };
    const waiting = waitingName(out);
    await writeWhole(waiting, writeLinearDng(m.width, m.height, m.data, { ...own, profile }, 'Dyepot'));
    // what came there meanwhile stays
    await putInPlace(waiting, out, mayReplace);
    return { moved: m.moved, left: m.left };
  } catch (error) {
    if (error instanceof RangeError) throw new PlainError(`${paths.map((p) => basename(p)).join(', ')}: ${error.message}`);
    throw error;
  }
}
/** Whether frames show one view, but for what a hand moves it. */
export async function sameView({ frames, evs }: { frames: readonly PlatedRaw[]; evs: readonly number[] }): Promise<boolean> {
  const plates = await Promise.all(
    frames.map(({ folder, full }) => {
      const level = sampleLevel(full);
      return readPlate(folder, level, full, { x: 0, y: 0, ...levelSize(full.width, full.height, level) });
    }),
  );
  // the middle exposure has most in common with each
  const middle = evs.indexOf([...evs].sort((a, b) => a - b)[(evs.length - 1) >> 1]!);
  return plates.every((p, i) => i === middle || alignExposures([plates[middle]!], [p], evs[i]! - evs[middle]!) !== null);
}
