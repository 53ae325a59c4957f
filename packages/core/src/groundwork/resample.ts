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
 * @param piece the part of the plate that holds `sourceArea(view, area)`, and where it lies
 */
export function warpPlate(
  kernels: Kernels,
  view: View,
  area: { x: number; y: number; width: number; height: number },
  piece: Plate,
  at: { x: number; y: number },
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
  for (let ty = 0; ty < height; ty += tile)
    for (let tx = 0; tx < width; tx += tile) {
      const w = Math.min(tile, width - tx),
        h = Math.min(tile, height - ty),
        held = sourceArea(
          view,
          { x: area.x + tx, y: area.y + ty, width: w, height: h },
          { width: at.x + piece.width, height: at.y + piece.height },
        );
      const x0 = Math.max(0, held.x - at.x),
        y0 = Math.max(0, held.y - at.y),
        from = { x: x0, y: y0, width: Math.max(1, held.x + held.width - at.x - x0), height: Math.max(1, held.y + held.height - at.y - y0) };
      const sourceBytes = from.width * from.height * 6 + 64,
        planeBytes = tile * 2 + 16,
        source = kernels.reserve(sourceBytes + weights.byteLength + planeBytes * 3 + tableBytes * 3 + tile * 8 + 512),
        table = (source + sourceBytes + 15) & ~15,
        numbers = (table + weights.byteLength + 15) & ~15,
        out = numbers + 96,
        places = out + planeBytes * 3,
        radial = places + tile * 8;
      const u16 = kernels.u16(),
        f32 = kernels.f32();
      for (let c = 0; c < 3; c++)
        for (let j = 0; j < from.height; j++) {
          const row = c * pn + (from.y + j) * piece.width + from.x;
          u16.set(piece.data.subarray(row, row + from.width), source / 2 + (c * from.height + j) * from.width);
        }
      kernels.u8().set(weights, table);
      tables?.forEach((t, c) => f32.set(t, (radial + c * tableBytes) / 4));
      for (let j = 0; j < h; j++) {
        if (view.lens) {
          const a = view.toSource,
            start = apply3(a, [area.x + tx + 0.5, area.y + ty + j + 0.5, 1]);
          for (let c = 0; c < 3; c++) {
            f32.set(
              [
                ...start,
                a[0],
                a[3],
                a[6],
                ...lensNumbers(view.lens, view.lens, c, scale, { x: at.x + from.x + 0.5, y: at.y + from.y + 0.5 }),
              ],
              numbers / 4,
            );
            kernels.exports.lensPlaces(places, w, numbers, radial + c * tableBytes);
            kernels.exports.warpPlaces(
              source + c * from.width * from.height * 2,
              from.width,
              from.height,
              out + c * planeBytes,
              w,
              places,
              table,
            );
          }
        } else {
          // a place in pixel centres of the piece: half a pixel on, through the homography, half a pixel back and into the part held
          const start = apply3(m, [tx + 0.5, ty + j + 0.5, 1]),
            ox = from.x + 0.5,
            oy = from.y + 0.5;
          f32.set([start[0] - ox * start[2], start[1] - oy * start[2], start[2], m[0] - ox * m[6], m[3] - oy * m[6], m[6]], numbers / 4);
          kernels.exports.warp(source, from.width, from.height, out, planeBytes, w, numbers, table);
        }
        for (let c = 0; c < 3; c++)
          data.set(u16.subarray((out + c * planeBytes) / 2, (out + c * planeBytes) / 2 + w), c * n + (ty + j) * width + tx);
      }
    }
  return { width, height, data };
}
