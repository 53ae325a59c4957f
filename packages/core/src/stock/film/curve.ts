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
/** The log exposure that gives a density, by Newton's steps kept between bounds that close in; at either end where the curve never gets there. */
export function exposureFor(curve: Characteristic, density: number, reversal = false): number {
  const { dmin, dmax, gamma, toe, shoulder, start } = curve,
    from = reversal ? -start : start,
    to = from + (dmax - dmin) / gamma,
    rises = (t: number, w: number): number => 1 / (1 + exp(-t / w));
  // along the way the curve rises
  let low = from - 12,
    high = from + 12,
    x = from + (density - dmin) / gamma;
  if (!(x > low && x < high)) x = from;
  for (let i = 1; i < 90; i++) {
    const off = densityAt(curve, reversal ? -x : x, reversal) - density;
    if (off < 0) low = x;
    else high = x;
    const slope = gamma * (rises(x - from, toe) - rises(x - to, shoulder)),
      // where it lies flat at its end, the first place of that; halved now and then, where steps are too short
      step = off === 0 || i % 4 === 0 ? NaN : x - off / slope,
      next = step > low && step < high ? step : (low + high) / 2;
    if (Math.abs(next - x) < 1e-13) break;
    x = next;
  }
  return reversal ? -x : x;
}

/** A curve's density at any log exposure, from values 1/256 apart: within a hundred-thousandth, and quick. */
export function curveTable(curve: Characteristic, reversal = false): (logH: number) => number {
  const from = -9,
    perUnit = 256,
    last = 14 * perUnit,
    table = Float64Array.from({ length: last + 2 }, (_, i) => densityAt(curve, from + i / perUnit, reversal));
  return (logH) => {
    const at = Math.min(last, Math.max(0, (logH - from) * perUnit)),
      i = Math.floor(at);
    return table[i]! + (at - i) * (table[i + 1]! - table[i]!);
  };
}
