import { apply3, type Matrix3 } from '../colour/matrix.ts';
import type { Guide } from './guided.ts';
import { gainLayout } from './gainLayout.ts';
import type { Plate } from '../plate/plate.ts';
import { layOut } from './arena.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { encodeParameters, type OutputSpace } from './output.ts';
import { fieldBytes, runField, type OpenGrain } from './field.ts';
import { along, layField, layRow } from './layRow.ts';
import { drawMask, maskPlanes, numbersOf, type MaskRoom } from './maskTile.ts';
import {
  deepest,
  isAreaPass,
  isJoinPass,
  isFieldPass,
  isMapPass,
  isPlacePass,
  isPointPass,
  type MapPass,
  type Pass,
  type Plan,
  type PointwisePass,
} from './pass.ts';
import { runPlace } from './place.ts';
import type { Origin } from './render.ts';

/** Where the rows of a tile lie in the plate's piece. */
export interface Tile {
  width: number;
  count: number;
  y: number;
  plate: { width: number; height: number };
}
export type Three = readonly [number, number, number];
/** A plan's tile in the kernels' memory. */
export interface Work {
  fields: number;
  places: number;
  source: number;
  planes: Three;
  /** planes put aside, by depth */
  aside: readonly Three[];
  /** bytes of a plane */
  plane: number;
  out: number;
  /** room for masks */
  mask: MaskRoom;
  /** room for the random fields of the film plane */
  field: number;
  /** grains that are open there, by their pass' place */
  grains: Map<number, OpenGrain>;
  scene: number;
  encode: ReadonlyMap<OutputSpace, number>;
  /** where each pass' numbers lie */
  numbers: readonly number[];
}

/** Lays out what a tile of so many pixels needs, and the numbers of all passes. */
export function workFor(
  kernels: Kernels,
  tile: number,
  plan: Plan,
  { guide, maps, surround }: Origin,
  spaces: readonly OutputSpace[] = [plan.space],
): Work {
  const plane = (tile * 4 + 79) & ~15,
    depth = deepest(plan.passes),
    encode = spaces.map(encodeParameters),
    lists = [plan.scene, [0, 0, 0, 0], ...encode, ...plan.passes.map((p) => p.parameters)],
    rowBytes = Math.max(
      (guide?.width ?? 0) * 8 + 64,
      (surround?.width ?? 0) * 8 + 64,
      ...(maps ?? []).map((m) => m.length * 2 * ((m[0]?.width ?? 0) * 4 + 32)),
    ),
    masks = plan.passes.flatMap((p) => (isJoinPass(p) && p.mask ? [p.mask] : []));
  const at = layOut(kernels, {
    fields: rowBytes,
    places: plan.passes.some((p) => p.kernel === 'lensGain') ? tile * 8 + 64 : 0,
    source: tile * 6 + 64,
    planes: plane * 3,
    aside: plane * 3 * depth,
    out: tile * 8,
    field: plan.passes.filter(isFieldPass).length * fieldBytes(plane / 4),
    mask: Math.max(0, ...masks.map(maskPlanes)) * plane,
    maskNumbers: Math.max(0, ...masks.map(numbersOf)),
    numbers: lists.reduce((sum, l) => sum + l.length * 4 + 64, 0),
  });
  const f32 = kernels.f32();
  let next = at.numbers;
  const put = (...parts: ArrayLike<number>[]): number => {
    const address = next;
    for (const values of parts) {
      f32.set(values, next / 4);
      next += values.length * 4;
    }
    next = (next + 63) & ~15;
    return address;
  };
  const three = (from: number): Three => [from, from + plane, from + 2 * plane];
  return {
    ...at,
    planes: three(at.planes),
    aside: Array.from({ length: depth }, (_, i) => three(at.aside + i * 3 * plane)),
    plane,
    grains: new Map(),
    mask: { planes: at.mask, plane, fields: at.fields, numbers: at.maskNumbers },
    scene: put(plan.scene, [0, 0, 0, 0]),
    encode: new Map(spaces.map((space, i) => [space, put(encode[i]!)])),
    numbers: plan.passes.map((p) => put(p.parameters)),
  };
}

const roundUp = (n: number): number => (n + 7) & ~7;

/** Plate to scene light, row by row. */
export function sceneTile(kernels: Kernels, plate: Plate, work: Work, { width, count, y }: Tile, origin: Origin): void {
  const n = plate.width * plate.height,
    { surround = null, whole = plate } = origin,
    padded = roundUp(width * count),
    u16 = kernels.u16(),
    f32 = kernels.f32(),
    start = y * width,
    size = width * count;
  for (let c = 0; c < 3; c++) u16.set(plate.data.subarray(c * n + start, c * n + start + size), work.source / 2 + c * padded);
  if (!surround) {
    kernels.exports.scene(work.source, padded * 2, ...work.planes, padded, work.scene, 0, 0);
    return;
  }
  const stride = surround.width * 4 + 32,
    at = work.scene / 4,
    // camera colours as balanced ones
    balance = [f32[at + 2]! / f32[at + 3]!, f32[at + 4]! / f32[at + 3]!];
  f32.set([...along(surround, origin.x, whole.width), 1], at + 15);
  for (let j = 0; j < count; j++) {
    const share = (origin.y + y + j + 0.5) / whole.height;
    layField(f32, surround, surround.red, share, balance[0]!, work.fields);
    layField(f32, surround, surround.blue, share, balance[1]!, work.fields + stride);
    const o = j * width,
      [r, g, b] = work.planes;
    kernels.exports.scene(work.source + o * 2, padded * 2, r + o * 4, g + o * 4, b + o * 4, width, work.scene, work.fields, stride);
  }
}

/** Runs the passes from `first` on over a tile, up to the end or the next that reads neighbours; returns where it stopped. `open`: how many planes are aside. */
export function runPasses(
  kernels: Kernels,
  work: Work,
  { passes, seed }: Plan,
  first: number,
  open: number,
  tile: Tile,
  origin: Origin,
): number {
  const n = roundUp(tile.width * tile.count);
  let depth = open,
    i = first;
  for (; i < passes.length && !isAreaPass(passes[i]!); i++) {
    const pass = passes[i]!,
      address = work.numbers[i]!;
    if (pass.kernel === 'hold') {
      const u8 = kernels.u8(),
        to = work.aside[depth++]!;
      u8.copyWithin(to[0], work.planes[0], work.planes[0] + 3 * work.plane);
    } else if (isJoinPass(pass)) {
      const held = work.aside[--depth]!;
      kernels.exports.join(...work.planes, ...held, n, address);
      if (pass.mask) {
        const mask = drawMask({ kernels, room: work.mask, light: held, tile, origin }, pass.mask, origin.maps?.[i] ?? []);
        if (pass.shows) kernels.exports.maskGrey(mask, ...work.planes, n);
        else kernels.exports.maskMix(...work.planes, ...held, mask, n);
      }
    } else if (pass.kernel === 'zones') runZones(kernels, work, address, tile, origin);
    else if (pass.kernel === 'lensGain') runGain(kernels, work, address, tile, origin);
    else if (isPlacePass(pass)) runPlace(kernels, work, pass, address, tile, origin);
    else if (isFieldPass(pass)) runField(kernels, work, i, pass, address, seed, tile, origin);
    else if (isMapPass(pass)) runMaps(kernels, work, pass, address, origin.maps?.[i] ?? [], tile, origin);
    else if (isPointPass(pass)) {
      const end = endOfPoints(passes, i);
      runPoints(kernels, work, passes, i, end, n);
      i = end - 1;
    }
  }
  return i;
}

/** Pixels that passes of the pixel alone go over one after another while they are in the nearest cache. */
const nearPixels = 2048;
/** Where the passes of the pixel alone that begin at a place end. */
function endOfPoints(passes: readonly Pass[], first: number): number {
  let end = first + 1;
  while (end < passes.length && isPointPass(passes[end]!)) end++;
  return end;
}
function runPoints(kernels: Kernels, work: Work, passes: readonly Pass[], first: number, end: number, n: number): void {
  const [r, g, b] = work.planes;
  for (let at = 0; at < n; at += nearPixels) {
    const count = Math.min(nearPixels, n - at),
      o = at * 4;
    for (let i = first; i < end; i++) kernels.exports[(passes[i] as PointwisePass).kernel](r + o, g + o, b + o, count, work.numbers[i]!);
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
    layRow(f32, guide, (originY + y + j + 0.5) / whole.height, work.fields, stride);
    const o = j * width * 4;
    kernels.exports.zones(work.planes[0] + o, work.planes[1] + o, work.planes[2] + o, width, address, work.fields, work.fields + stride);
  }
}
/** Where the place of a row in its maps stands among a pass' numbers. */
const placeNumbers = { localContrast: 6, haze: 7, glow: 3 } as const;
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
    maps.forEach((map, k) => layRow(f32, map, (originY + y + j + 0.5) / whole.height, work.fields + 2 * k * stride, stride));
    const o = j * width * 4;
    kernels.exports[pass.kernel](work.planes[0] + o, work.planes[1] + o, work.planes[2] + o, width, address, work.fields, stride);
  }
}
