import { storeTable, table3d } from '@dyepot/core/src/colour/table.ts';
import { emptyLook, newStep, type Look } from '@dyepot/core/src/look/look.ts';
import { stepKinds } from '@dyepot/core/src/look/kinds.ts';
import { stocks } from '@dyepot/core/src/stock/film/stocks.ts';

/** Parameters that make each kind of step do something; a kind that is not here is not watched, and fails. */
export const acting: Record<string, Look['stock']['params']> = {
  exposure: { shiftEv: 0.6 },
  warmth: { shiftMired: 20, tint: 0.004 },
  contrast: { contrast: 30 },
  localContrast: { fine: 40, medium: -20, coarse: 30 },
  haze: { amount: 50 },
  gel: { hue: 250, density: 0.5 },
  mixer: { redFromGreen: 20, blueOffset: 2 },
  neutral: { contrast: 1.2 },
  film: { sheet: stocks[1]!, colour: 20, push: 0.5, filter: 'yellow' },
  curve: {
    points: [
      [0, 0.04],
      [0.4, 0.35],
      [1, 0.98],
    ],
    on: 'lightness',
  },
  hueBands: { hue: [[110, -20, 60]], lightness: [[250, -0.2, 60]] },
  colourRange: { hue: 60, chroma: 0.08, lightness: 0.5, evenHue: 50, shiftHue: 10 },
  grade: { lightsHue: 70, lightsChroma: 0.05, darksHue: 250, darksChroma: 0.05 },
  saturation: { change: 30 },
  vibrance: { change: 60 },
  mono: { amount: 100 },
  crispness: { amount: 80, size: 1 },
  apart: { warmWarmer: 40, coolColour: 30 },
  toning: { amount: 100 },
  fade: { lift: 8, soften: 5, liftChroma: 0.02 },
  wash: { opacity: 30, mode: 'soft-light' },
  glow: { share: 30, size: 3 },
  halation: { share: 25, reach: 120 },
  overprint: {
    picture: {
      format: 'dyepot-picture',
      version: 1,
      name: 'two',
      hash: '0',
      width: 2,
      height: 1,
      data: btoa(String.fromCharCode(20, 60, 200, 240, 200, 90)),
    } as never,
    turn: 20,
  },
  lowSun: { light: 70 },
  leak: { light: 50, count: 3 },
  vignette: { edgeEv: -1, middleEv: 0.3, kept: 50 },
  grain: { rms: 12, colour: 40 },
  border: { width: 3, torn: 60 },
  cdl: { slopeRed: 1.2, powerBlue: 1.2, saturation: 1.3 },
  tableStock: { table: storeTable(table3d('t', 9, ([r, g, b]) => [r ** 0.8, g ** 0.9, b])) },
  tablePrint: { table: storeTable(table3d('t', 9, ([r, g, b]) => [r * 0.9, g, b ** 1.1])) },
};

/** A look that is one step of a kind, which does something. */
export function lookWith(kind: string): Look {
  const declared = stepKinds.find((k) => k.kind === kind)!,
    step = newStep(kind, 'x'),
    acts = { ...step, params: { ...step.params, ...acting[kind] } },
    look = emptyLook('t');
  if (declared.lane === 'stock') look.stock = acts;
  else look[declared.lane] = [acts];
  return look;
}
