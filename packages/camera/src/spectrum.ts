import { blackbody, colourMatching, daylight } from '@dyepot/core/src/colour/observer.ts';

/** Light is carried in sixteen bands of 20 nm, 400–700 nm. */
export const bands = 16;
export type Spectrum = Float64Array;
export const wavelengths = Array.from({ length: bands }, (_, i) => 400 + 20 * i);

export function spectrum(of: (nanometres: number) => number): Spectrum {
  return Float64Array.from(wavelengths, of);
}

/** Colour-matching functions by band, scaled so that equal energy 1 has Y = 1. */
export const observer: readonly [Spectrum, Spectrum, Spectrum] = (() => {
  const x = spectrum((nm) => colourMatching(nm)[0]);
  const y = spectrum((nm) => colourMatching(nm)[1]);
  const z = spectrum((nm) => colourMatching(nm)[2]);
  const sum = y.reduce((a, b) => a + b, 0);
  return [x.map((v) => v / sum), y.map((v) => v / sum), z.map((v) => v / sum)];
})();

/** A light of the given temperature, Planck below 4000 K and CIE daylight from there, scaled to luminance 1. */
export function lightOf(kelvin: number): Spectrum {
  const raw = spectrum((nm) => (kelvin < 4000 ? blackbody(nm, kelvin) : daylight(nm, kelvin)));
  const luminance = dot(raw, observer[1]);
  return raw.map((v) => v / luminance);
}

export function dot(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < bands; i++) sum += a[i]! * b[i]!;
  return sum;
}

const rise = (nm: number, at: number, width: number): number => 1 / (1 + Math.exp(-(nm - at) / width));

/** Three smooth reflectances that add to one at every wavelength: red, green and blue paint. */
export const paints: readonly [Spectrum, Spectrum, Spectrum] = [
  spectrum((nm) => rise(nm, 585, 9)),
  spectrum((nm) => rise(nm, 492, 9) * (1 - rise(nm, 585, 9))),
  spectrum((nm) => (1 - rise(nm, 492, 9)) * (1 - rise(nm, 585, 9))),
];

/**
 * The smoothest reflectance that has given tristimulus values under a light, by the least-slope-squared
 * method with a logistic bound (after Burns 2020, "Numerical methods for smoothest reflectance reconstruction").
 * @param xyz relative to the light's own Y = 1
 */
export function smoothestReflectance(xyz: readonly [number, number, number], light: Spectrum): Spectrum {
  const weight = observer.map((curve) => curve.map((v, i) => v * light[i]!));
  const scale = 1 / weight[1]!.reduce((a, b) => a + b, 0);
  const z = new Float64Array(bands).fill(Math.atanh(2 * Math.min(0.97, Math.max(0.02, xyz[1])) - 1));
  const lambda = new Float64Array(3);
  const size = bands + 3;
  for (let iteration = 0; iteration < 60; iteration++) {
    const rho = z.map((v) => (Math.tanh(v) + 1) / 2);
    const slope = z.map((v) => (1 - Math.tanh(v) ** 2) / 2);
    const curvature = z.map((v) => -Math.tanh(v) * (1 - Math.tanh(v) ** 2));
    const system = Array.from({ length: size }, () => new Float64Array(size + 1));
    for (let i = 0; i < bands; i++) {
      const row = system[i]!;
      row[i] = (i === 0 || i === bands - 1 ? 2 : 4) + 1e-6;
      if (i > 0) row[i - 1] = -2;
      if (i < bands - 1) row[i + 1] = -2;
      let gradient = 0;
      for (let j = 0; j < bands; j++) gradient += row[j]! * z[j]!;
      let pull = 0;
      for (let k = 0; k < 3; k++) {
        pull += lambda[k]! * weight[k]![i]! * scale;
        row[bands + k] = weight[k]![i]! * scale * slope[i]!;
        system[bands + k]![i] = row[bands + k]!;
      }
      row[size] = -(gradient + pull * slope[i]!);
      row[i]! += pull * curvature[i]!;
    }
    for (let k = 0; k < 3; k++) system[bands + k]![size] = xyz[k]! - dot(rho, weight[k]!) * scale;
    const step = solve(system);
    for (let i = 0; i < bands; i++) z[i]! += step[i]!;
    for (let k = 0; k < 3; k++) lambda[k]! += step[bands + k]!;
    if (Math.max(...step.map(Math.abs)) < 1e-9) break;
  }
  return z.map((v) => (Math.tanh(v) + 1) / 2);
}

/** Gauss elimination with partial pivoting on rows of [A | b]. */
export function solve(rows: Float64Array[]): Float64Array {
  const n = rows.length;
  for (let column = 0; column < n; column++) {
    let pivot = column;
    for (let r = column + 1; r < n; r++) if (Math.abs(rows[r]![column]!) > Math.abs(rows[pivot]![column]!)) pivot = r;
    [rows[column], rows[pivot]] = [rows[pivot]!, rows[column]!];
    for (let r = column + 1; r < n; r++) {
      const factor = rows[r]![column]! / rows[column]![column]!;
      if (factor !== 0) for (let c = column; c <= n; c++) rows[r]![c]! -= factor * rows[column]![c]!;
    }
  }
  const x = new Float64Array(n);
  for (let r = n - 1; r >= 0; r--) {
    let sum = rows[r]![n]!;
    for (let c = r + 1; c < n; c++) sum -= rows[r]![c]! * x[c]!;
    x[r] = sum / rows[r]![r]!;
  }
  return x;
}
