import { plateOffset, plateScale, type Plate } from '../../plate/plate.ts';
import type { NoiseModel } from '../noise.ts';

/** Octaves of contrast from 2⁻² to 2⁹ deviations of noise, three places each. */
export const contrastBins = 33,
  contrastFrom = -2,
  contrastTo = 9;

/**
 * How many places of a frame stand out by how much, from a small plate of it: the deviation of luma over blocks of 8 × 8, in
 * deviations of the full picture's noise, with that noise added.
 */
export function contrastSpread(plate: Plate, { slope, floor }: NoiseModel): number[] {
  const n = plate.width * plate.height,
    bins = new Array<number>(contrastBins).fill(0);
  const even = (at: number): number => (2 / slope) * Math.sqrt(Math.max(0, (slope * (plate.data[at]! - plateOffset)) / plateScale + floor));
  for (let y = 0; y + 8 <= plate.height; y += 8)
    for (let x = 0; x + 8 <= plate.width; x += 8) {
      let sum = 0,
        square = 0;
      for (let j = 0; j < 8; j++)
        for (let i = 0; i < 8; i++) {
          const at = (y + j) * plate.width + x + i,
            v = (even(at) + 2 * even(n + at) + even(2 * n + at)) / 4;
          sum += v;
          square += v * v;
        }
      const contrast = Math.sqrt(Math.max(0, square / 64 - (sum / 64) ** 2) + 0.8),
        bin = Math.floor(((Math.log2(contrast) - contrastFrom) / (contrastTo - contrastFrom)) * contrastBins);
      bins[Math.min(contrastBins - 1, Math.max(0, bin))]!++;
    }
  return bins;
}
