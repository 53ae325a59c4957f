import { drawingOf } from '@dyepot/core';
import type { Frame } from '../types.ts';

/** From places of a picture (fractions of it) to places of the film plane, in shares of the uncropped frame's long edge, and back. */
export interface FilmPlace {
  to: (at: { x: number; y: number }) => [number, number];
  from: (x: number, y: number) => { x: number; y: number };
  /** long edge of the uncropped frame, in pixels of the picture at full size */
  edge: number;
  whole: { width: number; height: number };
}
export function filmPlaceOf(frame: Frame): FilmPlace {
  const { film, whole, edge } = drawingOf(frame.groundwork, frame, 0, null);
  return {
    to: (at) => [film.left + (at.x * whole.width) / edge, film.top + (at.y * whole.height) / edge],
    from: (x, y) => ({ x: ((x - film.left) * edge) / whole.width, y: ((y - film.top) * edge) / whole.height }),
    edge,
    whole,
  };
}
