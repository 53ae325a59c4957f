/**
 * How a demosaiced frame's noise lies over frequency, as the deviation of each coefficient of an 8 × 8 cosine transform where
 * every measured value has a deviation of one, in hundredths. Frequencies are 0 to 7/16 cycles a pixel; rows and columns are
 * alike, so each table is the lower half of its square, row by row. Measured on flat fields of ISO 1600 to 12800 through this
 * demosaic; a test measures them again.
 */
type Spectrum = readonly number[];

/** Luma, (r + 2g + b)/4, at full size; even over frequency at smaller ones. */
const lumaFull: Spectrum = [
  100, 99, 100, 99, 101, 101, 99, 101, 102, 101, 98, 99, 100, 102, 101, 96, 96, 98, 98, 99, 95, 87, 88, 89, 90, 88, 85, 74, 70, 68, 70, 70,
  69, 65, 55, 36,
];
/** Red or blue less green at full size and at half: coarse, since colours are interpolated. */
const colourAt: readonly Spectrum[] = [
  [
    187, 135, 91, 97, 64, 45, 70, 48, 37, 34, 51, 38, 33, 33, 31, 38, 32, 31, 30, 30, 28, 30, 27, 26, 26, 25, 23, 19, 22, 19, 19, 18, 17,
    16, 13, 9,
  ],
  [
    218, 189, 164, 159, 135, 110, 128, 107, 87, 65, 101, 84, 67, 52, 43, 84, 70, 57, 45, 40, 38, 72, 60, 50, 41, 38, 38, 37, 62, 53, 45, 39,
    37, 37, 37, 37,
  ],
];
const at = (table: Spectrum, v: number, u: number): number => {
  const [row, column] = v < u ? [u, v] : [v, u];
  return table[(row * (row + 1)) / 2 + column]! / 100;
};

/** Deviation of luma's coefficient (row v, column u) at a plate level, where means of 4^level values have a deviation of one. */
export const lumaDeviation = (level: number, v: number, u: number): number => (level === 0 ? at(lumaFull, v, u) : 1);
/** The same of a colour difference; at smaller sizes than half as at half of the frequency halved. */
export const colourDeviation = (level: number, v: number, u: number): number => {
  const further = Math.max(0, level - 1);
  return at(colourAt[level - further]!, v >> further, u >> further);
};
