import { apply3, chain3 } from '../colour/matrix.ts';
import type { Plate } from '../plate/plate.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { lensNumbers, tableNumbers } from './lens.ts';
import { type View, shift, through, border, corners, placeOf } from './geometry.ts';

/** Where a rectangle of the view takes its light from: the part of the plate (with what the kernel reads around it). */
export function sourceArea(
  view: View,
  area: { x: number; y: number; width: number; height: number },
  plate: { width: number; height: number },
): { x: number; y: number; width: number; height: number } {
  const places = view.lens
      ? border.flatMap(([x, y]) =>
          [0, 1, 2].map((c) => placeOf(view, c, area.x + ((x + 1) / 2) * area.width, area.y + ((y + 1) / 2) * area.height)),
        )
      : corners.map(([x, y]) => through(view.toSource, area.x + ((x + 1) / 2) * area.width, area.y + ((y + 1) / 2) * area.height)),
    more = view.lens ? 4 : 0;
  const clamp = (v: number, top: number): number => Math.min(top, Math.max(0, v)),
    xs = places.map((c) => c[0]),
    ys = places.map((c) => c[1]);
  const x0 = clamp(Math.floor(Math.min(...xs)) - 4 - more, plate.width - 1),
    y0 = clamp(Math.floor(Math.min(...ys)) - 4 - more, plate.height - 1);
  return {
    x: x0,
    y: y0,
    width: Math.max(1, clamp(Math.ceil(Math.max(...xs)) + 5 + more, plate.width) - x0),
    height: Math.max(1, clamp(Math.ceil(Math.max(...ys)) + 5 + more, plate.height) - y0),
  };
}

/** Room for the numbers of one colour's places. */
const ofColour = 24;
const lanczos = (x: number): number =>
  x === 0 ? 1 : Math.abs(x) >= 3 ? 0 : (3 * Math.sin(Math.PI * x) * Math.sin((Math.PI * x) / 3)) / (Math.PI * x) ** 2;
const rows = Array.from({ length: 257 }, (_, k) => {
  const row = Array.from({ length: 6 }, (_, j) => lanczos(j - 2 - k / 256)),
    sum = row.reduce((a, b) => a + b, 0);
  return [...row.map((v) => v / sum), 0, 0];
});
/** The same as parts of 16384, which the two middle ones make whole. */
const parts = rows.map((row, k) => {
  const p = row.map((v) => Math.round(v * 16384));
  p[k < 128 ? 2 : 3]! += 16384 - p.reduce((a, b) => a + b, 0);
  return p;
});
/** The warp kernels' table: reals, then parts. */
const weights = new Uint8Array([
  ...new Uint8Array(Float32Array.from(rows.flat()).buffer),
  ...new Uint8Array(Int16Array.from(parts.flat()).buffer),
]);

/**
 * Draws a rectangle of a view from a piece of the plate. Turns, flips and crops alone copy pixels; anything else is one
 * resampling for all geometry together.
 * Tiles lie on a grid of the whole view, and what each holds of the plate does not depend on the rectangle: a part drawn alone is
 * the part of the whole, byte for byte.
 * @param piece the part of the plate that holds `sourceArea(view, area)`, and where it lies; `size` is that of all of the level
 */
export function warpPlate(
  kernels: Kernels,
  view: View,
  area: { x: number; y: number; width: number; height: number },
  piece: Plate,
  at: { x: number; y: number },
  size: { width: number; height: number },
): Plate {
  const m = chain3(shift(-at.x, -at.y), view.toSource, shift(area.x, area.y)),
    { width, height } = area,
    n = width * height,
    data = new Uint16Array(n * 3),
    pn = piece.width * piece.height;
  const whole =
    !view.lens &&
    m[6] === 0 &&
    m[7] === 0 &&
    m[8] === 1 &&
    [m[0], m[1], m[3], m[4]].every((v) => v === 0 || Math.abs(v) === 1) &&
    Number.isInteger(m[2]) &&
    Number.isInteger(m[5]);
  if (whole) {
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const sx = Math.min(piece.width - 1, Math.max(0, Math.floor(m[0] * (x + 0.5) + m[1] * (y + 0.5) + m[2]))),
          sy = Math.min(piece.height - 1, Math.max(0, Math.floor(m[3] * (x + 0.5) + m[4] * (y + 0.5) + m[5])));
        for (let c = 0; c < 3; c++) data[c * n + y * width + x] = piece.data[c * pn + sy * piece.width + sx]!;
      }
    return { width, height, data };
  }
  const tile = 256,
    scale = 0.5 ** view.level,
    tables = view.lens?.radial.map(tableNumbers),
    tableBytes = (tables?.[0]?.byteLength ?? 0) + 32;
  const first = (v: number): number => Math.floor(v / tile) * tile;
  for (let ty = first(area.y); ty < area.y + height; ty += tile)
    for (let tx = first(area.x); tx < area.x + width; tx += tile) {
      const all = { x: tx, y: ty, width: Math.min(tile, view.width - tx), height: Math.min(tile, view.height - ty) },
        held = sourceArea(view, all, size),
        // what is asked for of the tile; rows are drawn from the tile's left edge on
        right = Math.min(tx + all.width, area.x + width),
        left = Math.max(tx, area.x),
        w = right - tx;
      const sourceBytes = held.width * held.height * 6 + 64,
        planeBytes = tile * 2 + 16,
        source = kernels.reserve(sourceBytes + weights.byteLength + planeBytes * 3 + tableBytes * 3 + tile * 8 + 768),
        table = (source + sourceBytes + 15) & ~15,
        numbers = (table + weights.byteLength + 15) & ~15,
        out = numbers + 3 * ofColour * 4,
        places = out + planeBytes * 3,
        radial = places + tile * 8;
      const u16 = kernels.u16(),
        f32 = kernels.f32();
      // of what the tile holds the piece may lack what only the rest of the tile reads
      const x0 = Math.max(held.x, at.x),
        x1 = Math.min(held.x + held.width, at.x + piece.width),
        y0 = Math.max(held.y, at.y),
        y1 = Math.min(held.y + held.height, at.y + piece.height);
      if (x1 > x0)
        for (let c = 0; c < 3; c++)
          for (let y = y0; y < y1; y++) {
            const row = c * pn + (y - at.y) * piece.width + x0 - at.x;
            u16.set(piece.data.subarray(row, row + x1 - x0), source / 2 + (c * held.height + y - held.y) * held.width + x0 - held.x);
          }
      kernels.u8().set(weights, table);
      tables?.forEach((t, c) => f32.set(t, (radial + c * tableBytes) / 4));
      const a = view.toSource,
        origin = { x: held.x + 0.5, y: held.y + 0.5 };
      // of each colour: X, Y, Z of a row, which come with it, their steps, and what is its own
      if (view.lens)
        for (let c = 0; c < 3; c++)
          f32.set([0, 0, 0, a[0], a[3], a[6], ...lensNumbers(view.lens, view.lens, c, scale, origin)], numbers / 4 + c * ofColour);
      for (let y = Math.max(ty, area.y); y < Math.min(ty + all.height, area.y + height); y++) {
        const start = apply3(a, [tx + 0.5, y + 0.5, 1]);
        if (view.lens) {
          for (let c = 0; c < 3; c++) {
            const own = numbers / 4 + c * ofColour;
            f32.set(start, own);
            kernels.exports.lensPlaces(places, w, own * 4, radial + c * tableBytes);
            kernels.exports.warpPlaces(
              source + c * held.width * held.height * 2,
              held.width,
              held.height,
              out + c * planeBytes,
              w,
              places,
              table,
            );
          }
        } else {
          // a place in pixel centres of what is held: half a pixel on, through the homography, half a pixel back
          const { x: ox, y: oy } = origin;
          f32.set([start[0] - ox * start[2], start[1] - oy * start[2], start[2], a[0] - ox * a[6], a[3] - oy * a[6], a[6]], numbers / 4);
          kernels.exports.warp(source, held.width, held.height, out, planeBytes, w, numbers, table);
        }
        for (let c = 0; c < 3; c++) {
          const from = (out + c * planeBytes) / 2;
          data.set(u16.subarray(from + left - tx, from + w), c * n + (y - area.y) * width + left - area.x);
        }
      }
    }
  return { width, height, data };
}
