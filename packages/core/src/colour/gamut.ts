import { apply3, chain3, type Matrix3, type Vector3 } from './matrix.ts';
import { lmsToRec2020 } from './oklab.ts';
import { rec2020To, type Primaries } from './spaces.ts';

/** From the cones of OKLab to an output space. */
export const lmsTo = (space: Primaries): Matrix3 => chain3(rec2020To(space), lmsToRec2020);

/** The slope of OKLab's three cone values along a hue direction (a, b of length 1), for lightness 1 (Ottosson 2020). */
const slopes = (a: number, b: number): Vector3 => [
  0.3963377774 * a + 0.2158037573 * b,
  -0.1055613458 * a - 0.0638541728 * b,
  -0.0894841775 * a - 1.291485548 * b,
];

/** Output RGB of OKLab lightness 1 and a chroma along a hue direction. */
export function rgbAlong(matrix: Matrix3, a: number, b: number, chroma: number): Vector3 {
  return apply3(matrix, slopes(a, b).map((k) => (1 + chroma * k) ** 3) as unknown as Vector3);
}

/**
 * The chroma-to-lightness ratio at which a hue first touches a dark face of the space (a channel at zero). Each channel is
 * a cubic of chroma; the first root of the three, by steps and bisection.
 */
export function chromaLimit(matrix: Matrix3, a: number, b: number): number {
  const k = slopes(a, b),
    [r0, r1, r2, r3] = cubic(matrix, 0, k),
    [g0, g1, g2, g3] = cubic(matrix, 3, k),
    [b0, b1, b2, b3] = cubic(matrix, 6, k);
  const inside = (c: number): boolean =>
    r0 + c * (r1 + c * (r2 + c * r3)) > 0 && g0 + c * (g1 + c * (g2 + c * g3)) > 0 && b0 + c * (b1 + c * (b2 + c * b3)) > 0;
  let low = 0,
    high = 0.02;
  while (high < 8 && inside(high)) {
    low = high;
    high += 0.02;
  }
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (inside(middle)) low = middle;
    else high = middle;
  }
  return low;
}
/** A channel's coefficients, of the powers of chroma: Σ m·(1 + chroma·k)³ over the row's three numbers. */
function cubic(matrix: Matrix3, row: number, [x, y, z]: Vector3): readonly [number, number, number, number] {
  const p = matrix[row]!,
    q = matrix[row + 1]!,
    r = matrix[row + 2]!;
  return [p + q + r, 3 * (p * x + q * y + r * z), 3 * (p * x ** 2 + q * y ** 2 + r * z ** 2), p * x ** 3 + q * y ** 3 + r * z ** 3];
}

/** A hue direction from its place 0–1 round the diamond |a| + |b| = 1, as the encode kernel counts it. */
export function directionAt(place: number): [number, number] {
  const q = place <= 0.5 ? place * 4 - 1 : 3 - place * 4,
    a = (1 - Math.abs(q)) * (place <= 0.5 ? 1 : -1),
    l = Math.hypot(a, q);
  return [a / l, q / l];
}
