import type { Kernels } from '../kernels/kernels.ts';

/** A field of width × height: `inside` is where it is sought, elsewhere it is known. */
export interface Field {
  width: number;
  height: number;
  inside: Uint8Array;
}
/** Rounds at most, and the greatest change of one at which a field is taken, in its own unit. */
const mostRounds = 40,
  settled = 1;
/** Sweeps before and after each coarser grid, and of the coarsest. */
const sweeps = 2,
  lastSweeps = 10;
/** A grid no longer than this has none coarser. */
const smallest = 8;
/** Numbers beside each row that belong to no place; rows are whole eights. */
const margin = 8;

/** What is solved at one size: 4v − the neighbours = `wanted`; v is zero where it is not sought. Addresses are of row 0, place 0. */
interface Grid extends Field {
  stride: number;
  value: number;
  wanted: number;
  share: number;
  spans: number;
  /** places beside the field, and those within it that they mirror: there the picture ends */
  edges: Int32Array;
}
const strideOf = (width: number): number => margin + ((width + 7) & ~7) + margin;
const planeOf = ({ width, height }: Field): number => strideOf(width) * (height + 2);
const spansOf = ({ height }: Field): number => 2 * height + (height & 1 ? 2 : 0);

/** The field of half the size: a place is sought where all four it stands for are. Null where none is. */
function coarser({ width, height, inside }: Field): Field | null {
  const w = width >> 1,
    h = height >> 1,
    half = new Uint8Array(w * h);
  let some = 0;
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = 2 * y * width + 2 * x;
      some |= half[y * w + x] = inside[i]! & inside[i + 1]! & inside[i + width]! & inside[i + width + 1]!;
    }
  return some ? { width: w, height: h, inside: half } : null;
}
/** Where a field is sought at its borders: how far the places beside it and within lie from the first place. */
function edgesOf({ width, height, inside }: Field, stride: number): Int32Array {
  const edges: number[] = [],
    edge = (x: number, y: number, u: number, v: number): void => {
      if (inside[v * width + u]) edges.push(y * stride + x, v * stride + u);
    };
  for (let x = 0; x < width; x++) {
    edge(x, -1, x, 0);
    edge(x, height, x, height - 1);
  }
  for (let y = 0; y < height; y++) {
    edge(-1, y, 0, y);
    edge(width, y, width - 1, y);
  }
  return Int32Array.from(edges);
}
/** Grids laid out in the kernels' memory, with where each is sought, and so many more planes of the first. */
function laidOut(kernels: Kernels, fields: readonly Field[], more: number): { grids: Grid[]; planes: number[] } {
  const room = fields.reduce((sum, f) => sum + 3 * planeOf(f) + spansOf(f), more * planeOf(fields[0]!));
  let at = kernels.reserve(4 * room);
  const f32 = kernels.f32(),
    take = (numbers: number): number => (at += 4 * numbers) - 4 * numbers,
    plane = (f: Field): number => take(planeOf(f)) + 4 * (strideOf(f.width) + margin);
  f32.fill(0, at / 4, at / 4 + room);
  const grids = fields.map((field) => {
    const { width, height, inside } = field,
      stride = strideOf(width),
      [value, wanted, share] = [plane(field), plane(field), plane(field)],
      spans = take(spansOf(field)),
      ends = new Int32Array(f32.buffer, spans, 2 * height);
    for (let y = 0; y < height; y++) {
      let from = width,
        to = 0;
      for (let x = 0; x < width; x++)
        if (inside[y * width + x]) {
          f32[share / 4 + y * stride + x] = 0.25;
          if (x < from) from = x;
          to = x + 1;
        }
      ends[2 * y] = from & ~7;
      ends[2 * y + 1] = (to + 7) & ~7;
    }
    return { ...field, stride, value, wanted, share, spans, edges: edgesOf(field, stride) };
  });
  return { grids, planes: Array.from({ length: more }, () => plane(fields[0]!)) };
}
/** Beside the picture's edge a plane is what it is at it. */
function mirror(f32: Float32Array, { edges }: Grid, plane: number): void {
  for (let k = 0; k < edges.length; k += 2) f32[plane / 4 + edges[k]!] = f32[plane / 4 + edges[k + 1]!]!;
}
/** Sweeps of both colours, in this order. */
function relax({ exports: e }: Kernels, f32: Float32Array, g: Grid, times: number, colours: readonly number[]): void {
  for (let k = 0; k < times; k++)
    for (const colour of colours) {
      mirror(f32, g, g.value);
      e.relax(g.value, g.wanted, g.share, g.spans, g.stride, g.height, colour);
    }
}
/** Solves what is wanted of a grid nearly, from zero: what sweeps leave over is solved at half the size and added. */
function descend(kernels: Kernels, f32: Float32Array, grids: readonly Grid[], at: number): void {
  const g = grids[at]!,
    next = grids[at + 1],
    { exports: e } = kernels,
    first = g.value / 4 - g.stride - margin;
  f32.fill(0, first, first + planeOf(g));
  relax(kernels, f32, g, next ? sweeps : lastSweeps, [0, 1]);
  if (next) {
    mirror(f32, g, g.value);
    e.leftOver(g.value, g.wanted, g.share, g.stride, next.wanted, next.spans, next.stride, next.height);
    descend(kernels, f32, grids, at + 1);
    e.addFound(g.value, g.share, g.spans, g.stride, g.height, next.value, next.stride);
  }
  // the other way round, so that a round as a whole is even-handed
  relax(kernels, f32, g, next ? sweeps : lastSweeps, [1, 0]);
}
/** The mean of what is known beside a field. */
function meanBeside({ width, height, inside }: Field, value: Float32Array): number {
  let sum = 0,
    count = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (inside[i]) continue;
      const beside =
        (x > 0 && inside[i - 1]) ||
        (x < width - 1 && inside[i + 1]) ||
        (y > 0 && inside[i - width]) ||
        (y < height - 1 && inside[i + width]);
      if (!beside) continue;
      sum += value[i]!;
      count++;
    }
  return count > 0 ? sum / count : 0;
}

/**
 * The fields inside that meet what stands round them and are nowhere else pulled: Laplace's equation with the values at the border
 * given, each place the mean of its four neighbours; by conjugate gradients over multigrid (Brandt 1977; Tatebe 1993). At the edge of
 * the field it goes straight out. Changes `values`, each of which has the same `inside`.
 */
export function solveMembrane(kernels: Kernels, field: Field, values: readonly Float32Array[]): void {
  const { width, height, inside } = field,
    fields = [field];
  for (let f: Field | null = field; f && Math.min(f.width, f.height) > smallest; f = coarser(f)) if (f !== field) fields.push(f);
  const { grids, planes } = laidOut(kernels, fields, 3),
    [x, p, q] = planes as [number, number, number],
    g = grids[0]!,
    { value: z, wanted: r, spans, stride } = g,
    { exports: e } = kernels,
    f32 = kernels.f32();
  for (const value of values) {
    const mean = meanBeside(field, value);
    for (let v = 0; v < height; v++) {
      const row = x / 4 + v * stride;
      f32.set(value.subarray(v * width, (v + 1) * width), row);
      for (let u = 0; u < width; u++) if (inside[v * width + u]) f32[row + u] = mean;
    }
    mirror(f32, g, x);
    e.bend(x, q, g.share, spans, stride, height);
    const first = p / 4 - stride - margin;
    f32.fill(0, first, first + planeOf(field));
    e.added(r, p, -1, q, spans, stride, height);
    let along = 0,
      step = 0;
    for (let round = 0; round < mostRounds; round++) {
      descend(kernels, f32, grids, 0);
      const pull = e.product(r, z, spans, stride, height),
        // the way before is turned away from (Polak and Ribière)
        turn = round === 0 ? 0 : (-step * e.product(z, q, spans, stride, height)) / along;
      e.added(p, z, turn, p, spans, stride, height);
      mirror(f32, g, p);
      const stiff = e.bend(p, q, g.share, spans, stride, height);
      if (!(pull > 0 && stiff > 0)) break;
      along = pull;
      step = pull / stiff;
      const most = e.added(x, x, step, p, spans, stride, height);
      if (most < settled) break;
      e.added(r, r, -step, q, spans, stride, height);
    }
    for (let v = 0; v < height; v++) {
      const row = x / 4 + v * stride;
      for (let u = 0; u < width; u++) if (inside[v * width + u]) value[v * width + u] = f32[row + u]!;
    }
  }
}
