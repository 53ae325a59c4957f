import { exp, log } from '../../colour/elementary.ts';

/** A Hurter–Driffield curve: density over log₁₀ of the exposure in lux·s. */
export interface Characteristic {
  dmin: number;
  dmax: number;
  /** slope of the straight part, density for a tenfold exposure */
  gamma: number;
  /** how gradually it begins and ends, in log exposure */
  toe: number;
  shoulder: number;
  /** log exposure at which the straight part, prolonged, leaves Dmin */
  start: number;
}

/** w · ln(1 + e^(t/w)): nothing well below 0, t well above. */
function softplus(t: number, w: number): number {
  const u = t / w;
  return u > 30 ? t : w * log(1 + exp(u));
}
/**
 * Density at a log exposure: D = Dmin + γ·[softplus(x − x₀, toe) − softplus(x − x₁, shoulder)], x₁ = x₀ + (Dmax − Dmin)/γ.
 * Of a reversal film the same curve runs from right to left: more light, less density.
 */
export function densityAt({ dmin, dmax, gamma, toe, shoulder, start }: Characteristic, logH: number, reversal = false): number {
  const x = reversal ? -logH : logH,
    from = reversal ? -start : start,
    to = from + (dmax - dmin) / gamma;
  // where toe and shoulder are unlike, the softer one would reach past its end
  const density = dmin + gamma * (softplus(x - from, toe) - softplus(x - to, shoulder));
  return Math.min(dmax, Math.max(dmin, density));
}
/** The log exposure that gives a density, by bisection; at either end where the curve never gets there. */
export function exposureFor(curve: Characteristic, density: number, reversal = false): number {
  let low = curve.start - 12,
    high = curve.start + 12;
  const rising = !reversal;
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (densityAt(curve, middle, reversal) < density === rising) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** A curve's density at any log exposure, from values 1/512 apart: within some millionths, and quick. */
export function curveTable(curve: Characteristic, reversal = false): (logH: number) => number {
  const from = -9,
    perUnit = 512,
    last = 14 * perUnit,
    table = Float64Array.from({ length: last + 2 }, (_, i) => densityAt(curve, from + i / perUnit, reversal));
  return (logH) => {
    const at = Math.min(last, Math.max(0, (logH - from) * perUnit)),
      i = Math.floor(at);
    return table[i]! + (at - i) * (table[i + 1]! - table[i]!);
  };
}
