import { autoExposure, lightSpread } from '@dyepot/core/src/groundwork/automatic.ts';
import { sceneParameters } from '@dyepot/core/src/groundwork/light.ts';
import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';
import { neutralToXy } from '@dyepot/core/src/colour/cameraProfile.ts';
import { temperatureOf } from '@dyepot/core/src/colour/temperature.ts';
import { findChart, type Chart } from '@dyepot/core/src/match/chart.ts';
import { sampleEdge, sampleOf, type Sample } from '@dyepot/core/src/match/likeness.ts';
import type { LightFacts } from '@dyepot/core/src/match/lights.ts';
import { halvePlate, plateOffset, plateScale, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { decodePlate } from './frameAsDrawn.ts';
import { kernels } from './ownKernels.ts';

/** A raw file small enough to be compared with others. */
export interface SmallRaw {
  facts: RawFacts;
  width: number;
  height: number;
  plate: Plate;
}
/** Reads a raw file and makes it small. */
export async function smallRaw(path: string): Promise<SmallRaw> {
  const { facts, plate: full } = await decodePlate(path, false),
    k = await kernels();
  let plate = full;
  while (Math.max(plate.width, plate.height) > sampleEdge) plate = halvePlate(k, plate);
  return { facts, width: full.width, height: full.height, plate };
}
export const sampleOfRaw = ({ plate }: SmallRaw): Sample => sampleOf(plate);
export const chartOf = ({ plate }: SmallRaw): Chart | null => findChart(plate);

/** When Exif says a picture was taken, in ms; null where it does not say. */
export function takenAt(exif: RawFacts['exif']): number | null {
  const parts = /^(\d{4})[:-](\d\d)[:-](\d\d)[ T](\d\d):(\d\d):(\d\d)/.exec(exif.takenAt ?? '');
  return parts ? Date.UTC(+parts[1]!, +parts[2]! - 1, +parts[3]!, +parts[4]!, +parts[5]!, +parts[6]!) : null;
}
/** What tells the light of a frame, from its file and its smallest plate. */
export function lightFacts(facts: RawFacts, plate: Plate): LightFacts {
  const n = plate.width * plate.height,
    at = (c: number, i: number): number => Math.max(5e-4, (plate.data[c * n + i]! - plateOffset) / plateScale),
    sum = [0, 0];
  for (let i = 0; i < n; i++) {
    sum[0]! += Math.log2(at(0, i) / at(1, i));
    sum[1]! += Math.log2(at(2, i) / at(1, i));
  }
  const { exif, profile } = facts,
    set = Math.log2((exif.aperture || 4) ** 2 / (exif.shutterSeconds || 1 / 125)) - Math.log2((exif.iso || 100) / 100);
  return {
    takenAt: takenAt(exif),
    mired: 1e6 / temperatureOf(neutralToXy(profile, profile.asShotNeutral)).kelvin,
    // the middle of the tones lies so much under what auto exposure would bring it to
    brightness: set - autoExposure(lightSpread(plate, sceneParameters(profile))),
    ratios: [sum[0]! / n, sum[1]! / n],
  };
}
