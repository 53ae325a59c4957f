import { exp10 } from '../../colour/elementary.ts';
import { wavelengths, type Spectrum } from './spectrum.ts';

const size = wavelengths.length,
  /** densities that are tabulated, for each unit; and how far they go */ perUnit = 64,
  most = 6,
  ln10 = 2.302585092994045684;

/** What amounts of some dyes and a base let through, wavelength by wavelength: Beer–Lambert, T = 10^−(Σ amount · dye + base). */
export type Transmission = (amounts: readonly number[], into?: Spectrum) => Spectrum;

/**
 * Prepares dyes so that no exponential is left to do: each is tabulated at densities 1/64 apart, and between them carried on by
 * the first terms of its series, which are within a millionth.
 */
export function transmissionOf(dyes: readonly Spectrum[], base: Spectrum): Transmission {
  const tables = dyes.map((dye) => {
      const table = new Float64Array((most * perUnit + 1) * size);
      for (let k = 0; k <= most * perUnit; k++) for (let i = 0; i < size; i++) table[k * size + i] = exp10((-dye[i]! * k) / perUnit);
      return table;
    }),
    slopes = dyes.map((dye) => dye.map((v) => v * ln10)),
    clear = base.map((v) => exp10(-v));
  return (amounts, into = new Float64Array(size)) => {
    into.set(clear);
    for (let k = 0; k < dyes.length; k++) {
      const amount = Math.min(most, Math.max(0, amounts[k]!)),
        level = Math.round(amount * perUnit),
        left = amount - level / perUnit,
        table = tables[k]!,
        slope = slopes[k]!,
        from = level * size;
      for (let i = 0; i < size; i++) {
        const x = left * slope[i]!;
        into[i] = into[i]! * (table[from + i]! * (1 - x + x * x * (0.5 - x / 6)));
      }
    }
    return into;
  };
}
