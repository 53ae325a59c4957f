import type { Kernels } from '../kernels/kernels.ts';
import type { Plate } from '../plate/plate.ts';
import type { Guide } from './guided.ts';
import type { MaskPlan } from './maskPlan.ts';
import type { Origin, Planes } from './render.ts';

/** The small picture a mask is looked for in: its light where the mask acts, and as the scene gave it. */
export interface SmallPicture {
  kernels: Kernels;
  plate: Plate;
  /** linear planes where the mask acts */
  light: Planes;
  /** the scene's own, before any step */
  scene: () => Planes;
  about: Omit<Origin, 'x' | 'y' | 'maps'>;
}
type Fields = (picture: SmallPicture, mask: MaskPlan) => Guide[];
let fields: Fields | null = null;
/** Gives maps what masks need to know of the whole picture (`maskFields.ts`): pages fetch that only when a mask asks. */
export const provideFields = (by: Fields): void => {
  fields = by;
};
export const fieldsBy: Fields = (picture, mask) => {
  if (!fields) throw new RangeError('what masks know of the whole picture has not been provided');
  return fields(picture, mask);
};
