import { newStep, number, stepKind, defaultsOf, type Film, type LookStep, type NumberParameter, type StockSheet } from '@dyepot/core';
import { filmOf } from '../view/filmEngine.ts';
import type { Use } from './stockSlice.ts';

export const inks = ['#e8705f', '#6cbc6f', '#7a9be0'],
  silverInk = ['#f1f0ef'],
  inksOf = (layers: readonly unknown[]): readonly string[] => (layers.length === 3 ? inks : silverInk),
  layerNames = ['red-sensitive', 'green-sensitive', 'blue-sensitive'];
/** A step of a look that holds the sheet as it is used. */
export function filmStep(sheet: StockSheet, use: Use): LookStep {
  const step = newStep('film', 'stock');
  return { ...step, params: { ...step.params, sheet, ...use } };
}
const kind = stepKind('film')!;
/** The film as it is used. */
export const filmFor = (sheet: StockSheet, use: Use): Film => filmOf({ ...defaultsOf(kind), sheet, ...use })!;

/** Numbers of a curve as the sheet's rules bound them. */
export const curveNumbers: Record<'dmin' | 'dmax' | 'gamma' | 'toe' | 'shoulder' | 'start', NumberParameter> = {
  dmin: number('Dmin', '', 0, 2, 0.1, 0.01, 2),
  dmax: number('Dmax', '', 0.2, 5, 2.5, 0.01, 2),
  gamma: number('Gamma', '', 0.1, 6, 0.6, 0.01, 2),
  toe: number('Toe', '', 0.01, 1.5, 0.2, 0.01, 2),
  shoulder: number('Shoulder', '', 0.01, 1.5, 0.3, 0.01, 2),
  start: number('Begins at', '', -6, 3, -2.2, 0.01, 2),
};
export type CurveNumber = keyof typeof curveNumbers;
type Curves = StockSheet['curves'];
/** Curves with a number of one (or of all, by as much) moved; Dmax stays over Dmin. */
export function withNumber(curves: Curves, hand: number | 'all', name: CurveNumber, value: number): Curves {
  const reference = curves[hand === 'all' ? Math.min(1, curves.length - 1) : hand]!,
    by = value - reference[name],
    { min, max } = curveNumbers[name];
  return curves.map((c, i) => {
    if (hand !== 'all' && hand !== i) return c;
    const next = { ...c, [name]: Math.min(max, Math.max(min, Number((c[name] + by).toFixed(4)))) };
    if (name === 'dmin') next.dmin = Math.min(next.dmin, c.dmax - 0.1);
    if (name === 'dmax') next.dmax = Math.max(next.dmax, c.dmin + 0.1);
    return next;
  });
}
