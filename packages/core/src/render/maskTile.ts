import { luminanceShares } from '../colour/luminance.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { edgeOf, planeOf, type FilmPlane } from './filmPlane.ts';
import type { Guide } from './guided.ts';
import type { MaskPlan, Shape } from './maskPlan.ts';
import type { Origin } from './render.ts';
import { along, layRow } from './layRow.ts';
import type { Three, Tile } from './tile.ts';

/** Room for a tile's mask in the kernels' memory: planes of so many bytes for the mask, a part and three for rows of strokes, for each depth of masks in masks; rows of fields; numbers. */
export interface MaskRoom {
  planes: number;
  plane: number;
  fields: number;
  numbers: number;
}
/** How deep masks stand in masks. */
export const maskDepth = (plan: MaskPlan): number =>
  1 + Math.max(0, ...plan.stages.map(({ shape }) => (shape.kernel === 'nested' ? maskDepth(shape.mask) : 0)));
const planesEach = 5;
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

function drawShape(d: Drawing, shape: Exclude<Shape, { kernel: 'fieldShare' | 'nested' }>, to: number): void {
  const { kernels, room, light, tile, origin } = d,
    { exports } = kernels,
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
  if (shape.kernel === 'strokeShare' && coarse * softest(shape.numbers) * edge > 1)
    return drawSoftStrokes(d, shape.numbers, to, { edge, film });
  for (let j = 0; j < count; j++) {
    const row = to + j * width * 4,
      place = film.top + (origin.y + y + j + 0.5) / edge;
    // rows are drawn downwards, so that what is written beyond an end is written over
    if (shape.kernel === 'strokeShare') exports.strokeShare(row, to + room.plane, width, at, start, step, place);
    else exports[shape.kernel](row, width, at, start, step, place);
  }
}
/** Strokes that all fade over more than 64 pixels are reckoned at every fourth only: by straight lines between them the share is off by less than 0.003 (h″ ≤ 6). */
const every = 4,
  coarse = 1 / 64;
/** Over how much the strokes of a brush fade at least, in shares of the long edge. `numbers`: as `strokeShare` reads them. */
function softest(numbers: ArrayLike<number>): number {
  let least = Infinity;
  for (let j = numbers[0]!, at = 1; j > 0; j--, at += 8 + 8 * numbers[at]!)
    for (let i = numbers[at]!, q = at + 8; i > 0; i--, q += 8)
      least = Math.min(least, (1 - numbers[at + 1]!) * Math.min(numbers[q + 5]!, numbers[q + 5]! + numbers[q + 6]!));
  return least;
}
/** The coarse rows a tile ended with, for the next one: of which place and size they are, and the row of each. */
const ended = new WeakMap<object, { of: string; rows: Readonly<Record<number, Float32Array>> }>();
/** Strokes at every fourth pixel of every fourth row of the whole picture, whatever part of it the tile is, and what lies between. */
function drawSoftStrokes(
  { kernels, room, tile, origin }: Drawing,
  numbers: object,
  to: number,
  { edge, film }: { edge: number; film: Pick<FilmPlane, 'left' | 'top'> },
): void {
  const { exports } = kernels,
    { width, count, y } = tile,
    first = Math.floor(origin.x / every),
    places = Math.floor((origin.x + width - 1) / every) + 2 - first,
    room4 = (4 * places + 32) & ~15,
    near = to + room.plane,
    between = (near + 3 * room4) / 4,
    start = film.left + (every * first + 0.5) / edge,
    f32 = kernels.f32(),
    of = [start, places, edge, film.top].join(' '),
    before = ended.get(numbers),
    known = before?.of === of ? before.rows : null,
    drawRow = (row: number, at: number): void => {
      const kept = known?.[row];
      if (kept) f32.set(kept, at / 4);
      else exports.strokeShare(at, near, places, room.numbers, start, every / edge, film.top + (every * row + 0.5) / edge);
    };
  let [over, under] = [near + room4, near + 2 * room4],
    drawn = NaN;
  for (let j = 0; j < count; j++) {
    const own = origin.y + y + j,
      row = Math.floor(own / every),
      line = (to + j * width * 4) / 4;
    if (row !== drawn) {
      if (row === drawn + 1) [over, under] = [under, over];
      else drawRow(row, over);
      drawRow(row + 1, under);
      drawn = row;
    }
    exports.spreadRow(over, under, own / every - row, places - 1, between * 4);
    f32.copyWithin(line, between + origin.x - every * first, between + origin.x - every * first + width);
  }
  const kept = (at: number): Float32Array => f32.slice(at / 4, at / 4 + places);
  ended.set(numbers, {
    of,
    rows: { [drawn]: kept(over), [drawn + 1]: kept(under) },
  });
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
