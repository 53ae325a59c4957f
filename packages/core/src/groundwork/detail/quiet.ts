import type { Kernels } from '../../kernels/kernels.ts';
import type { Ends } from './detail.ts';
import { colourDeviation } from './noiseSpectrum.ts';

/** A plane of a tile in the kernels' memory; its sides are divisible by eight, its rows `stride` bytes apart. */
export interface TilePlane {
  address: number;
  width: number;
  height: number;
  stride: number;
}

/** A rectangle of a plane. */
export interface TilePart extends TilePlane {
  x: number;
  y: number;
}
export const partOf = ({ address, stride }: TilePlane, x: number, y: number, width: number, height: number): TilePart => ({
  address: address + y * stride + x * 4,
  x,
  y,
  width,
  height,
  stride,
});

/** The sizes noise is taken out of, in pixels of the full picture: a block of luma, and of colour at half size. */
const lumaBlock = 8,
  colourBlock = 16;

/** How far around a place a block reads. */
export const blockHalo = 8;
/** How far around a place the noise of luma, and of colour, is judged at a plate level; 0 where nothing is done. */
export const quietHalo = (level: number): { luma: number; colour: number } => ({
  luma: 2 ** level < lumaBlock ? blockHalo : 0,
  colour: level === 0 ? 32 : 2 ** level < colourBlock ? blockHalo : 0,
});
/** Bytes the numbers of a kernel need, and, with them, the working memory for a plane this wide. */
export const numbersRoom = 1552;
export const quietRoom = (width: number): number => 137 * (width * 2 + 64) + 2048 + numbersRoom;

/** Deviations at a size: those of fine details at 2 px, of coarse ones at 16 px, between them over log size. */
export function deviationsAt({ fine, coarse }: Ends, sizePx: number): number {
  const t = Math.min(1, Math.max(0, Math.log2(sizePx / 2) / 3));
  return fine + (coarse - fine) * t;
}
/** Squared thresholds of a level's coefficients; frequencies below `first` are those of sizes that are not touched. */
export function thresholds(deviation: (v: number, u: number) => number, ends: Ends, level: number, first: number): number[] {
  return Array.from({ length: 64 }, (_, i) => {
    const v = i >> 3,
      u = i & 7,
      sizePx = (16 * 2 ** level) / Math.max(0.5, Math.hypot(u, v));
    return Math.max(v, u) < first ? 0 : (deviationsAt(ends, sizePx) * deviation(v, u)) ** 2;
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

/**
 * A colour difference, quieted into `to`, which lies as `inner` does; at full size what is coarse first, at half the size, then
 * what is fine.
 * @param inner the part of the plane that is asked for and what fine noise is judged by around it
 * @param small room for planes of half the size, `smallStride` bytes a row
 */
export function quietColour(
  kernels: Kernels,
  plane: TilePlane,
  inner: TilePart,
  to: number,
  level: number,
  ends: Ends,
  small: TilePlane[],
  work: number,
): void {
  const e = kernels.exports;
  if (level === 0) {
    const [half, calm] = small as [TilePlane, TilePlane],
      added = partOf(plane, inner.x - 16, inner.y - 16, inner.width + 32, inner.height + 32),
      from = partOf(calm, added.x / 2, added.y / 2, added.width / 2, added.height / 2);
    e.quarter(plane.address, half.address, half.width, half.height, plane.stride, half.stride);
    // at half size noise is halved where it is even
    const t2 = thresholds((v, u) => colourDeviation(1, v, u) / 2, ends, 1, 1);
    shrink(kernels, half, calm.address, 4, t2, work);
    e.less(calm.address, half.address, calm.height * calm.stride);
    e.addBetween(added.address, from.address, added.width, added.height, added.stride, from.stride);
  }
  const first = level === 0 ? 1 : 2 ** (level - 1),
    t2 = thresholds((v, u) => colourDeviation(level, v, u), ends, level, first);
  shrink(kernels, inner, to, 4, t2, work);
}
