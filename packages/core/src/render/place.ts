import type { Kernels } from '../kernels/kernels.ts';
import type { PlacePass } from './pass.ts';
import { edgeOf, planeOf } from './filmPlane.ts';
import type { Origin } from './render.ts';
import type { Tile, Work } from './tile.ts';

/** A pass that knows its place, row by row; a row's last pixels are kept apart from the next row's. */
export function runPlace(
  kernels: Kernels,
  work: Work,
  pass: PlacePass,
  address: number,
  { width, count, y, plate }: Tile,
  origin: Origin,
): void {
  const { whole = plate } = origin,
    edge = edgeOf(origin, plate),
    film = planeOf(origin, plate),
    f32 = kernels.f32();
  f32.set([film.left, film.top, whole.width / edge, whole.height / edge, 0, 0, film.width, film.height], address / 4);
  const kept = new Float32Array(12);
  for (let j = 0; j < count; j++) {
    const row = work.planes.map((p) => p + j * width * 4) as [number, number, number];
    row.forEach((p, c) => kept.set(f32.subarray(p / 4 + width, p / 4 + width + 4), c * 4));
    kernels.exports[pass.kernel](...row, width, address, film.left, origin.x, 1 / edge, film.top + (origin.y + y + j + 0.5) / edge);
    row.forEach((p, c) => f32.set(kept.subarray(c * 4, c * 4 + 4), p / 4 + width));
  }
}
