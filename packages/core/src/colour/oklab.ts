import { apply3, chain3, invert3, type Matrix3, type Vector3 } from './matrix.ts';
import { rec2020ToXyz } from './spaces.ts';

/** XYZ (D65, Y = 1) to the cone-like space of OKLab (Ottosson 2020, "A perceptual color space for image processing"). */
const xyzToLms: Matrix3 = [
  0.8189330101, 0.3618667424, -0.1288597137, 0.0329845436, 0.9293118715, 0.0361456387, 0.0482003018, 0.2643662691, 0.633851707,
];
const lmsToLab: Matrix3 = [
  0.2104542553, 0.793617785, -0.0040720468, 1.9779984951, -2.428592205, 0.4505937099, 0.0259040371, 0.7827717662, -0.808675766,
];

export const rec2020ToLms = chain3(xyzToLms, rec2020ToXyz);
export const lmsToRec2020 = invert3(rec2020ToLms);

/** XYZ (D65) to OKLab. */
export function xyzToOklab(xyz: Vector3): Vector3 {
  return apply3(lmsToLab, apply3(xyzToLms, xyz).map(Math.cbrt) as unknown as Vector3);
}
/** Linear Rec.2020 to OKLab. */
export function rec2020ToOklab(rgb: Vector3): Vector3 {
  return apply3(lmsToLab, apply3(rec2020ToLms, rgb).map(Math.cbrt) as unknown as Vector3);
}
/** OKLab to linear Rec.2020. */
export function oklabToRec2020(lab: Vector3): Vector3 {
  return apply3(lmsToRec2020, apply3(invert3(lmsToLab), lab).map((v) => v ** 3) as unknown as Vector3);
}
/** a, b of a hue in degrees and a chroma. */
export function polar(hueDegrees: number, chroma: number): [number, number] {
  const h = (hueDegrees * Math.PI) / 180;
  return [chroma * Math.cos(h), chroma * Math.sin(h)];
}
