import { ciede2000, xyzToLab } from '../colour/difference.ts';
import { apply3, chain3, type Vector3 } from '../colour/matrix.ts';
import { d65, rec2020ToXyz, rgbToXyz, srgb, xyToXyz, xyzToRec2020 } from '../colour/spaces.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Look } from '../look/look.ts';
import { stripColours, sendThrough } from './dyestrip.ts';
import { lookPasses } from './plan.ts';

const white = xyToXyz(d65),
  fromSrgb = chain3(xyzToRec2020, rgbToXyz(srgb));
const strips = [-2, 0, 1.5].flatMap((ev) => stripColours.map((c) => c.map((v) => v * 2 ** ev) as unknown as Vector3));
const greys = Array.from({ length: 19 }, (_, i) => 0.18 * 2 ** (i / 2 - 6)).map((v): Vector3 => [v, v, v]);
/** The place among the compared colours of a grey of −6 to +3 EV, in halves of a stop. */
export const greyAt = (ev: number): number => strips.length + (ev + 6) * 2;
/** Scene colours that looks are compared by: those of the dye strip at three exposures, greys from −6 to +3 EV, and sRGB's own solid. */
export const comparedColours: readonly Vector3[] = [
  ...strips,
  ...greys,
  ...[0.02, 0.12, 0.35, 0.8].flatMap((r) =>
    [0.02, 0.12, 0.35, 0.8].flatMap((g) => [0.02, 0.12, 0.35, 0.8].map((b) => apply3(fromSrgb, [r, g, b]))),
  ),
];

/** CIE L*a*b* (D65) of what a look makes of the compared colours, three numbers each. What acts in places of its own is left out. */
export function coloursOf(kernels: Kernels, look: Look): Float32Array {
  const out = new Float32Array(comparedColours.length * 3);
  sendThrough(kernels, lookPasses(look), comparedColours).forEach((c, i) =>
    out.set(xyzToLab(apply3(rec2020ToXyz, c.map((v) => Math.min(1, Math.max(0, v))) as unknown as Vector3), white), i * 3),
  );
  return out;
}
/** How far two looks are apart: mean CIEDE2000 of what they make of the same colours. */
export function apart(p: Float32Array, q: Float32Array): number {
  const n = p.length / 3,
    lab = (of: Float32Array, i: number): Vector3 => [of[i * 3]!, of[i * 3 + 1]!, of[i * 3 + 2]!];
  let sum = 0;
  for (let i = 0; i < n; i++) sum += ciede2000(lab(p, i), lab(q, i));
  return sum / n;
}
/** Looks that differ by less are the same to the eye (a just noticeable difference is about 1). */
export const sameLook = 0.05;
