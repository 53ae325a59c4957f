/**
 * How a demosaiced frame's noise lies over frequency, as the deviation of each coefficient of an 8 × 8 cosine transform where
 * every measured value has a deviation of one. Rows and columns are frequencies of 0 to 7/16 cycles a pixel. Measured on flat
 * fields of ISO 1600 to 12800 through this demosaic; a test measures them again.
 */
type Spectrum = readonly (readonly number[])[];

/** Luma, (r + 2g + b)/4, at full size; even over frequency at smaller ones. */
const lumaFull: Spectrum = [
  [1.0, 0.99, 0.99, 0.99, 0.98, 0.96, 0.87, 0.7],
  [0.99, 1.0, 1.01, 1.01, 0.99, 0.96, 0.88, 0.68],
  [0.99, 1.01, 1.01, 1.02, 1.0, 0.98, 0.89, 0.7],
  [0.99, 1.01, 1.02, 1.01, 1.02, 0.98, 0.9, 0.7],
  [0.98, 0.99, 1.0, 1.02, 1.01, 0.99, 0.88, 0.69],
  [0.96, 0.96, 0.98, 0.98, 0.99, 0.95, 0.85, 0.65],
  [0.87, 0.88, 0.89, 0.9, 0.88, 0.85, 0.74, 0.55],
  [0.7, 0.68, 0.7, 0.7, 0.69, 0.65, 0.55, 0.36],
];
/** Red or blue less green at full size, at half and at a quarter, which stands for the rest: coarse, since colours are interpolated. */
const colourAt: readonly Spectrum[] = [
  [
    [1.87, 1.35, 0.97, 0.7, 0.51, 0.38, 0.3, 0.22],
    [1.35, 0.91, 0.64, 0.48, 0.38, 0.32, 0.27, 0.19],
    [0.97, 0.64, 0.45, 0.37, 0.33, 0.31, 0.26, 0.19],
    [0.7, 0.48, 0.37, 0.34, 0.33, 0.3, 0.26, 0.18],
    [0.51, 0.38, 0.33, 0.33, 0.31, 0.3, 0.25, 0.17],
    [0.38, 0.32, 0.31, 0.3, 0.3, 0.28, 0.23, 0.16],
    [0.3, 0.27, 0.26, 0.26, 0.25, 0.23, 0.19, 0.13],
    [0.22, 0.19, 0.19, 0.18, 0.17, 0.16, 0.13, 0.09],
  ],
  [
    [2.18, 1.89, 1.59, 1.28, 1.01, 0.84, 0.72, 0.62],
    [1.89, 1.64, 1.35, 1.07, 0.84, 0.7, 0.6, 0.53],
    [1.59, 1.35, 1.1, 0.87, 0.67, 0.57, 0.5, 0.45],
    [1.28, 1.07, 0.87, 0.65, 0.52, 0.45, 0.41, 0.39],
    [1.01, 0.84, 0.67, 0.52, 0.43, 0.4, 0.38, 0.37],
    [0.84, 0.7, 0.57, 0.45, 0.4, 0.38, 0.38, 0.37],
    [0.72, 0.6, 0.5, 0.41, 0.38, 0.38, 0.37, 0.37],
    [0.62, 0.53, 0.45, 0.39, 0.37, 0.37, 0.37, 0.37],
  ],
  [
    [2.39, 2.2, 2.04, 1.88, 1.65, 1.42, 1.27, 1.15],
    [2.2, 2.04, 1.96, 1.77, 1.53, 1.31, 1.17, 1.07],
    [2.04, 1.96, 1.82, 1.64, 1.38, 1.22, 1.08, 0.97],
    [1.88, 1.77, 1.64, 1.49, 1.27, 1.09, 0.94, 0.85],
    [1.65, 1.53, 1.38, 1.27, 1.08, 0.93, 0.8, 0.72],
    [1.42, 1.31, 1.22, 1.09, 0.93, 0.78, 0.66, 0.59],
    [1.27, 1.17, 1.08, 0.94, 0.8, 0.66, 0.57, 0.51],
    [1.15, 1.07, 0.97, 0.85, 0.72, 0.59, 0.51, 0.46],
  ],
];

/** Deviation of luma's coefficient (row v, column u) at a plate level, where means of 4^level values have a deviation of one. */
export const lumaDeviation = (level: number, v: number, u: number): number => (level === 0 ? lumaFull[v]![u]! : 1);
/** The same of a colour difference. */
export const colourDeviation = (level: number, v: number, u: number): number => colourAt[Math.min(level, colourAt.length - 1)]![v]![u]!;
