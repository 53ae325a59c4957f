import type { OutputSpace } from './output.ts';
import type { Guide } from './guided.ts';
import type { Surround } from './surround.ts';
import type { Plate } from '../plate/plate.ts';
import { areaRunners } from './area.ts';
import { edgeOf, type FilmPlane } from './filmPlane.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { isAreaPass, openAfter, reachOf, type AreaPass, type Plan } from './pass.ts';
import { runPasses, sceneTile, workFor, type Tile, type Work } from './tile.ts';

/** Linear planes kept between renders: three of n floats, and three more for each that is put aside. */
export type Planes = Float32Array;
/**
 * Where a region's first pixel lies in the whole picture at its size (for dither), how large that is (the region itself
 * when not said), the long edge of the uncropped picture at that size (for sizes), and what the frame's passes need to know of
 * the whole: guide and maps, and the colours that surround what has clipped.
 */
export interface Origin {
  x: number;
  y: number;
  whole?: { width: number; height: number };
  edge?: number;
  /** the uncropped frame in shares of its long edge, and where the picture's corner lies in it; the picture alone when not said */
  film?: FilmPlane;
  guide?: Guide | null;
  /** what passes need to know of the whole picture, by their place in the plan */ maps?: readonly (readonly Guide[])[];
  surround?: Surround | null;
}
const tilePixels = 8192;

/** Planes of some rows of a plate's piece, after `count` passes. */
interface Band {
  planes: Planes;
  count: number;
  first: number;
  end: number;
}
/** A picture on its way, in bands from the top down. */
interface Descent {
  kernels: Kernels;
  plan: Plan;
  plate: Plate;
  origin: Origin;
  /** what is known of it already, to go on from */
  given: Band | null;
  /** memory of the passes that read neighbours, by their place */
  rooms: Map<number, AreaRoom>;
}
interface AreaRoom {
  /** the rows such a pass was given last: those it needs again are moved, not made again */
  given: Band;
  made: Planes;
}
/** Where rows go: into planes of `stride` values each, from the place `at` on. */
interface Target {
  planes: Planes;
  stride: number;
  at: number;
}
const nothing: Planes = new Float32Array(0);
/** Memory for so many values: what is there, where it is large enough. */
const atLeast = (memory: Planes, n: number): Planes => (memory.length < n ? new Float32Array(n) : memory);
/** Planes after so many passes: the picture's, and those put aside. */
const planesAfter = ({ passes }: Plan, count: number): number => 3 * (1 + openAfter(passes.slice(0, count)));

/**
 * Develops a plate through the scene stage and the first `count` passes.
 * @returns linear Rec.2020 planes of the plate's size, and those put aside there
 */
export function developPlanes(kernels: Kernels, plan: Plan, plate: Plate, count: number, origin: Origin = { x: 0, y: 0 }): Planes {
  const stride = plate.width * plate.height,
    planes = new Float32Array(stride * planesAfter(plan, count));
  rowsAfter({ kernels, plan, plate, origin, given: null, rooms: new Map() }, count, 0, plate.height, { planes, stride, at: 0 });
  return planes;
}

/** The rows from `first` to before `end` after `count` passes. What reads neighbours is given as many rows more as it needs. */
function rowsAfter(descent: Descent, count: number, first: number, end: number, target: Target): void {
  const { kernels, plan, plate, origin, given, rooms } = descent,
    { width, height } = plate,
    edge = edgeOf(origin, plate);
  let at = count - 1;
  while (at >= (given?.count ?? 0) && !isAreaPass(plan.passes[at]!)) at--;
  if (at < (given?.count ?? 0)) return points(descent, count, given, first, end, target);
  const pass = plan.passes[at] as AreaPass,
    reach = Math.ceil(pass.reach * edge),
    room = rooms.get(at) ?? { given: { planes: nothing, count: at, first: 0, end: 0 }, made: nothing },
    sets = planesAfter(plan, at),
    n = width * (end - first),
    direct = at + 1 === count && target.at === 0 && target.stride === n;
  rooms.set(at, room);
  widen(descent, room, Math.max(0, first - reach), Math.min(height, end + reach));
  if (!direct) room.made = atLeast(room.made, n * sets);
  const wide = room.given,
    out = (direct ? target.planes : room.made).subarray(0, n * sets);
  areaRunners[pass.kernel]({
    kernels,
    pass,
    planes: wide.planes.subarray(0, width * (wide.end - wide.first) * sets),
    out,
    width,
    height: wide.end - wide.first,
    first: first - wide.first,
    end: end - wide.first,
    edge,
    x: origin.x,
    y: origin.y + wide.first,
  });
  if (at + 1 < count) points(descent, count, { planes: out, count: at + 1, first, end }, first, end, target);
  else if (!direct) for (let k = 0; k < sets; k++) target.planes.set(out.subarray(k * n, (k + 1) * n), k * target.stride + target.at);
}

/** Makes the rows a pass is given those from `first` to before `end`: what is there of them is moved, the rest is made. */
function widen(descent: Descent, room: AreaRoom, first: number, end: number): void {
  const { plate, plan } = descent,
    { width } = plate,
    { given } = room,
    sets = planesAfter(plan, given.count),
    stride = width * (end - first),
    stays = first >= given.first && first < given.end && end >= given.end ? given.end - first : 0,
    before = width * (given.end - given.first),
    from = width * (first - given.first),
    planes = atLeast(given.planes, stride * sets);
  // where planes grow the last is moved first, so that none is written over before it was moved
  for (let i = 0; i < sets && stays > 0; i++) {
    const k = planes !== given.planes || stride <= before ? i : sets - 1 - i,
      part = given.planes.subarray(k * before + from, k * before + from + width * stays);
    planes.set(part, k * stride);
  }
  room.given = { planes, count: given.count, first, end };
  if (first + stays < end) rowsAfter(descent, given.count, first + stays, end, { planes, stride, at: width * stays });
}

/** Rows through passes of which none reads neighbours, in tiles of whole rows. */
function points(
  { kernels, plan, plate, origin }: Descent,
  count: number,
  from: Band | null,
  first: number,
  end: number,
  target: Target,
): void {
  const { width } = plate,
    rows = Math.max(1, Math.floor(tilePixels / width)),
    part = { ...plan, passes: plan.passes.slice(0, count) },
    sets = planesAfter(plan, count),
    work = workFor(kernels, rows * width + 8, part, origin);
  for (let y = first; y < end; y += rows) {
    const tile: Tile = { width, count: Math.min(rows, end - y), y, plate };
    develop(kernels, part, plate, work, tile, origin, from);
    const size = tile.count * width,
      f32 = kernels.f32(),
      to = target.at + (y - first) * width;
    [work.planes, ...work.aside]
      .slice(0, sets / 3)
      .forEach((three, k) =>
        three.forEach((address, c) => target.planes.set(f32.subarray(address / 4, address / 4 + size), (k * 3 + c) * target.stride + to)),
      );
  }
}

/** A tile's pixels after all passes of a plan that has none left that reads neighbours. */
function develop(kernels: Kernels, plan: Plan, plate: Plate, work: Work, tile: Tile, origin: Origin, from: Band | null): void {
  let open = 0;
  if (from) {
    const n = plate.width * (from.end - from.first),
      start = (tile.y - from.first) * tile.width,
      f32 = kernels.f32();
    open = openAfter(plan.passes.slice(0, from.count));
    [work.planes, ...work.aside].slice(0, 1 + open).forEach((three, k) =>
      three.forEach((address, c) => {
        const at = (k * 3 + c) * n + start;
        f32.set(from.planes.subarray(at, at + tile.count * tile.width), address / 4);
      }),
    );
  } else sceneTile(kernels, plate, work, tile, origin);
  runPasses(kernels, work, plan, from?.count ?? 0, open, tile, origin);
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
  return renderForms(kernels, plan, plate, origin, [{ form, space: plan.space }], from)[0]!;
}
/** The same picture in several forms and spaces, each as it would be by itself; it is developed once. */
export function renderForms(
  kernels: Kernels,
  plan: Plan,
  plate: Plate,
  origin: Origin,
  forms: readonly { form: Form; space: OutputSpace }[],
  from: { planes: Planes; count: number } | null = null,
): Uint8Array<ArrayBuffer>[] {
  const made = forms.map(({ form, space }) => ({ form, space, into: new Uint8Array(plate.width * plate.height * formBytes[form]) }));
  rowsInto(kernels, plan, plate, origin, from, 0, plate.height, made);
  return made.map((m) => m.into);
}

/** Rows worked on at once where passes read neighbours: many times what they read beyond, and no more than fits in memory. */
const bandRows = (width: number, reach: number): number => Math.max(64, Math.min(Math.floor(6e6 / width), 6 * reach));

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
  rowsInto(kernels, plan, plate, origin, from, first, end, [{ form, space: plan.space, into }]);
}
/** A finished picture under way: its form, and its bytes. */
interface Made {
  form: Form;
  space: OutputSpace;
  into: Uint8Array;
}
function rowsInto(
  kernels: Kernels,
  plan: Plan,
  plate: Plate,
  origin: Origin,
  from: { planes: Planes; count: number } | null,
  first: number,
  end: number,
  made: readonly Made[],
): void {
  const { width, height } = plate,
    given: Band | null = from && { ...from, first: 0, end: height },
    descent: Descent = { kernels, plan, plate, origin, given, rooms: new Map() },
    count = plan.passes.findLastIndex(isAreaPass) + 1,
    areas = count > (from?.count ?? 0);
  if (!areas) return finish(descent, given, first, end, made);
  const rows = bandRows(width, Math.ceil(reachOf(plan.passes) * edgeOf(origin, plate))),
    planes = new Float32Array(width * Math.min(rows, end - first) * planesAfter(plan, count));
  for (let y = first; y < end; y += rows) {
    const to = Math.min(end, y + rows);
    rowsAfter(descent, count, y, to, { planes, stride: width * (to - y), at: 0 });
    finish(descent, { planes, count, first: y, end: to }, y, to, made);
  }
}

/** The rest of the passes, and the encoding, of rows whose passes left read no neighbours. */
function finish({ kernels, plan, plate, origin }: Descent, from: Band | null, first: number, end: number, made: readonly Made[]): void {
  const { width } = plate,
    rows = Math.max(1, Math.floor(tilePixels / width)),
    work = workFor(kernels, rows * width + 8, plan, origin, [...new Set(made.map((m) => m.space))]),
    [r, g, b] = work.planes;
  for (let y = first; y < end; y += rows) {
    const count = Math.min(rows, end - y);
    develop(kernels, plan, plate, work, { width, count, y, plate }, origin, from);
    for (const { form, space, into } of made) {
      const bytes = formBytes[form],
        encode = work.encode.get(space)!;
      for (let j = 0; j < count; j++) {
        const o = j * width * 4,
          to = work.out + j * width * bytes;
        kernels.exports.encode(r + o, g + o, b + o, width, encode, to, origin.x, origin.y + y + j, plan.seed, bytes);
      }
      into.set(kernels.u8().subarray(work.out, work.out + count * width * bytes), y * width * bytes);
    }
  }
}
