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
  return u > 30 ? t : u < -40 ? 0 : w * log(1 + exp(u));
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
/**
 * The log exposure that gives a density, by Newton's steps kept between bounds that close in, halved where they do not come closer
 * (Press et al., Numerical Recipes, 9.4); at either end where the curve never gets there.
 */
export function exposureFor(curve: Characteristic, density: number, reversal = false): number {
  const { dmin, dmax, gamma, toe, shoulder, start } = curve,
    from = reversal ? -start : start,
    to = from + (dmax - dmin) / gamma,
    rises = (t: number, w: number): number => 1 / (1 + exp(-t / w));
  // along the way the curve rises
  let low = from - 12,
    high = from + 12,
    x = from + (density - dmin) / gamma,
    before = high - low;
  if (!(x > low && x < high)) x = from;
  for (let i = 0; i < 90; i++) {
    const off = densityAt(curve, reversal ? -x : x, reversal) - density;
    if (off < 0) low = x;
    else high = x;
    // where it lies flat at its end, the first place of that is looked for
    const slope = gamma * (rises(x - from, toe) - rises(x - to, shoulder)),
      step = off === 0 ? NaN : off / slope,
      halves = !(x - step > low && x - step < high) || Math.abs(2 * step) > before,
      next = halves ? (low + high) / 2 : x - step;
    before = Math.abs(next - x);
    x = next;
    if (before < 1e-13) break;
  }
  return reversal ? -x : x;
}

/** Density and slope over log exposure, before they are held between Dmin and Dmax. */
function knotAt(
  { dmin, dmax, gamma, toe, shoulder, start }: Characteristic,
  logH: number,
  reversal: boolean,
): { density: number; slope: number } {
  const x = reversal ? -logH : logH,
    from = reversal ? -start : start,
    to = from + (dmax - dmin) / gamma,
    rises = gamma * (rise(x - from, toe) - rise(x - to, shoulder));
  return {
    // a toe without end would take it anywhere
    density: Math.min(dmax + 9, Math.max(dmin - 9, dmin + gamma * (softplus(x - from, toe) - softplus(x - to, shoulder)))),
    slope: reversal ? -rises : rises,
  };
}
/** The slope of `softplus`. */
function rise(t: number, w: number): number {
  const u = t / w;
  return u > 30 ? 1 : u < -40 ? 0 : 1 / (1 + exp(-u));
}

/** Where a tabled curve begins, how many values it has for each unit of log exposure, and its last interval. */
export const tabled = { from: -9, perUnit: 256, last: 14 * 256 } as const;
/** A curve's density at any log exposure, from values 1/256 apart: within a hundred-thousandth, and quick. */
export type TabledCurve = ((logH: number) => number) & { table: Float64Array };
export function curveTable(curve: Characteristic, reversal = false): TabledCurve {
  const { from, perUnit, last } = tabled,
    table = new Float64Array(last + 2);
  // of gradual curves every eighth or fourth is computed, those between by Hermite's cubic of values and slopes, within some millionths
  const sharpest = Math.min(curve.toe, curve.shoulder),
    every = sharpest >= 0.1 ? 8 : sharpest >= 0.05 ? 4 : 1;
  const knots = Array.from({ length: last / every + 3 }, (_, i) => knotAt(curve, from + (i * every) / perUnit, reversal));
  for (let i = 0; i < table.length; i++) {
    const k = Math.floor(i / every),
      t = (i % every) / every,
      [a, b] = [knots[k]!, knots[k + 1]!],
      run = every / perUnit,
      whole = b.density - a.density;
    const bend = (1 - t) * (a.slope * run - whole) - t * (b.slope * run - whole);
    const density = Math.min(curve.dmax, Math.max(curve.dmin, a.density + t * (whole + (1 - t) * bend)));
    // more light is never less of it, whatever the cubic would have in a last decimal
    table[i] = i === 0 ? density : reversal ? Math.min(density, table[i - 1]!) : Math.max(density, table[i - 1]!);
  }
  const read = (logH: number): number => {
    const at = Math.min(last, Math.max(0, (logH - from) * perUnit)),
      i = Math.floor(at);
    return table[i]! + (at - i) * (table[i + 1]! - table[i]!);
  };
  return Object.assign(read, { table });
}
