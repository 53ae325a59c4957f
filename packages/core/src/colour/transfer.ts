/** sRGB encoding of a linear value (IEC 61966-2-1), odd-symmetric below zero. */
export function encodeSrgb(linear: number): number {
  const a = Math.abs(linear);
  return Math.sign(linear) * (a <= 0.0031308 ? 12.92 * a : 1.055 * Math.pow(a, 1 / 2.4) - 0.055);
}
/** Linear value of an sRGB-encoded one (IEC 61966-2-1). */
export function decodeSrgb(encoded: number): number {
  const a = Math.abs(encoded);
  return Math.sign(encoded) * (a <= 0.04045 ? a / 12.92 : Math.pow((a + 0.055) / 1.055, 2.4));
}
/** opRGB encoding (IEC 61966-2-5): gamma 563/256. */
export function encodeOprgb(linear: number): number {
  return Math.sign(linear) * Math.pow(Math.abs(linear), 256 / 563);
}
/** Linear value of an opRGB-encoded one (IEC 61966-2-5). */
export function decodeOprgb(encoded: number): number {
  return Math.sign(encoded) * Math.pow(Math.abs(encoded), 563 / 256);
}
/** α and β of ITU-R BT.2020-2, table 4, to the digits at which the two parts meet. */
const alpha2020 = 1.09929682680944,
  beta2020 = 0.018053968510807;
/** The opto-electronic transfer of ITU-R BT.2020-2. */
export function encode2020(linear: number): number {
  const a = Math.abs(linear);
  return Math.sign(linear) * (a < beta2020 ? 4.5 * a : alpha2020 * Math.pow(a, 0.45) - (alpha2020 - 1));
}
/** Linear value of one encoded as ITU-R BT.2020-2 has it. */
export function decode2020(encoded: number): number {
  const a = Math.abs(encoded);
  return Math.sign(encoded) * (a < 4.5 * beta2020 ? a / 4.5 : Math.pow((a + (alpha2020 - 1)) / alpha2020, 1 / 0.45));
}
/** ACEScct to linear (S-2016-001). */
export function decodeAcescct(v: number): number {
  return v <= 0.155251141552511 ? (v - 0.0729055341958355) / 10.5402377416545 : 2 ** Math.min(17.52 * v - 9.72, 16);
}
