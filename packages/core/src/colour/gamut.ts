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
    cubics = [0, 3, 6].map((row) =>
      [1, 3, 3, 1].map((binomial, power) => binomial * k.reduce((sum, v, c) => sum + matrix[row + c]! * v ** power, 0)),
    ) as unknown as [Cubic, Cubic, Cubic];
  const inside = (chroma: number): boolean => {
    for (const [c0, c1, c2, c3] of cubics) if (c0 + chroma * (c1 + chroma * (c2 + chroma * c3)) <= 0) return false;
    return true;
  };
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
type Cubic = readonly [number, number, number, number];

/** A hue direction from its place 0–1 round the diamond |a| + |b| = 1, as the encode kernel counts it. */
export function directionAt(place: number): [number, number] {
  const q = place <= 0.5 ? place * 4 - 1 : 3 - place * 4,
    a = (1 - Math.abs(q)) * (place <= 0.5 ? 1 : -1),
    l = Math.hypot(a, q);
  return [a / l, q / l];
}
