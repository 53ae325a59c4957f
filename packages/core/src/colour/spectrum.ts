import { blackbody, colourMatching, daylight } from './observer.ts';
import { exp } from './elementary.ts';

/** Wavelengths that spectra are sampled at: 380–730 nm every 10. */
export const wavelengths: readonly number[] = Array.from({ length: 36 }, (_, i) => 380 + 10 * i);
export type Spectrum = Float64Array;
export const spectrumOf = (f: (nanometres: number) => number): Spectrum => Float64Array.from(wavelengths, f);

/** A bell: a peak and how far it falls on either side (standard deviations, nm). */
export interface Bell {
  peak: number;
  towardsBlue: number;
  towardsRed: number;
}
export function bell({ peak, towardsBlue, towardsRed }: Bell, nanometres: number): number {
  const t = (nanometres - peak) / (nanometres < peak ? towardsBlue : towardsRed);
  return exp(-0.5 * t * t);
}
/** 0 well below a wavelength, 1 well above it, over some 30 nm. */
export const edge = (at: number, nanometres: number, softness = 7): number => 1 / (1 + exp((at - nanometres) / softness));

/** What was computed by the platform's own exponential, to nine decimals: the same on every machine. */
const settled = (v: number): number => Math.round(v * 1e9) / 1e9;
/** CIE daylight from 4000 K on, a black body below; relative power. */
export const lightOf = (kelvin: number): Spectrum =>
  spectrumOf((nm) => settled(kelvin >= 4000 ? daylight(nm, kelvin) : blackbody(nm, kelvin)));

const matching = wavelengths.map((nm) => colourMatching(nm).map(settled));
/** The observer's X, Y, Z at each wavelength, CIE 1931. */
export const observer: readonly [Spectrum, Spectrum, Spectrum] = [0, 1, 2].map((c) =>
  Float64Array.from(matching, (m) => m[c]!),
) as unknown as [Spectrum, Spectrum, Spectrum];
/** What each wavelength of a light adds to X, Y and Z, per unit of the light's own Y. */
export function observed(light: Spectrum): readonly [Spectrum, Spectrum, Spectrum] {
  let white = 0;
  for (let i = 0; i < light.length; i++) white += light[i]! * observer[1][i]!;
  return observer.map((matching) => light.map((v, i) => (v * matching[i]!) / white)) as unknown as readonly [Spectrum, Spectrum, Spectrum];
}
