import { plateOffset, plateScale, type Plate } from '../../plate/plate.ts';
import type { Kernels } from '../../kernels/kernels.ts';
import type { NoiseModel } from '../noise.ts';
import { quietsColour, quietsLuma, returnsSoftness, sharpens, type Detail } from './detail.ts';
import type { Optics } from './optics.ts';
import { blockHalo, numbersRoom, partOf, quietColour, quietHalo, quietRoom, type TilePart, type TilePlane } from './quiet.ts';
import { shapeNumbers } from './response.ts';

interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
}
/** What is done at a plate level, and how far around a place each part reads, in pixels of the level; 0 where it lies under that level's pixels. */
function reachAt(d: Detail, level: number, mask: boolean): { luma: number; held: boolean; colour: number } {
  const quiet = quietHalo(level),
    raises = (sharpens(d) && 2 ** (level + 1) < d.sharpness.coarsePx) || mask,
    returns = returnsSoftness(d) && level < 2;
  const luma = (quietsLuma(d) && quiet.luma > 0) || raises || returns ? blockHalo : 0;
  return { luma, held: raises || returns, colour: quietsColour(d) && !mask ? quiet.colour : 0 };
}
/** How far around a place detail reads, in pixels of the level. */
export function detailHalo(d: Detail, level: number, mask = false): number {
  const r = reachAt(d, level, mask);
  return Math.max(r.luma, r.colour);
}

/** Side of what is worked on at once. */
const tileSide = 448;
/** Where tiles begin and how wide they are is divisible by this, so that blocks are the same ones wherever a tile lies. */
const grid = 16;

/** A tile in the kernels' memory: what it covers of the level, and planes of it by name. */
interface Tile {
  area: Area;
  /** the first pixel of its planes, and of `area` in them */
  left: number;
  top: number;
  padX: number;
  padY: number;
  width: number;
  height: number;
  stride: number;
  luma: number;
  red: number;
  blue: number;
  /** working planes */
  spare: readonly [number, number, number, number];
  halves: TilePlane[];
  source: number;
  sourcePlane: number;
  numbers: number;
  work: number;
}
function layOut(kernels: Kernels, area: Area, halo: number): Tile {
  const left = Math.floor((area.x - halo) / grid) * grid,
    top = Math.floor((area.y - halo) / grid) * grid,
    width = Math.ceil((area.x + area.width + halo - left) / grid) * grid,
    height = Math.ceil((area.y + area.height + halo - top) / grid) * grid,
    stride = width * 4 + 32,
    half = { width: width / 2, height: height / 2, stride: width * 2 + 32 };
  // a row is kept free before and after a plane, since its neighbours are read
  const bytes = stride * (height + 2),
    smallBytes = half.stride * (half.height + 2),
    sourcePlane = stride / 2;
  let at = kernels.reserve(7 * bytes + 2 * smallBytes + 3 * sourcePlane + quietRoom(width) + 512);
  const take = (size: number, before = 0): number => {
    const address = at + before;
    at += (size + 15) & ~15;
    return address;
  };
  const plane = (): number => take(bytes, stride),
    small = (): TilePlane => ({ address: take(smallBytes, half.stride), ...half });
  const numbers = take(64);
  return {
    area,
    left,
    top,
    padX: area.x - left,
    padY: area.y - top,
    width,
    height,
    stride,
    numbers,
    luma: plane(),
    red: plane(),
    blue: plane(),
    spare: [plane(), plane(), plane(), plane()],
    halves: [small(), small()],
    source: take(3 * sourcePlane),
    sourcePlane,
    work: take(quietRoom(width)),
  };
}

/** The part of a tile's plane that its area is told from by blocks; as much as the whole tile has around it, if that is less. */
function innerOf(t: Tile, plane: TilePlane): TilePart {
  const before = (pad: number): number => Math.max(0, Math.floor((pad - blockHalo) / grid) * grid),
    after = (end: number, size: number): number => Math.min(size, Math.ceil((end + blockHalo) / grid) * grid),
    x = before(t.padX),
    y = before(t.padY);
  return partOf(plane, x, y, after(t.padX + t.area.width, t.width) - x, after(t.padY + t.area.height, t.height) - y);
}

/** Lays a tile of a plate's piece out as luma and colour differences whose noise is even (Anscombe 1948); beyond the plate its border goes on. */
function stabilise(kernels: Kernels, t: Tile, piece: Plate, at: { x: number; y: number }): void {
  const u16 = kernels.u16(),
    n = piece.width * piece.height,
    x = t.left - at.x,
    inside = x >= 0 && x + t.width <= piece.width;
  for (let j = 0; j < t.height; j++) {
    const y = Math.min(piece.height - 1, Math.max(0, t.top + j - at.y));
    for (let c = 0; c < 3; c++) {
      const from = c * n + y * piece.width,
        to = (t.source + c * t.sourcePlane) / 2;
      if (inside) u16.set(piece.data.subarray(from + x, from + x + t.width), to);
      else for (let i = 0; i < t.width; i++) u16[to + i] = piece.data[from + Math.min(piece.width - 1, Math.max(0, x + i))]!;
    }
    const o = j * t.stride;
    kernels.exports.stabilise(t.source, t.sourcePlane, t.luma + o, t.red + o, t.blue + o, t.width, t.numbers);
  }
}

/** How far beyond the spread of its neighbours a place may go, in shares of that spread; tuned on soft edges and single lines. */
const beyond = 0.35;

/** How a frame's details are treated. */
export interface DetailTask {
  settings: Detail;
  noise: NoiseModel;
  optics: Optics;
  /** gives, instead of the picture, where sharpening acts: 0–1 as light, the same in each colour */
  mask: boolean;
}

/**
 * Takes noise out of a part of a plate, returns what its optics softened and sharpens it. Light is made even in noise first, then
 * luma and colour are each treated by themselves; luma is held within its neighbours.
 * @param piece the plate's part that holds `area` and, where the plate goes on, `detailHalo` around it; `at` is where it lies
 */
export function detailPlate(
  kernels: Kernels,
  { settings: d, noise, optics, mask }: DetailTask,
  level: number,
  piece: Plate,
  at: { x: number; y: number },
  area: Area,
): Plate {
  const r = reachAt(d, level, mask),
    n = area.width * area.height,
    out: Plate = { width: area.width, height: area.height, data: new Uint16Array(n * 3) };
  // noise of means over 2^level squares
  const a = noise.slope / 4 ** level,
    b = noise.floor / 4 ** level,
    numbers = shapeNumbers(d, optics, level, (2 / a) * Math.sqrt(a + b));
  for (let y = 0; y < area.height; y += tileSide)
    for (let x = 0; x < area.width; x += tileSide) {
      const part = {
          x: area.x + x,
          y: area.y + y,
          width: Math.min(tileSide, area.width - x),
          height: Math.min(tileSide, area.height - y),
        },
        t = layOut(kernels, part, detailHalo(d, level, mask)),
        plane = (address: number): TilePlane => ({ address, width: t.width, height: t.height, stride: t.stride }),
        inner = (address: number): TilePart => innerOf(t, plane(address));
      kernels.f32().set([plateOffset, 1 / plateScale, a, b, 2 / a, 1 / a, plateScale], t.numbers / 4);
      stabilise(kernels, t, piece, at);
      let { luma, red, blue } = t;
      if (r.luma > 0) luma = shapeLuma(kernels, t, inner, numbers, r.held && !mask, mask);
      if (mask) {
        keepMask(kernels, t, luma, out, area);
        continue;
      }
      if (r.colour > 0) {
        const [, first, second] = t.spare;
        quietColour(kernels, plane(red), inner(red), inner(first).address, level, d.noise.colour, t.halves, t.work);
        quietColour(kernels, plane(blue), inner(blue), inner(second).address, level, d.noise.colour, t.halves, t.work);
        [red, blue] = [first, second];
      }
      const u16 = kernels.u16();
      for (let j = 0; j < part.height; j++) {
        const o = (j + t.padY) * t.stride + t.padX * 4;
        kernels.exports.restore(luma + o, red + o, blue + o, t.source, t.sourcePlane, part.width, t.numbers);
        for (let c = 0; c < 3; c++) {
          const from = (t.source + c * t.sourcePlane) / 2;
          out.data.set(u16.subarray(from, from + part.width), c * n + (y + j) * area.width + x);
        }
      }
    }
  return out;
}

/** Luma shaped in blocks, to a working plane, which is returned; with `shows` the share of the response instead. */
function shapeLuma(
  kernels: Kernels,
  t: Tile,
  inner: (plane: number) => TilePart,
  numbers: readonly number[],
  holds: boolean,
  shows: boolean,
): number {
  const { shapeBlocks, within } = kernels.exports,
    [to] = t.spare,
    from = inner(t.luma);
  kernels.f32().set(numbers, t.work / 4);
  shapeBlocks(from.address, inner(to).address, from.width, from.height, from.stride, t.work, t.work + numbersRoom, shows);
  if (holds)
    for (let j = t.padY; j < t.padY + t.area.height; j++) {
      const o = j * t.stride + t.padX * 4;
      within(t.luma + o, to + o, t.area.width, t.stride, beyond);
    }
  return to;
}
/** A plane of shares as light in all three colours. */
function keepMask(kernels: Kernels, t: Tile, shares: number, out: Plate, origin: Area): void {
  const f32 = kernels.f32(),
    n = out.width * out.height;
  for (let j = 0; j < t.area.height; j++)
    for (let i = 0; i < t.area.width; i++) {
      const share = Math.min(1, Math.max(0, f32[(shares + (j + t.padY) * t.stride) / 4 + t.padX + i]!)),
        o = (t.area.y - origin.y + j) * out.width + t.area.x - origin.x + i;
      for (let c = 0; c < 3; c++) out.data[c * n + o] = share * plateScale + plateOffset;
    }
}
