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
  const half = new Float32Array(values.length),
    out = new Float32Array(values.length);
  const pass = (from: Float32Array, to: Float32Array, count: number, length: number, along: number, across: number): void => {
    for (let line = 0; line < count; line++) {
      let sum = 0;
      const o = line * across;
      for (let i = 0; i < Math.min(radius, length); i++) sum += from[o + i * along]!;
      for (let i = 0; i < length; i++) {
        if (i + radius < length) sum += from[o + (i + radius) * along]!;
        if (i - radius - 1 >= 0) sum -= from[o + (i - radius - 1) * along]!;
        to[o + i * along] = sum / (Math.min(length - 1, i + radius) - Math.max(0, i - radius) + 1);
      }
    }
  };
  pass(values, half, height, width, 1, width);
  pass(half, out, width, height, width, 1);
  return out;
}

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
