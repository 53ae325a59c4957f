import { apply3, chain3, diagonal3, invert3, type Matrix3, type Vector3 } from './matrix.ts';

/** Chromaticities x, y of red, green, blue and white. */
export interface Primaries {
  red: readonly [number, number];
  green: readonly [number, number];
  blue: readonly [number, number];
  white: readonly [number, number];
}

/** CIE standard illuminant D65 and D50 chromaticities, as the RGB standards state them. */
export const d65 = [0.3127, 0.329] as const;
export const d50 = [0.3457, 0.3585] as const;

/** ITU-R BT.2020. */
export const rec2020: Primaries = { red: [0.708, 0.292], green: [0.17, 0.797], blue: [0.131, 0.046], white: d65 };
/** IEC 61966-2-1 (sRGB), the primaries of ITU-R BT.709. */
export const srgb: Primaries = { red: [0.64, 0.33], green: [0.3, 0.6], blue: [0.15, 0.06], white: d65 };
/** Display P3: SMPTE EG 432-1 primaries with D65. */
export const displayP3: Primaries = { red: [0.68, 0.32], green: [0.265, 0.69], blue: [0.15, 0.06], white: d65 };

/** opRGB: IEC 61966-2-5. */
export const opRgb: Primaries = { red: [0.64, 0.33], green: [0.21, 0.71], blue: [0.15, 0.06], white: d65 };

/** XYZ of a chromaticity at Y = 1. */
export function xyToXyz([x, y]: readonly [number, number]): Vector3 {
  return [x / y, 1, (1 - x - y) / y];
}

/** Chromaticity of an XYZ colour. */
export function xyzToXy([x, y, z]: Vector3): [number, number] {
  return [x / (x + y + z), y / (x + y + z)];
}

/** Linear RGB to XYZ (SMPTE RP 177): primaries scaled so that RGB 1, 1, 1 is the white at Y = 1. */
export function rgbToXyz(p: Primaries): Matrix3 {
  const r = xyToXyz(p.red),
    g = xyToXyz(p.green),
    b = xyToXyz(p.blue);
  const columns: Matrix3 = [r[0], g[0], b[0], r[1], g[1], b[1], r[2], g[2], b[2]];
  return chain3(columns, diagonal3(apply3(invert3(columns), xyToXyz(p.white))));
}

export const rec2020ToXyz = rgbToXyz(rec2020);
export const xyzToRec2020 = invert3(rec2020ToXyz);

/** Bradford cone response (Lam 1985; ICC.1:2022 annex E). */
const bradford: Matrix3 = [0.8951, 0.2664, -0.1614, -0.7502, 1.7135, 0.0367, 0.0389, -0.0685, 1.0296];

/** Chromatic adaptation of XYZ from one white to another by the linear Bradford transform. */
export function adapt(from: Vector3, to: Vector3): Matrix3 {
  const a = apply3(bradford, from),
    b = apply3(bradford, to);
  return chain3(invert3(bradford), diagonal3([b[0] / a[0], b[1] / a[1], b[2] / a[2]]), bradford);
}

/** Linear Rec.2020 to the linear RGB of another space with the same white. */
export function rec2020To(space: Primaries): Matrix3 {
  return chain3(invert3(rgbToXyz(space)), rec2020ToXyz);
}
