import { exp10, log10 } from '../../colour/elementary.ts';
import { densityAt, exposureFor } from './curve.ts';
import { speedOf } from './film.ts';
import type { StockSheet } from './sheet.ts';

/** What a sheet says of itself: computed from its curves, never typed. */
export interface StockReadouts {
  /** ISO speed, arithmetic (ISO 6, 5800 or 2240, as its kind has it) */
  iso: number;
  /** slope between the speed point and 1.30 further (black and white, negative) or between 0.2 over Dmin and 2.0 over it (reversal), density for a tenfold exposure */
  averageGradient: number;
  /** stops between the first tenth of density over Dmin and the last under Dmax */
  latitudeStops: number;
  dmin: number[];
  dmax: number[];
}
const stop = log10(2);

/** Reads a sheet's characteristic curves as the standards have it. Layers in the order red-, green-, blue-sensitive. */
export function readoutsOf(sheet: StockSheet): StockReadouts {
  const reversal = sheet.kind === 'reversal',
    curve = sheet.curves[Math.min(1, sheet.curves.length - 1)]!,
    over = (d: number): number => exposureFor(curve, curve.dmin + d, reversal);
  const first = over(0.1),
    last = exposureFor(curve, curve.dmax - 0.1, reversal),
    speedPoint = over(sheet.kind === 'blackAndWhite' ? 0.1 : sheet.kind === 'colourNegative' ? 0.15 : 0.2);
  const high = Math.min(2, 0.9 * (curve.dmax - curve.dmin)),
    averageGradient = reversal
      ? (high - 0.2) / (speedPoint - over(high))
      : (densityAt(curve, speedPoint + 1.3) - densityAt(curve, speedPoint)) / 1.3;
  return {
    iso: speedOf(sheet),
    averageGradient,
    latitudeStops: Math.abs(last - first) / stop,
    dmin: sheet.curves.map((c) => c.dmin),
    dmax: sheet.curves.map((c) => c.dmax),
  };
}
/** Standard speeds, a third of a stop apart; the nearest to a computed one, for its name. */
export function nearestSpeed(iso: number): number {
  const steps = [1, 1.25, 1.6, 2, 2.5, 3.2, 4, 5, 6.4, 8],
    decade = exp10(Math.floor(log10(iso)));
  return [...steps.map((s) => Math.round(s * decade * 100) / 100), 10 * decade].reduce((best, s) =>
    Math.abs(Math.log(s / iso)) < Math.abs(Math.log(best / iso)) ? s : best,
  );
}
