import type { Kernels } from '../render/kernels.ts';
import { colourDeviation, lumaDeviation } from './noiseSpectrum.ts';

/** A plane of a tile in the kernels' memory; its sides are divisible by eight, its rows `stride` bytes apart. */
export interface TilePlane {
  address: number;
  width: number;
  height: number;
  stride: number;
}

/**
 * At 50 of 100, how many of noise's deviations a coefficient has to stand out by; tuned on the camera's scenes at ISO 1600 to
 * 12800, where less leaves grain and more takes wool and grass.
 */
const lumaStep = 2.1,
  colourStep = 1.8;
/** The sizes noise is taken out of, in pixels of the full picture: a block of luma, and of colour at half size. */
const lumaBlock = 8,
  colourBlock = 16;

/** How far around a place the noise of luma, and of colour, is judged at a plate level; 0 where nothing is done. */
export const quietHalo = (level: number): { luma: number; colour: number } => ({
  luma: 2 ** level < lumaBlock ? 8 : 0,
  colour: level === 0 ? 32 : 2 ** level < colourBlock ? 8 : 0,
});
/** Bytes of working memory that a plane this wide needs. */
export const quietRoom = (width: number): number => 137 * (width * 2 + 64) + 640;

/** Squared thresholds; frequencies below `first` are those of sizes that are not touched. */
function thresholds(deviation: (v: number, u: number) => number, deviations: number, first: number): number[] {
  return Array.from({ length: 64 }, (_, i) => {
    const v = i >> 3,
      u = i & 7;
    return Math.max(v, u) < first ? 0 : (deviations * deviation(v, u)) ** 2;
  });
}

/**
 * Takes the noise out of a plane by shrinking its blocks' coefficients (Yu and Sapiro 2011, with the garrote of Gao 1998).
 * @param down how many rows apart blocks begin: 2 or 4
 */
function shrink(kernels: Kernels, from: TilePlane, to: number, down: number, t2: readonly number[], work: number): void {
  kernels.f32().set(t2, work / 4);
  kernels.exports.shrinkBlocks(from.address, to, from.width, from.height, from.stride, down, work, work + 256);
}

/** Luma whose noise has a deviation of one, quieted into `to`. `amount` 0–100. Valid eight places inside. */
export function quietLuma(kernels: Kernels, plane: TilePlane, to: number, level: number, amount: number, work: number): void {
  const t2 = thresholds((v, u) => lumaDeviation(level, v, u), (lumaStep * amount) / 50, Math.max(1, 2 ** level));
  shrink(kernels, plane, to, 2, t2, work);
}

/**
 * A colour difference, quieted into `to`; at full size what is coarse first, at half the size, then what is fine.
 * @param small room for three planes of half the size, `smallStride` bytes a row
 */
export function quietColour(
  kernels: Kernels,
  plane: TilePlane,
  to: number,
  level: number,
  amount: number,
  small: TilePlane[],
  work: number,
): void {
  const e = kernels.exports,
    deviations = (colourStep * amount) / 50;
  if (level === 0) {
    const [half, calm] = small as [TilePlane, TilePlane];
    e.quarter(plane.address, half.address, half.width, half.height, plane.stride, half.stride);
    // at half size noise is halved where it is even
    const t2 = thresholds((v, u) => colourDeviation(1, v, u) / 2, deviations, 1);
    shrink(kernels, half, calm.address, 4, t2, work);
    e.less(calm.address, half.address, calm.height * calm.stride);
    e.addBetween(plane.address, calm.address, plane.width, plane.height, plane.stride, calm.stride);
  }
  const first = level === 0 ? 1 : 2 ** (level - 1),
    t2 = thresholds((v, u) => colourDeviation(level, v, u), deviations, first);
  shrink(kernels, plane, to, 4, t2, work);
}
