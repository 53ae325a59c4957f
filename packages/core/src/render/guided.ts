/** Slope and offset of something edge-aware over log₂ light I: slope·I + offset. `light` is the air light, where it is haze's. */
export interface Guide {
  width: number;
  height: number;
  slope: Float32Array;
  offset: Float32Array;
  light?: readonly [number, number, number];
}

/** Mean over a square window, by running sums; the window is cut at the border. */
export function boxMean(values: Float32Array, width: number, height: number, radius: number): Float32Array {
  return meanDown(meanAlong(values, width, height, radius), width, height, radius);
}
/** Means along rows of `2 radius + 1` values. */
function meanAlong(values: Float32Array, width: number, height: number, radius: number): Float32Array {
  const out = new Float32Array(values.length),
    // from here to there the window lies whole within the row
    whole = Math.min(width, radius + 1),
    cut = Math.max(whole, width - radius),
    share = 1 / (2 * radius + 1);
  for (let o = 0; o < width * height; o += width) {
    let sum = 0;
    for (let i = 0; i < Math.min(radius, width); i++) sum += values[o + i]!;
    for (let i = 0; i < whole; i++) {
      if (i + radius < width) sum += values[o + i + radius]!;
      out[o + i] = sum / windowAt(i, width, radius);
    }
    for (let i = o + whole; i < o + cut; i++) {
      sum += values[i + radius]! - values[i - radius - 1]!;
      out[i] = sum * share;
    }
    for (let i = cut; i < width; i++) {
      sum -= values[o + i - radius - 1]!;
      out[o + i] = sum / windowAt(i, width, radius);
    }
  }
  return out;
}
/** The same down columns, all columns a row at a time, since memory lies in rows. */
function meanDown(values: Float32Array, width: number, height: number, radius: number): Float32Array {
  const out = new Float32Array(values.length),
    sums = new Float64Array(width);
  for (let y = 0; y < Math.min(radius, height); y++) {
    const o = y * width;
    for (let x = 0; x < width; x++) sums[x]! += values[o + x]!;
  }
  for (let y = 0; y < height; y++) {
    const share = 1 / windowAt(y, height, radius),
      o = y * width,
      enters = (y + radius) * width,
      leaves = (y - radius - 1) * width;
    if (y + radius < height) for (let x = 0; x < width; x++) sums[x]! += values[enters + x]!;
    if (y > radius) for (let x = 0; x < width; x++) sums[x]! -= values[leaves + x]!;
    for (let x = 0; x < width; x++) out[o + x] = sums[x]! * share;
  }
  return out;
}
/** How many values the window round place `i` of `length` holds. */
const windowAt = (i: number, length: number, radius: number): number => Math.min(length - 1, i + radius) - Math.max(0, i - radius) + 1;

/** Slope and offset of the guided filter of `p` by `guide` (He, Sun, Tang 2010, eq. 5–8); differences of less than √flat are smoothed over. */
export function guidedFilter(guide: Float32Array, p: Float32Array, width: number, height: number, radius: number, flat: number): Guide {
  const n = width * height,
    own = p === guide,
    mean = boxMean(guide, width, height, radius),
    square = boxMean(
      guide.map((v) => v * v),
      width,
      height,
      radius,
    ),
    meanP = own ? mean : boxMean(p, width, height, radius),
    both = own
      ? square
      : boxMean(
          guide.map((v, i) => v * p[i]!),
          width,
          height,
          radius,
        );
  const slope = new Float32Array(n),
    offset = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    const variance = Math.max(0, square[i]! - mean[i]! ** 2),
      shared = own ? variance : both[i]! - mean[i]! * meanP[i]!;
    slope[i] = shared / (variance + flat);
    offset[i] = meanP[i]! - mean[i]! * slope[i]!;
  }
  return { width, height, slope: boxMean(slope, width, height, radius), offset: boxMean(offset, width, height, radius) };
}
