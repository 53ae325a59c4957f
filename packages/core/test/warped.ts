import type { View } from '../src/groundwork/geometry.ts';
import type { Matrix3 } from '../src/colour/matrix.ts';
import type { Plate } from '../src/plate/plate.ts';
import { kernels } from './kernels.ts';
import { warpPlate } from '../src/groundwork/resample.ts';

/** A plate of given 16-bit values, resampled through a matrix from its own places to its source's. */
export function warped(width: number, height: number, at: (x: number, y: number, c: number) => number, toSource: Matrix3): Plate {
  const plate: Plate = {
    width,
    height,
    data: Uint16Array.from({ length: width * height * 3 }, (_, i) =>
      at(i % width, Math.floor(i / width) % height, Math.floor(i / (width * height))),
    ),
  };
  return warpPlate(
    kernels,
    { width, height, toSource, lens: null, level: 0 } as View,
    { x: 0, y: 0, width, height },
    plate,
    { x: 0, y: 0 },
    plate,
  );
}
/** A turn about the middle. */
export function toSourceOf(degrees: number, width: number, height: number): Matrix3 {
  const a = (degrees * Math.PI) / 180,
    c = Math.cos(a),
    s = Math.sin(a),
    x = width / 2,
    y = height / 2;
  return [c, -s, x - c * x + s * y, s, c, y - s * x - c * y, 0, 0, 1];
}
