import { exp10 } from '../../colour/elementary.ts';
import { wavelengths, type Spectrum } from '../../colour/spectrum.ts';
import type { Vector3 } from '../../colour/matrix.ts';

const size = wavelengths.length,
  /** densities that are tabulated, for each unit; and how far they go */ perUnit = 64,
  most = 6,
  ln10 = 2.302585092994045684;

const tables = new WeakMap<Spectrum, Float64Array>();
/** 10^−(dye · k/64) for every k and wavelength, each from the one before. Kept with the dye. */
function tableOf(dye: Spectrum): Float64Array {
  const there = tables.get(dye);
  if (there) return there;
  const table = new Float64Array((most * perUnit + 1) * size),
    step = dye.map((v) => exp10(-v / perUnit));
  table.fill(1, 0, size);
  for (let i = size; i < table.length; i++) table[i] = table[i - size]! * step[i % size]!;
  tables.set(dye, table);
  return table;
}
const nothing = new Float64Array(size);

/** How much light comes through amounts of dyes, as three observers weigh it. */
export type Through = ((amounts: readonly number[]) => Vector3) & {
  /** The same at all amounts of a grid, three numbers each: `side` along an axis, the first dye's running fastest. */
  grid(from: readonly number[], step: readonly number[], side: number): Float64Array;
};
/** 10^−(amount · dye) at each wavelength, for every node along an axis. */
const axisOf = (dye: Spectrum, from: number, step: number, side: number): Spectrum[] =>
  Array.from({ length: side }, (_, i) => dye.map((v) => exp10(-v * Math.min(most, Math.max(0, from + i * step)))));
/**
 * Light through up to three dyes and a base (Beer–Lambert, T = 10^−(Σ amount · dye + base)), summed over wavelength with each of
 * three weights. No exponential is left to do: each dye is tabulated at densities 1/64 apart, and what is left between them is
 * carried on by the first terms of the series, within some millionths.
 */
export function throughDyes(dyes: readonly Spectrum[], base: Spectrum, weights: readonly [Spectrum, Spectrum, Spectrum]): Through {
  const three = [0, 1, 2].map((k) => dyes[k] ?? nothing),
    [a, b, c] = three.map(tableOf) as [Float64Array, Float64Array, Float64Array],
    [as, bs, cs] = three.map((d) => d.map((v) => v * ln10)) as [Spectrum, Spectrum, Spectrum],
    [u, v, w] = weights.map((weight) => weight.map((share, i) => share * exp10(-base[i]!))) as [Spectrum, Spectrum, Spectrum];
  const grid: Through['grid'] = (from, step, side) => {
    const [first, second, third] = three.map((dye, k) => axisOf(dye, from[k]!, step[k]!, side)) as [Spectrum[], Spectrum[], Spectrum[]],
      out = new Float64Array(side ** 3 * 3),
      [red, green, blue] = [new Float64Array(size), new Float64Array(size), new Float64Array(size)];
    let o = 0;
    for (const deep of third)
      for (const down of second) {
        for (let i = 0; i < size; i++) {
          const t = deep[i]! * down[i]!;
          red[i] = u[i]! * t;
          green[i] = v[i]! * t;
          blue[i] = w[i]! * t;
        }
        for (const along of first) {
          let [p, q, r] = [0, 0, 0];
          for (let i = 0; i < size; i++) {
            const t = along[i]!;
            p += red[i]! * t;
            q += green[i]! * t;
            r += blue[i]! * t;
          }
          out[o++] = p;
          out[o++] = q;
          out[o++] = r;
        }
      }
    return out;
  };
  const at = (amounts: readonly number[]): Vector3 => {
    const held = (k: number): number => Math.min(most, Math.max(0, amounts[k] ?? 0)),
      [x, y, z] = [held(0), held(1), held(2)] as const;
    const i0 = Math.round(x * perUnit),
      j0 = Math.round(y * perUnit),
      k0 = Math.round(z * perUnit);
    const dx = x - i0 / perUnit,
      dy = y - j0 / perUnit,
      dz = z - k0 / perUnit;
    let [p, q, r] = [0, 0, 0];
    for (let i = 0; i < size; i++) {
      const left = dx * as[i]! + dy * bs[i]! + dz * cs[i]!,
        rest = 1 - left * (1 - left * (0.5 - left * (1 / 6 - left / 24))),
        t = a[i0 * size + i]! * b[j0 * size + i]! * c[k0 * size + i]! * rest;
      p += u[i]! * t;
      q += v[i]! * t;
      r += w[i]! * t;
    }
    return [p, q, r];
  };
  return Object.assign(at, { grid });
}
