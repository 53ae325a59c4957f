import type { Kernels } from '../kernels/kernels.ts';
import { edgeOf, planeOf } from './filmPlane.ts';
import { grainLattice, phases, type GrainLattice } from './grainLattice.ts';
import type { FieldPass } from './pass.ts';
import type { Origin } from './render.ts';
import type { Tile, Work } from './tile.ts';

/** Squares of the grid a pixel may be as wide as, at most. */
const mostSquares = 3;
const roomFor = (squares: number): number => (squares + 32) & ~7;
/** Bytes the random fields need for a tile of so many pixels. */
export const fieldBytes = (tile: number): number => {
  const squares = roomFor(Math.ceil(tile * mostSquares) + 8);
  return phases * 16 + tile * 8 + 64 + 3 * (14 * squares + 8192) * 4 + 3 * (tile + 8) * 4 + 4096;
};

/** Lends addresses one after another. */
function lender(from: number): (bytes: number) => number {
  let at = from;
  return (bytes) => {
    const here = at;
    at = (at + bytes + 31) & ~15;
    return here;
  };
}
interface Level {
  /** its first column, how many, and where its rows lie: two pairs more than are read at once at the finest, a pair at the others */
  first: number;
  count: number;
  rows: number[];
  /** which row each of them holds */
  holds: number[];
}
/** One random field over a tile's columns. */
interface Field {
  seed: number;
  levels: Level[];
}

function openField(lend: (bytes: number) => number, lattice: GrainLattice, first: number, last: number, seed: number): Field {
  const levels: Level[] = [];
  let from = first,
    to = last;
  for (let depth = lattice.depth; depth >= 0; depth--) {
    const start = from & ~1,
      count = roomFor(to - start + 1),
      slots = depth === lattice.depth ? 8 : 2;
    levels[depth] = {
      first: start,
      count,
      rows: Array.from({ length: slots }, () => lend(count * 4 + 32)),
      holds: Array.from({ length: slots }, () => -1e9),
    };
    from = start >> 1;
    to = (start + count) >> 1;
  }
  return { seed, levels };
}
/** Where a row of a field's squares lies; made, with the other of its pair, when it is not there. */
function rowOf(kernels: Kernels, field: Field, deviations: readonly number[], depth: number, j: number): number {
  const { seed, levels } = field;
  const level = levels[depth]!,
    slot = j & (level.rows.length - 1),
    address = level.rows[slot]!;
  if (level.holds[slot] === j) return address;
  const own = seed + depth * 7477;
  if (depth === 0) {
    level.holds[slot] = j;
    kernels.exports.grainTop(address, level.count, level.first, j, deviations[0]!, own);
    return address;
  }
  const above = rowOf(kernels, field, deviations, depth - 1, j >> 1),
    parent = levels[depth - 1]!,
    from = above + ((level.first >> 1) - parent.first) * 4;
  // three details of equal variance: a square's is four times that of the one it is a quarter of
  const [low, high] = [slot & ~1, slot | 1];
  level.holds[low] = j & ~1;
  level.holds[high] = j | 1;
  kernels.exports.grainHalf(from, level.rows[low]!, level.rows[high]!, level.count, level.first >> 1, j >> 1, deviations[depth - 1]!, own);
  return address;
}

/** A grain's fields as they stand in memory while a piece is drawn, tile after tile. */
export interface OpenGrain {
  lattice: GrainLattice;
  fields: Field[];
  length: number;
  /** addresses: weights by phase, where each column's squares and weights lie, a row's weights, squares of one row, fields of one row */
  weights: number;
  columns: number;
  rowWeights: number;
  down: number;
  drawn: number[];
}
function openGrain(
  kernels: Kernels,
  lend: (bytes: number) => number,
  { grain }: FieldPass,
  seed: number,
  tile: Tile,
  origin: Origin,
): OpenGrain {
  const { width, plate } = tile,
    edge = edgeOf(origin, plate),
    pixelUm = (grain.formatMm * 1000) / edge,
    lattice = grainLattice(grain, pixelUm),
    squares = pixelUm / lattice.cellUm,
    placeX = (i: number): number => (planeOf(origin, plate).left * edge + origin.x + i + 0.5) * squares,
    f32 = kernels.f32(),
    u32 = new Uint32Array(f32.buffer);
  const weights = lend(phases * 16),
    // the kernel goes on in fours
    drawnColumns = (width + 3) & ~3,
    columns = lend(drawnColumns * 8),
    rowWeights = lend(16),
    first = Math.floor(placeX(0)) - 1,
    last = Math.floor(placeX(width - 1)) + 2,
    fields = Array.from({ length: grain.colour > 0 ? 3 : 1 }, (_, c) =>
      openField(lend, lattice, first, last, (seed ^ (grain.roll * 2654435)) + c * 40503),
    ),
    finest = fields[0]!.levels[lattice.depth]!;
  f32.set(lattice.weights, weights / 4);
  for (let i = 0; i < drawnColumns; i++) {
    const place = placeX(Math.min(i, width - 1)),
      square = Math.floor(place);
    u32[columns / 4 + 2 * i] = (square - 1 - finest.first) * 4;
    u32[columns / 4 + 2 * i + 1] = phaseOf(place - square) * 16;
  }
  return {
    lattice,
    fields,
    length: finest.count,
    weights,
    columns,
    rowWeights,
    down: lend(finest.count * 4),
    drawn: fields.map(() => lend(width * 4 + 16)),
  };
}
const phaseOf = (share: number): number => Math.min(phases - 1, Math.floor(share * phases));

/** Grain over a tile: the field of the film plane at each pixel, then density moved by it. */
export function runField(
  kernels: Kernels,
  work: Work,
  index: number,
  pass: FieldPass,
  address: number,
  seed: number,
  tile: Tile,
  origin: Origin,
): void {
  const { width, count, y, plate } = tile,
    edge = edgeOf(origin, plate);
  let open = work.grains.get(index);
  if (!open) {
    const each = fieldBytes(work.plane / 4);
    work.grains.set(index, (open = openGrain(kernels, lender(work.field + work.grains.size * each), pass, seed, tile, origin)));
  }
  const { lattice, fields, length, weights, columns, rowWeights, down, drawn } = open,
    squares = (pass.grain.formatMm * 1000) / edge / lattice.cellUm,
    top = planeOf(origin, plate).top * edge + origin.y + y + 0.5,
    f32 = kernels.f32(),
    kept = new Float32Array(12);
  // what the field's spread adds to the mean of light, for the kernel to take off again
  f32[address / 4 + 6] = (Math.LN2 / 2) * lattice.variance;
  for (let j = 0; j < count; j++) {
    const place = (top + j) * squares,
      square = Math.floor(place),
      phase = phaseOf(place - square);
    f32.set(lattice.weights.subarray(phase * 4, phase * 4 + 4), rowWeights / 4);
    fields.forEach((field, c) => {
      const near = [-1, 0, 1, 2].map((k) => rowOf(kernels, field, lattice.deviations, lattice.depth, square + k));
      kernels.exports.grainDown(near[0]!, near[1]!, near[2]!, near[3]!, rowWeights, down, length);
      kernels.exports.grainAcross(down, columns, weights, drawn[c]!, width);
    });
    const row = work.planes.map((p) => p + j * width * 4) as [number, number, number];
    row.forEach((p, c) => kept.set(f32.subarray(p / 4 + width, p / 4 + width + 4), c * 4));
    kernels.exports[pass.kernel](...row, width, address, drawn[0]!, drawn[1] ?? drawn[0]!, drawn[2] ?? drawn[0]!);
    row.forEach((p, c) => f32.set(kept.subarray(c * 4, c * 4 + 4), p / 4 + width));
  }
}
