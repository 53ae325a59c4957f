import { ciede2000, xyzToLab } from './difference.ts';
import { apply3, type Matrix3, type Vector3 } from './matrix.ts';
import { d65, rgbToXyz, srgb, xyToXyz } from './spaces.ts';
import { decodeSrgb } from './transfer.ts';

let tables: { toXyz: Matrix3; white: Vector3; linear: Float64Array } | null = null;
/** Made when first asked for. */
const made = (): NonNullable<typeof tables> =>
  (tables ??= {
    toXyz: rgbToXyz(srgb),
    white: xyToXyz(d65),
    linear: Float64Array.from({ length: 256 }, (_, v) => decodeSrgb(v / 255)),
  });

/** CIE L*a*b* (D65) of an 8-bit sRGB colour. */
export function labOfRgb8([r, g, b]: readonly [number, number, number]): Vector3 {
  const { toXyz, white, linear } = made();
  return xyzToLab(apply3(toXyz, [linear[r]!, linear[g]!, linear[b]!]), white);
}
/** CIEDE2000 between two 8-bit sRGB colours. */
export const rgb8Difference = (p: readonly [number, number, number], q: readonly [number, number, number]): number =>
  p[0] === q[0] && p[1] === q[1] && p[2] === q[2] ? 0 : ciede2000(labOfRgb8(p), labOfRgb8(q));
