/**
 * The 24 patches of the classic rendition chart (McCamy, Marcus, Davidson 1976), CIE L*a*b* under D50, 2°,
 * as commonly published for charts made before November 2014; the greys by the paper's own notation, Munsell N 9.5/ to N 2/
 * (luminous reflectance 90.0, 59.1, 36.2, 19.8, 9.0 and 3.1 %), which is neutral by definition. Values from memory.
 * Rows of six, dark skin first, black last.
 */
export const patchLab: readonly (readonly [number, number, number])[] = [
  [37.986, 13.555, 14.059],
  [65.711, 18.13, 17.81],
  [49.927, -4.88, -21.925],
  [43.139, -13.095, 21.905],
  [55.112, 8.844, -25.399],
  [70.719, -33.397, -0.199],
  [62.661, 36.067, 57.096],
  [40.02, 10.41, -45.964],
  [51.124, 48.239, 16.248],
  [30.325, 22.976, -21.587],
  [72.532, -23.709, 57.255],
  [71.941, 19.363, 67.857],
  [28.778, 14.179, -50.297],
  [55.261, -38.342, 31.37],
  [42.101, 53.378, 28.19],
  [81.733, 4.039, 79.819],
  [51.935, 49.986, -14.574],
  [51.038, -28.631, -28.638],
  [95.996, 0, 0],
  [81.35, 0, 0],
  [66.67, 0, 0],
  [51.611, 0, 0],
  [35.983, 0, 0],
  [20.443, 0, 0],
];
