import { luminanceShares } from '../colour/luminance.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { edgeOf, planeOf } from './filmPlane.ts';
import type { Guide } from './guided.ts';
import type { MaskPlan, Shape } from './maskPlan.ts';
import type { Origin } from './render.ts';
import { along, layRow } from './layRow.ts';
import type { Three, Tile } from './tile.ts';

/** Room for a tile's mask in the kernels' memory: planes of so many bytes for the mask, a part and a row's distances, for each depth of masks in masks; rows of fields; numbers. */
export interface MaskRoom {
  planes: number;
  plane: number;
  fields: number;
  numbers: number;
}
/** How deep masks stand in masks. */
export const maskDepth = (plan: MaskPlan): number =>
  1 + Math.max(0, ...plan.stages.map(({ shape }) => (shape.kernel === 'nested' ? maskDepth(shape.mask) : 0)));
const planesEach = 3;
/** What a mask needs, in bytes, beside its planes. */
export function numbersOf(plan: MaskPlan): number {
  return plan.stages.reduce(
    (most, { shape }) =>
      Math.max(most, 'numbers' in shape ? shape.numbers.length * 4 : shape.kernel === 'nested' ? numbersOf(shape.mask) : 0),
    256,
  );
}
export const maskPlanes = (plan: MaskPlan): number => planesEach * maskDepth(plan);

interface Drawing {
  kernels: Kernels;
  room: MaskRoom;
  /** the light it is drawn by */
  light: Three;
  tile: Tile;
  origin: Origin;
}
/**
 * Draws a mask over a tile, and returns the address of its plane.
 * @param fields what it reads of the whole picture, in the order of `fieldsOf`; of a mask drawn small first, that alone
 */
export function drawMask(d: Drawing, plan: MaskPlan, fields: readonly Guide[], depth = 0): number {
  const { kernels, room, tile } = d,
    mask = room.planes + depth * planesEach * room.plane,
    part = mask + room.plane,
    n = tile.width * tile.count,
    { exports } = kernels;
  kernels.f32().fill(0, mask / 4, mask / 4 + n + 4);
  if (plan.whole) {
    drawField(d, { low: 0, over: 1, plain: true }, fields[0], part);
    exports.maskWith(mask, part, n, 0, 1, 0);
    return mask;
  }
  let read = 0;
  for (const { mode, opacity, inverted, shape } of plan.stages) {
    if (shape.kernel === 'nested') {
      const count = shape.mask.whole ? 1 : fieldCount(shape.mask),
        inner = drawMask(d, shape.mask, fields.slice(read, read + count), depth + 1);
      read += count;
      exports.maskWith(mask, inner, n, mode, opacity, inverted ? 1 : 0);
      continue;
    }
    if (shape.kernel === 'fieldShare') drawField(d, shape, fields[read++], part);
    else drawShape(d, shape, part);
    exports.maskWith(mask, part, n, mode, opacity, inverted ? 1 : 0);
  }
  if (plan.inverted) exports.maskOver(mask, n);
  return mask;
}
const fieldCount = (plan: MaskPlan): number =>
  plan.stages.reduce(
    (sum, { shape }) =>
      sum + (shape.kernel === 'fieldShare' ? 1 : shape.kernel === 'nested' ? (shape.mask.whole ? 1 : fieldCount(shape.mask)) : 0),
    0,
  );

function drawShape(
  { kernels, room, light, tile, origin }: Drawing,
  shape: Exclude<Shape, { kernel: 'fieldShare' | 'nested' }>,
  to: number,
): void {
  const { exports } = kernels,
    { width, count, y, plate } = tile,
    whole = origin.whole ?? plate,
    f32 = kernels.f32(),
    at = room.numbers;
  if (shape.kernel === 'toneShare' || shape.kernel === 'colourShare') {
    f32.set(shape.numbers, at / 4);
    return exports[shape.kernel](...light, to, width * count, at);
  }
  const onPicture = shape.kernel === 'gradientShare' || shape.kernel === 'radialShare',
    long = Math.max(whole.width, whole.height),
    edge = onPicture ? long : edgeOf(origin, plate),
    film = onPicture ? { left: 0, top: 0 } : planeOf(origin, plate),
    start = film.left + (origin.x + 0.5) / edge,
    step = 1 / edge;
  if (shape.kernel === 'gradientShare') f32.set(gradientNumbers(shape, whole.width / long, whole.height / long), at / 4);
  else if (shape.kernel === 'radialShare') f32.set(radialNumbers(shape, whole.width / long, whole.height / long), at / 4);
  else f32.set(shape.numbers, at / 4);
  for (let j = 0; j < count; j++) {
    const row = to + j * width * 4,
      place = film.top + (origin.y + y + j + 0.5) / edge;
    // rows are drawn downwards, so that what is written beyond an end is written over
    if (shape.kernel === 'strokeShare') exports.strokeShare(row, to + room.plane, width, at, start, step, place);
    else exports[shape.kernel](row, width, at, start, step, place);
  }
}
/** Parallel to the line from one place to the other, over the picture in shares of its long edge. */
function gradientNumbers({ from, to, exponent }: Extract<Shape, { kernel: 'gradientShare' }>, width: number, height: number): number[] {
  const x = from[0] * width,
    y = from[1] * height,
    dx = to[0] * width - x,
    dy = to[1] * height - y,
    square = Math.max(1e-8, dx * dx + dy * dy);
  return [dx / square, dy / square, -(x * dx + y * dy) / square, exponent];
}
function radialNumbers(
  { centre, radii, turn, feather }: Extract<Shape, { kernel: 'radialShare' }>,
  width: number,
  height: number,
): number[] {
  const [c, s] = [Math.cos(turn), Math.sin(turn)],
    soft = Math.max(1e-3, feather);
  return [centre[0] * width, centre[1] * height, c / radii[0], s / radii[0], -s / radii[1], c / radii[1], 1 - soft, 1 / soft];
}

/** A field of the whole picture, row by row. */
function drawField(
  { kernels, room, light, tile, origin }: Drawing,
  { low, over, plain }: { low: number; over: number; plain: boolean },
  field: Guide | undefined,
  to: number,
): void {
  if (!field) throw new RangeError('a mask that looks at the whole picture needs fields of it');
  const { width, count, y, plate } = tile,
    whole = origin.whole ?? plate,
    f32 = kernels.f32(),
    stride = (field.width * 4 + 31) & ~15;
  f32.set([...luminanceShares, low, over, plain ? 1 : 0, ...along(field, origin.x, whole.width)], room.numbers / 4);
  for (let j = 0; j < count; j++) {
    layRow(f32, field, (origin.y + y + j + 0.5) / whole.height, room.fields, stride);
    const o = j * width * 4;
    kernels.exports.fieldShare(light[0] + o, light[1] + o, light[2] + o, to + o, width, room.numbers, room.fields, stride);
  }
}
