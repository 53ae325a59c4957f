import type { Plate } from '../../plate/plate.ts';
import type { Region } from '../maskPlan.ts';
import type { Planes } from '../render.ts';

/** Where a region is, 0–1 for each place of a small picture, and how sure that is. */
export interface Found {
  shares: Float32Array;
  /** 0–1; under a half there is none, and no share */
  sure: number;
}
export type Find = (plate: Pick<Plate, 'width' | 'height'>, scene: () => Planes, what: Region) => Found;
let find: Find | null = null;
/** Gives masks what looks for regions (`found.ts`): pages fetch that only when a mask asks for one. */
export const provideFound = (by: Find): void => {
  find = by;
};
export const foundIn: Find = (plate, scene, what) => {
  if (!find) throw new RangeError('what looks for regions has not been provided');
  return find(plate, scene, what);
};
