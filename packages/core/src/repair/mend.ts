import type { Kernels } from '../kernels/kernels.ts';
import { grown, type Area, type Size } from '../plate/area.ts';
import { cutPlate, type Plate } from '../plate/plate.ts';
import { boxOf, coverOf, middleOf, type Cover } from './cover.ts';
import { fillHole } from './fill.ts';
import { solveMembrane } from './membrane.ts';
import type { Repair, Source } from './repairs.ts';

/** A rectangle of a plate with its numbers. */
export interface Piece extends Area {
  data: Uint16Array;
}
/** What a repair reads: round its place, and where its source lies. */
export interface Reads {
  near: Area;
  far: Area | null;
}
/** How far round a place a fill looks for what to fill it with: so many times its longer side, within these bounds. */
const fillReach = { times: 1.2, least: 48, most: 500 };

/** Where a place of the target comes from: whole pixels where the source is only moved. */
function placing(source: Source, middle: readonly [number, number], size: Size): (x: number, y: number) => [number, number] {
  const dx = Math.round(source.dx * size.width),
    dy = Math.round(source.dy * size.height);
  if (source.turn === 0 && !source.mirror && source.scale === 1) return (x, y) => [x + dx, y + dy];
  const a = (source.turn * Math.PI) / 180,
    [c, s] = [Math.cos(a) / source.scale, Math.sin(a) / source.scale],
    side = source.mirror ? -1 : 1;
  return (x, y) => {
    const u = (x - middle[0]) * side,
      v = y - middle[1];
    return [middle[0] + dx + c * u + s * v, middle[1] + dy - s * u + c * v];
  };
}
/** The source moved, where it reaches over the edge, as far as it must be to lie in the picture. */
function inPicture(
  box: Area,
  place: (x: number, y: number) => [number, number],
  size: Size,
): { place: (x: number, y: number) => [number, number]; area: Area } {
  const corners = [
      place(box.x, box.y),
      place(box.x + box.width, box.y),
      place(box.x, box.y + box.height),
      place(box.x + box.width, box.y + box.height),
    ],
    [x0, x1] = [Math.min(...corners.map((p) => p[0])), Math.max(...corners.map((p) => p[0]))],
    [y0, y1] = [Math.min(...corners.map((p) => p[1])), Math.max(...corners.map((p) => p[1]))],
    back = (from: number, to: number, length: number): number =>
      Math.round(to - from > length ? (length - from - to) / 2 : from < 0 ? -from : to > length ? length - to : 0),
    bx = back(x0, x1, size.width),
    by = back(y0, y1, size.height);
  const area = grown(
    { x: Math.floor(x0 + bx), y: Math.floor(y0 + by), width: Math.ceil(x1 - x0) + 1, height: Math.ceil(y1 - y0) + 1 },
    2,
    size,
  );
  return { area, place: bx === 0 && by === 0 ? place : (x, y) => [place(x, y)[0] + bx, place(x, y)[1] + by] };
}

interface Laid {
  reads: Reads;
  place: ((x: number, y: number) => [number, number]) | null;
}
function lay(repair: Repair, box: Area, size: Size): Laid {
  if (repair.kind === 'fill' || !repair.source) {
    const reach = Math.min(fillReach.most, Math.max(fillReach.least, Math.round(Math.max(box.width, box.height) * fillReach.times)));
    return { reads: { near: grown(box, reach, size), far: null }, place: null };
  }
  const { place, area } = inPicture(box, placing(repair.source, middleOf(repair.shape, size), size), size);
  return { reads: { near: grown(box, 1, size), far: area }, place };
}
/** What a repair reads of a plate of this size, and the rectangle it is kept as; null where it is off or lies outside. */
export function readsOf(repair: Repair, size: Size): (Reads & { box: Area }) | null {
  const box = repair.on ? boxOf(repair.shape, size) : null;
  return box && { box, ...lay(repair, box, size).reads };
}

/** A plane of the source as it lies over the target's box: whole pixels as they are, others between four. */
function fetched(far: Piece, c: number, box: Area, place: (x: number, y: number) => [number, number]): Float32Array {
  const out = new Float32Array(box.width * box.height),
    plane = c * far.width * far.height,
    [left, top] = place(box.x, box.y),
    [right, bottom] = place(box.x + box.width, box.y + box.height);
  if (right - left === box.width && bottom - top === box.height && left >= far.x && top >= far.y && Number.isInteger(left + top)) {
    for (let j = 0; j < box.height; j++) {
      const from = plane + (top - far.y + j) * far.width + left - far.x;
      out.set(far.data.subarray(from, from + box.width), j * box.width);
    }
    return out;
  }
  for (let j = 0; j < box.height; j++)
    for (let i = 0; i < box.width; i++) {
      const [px, py] = place(box.x + i + 0.5, box.y + j + 0.5),
        u = Math.min(far.width - 1, Math.max(0, px - far.x - 0.5)),
        v = Math.min(far.height - 1, Math.max(0, py - far.y - 0.5)),
        x0 = Math.floor(u),
        y0 = Math.floor(v),
        x1 = Math.min(far.width - 1, x0 + 1),
        y1 = Math.min(far.height - 1, y0 + 1),
        s = u - x0,
        t = v - y0,
        at = (x: number, y: number): number => far.data[plane + y * far.width + x]!;
      out[j * box.width + i] =
        s === 0 && t === 0 ? at(x0, y0) : (at(x0, y0) * (1 - s) + at(x1, y0) * s) * (1 - t) + (at(x0, y1) * (1 - s) + at(x1, y1) * s) * t;
    }
  return out;
}
/** The rectangle that holds all that is covered, and one pixel round it as far as a piece goes. */
function coveredIn({ box, alpha }: Cover, near: Piece): Area {
  let [left, top, right, bottom] = [box.width, box.height, 0, 0];
  for (let y = 0; y < box.height; y++)
    for (let x = 0; x < box.width; x++) {
      if (alpha[y * box.width + x] === 0) continue;
      if (x < left) left = x;
      if (x >= right) right = x + 1;
      if (y < top) top = y;
      bottom = y + 1;
    }
  const x = Math.max(near.x, box.x + left - 1),
    y = Math.max(near.y, box.y + top - 1);
  return {
    x,
    y,
    width: Math.min(near.x + near.width, box.x + right + 1) - x,
    height: Math.min(near.y + near.height, box.y + bottom + 1) - y,
  };
}
/**
 * Changes planes of a source so that they meet the place at the border of where `alpha` is not zero: by the membrane over their
 * difference there, which is Poisson's equation guided by the source's own gradient (Pérez, Gangnet and Blake 2003). `near` is one
 * pixel wider than the box where the picture goes on.
 */
function correct(kernels: Kernels, sources: readonly Float32Array[], near: Piece, cover: Cover): void {
  const { box, alpha } = cover,
    { x: left, y: top, width, height } = coveredIn(cover, near);
  if (width <= 0 || height <= 0) return;
  const inside = new Uint8Array(width * height),
    // beyond the box the source goes on as at its edge
    column = Int32Array.from({ length: width }, (_, i) => Math.min(box.width - 1, Math.max(0, left + i - box.x))),
    row = (j: number): number => Math.min(box.height - 1, Math.max(0, top + j - box.y)) * box.width;
  const within = (j: number): boolean => top + j >= box.y && top + j < box.y + box.height;
  for (let j = 0; j < height; j++) {
    if (!within(j)) continue;
    for (let i = Math.max(0, box.x - left); i < Math.min(width, box.x + box.width - left); i++)
      if (alpha[row(j) + column[i]!]! > 0) inside[j * width + i] = 1;
  }
  const values = sources.map((from, c) => {
    const value = new Float32Array(width * height);
    for (let j = 0; j < height; j++) {
      const there = (c * near.height + top + j - near.y) * near.width + left - near.x,
        own = row(j);
      for (let i = 0; i < width; i++) value[j * width + i] = near.data[there + i]! - from[own + column[i]!]!;
    }
    return value;
  });
  solveMembrane(kernels, { width, height, inside }, values);
  for (const [c, out] of sources.entries())
    for (let j = 0; j < height; j++)
      for (let i = 0; i < width; i++) if (inside[j * width + i]) out[row(j) + column[i]!]! += values[c]![j * width + i]!;
}
/** The middle of a piece, one pixel round the box. */
function round(near: Piece, box: Area, size: Size): Piece {
  const a = grown(box, 1, size);
  return { ...a, data: cutPlate(near, a.x - near.x, a.y - near.y, a.width, a.height).data };
}

/**
 * A repair done: its box of the plate with the place mended, all else in it as it was. `near` and `far` are what `readsOf` asks for,
 * with the repairs before this one done. Null where it does nothing.
 */
export function mend(kernels: Kernels, repair: Repair, size: Size, near: Piece, far: Piece | null, beat?: () => void): Piece | null {
  const cover = repair.on ? coverOf(repair.shape, size) : null;
  if (!cover) return null;
  const { box, alpha } = cover,
    { place } = lay(repair, box, size),
    n = box.width * box.height,
    frame = far ? near : round(near, box, size),
    data = cutPlate(frame, box.x - frame.x, box.y - frame.y, box.width, box.height).data,
    over = place && far ? [0, 1, 2].map((c) => fetched(far, c, box, place)) : fillHole(kernels, near, cover, beat);
  if (repair.kind !== 'clone') correct(kernels, over, frame, cover);
  for (const [c, plane] of over.entries())
    for (let i = 0; i < n; i++) {
      const a = alpha[i]!;
      if (a === 0) continue;
      const was = data[c * n + i]!;
      data[c * n + i] = Math.min(65535, Math.max(0, Math.round(was + a * (plane[i]! - was))));
    }
  return { ...box, data };
}
/** A piece laid into a plate, or into another piece, where they meet. */
export function layInto(target: Piece, piece: Piece): void {
  const x0 = Math.max(target.x, piece.x),
    x1 = Math.min(target.x + target.width, piece.x + piece.width),
    y0 = Math.max(target.y, piece.y),
    y1 = Math.min(target.y + target.height, piece.y + piece.height);
  if (x0 >= x1) return;
  for (let c = 0; c < 3; c++)
    for (let y = y0; y < y1; y++) {
      const from = (c * piece.height + y - piece.y) * piece.width + x0 - piece.x;
      target.data.set(piece.data.subarray(from, from + x1 - x0), (c * target.height + y - target.y) * target.width + x0 - target.x);
    }
}
/** A rectangle of a plate. */
export const pieceOf = (plate: Plate, a: Area): Piece => ({ ...a, data: cutPlate(plate, a.x, a.y, a.width, a.height).data });
/** Does all repairs on a whole plate, in their order; changes it. `each` is called after every one. */
export function repairPlate(kernels: Kernels, plate: Plate, repairs: readonly Repair[], each?: (done: number) => void): void {
  const whole: Piece = { x: 0, y: 0, ...plate };
  for (const [i, repair] of repairs.entries()) {
    const reads = readsOf(repair, plate),
      // only a fill looks at no more than its surroundings
      done = reads && mend(kernels, repair, plate, reads.far ? whole : pieceOf(plate, reads.near), reads.far && whole);
    if (done) layInto(whole, done);
    each?.(i + 1);
  }
}
