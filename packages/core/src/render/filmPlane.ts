import type { Origin } from './render.ts';

/** Sizes and places in shares of the uncropped frame's long edge: how large it is, and where the picture's corner lies on it. */
export interface FilmPlane {
  left: number;
  top: number;
  width: number;
  height: number;
}
interface Size {
  width: number;
  height: number;
}
/** Long edge, in pixels, of the uncropped picture that a piece belongs to. */
export const edgeOf = (origin: Origin, plate: Size): number =>
  origin.edge ?? Math.max(origin.whole?.width ?? plate.width, origin.whole?.height ?? plate.height);
/** The film plane of a picture; itself when nothing more is known. */
export function planeOf(origin: Origin, plate: Size): FilmPlane {
  const whole = origin.whole ?? plate,
    edge = edgeOf(origin, plate);
  return origin.film ?? { left: 0, top: 0, width: whole.width / edge, height: whole.height / edge };
}
