import { apply3, type Matrix3, type Vector3 } from './matrix.ts';
import { fitReflectance, fittedShare, reflectance, type Polynomial } from './reflectance.ts';
import { xyzToRec2020 } from './spaces.ts';
import { edge, lightOf, observed, spectrumOf, type Spectrum } from './spectrum.ts';

/** Filters in front of the lens, by what they let through: all above an edge, or a band (nm). */
export const lensFilters = {
  none: null,
  yellow: { from: 485, to: 2000 },
  orange: { from: 545, to: 2000 },
  red: { from: 600, to: 2000 },
  green: { from: 495, to: 585 },
  blue: { from: 0, to: 500 },
} as const;
export type LensFilter = keyof typeof lensFilters;
/** What a filter lets through, 0–1. */
export const filterSpectrum = (filter: LensFilter): Spectrum => {
  const f = lensFilters[filter];
  return spectrumOf((nm) => (f ? 0.02 + 0.9 * edge(f.from, nm) * (1 - edge(f.to, nm)) : 1));
};

/** Colours that natural things have, linear Rec.2020: greys, and three purities round the circle. */
const natural: readonly Vector3[] = [
  [1, 1, 1],
  ...Array.from({ length: 12 }, (_, i) => (i * Math.PI) / 6).flatMap((h) =>
    [0.2, 0.4, 0.6].map((s): Vector3 => {
      const rgb = [0, 1, 2].map((c) => 1 + s * Math.cos(h - (2 * Math.PI * c) / 3)),
        most = Math.max(...rgb);
      return rgb.map((v) => v / most) as unknown as Vector3;
    }),
  ),
];
const known = new Map<LensFilter, Matrix3>();
/**
 * Linear Rec.2020 as it is seen through a filter in daylight: by least squares over the smooth reflectances of natural colours
 * (Jakob and Hanika 2019), white's loss of light included.
 */
export function throughFilter(filter: LensFilter): Matrix3 {
  const there = known.get(filter);
  if (there) return there;
  const through = filterSpectrum(filter),
    weights = observed(lightOf(6504)),
    pairs = natural.map((rgb) => {
      let p: Polynomial = [0, 0, -0.4];
      for (const share of [0.5, 1]) p = fitReflectance(rgb.map((v) => 1 + share * (v - 1)) as unknown as Vector3, p);
      const r = reflectance(p),
        xyz = weights.map((w) => w.reduce((sum, v, i) => sum + (v * r[i]! * through[i]!) / fittedShare, 0)) as unknown as Vector3;
      return { rgb, out: apply3(xyzToRec2020, xyz) };
    });
  const square = [0, 1, 2].map((i) => [0, 1, 2].map((j) => pairs.reduce((sum, { rgb }) => sum + rgb[i]! * rgb[j]!, 0))),
    m = [0, 1, 2].flatMap((row) =>
      solve(
        square,
        [0, 1, 2].map((i) => pairs.reduce((sum, { rgb, out }) => sum + rgb[i]! * out[row]!, 0)),
      ),
    ) as unknown as Matrix3;
  known.set(filter, m);
  return m;
}
/** Three equations, by Cramer's rule. */
function solve(m: readonly (readonly number[])[], v: readonly number[]): number[] {
  const det = (a: readonly (readonly number[])[]): number =>
    a[0]![0]! * (a[1]![1]! * a[2]![2]! - a[1]![2]! * a[2]![1]!) -
    a[0]![1]! * (a[1]![0]! * a[2]![2]! - a[1]![2]! * a[2]![0]!) +
    a[0]![2]! * (a[1]![0]! * a[2]![1]! - a[1]![1]! * a[2]![0]!);
  const whole = det(m);
  return [0, 1, 2].map((k) => det(m.map((row, i) => row.map((x, j) => (j === k ? v[i]! : x)))) / whole);
}
