/** A field of width × height: `inside` is where it is sought, elsewhere it is known. */
export interface Field {
  width: number;
  height: number;
  inside: Uint8Array;
}
/** Rounds of the grids at most, sweeps before and after each coarser one, and the greatest change of a round at which a field is taken, in its own unit. */
const mostRounds = 24,
  sweeps = 2,
  settled = 0.3;

/** What is solved at one size: 4v − the neighbours = `wanted`; v is zero where it is not sought. */
interface Grid {
  width: number;
  height: number;
  inside: Uint8Array;
  /** places of two colours, as of a chessboard: none has a neighbour of its own colour */
  places: readonly [Int32Array, Int32Array];
  value: Float32Array;
  wanted: Float32Array;
  /** for each place, which of the next grid it lies in, and how far from that the nearest one across and down are */
  under: readonly [Under, Under] | null;
}
interface Under {
  place: Int32Array;
  across: Int8Array;
  down: Int32Array;
}
const underOf = (places: Int32Array, width: number, next: number): Under => ({
  place: places.map((i) => ((Math.floor(i / width) + 1) >> 1) * next + (((i % width) + 1) >> 1)),
  across: Int8Array.from(places, (i) => ((i % width) & 1 ? -1 : 1)),
  down: places.map((i) => (Math.floor(i / width) & 1 ? -next : next)),
});
/** Grids have a margin of one place all round, so that every place has four neighbours. */
function gridOf(width: number, height: number, inside: Uint8Array): Grid {
  const two: [number[], number[]] = [[], []];
  for (let y = 1; y < height - 1; y++) for (let x = 1; x < width - 1; x++) if (inside[y * width + x]) two[(x + y) & 1]!.push(y * width + x);
  return {
    width,
    height,
    inside,
    places: [Int32Array.from(two[0]), Int32Array.from(two[1])],
    value: new Float32Array(width * height),
    wanted: new Float32Array(width * height),
    under: null,
  };
}
/** The grid of half the size: a place is sought where all four it stands for are. */
function coarser({ width, height, inside }: Grid): Grid | null {
  const w = ((width - 1) >> 1) + 2,
    h = ((height - 1) >> 1) + 2,
    half = new Uint8Array(w * h);
  let some = false;
  for (let y = 1; y < h - 1; y++)
    for (let x = 1; x < w - 1; x++) {
      const i = (2 * y - 1) * width + 2 * x - 1;
      if (2 * y >= height || 2 * x >= width || !(inside[i] && inside[i + 1] && inside[i + width] && inside[i + width + 1])) continue;
      half[y * w + x] = 1;
      some = true;
    }
  return some ? gridOf(w, h, half) : null;
}
/** Each place of one colour, then of the other, to what its neighbours ask (Gauss and Seidel). */
function sweep({ places, value: v, wanted, width }: Grid): void {
  for (const colour of places)
    for (let k = 0; k < colour.length; k++) {
      const i = colour[k]!;
      v[i] = 0.25 * (wanted[i]! + v[i - 1]! + v[i + 1]! + v[i - width]! + v[i + width]!);
    }
}
/** One round through all sizes: what is left over is solved at half the size and added (multigrid, Brandt 1977). */
function descend(grids: readonly Grid[], at: number): void {
  const g = grids[at]!,
    next = grids[at + 1];
  if (!next) {
    for (let k = 0; k < 20; k++) sweep(g);
    return;
  }
  for (let k = 0; k < sweeps; k++) sweep(g);
  next.value.fill(0);
  next.wanted.fill(0);
  const { value: v, wanted, width } = g,
    { value: c, wanted: left } = next;
  g.under ??= [underOf(g.places[0], width, next.width), underOf(g.places[1], width, next.width)];
  g.places.forEach((colour, n) => {
    const { place } = g.under![n]!;
    for (let k = 0; k < colour.length; k++) {
      const i = colour[k]!;
      // a place of half the size stands for four: its own sum is four times theirs
      left[place[k]!]! += wanted[i]! + v[i - 1]! + v[i + 1]! + v[i - width]! + v[i + width]! - 4 * v[i]!;
    }
  });
  descend(grids, at + 1);
  g.places.forEach((colour, n) => {
    const { place, across, down } = g.under![n]!;
    for (let k = 0; k < colour.length; k++) {
      // nine sixteenths from the place it lies in, the rest from those beside it
      const j = place[k]!,
        x = across[k]!,
        y = down[k]!;
      v[colour[k]!]! += 0.0625 * (9 * c[j]! + 3 * c[j + x]! + 3 * c[j + y]! + c[j + x + y]!);
    }
  });
  for (let k = 0; k < sweeps; k++) sweep(g);
}

/**
 * The fields inside that meet what stands round them and are nowhere else pulled: Laplace's equation with the values at the border
 * given, each place the mean of its four neighbours. At the edge of the field it goes straight out. Changes `values`, each of which
 * has the same `inside`.
 */
export function solveMembrane({ width, height, inside }: Field, values: readonly Float32Array[]): void {
  const w = width + 2,
    h = height + 2,
    padded = new Uint8Array(w * h);
  for (let y = 0; y < height; y++) padded.set(inside.subarray(y * width, (y + 1) * width), (y + 1) * w + 1);
  const first = gridOf(w, h, padded),
    grids = [first];
  for (let g: Grid | null = first; g && Math.min(g.width, g.height) > 6; g = coarser(g)) if (g !== first) grids.push(g);
  if (first.places[0].length + first.places[1].length === 0) return;
  // where the picture ends, what is beside a place is what the place is
  const edges: { place: number; beside: number }[] = [],
    within = (x: number, y: number): number => Math.min(h - 2, Math.max(1, y)) * w + Math.min(w - 2, Math.max(1, x));
  for (let x = 0; x < w; x++) for (const y of [0, h - 1]) if (padded[within(x, y)]) edges.push({ place: y * w + x, beside: within(x, y) });
  for (let y = 0; y < h; y++) for (const x of [0, w - 1]) if (padded[within(x, y)]) edges.push({ place: y * w + x, beside: within(x, y) });
  const border: number[] = [];
  for (const colour of first.places)
    for (const i of colour)
      for (const k of [i - 1, i + 1, i - w, i + w]) if (!padded[k] && k === within(k % w, Math.floor(k / w))) border.push(k);
  const was = new Float32Array(first.value.length);
  for (const value of values) {
    for (let y = 0; y < height; y++) first.value.set(value.subarray(y * width, (y + 1) * width), (y + 1) * w + 1);
    // begun from the mean of what is known beside it
    const mean = border.length > 0 ? border.reduce((sum, k) => sum + first.value[k]!, 0) / border.length : 0;
    for (const colour of first.places) for (let k = 0; k < colour.length; k++) first.value[colour[k]!] = mean;
    for (let round = 0; round < mostRounds; round++) {
      was.set(first.value);
      for (const { place, beside } of edges) first.value[place] = first.value[beside]!;
      descend(grids, 0);
      let most = 0;
      for (const colour of first.places)
        for (let k = 0; k < colour.length; k++) {
          const change = first.value[colour[k]!]! - was[colour[k]!]!;
          if (change > most) most = change;
          else if (-change > most) most = -change;
        }
      if (most < settled) break;
    }
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) if (inside[y * width + x]) value[y * width + x] = first.value[(y + 1) * w + x + 1]!;
  }
}
