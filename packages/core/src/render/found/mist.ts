import type { Features } from './features.ts';

/** How much of a picture's width is looked at together, and how much of its height a slope is read from, ending so far over the sky's lower end. */
const reach = 0.08,
  read = 0.2,
  apart = 0.075;
/** Columns from one place looked at to the next, and from one of those looked at together to the next. */
const stride = 8,
  every = 2;
/** How uneven a slope is at most, how far from it light is another, in EV, and from which drop on a sky ends at an edge that can be seen. */
const [unevenness, bend, edge] = [0.02, 0.008, 0.4];

const median = (values: readonly number[]): number => Float64Array.from(values).sort()[values.length >> 1]!;

/** How light changes from row to row about a column: the median of columns beside each other, each over its own; no number where too few are sky. */
function profileAt(
  { width, height, light }: Features,
  sky: ArrayLike<number>,
  from: number,
  to: number,
  columns: number[],
): (y: number) => number {
  const level = columns.map((x) => {
    const own: number[] = [];
    for (let y = from; y < to; y++) if (sky[y * width + x]) own.push(light[y * width + x]!);
    return own.length > (to - from) / 2 ? median(own) : NaN;
  });
  return (y) => {
    const row = Math.min(height - 1, y) * width,
      there = columns.flatMap((x, k) => (Number.isNaN(level[k]!) ? [] : light[row + x]! - level[k]!));
    return there.length > columns.length / 3 ? median(there) : NaN;
  };
}
/** A parabola through values at rows from one on (least squares, by Gram's polynomials), and their spread about it. */
function parabolaOf(values: readonly number[], from: number): { at: (y: number) => number; spread: number } {
  const n = values.length,
    middle = from + (n - 1) / 2,
    polynomials = [(): number => 1, (u: number): number => u, (u: number): number => u * u - (n * n - 1) / 12] as const,
    norms = [n, (n * (n * n - 1)) / 12, (n * (n * n - 1) * (n * n - 4)) / 180],
    weights = polynomials.map((p, d) => values.reduce((sum, v, k) => sum + p(from + k - middle) * v, 0) / norms[d]!),
    at = (y: number): number => polynomials.reduce((sum, p, d) => sum + weights[d]! * p(y - middle), 0);
  return { at, spread: Math.sqrt(values.reduce((sum, v, k) => sum + (v - at(from + k)) ** 2, 0) / n) };
}

/**
 * Takes off a sky what is land in mist: no edge parts them, but where the land begins, light leaves the slope that it has down
 * a clear sky. A sky that is clouded, or that ends at an edge, stays as it is. Numbers from the demo's frames.
 */
export function overMist(f: Features, sky: Uint8Array): Uint8Array {
  const { width, height } = f,
    side = Math.round(reach * width),
    high = Math.round(read * height),
    lowest = Array.from({ length: width }, (_, x) => {
      let y = height - 1;
      while (y >= 0 && !sky[y * width + x]) y--;
      return y;
    }),
    seen: { x: number; row: number | null }[] = [];
  for (let x = 0; x < width; x += stride) {
    const columns = Array.from({ length: Math.ceil((2 * side + 1) / every) }, (_, k) => x - side + every * k).filter(
        (u) => u >= 0 && u < width,
      ),
      end = median(columns.map((u) => lowest[u]!)),
      to = end - Math.round(apart * height),
      from = to - high;
    if (from < 0) continue;
    const profile = profileAt(f, sky, from, to, columns),
      values = Array.from({ length: high }, (_, k) => profile(from + k));
    if (values.some(Number.isNaN)) continue;
    const { at, spread } = parabolaOf(values, from);
    if (spread > unevenness || !(profile(end - 1) - profile(end + 4) < edge)) continue;
    let row: number | null = null;
    for (let y = end; y >= to && profile(y) - at(y) < -Math.max(bend, 4 * spread); y--) row = y;
    seen.push({ x, row });
  }
  const marks = seen.filter((s): s is { x: number; row: number } => s.row !== null);
  if (marks.length < 4 || marks.length < seen.length / 2) return sky;
  const ends = Array.from({ length: width }, (_, x) => {
    const after = marks.find((m) => m.x >= x) ?? marks[marks.length - 1]!,
      before = marks.findLast((m) => m.x <= x) ?? marks[0]!,
      t = after.x > before.x ? (x - before.x) / (after.x - before.x) : 0;
    return before.row + t * (after.row - before.row);
  });
  return sky.map((v, i) => (Math.floor(i / width) < ends[i % width]! - lag ? v : 0));
}
/** How many rows the bend begins over the first row at which it is told. */
const lag = 2;
