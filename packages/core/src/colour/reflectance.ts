import { apply3, type Vector3 } from './matrix.ts';
import { rec2020ToXyz } from './spaces.ts';
import { lightOf, observer, wavelengths, type Spectrum } from './spectrum.ts';

/*
 * A smooth reflectance for every colour (Jakob and Hanika 2019, "A Low-Dimensional Function Space for Efficient Spectral
 * Upsampling"): a sigmoid of a quadratic polynomial of the wavelength, fitted so that it looks like the colour under D65.
 */
const light = lightOf(6504),
  across = wavelengths.map((nm) => (nm - 555) / 175),
  /** what each wavelength adds to X, Y, Z, so that a perfect white is the white of linear Rec.2020 */
  adds = ((): [Spectrum, Spectrum, Spectrum] => {
    const white = apply3(rec2020ToXyz, [1, 1, 1]);
    return observer.map((m, c) => {
      let sum = 0;
      for (let i = 0; i < m.length; i++) sum += light[i]! * m[i]!;
      return Float64Array.from(m, (v, i) => (light[i]! * v * white[c]!) / sum);
    }) as [Spectrum, Spectrum, Spectrum];
  })();
export type Polynomial = readonly [number, number, number];
const sigmoid = (x: number): number => 0.5 + x / (2 * Math.sqrt(1 + x * x));

/** The reflectance of a polynomial. */
export const reflectance = ([a, b, c]: Polynomial): Spectrum => Float64Array.from(across, (x) => sigmoid((a * x + b) * x + c));

/** Colours are fitted at this share of their greatest channel, where narrow ones still have a reflectance under 1. */
export const fittedShare = 0.3;

/**
 * Fits a polynomial to a colour whose greatest channel is 1, from a first guess, by Gauss–Newton steps on XYZ, halved where they
 * do not help. What lies outside the reach of such reflectances comes as near as it goes.
 */
export function fitReflectance(rgb: Vector3, guess: Polynomial): Polynomial {
  const goal = apply3(rec2020ToXyz, rgb).map((v) => v * fittedShare);
  let best: Polynomial = guess,
    off = residual(best, goal);
  for (let round = 0; round < 24 && off.error > 1e-12; round++) {
    const step = solve3(off.slopes, off.by);
    if (!step) break;
    let share = 1,
      next: Polynomial | null = null;
    for (let k = 0; k < 6; k++, share /= 2) {
      const tried = limited([best[0] - share * step[0], best[1] - share * step[1], best[2] - share * step[2]]),
        there = residual(tried, goal);
      if (there.error < off.error) {
        next = tried;
        off = there;
        break;
      }
    }
    if (!next) break;
    best = next;
  }
  return best;
}
/** Held where a reflectance is already as narrow as makes a difference. */
const limited = (p: Polynomial): Polynomial => p.map((v) => Math.min(400, Math.max(-400, v))) as unknown as Polynomial;

interface Residual {
  error: number;
  by: Vector3;
  slopes: number[];
}
function residual([a, b, c]: Polynomial, goal: readonly number[]): Residual {
  const sum = [0, 0, 0],
    slopes = [0, 0, 0, 0, 0, 0, 0, 0, 0];
  for (let i = 0; i < across.length; i++) {
    const x = across[i]!,
      t = (a * x + b) * x + c,
      root = Math.sqrt(1 + t * t),
      value = 0.5 + t / (2 * root),
      slope = 1 / (2 * root * root * root);
    for (let k = 0; k < 3; k++) {
      const weight = adds[k]![i]!;
      sum[k]! += weight * value;
      slopes[k * 3]! += weight * slope * x * x;
      slopes[k * 3 + 1]! += weight * slope * x;
      slopes[k * 3 + 2]! += weight * slope;
    }
  }
  const by = sum.map((v, k) => v - goal[k]!) as unknown as Vector3;
  return { error: by[0] * by[0] + by[1] * by[1] + by[2] * by[2], by, slopes };
}
/** Solves three equations, a little damped; null where they say nothing. */
function solve3(m: readonly number[], v: Vector3): Vector3 | null {
  const [a, b, c, d, e, f, g, h, i] = m as [number, number, number, number, number, number, number, number, number],
    det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  if (Math.abs(det) < 1e-30) return null;
  return [
    (v[0] * (e * i - f * h) - b * (v[1] * i - f * v[2]) + c * (v[1] * h - e * v[2])) / det,
    (a * (v[1] * i - f * v[2]) - v[0] * (d * i - f * g) + c * (d * v[2] - v[1] * g)) / det,
    (a * (e * v[2] - v[1] * h) - b * (d * v[2] - v[1] * g) + v[0] * (d * h - e * g)) / det,
  ];
}
