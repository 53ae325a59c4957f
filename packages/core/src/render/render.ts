import type { Guide } from '../groundwork/guide.ts';
import { gainLayout } from '../groundwork/lens.ts';
import { apply3, type Matrix3 } from '../colour/matrix.ts';
import type { Plate } from '../plate/plate.ts';
import type { Kernels } from './kernels.ts';
import { encodeParameters } from './output.ts';
import { isMapPass, type MapPass, type Pass } from './pass.ts';
import type { Plan } from './plan.ts';

/** Linear planes kept between renders: three of n floats. */
export type Planes = Float32Array;
/**
 * Where a region's first pixel lies in the whole picture at its size (for dither), how large that is (the region itself
 * when not said), and the frame's guide and maps, which plans with zones and the like need.
 */
export interface Origin {
  x: number;
  y: number;
  whole?: { width: number; height: number };
  guide?: Guide | null;
  /** what passes need to know of the whole picture, by their place in the plan */ maps?: readonly (readonly Guide[])[];
}

const tilePixels = 8192;

interface Work {
  guide: number;
  places: number;
  source: number;
  planes: readonly [number, number, number];
  numbers: number;
  out: number;
}

function layOut(kernels: Kernels, tile: number, plan: Plan, { guide, maps }: Origin): Work {
  const guideBytes = Math.max((guide?.width ?? 0) * 8 + 64, ...(maps ?? []).map((m) => m.length * 2 * ((m[0]?.width ?? 0) * 4 + 32) + 64)),
    placeBytes = plan.passes.some((p) => p.kernel === 'lensGain') ? tile * 8 + 64 : 0,
    plane = tile * 4 + 64,
    lists = [plan.scene, encodeParameters(plan.space), ...plan.passes.map((p) => p.parameters)],
    numberBytes = lists.reduce((sum, l) => sum + l.length * 4 + 64, 64);
  const at = kernels.reserve(guideBytes + placeBytes + tile * 6 + 128 + plane * 3 + numberBytes + tile * 8 + 128);
  const places = (at + guideBytes + 15) & ~15,
    source = (places + placeBytes + 15) & ~15,
    planes = (source + tile * 6 + 128 + 15) & ~15,
    numbers = planes + plane * 3;
  return {
    guide: at,
    places,
    source,
    planes: [planes, planes + plane, planes + 2 * plane],
    numbers,
    out: (numbers + numberBytes + 15) & ~15,
  };
}

interface Bound {
  pass: Pass;
  address: number;
  maps: readonly Guide[];
}
function bind(
  kernels: Kernels,
  work: Work,
  passes: readonly Pass[],
  scene: readonly number[],
  encode: Float32Array,
  maps: readonly (readonly Guide[])[],
): { passes: Bound[]; scene: number; encode: number } {
  const f32 = kernels.f32();
  let at = work.numbers;
  const put = (values: ArrayLike<number>): number => {
    const address = at;
    f32.set(values, address / 4);
    at += (values.length * 4 + 63) & ~15;
    return address;
  };
  return {
    passes: passes.map((pass, i) => ({ pass, address: put(pass.parameters), maps: maps[i] ?? [] })),
    scene: put(scene),
    encode: put(encode),
  };
}

const roundUp = (n: number): number => (n + 7) & ~7;

/**
 * Develops a plate through the scene stage and the first `count` passes, in tiles of whole rows.
 * @returns linear Rec.2020 planes of the plate's size
 */
export function developPlanes(kernels: Kernels, plan: Plan, plate: Plate, count: number, origin: Origin = { x: 0, y: 0 }): Planes {
  const { width, height } = plate,
    n = width * height,
    out = new Float32Array(n * 3),
    passes = plan.passes.slice(0, count),
    rows = Math.max(1, Math.floor(tilePixels / width));
  const work = layOut(kernels, rows * width + 8, plan, origin),
    bound = bind(kernels, work, passes, plan.scene, encodeParameters(plan.space), origin.maps ?? []);
  for (let y = 0; y < height; y += rows) {
    const count = Math.min(rows, height - y),
      size = count * width,
      start = y * width;
    sceneTile(kernels, plate, work, bound.scene, start, size);
    runPasses(kernels, work, bound.passes, { width, count, y, plate }, origin);
    for (let c = 0; c < 3; c++) out.set(kernels.f32().subarray(work.planes[c]! / 4, work.planes[c]! / 4 + size), c * n + start);
  }
  return out;
}

function sceneTile(kernels: Kernels, plate: Plate, work: Work, numbers: number, start: number, size: number): void {
  const n = plate.width * plate.height,
    padded = roundUp(size),
    u16 = kernels.u16();
  for (let c = 0; c < 3; c++) u16.set(plate.data.subarray(c * n + start, c * n + start + size), work.source / 2 + c * padded);
  kernels.exports.scene(work.source, work.planes[0], work.planes[1], work.planes[2], padded, numbers);
}

interface Tile {
  width: number;
  count: number;
  y: number;
  plate: Plate;
}

function runPasses(kernels: Kernels, work: Work, passes: readonly Bound[], tile: Tile, origin: Origin): void {
  for (const { pass, address, maps } of passes) {
    if (pass.kernel === 'zones') runZones(kernels, work, address, tile, origin);
    else if (pass.kernel === 'lensGain') runGain(kernels, work, address, tile, origin);
    else if (isMapPass(pass)) runMaps(kernels, work, pass, address, maps, tile, origin);
    else kernels.exports[pass.kernel](work.planes[0], work.planes[1], work.planes[2], roundUp(tile.width * tile.count), address);
  }
}

/** The lens' gain row by row: where each pixel's light lies in the plate, then the gain there. */
function runGain(
  kernels: Kernels,
  work: Work,
  address: number,
  { width, count, y, plate }: Tile,
  { x: originX, y: originY, whole = plate }: Origin,
): void {
  const f32 = kernels.f32(),
    l = gainLayout,
    n = (i: number): number => f32[address / 4 + i]!,
    table = (k: number): number => address + (l.tables + k * l.tableLength) * 4,
    m = Array.from({ length: 9 }, (_, i) => n(l.homography + i)) as unknown as Matrix3;
  const kx = n(l.size) / whole.width,
    ky = n(l.size + 1) / whole.height,
    [radial, own, overPlate] = [n(l.flags), n(l.flags + 1), n(l.flags + 2)];
  for (let j = 0; j < count; j++) {
    const start = apply3(m, [(originX + 0.5) * kx, (originY + y + j + 0.5) * ky, 1]),
      o = j * width * 4,
      planes = work.planes.map((p) => p + o) as [number, number, number];
    const places = (block: number, map: number): void => {
      f32.set([...start, m[0] * kx, m[3] * kx, m[6] * kx], address / 4 + block);
      kernels.exports.lensPlaces(work.places, width, address + block * 4, table(map));
    };
    const gain = (axis: number, of: number): void =>
      kernels.exports.radialGain(...planes, width, work.places, n(axis), n(axis + 1), n(axis + 2), table(of));
    places(l.source, 0);
    if (radial) gain(l.radialAxis, 2);
    if (own && !overPlate) places(l.straight, 1);
    if (own) gain(l.fileAxis, 3);
  }
}

/** Puts a row of a map at an address, its two nearest rows mixed: slopes, then, `stride` bytes on, offsets. */
function layRow(f32: Float32Array, map: Guide, share: number, address: number, stride: number): void {
  const at = Math.min(map.height - 1, Math.max(0, share * map.height - 0.5)),
    row = Math.max(0, Math.min(map.height - 2, Math.floor(at))),
    t = at - row,
    low = row * map.width,
    high = map.height > 1 ? low + map.width : low,
    slope = address / 4,
    offset = (address + stride) / 4;
  for (let i = 0; i <= map.width; i++) {
    const k = Math.min(i, map.width - 1);
    f32[slope + i] = map.slope[low + k]! * (1 - t) + map.slope[high + k]! * t;
    f32[offset + i] = map.offset[low + k]! * (1 - t) + map.offset[high + k]! * t;
  }
}
/** Last column of a map, the place of a region's first pixel in it and the step of one pixel. */
const along = (map: Guide, x: number, width: number): number[] => [map.width - 1, ((x + 0.5) * map.width) / width - 0.5, map.width / width];

/** Zones row by row, with the guide's two nearest rows mixed for each. */
function runZones(
  kernels: Kernels,
  work: Work,
  address: number,
  { width, count, y, plate }: Tile,
  { x: originX, y: originY, whole = plate, guide }: Origin,
): void {
  if (!guide) throw new RangeError('a plan with tone zones needs the frame’s guide');
  const f32 = kernels.f32(),
    stride = (guide.width + 4) * 4;
  f32.set(along(guide, originX, whole.width), address / 4 + 15);
  for (let j = 0; j < count; j++) {
    layRow(f32, guide, (originY + y + j + 0.5) / whole.height, work.guide, stride);
    const o = j * width * 4;
    kernels.exports.zones(work.planes[0] + o, work.planes[1] + o, work.planes[2] + o, width, address, work.guide, work.guide + stride);
  }
}
/** Where the place of a row in its maps stands among a pass' numbers. */
const placeNumbers = { localContrast: 6, haze: 7 } as const;
/** A pass that reads maps, row by row. */
function runMaps(
  kernels: Kernels,
  work: Work,
  pass: MapPass,
  address: number,
  maps: readonly Guide[],
  { width, count, y, plate }: Tile,
  { x: originX, y: originY, whole = plate }: Origin,
): void {
  const first = maps[0];
  if (!first) throw new RangeError(`a plan with ${pass.kernel} needs maps of the whole picture`);
  const f32 = kernels.f32(),
    stride = (first.width * 4 + 31) & ~15;
  f32.set(along(first, originX, whole.width), address / 4 + placeNumbers[pass.kernel]);
  if (first.light) f32.set(first.light, address / 4 + 4);
  for (let j = 0; j < count; j++) {
    maps.forEach((map, k) => layRow(f32, map, (originY + y + j + 0.5) / whole.height, work.guide + 2 * k * stride, stride));
    const o = j * width * 4;
    kernels.exports[pass.kernel](work.planes[0] + o, work.planes[1] + o, work.planes[2] + o, width, address, work.guide, stride);
  }
}

/** How a finished picture lies in memory. */
export type Form = 'rgba8' | 'rgb8' | 'rgb16';
const formBytes = { rgba8: 4, rgb8: 3, rgb16: 6 } as const;

/**
 * Renders a plate region under a plan.
 * @param from planes after the first `from.count` passes, to go on from instead of the plate
 * @param form RGBA or RGB in bytes, or RGB in 16 bits, interleaved
 */
export function render(
  kernels: Kernels,
  plan: Plan,
  plate: Plate,
  origin: Origin,
  form: Form,
  from: { planes: Planes; count: number } | null = null,
): Uint8Array<ArrayBuffer> {
  const result = new Uint8Array(plate.width * plate.height * formBytes[form]);
  renderRows(kernels, plan, plate, origin, form, from, { first: 0, end: plate.height, into: result });
  return result;
}

/** Renders the rows of a plate region from `first` to before `end` into their place in a finished picture. */
export function renderRows(
  kernels: Kernels,
  plan: Plan,
  plate: Plate,
  origin: Origin,
  form: Form,
  from: { planes: Planes; count: number } | null,
  { first, end, into }: { first: number; end: number; into: Uint8Array },
): void {
  const { width, height } = plate,
    n = width * height,
    pixelBytes = formBytes[form];
  const rows = Math.max(1, Math.floor(tilePixels / width)),
    passes = plan.passes.slice(from?.count ?? 0);
  const tile = rows * width;
  const work = layOut(kernels, tile + 8, plan, origin),
    bound = bind(kernels, work, passes, plan.scene, encodeParameters(plan.space), (origin.maps ?? []).slice(from?.count ?? 0));
  for (let y = first; y < end; y += rows) {
    const count = Math.min(rows, end - y),
      size = count * width,
      start = y * width;
    if (from) {
      const f32 = kernels.f32();
      for (let c = 0; c < 3; c++) f32.set(from.planes.subarray(c * n + start, c * n + start + size), work.planes[c]! / 4);
    } else sceneTile(kernels, plate, work, bound.scene, start, size);
    runPasses(kernels, work, bound.passes, { width, count, y, plate }, origin);
    for (let j = 0; j < count; j++) {
      const o = j * width * 4;
      kernels.exports.encode(
        work.planes[0] + o,
        work.planes[1] + o,
        work.planes[2] + o,
        width,
        bound.encode,
        work.out + j * width * pixelBytes,
        origin.x,
        origin.y + y + j,
        plan.seed,
        pixelBytes,
      );
    }
    into.set(kernels.u8().subarray(work.out, work.out + size * pixelBytes), start * pixelBytes);
  }
}
