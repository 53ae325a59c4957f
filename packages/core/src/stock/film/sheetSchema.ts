import Joi from 'joi';
import { densityAt, type Characteristic } from './curve.ts';
import { nameOfKind, type GrainSheet, type HalationSheet, type PrintSheet, type StockKind, type StockSheet } from './sheet.ts';

const n = (min: number, max: number): Joi.NumberSchema => Joi.number().strict().min(min).max(max).required(),
  bell = { peak: n(350, 760), towardsBlue: n(5, 150), towardsRed: n(5, 150) };
const layer = Joi.object({ ...bell, cut: n(0, 700) }),
  dye = Joi.object({
    ...bell,
    sides: Joi.array()
      .items(Joi.object({ ...bell, share: n(0, 0.6) }))
      .max(4)
      .required(),
  }),
  curve = Joi.object<Characteristic>({
    dmin: n(0, 2),
    dmax: n(0.2, 5),
    gamma: n(0.1, 6),
    toe: n(0.01, 1.5),
    shoulder: n(0.01, 1.5),
    start: n(-6, 3),
  }).custom((c: Characteristic, helpers) =>
    c.dmax - c.dmin >= 0.1 ? c : helpers.message({ custom: '{{#label}}: Dmin is not under Dmax' }),
  );
const print = Joi.object<PrintSheet>({
  layers: Joi.array().items(layer).max(3).required(),
  curves: Joi.array().items(curve).min(1).max(3).required(),
  dyes: Joi.array().items(dye).max(3).required(),
  lampKelvin: n(2000, 8000),
  baseBlue: n(0, 0.5),
  baseRed: n(0, 0.5),
  tone: n(-0.5, 0.5),
});
const grain = Joi.object<GrainSheet>({
  rms: n(0, 60),
  sizeUm: n(2, 30),
  roughness: n(0, 1),
  colour: n(0, 1),
  darks: n(0, 2),
  mids: n(0, 2),
  lights: n(0, 2),
});
const halation = Joi.object<HalationSheet>({ reachUm: n(10, 250), red: n(0, 0.6), green: n(0, 0.6), blue: n(0, 0.6) });
const kinds: readonly StockKind[] = ['colourNegative', 'reversal', 'blackAndWhite'];
const sheetSchema = Joi.object<StockSheet>({
  format: Joi.valid('dyepot-stock').required(),
  version: Joi.valid(1).required(),
  name: Joi.string().trim().min(1).max(80).required(),
  family: Joi.string().max(60).allow('').required(),
  notes: Joi.string().max(4000).allow('').required(),
  kind: Joi.valid(...kinds).required(),
  balancedForKelvin: n(2000, 12000),
  corrected: Joi.boolean().strict().required(),
  layers: Joi.array().items(layer).min(1).max(3).required(),
  curves: Joi.array().items(curve).min(1).max(3).required(),
  interlayer: Joi.array().items(Joi.number().strict().min(-2).max(2)).max(9).required(),
  dyes: Joi.array().items(dye).max(3).required(),
  masking: n(0, 1),
  viewedInKelvin: n(2000, 12000),
  grey: n(0.02, 0.8),
  print: print.allow(null).required(),
  grain: grain.optional(),
  halation: halation.optional(),
});

/** Checks a parsed sheet. What is wrong is said in words, with its place. One under way may have curves that cross: they are moved one after another. */
export function validateSheet(value: unknown, underWay = false): { sheet: StockSheet } | { message: string } {
  if (typeof value !== 'object' || value === null || (value as { format?: unknown }).format !== 'dyepot-stock')
    return { message: 'this is not a stock: it does not say "format": "dyepot-stock"' };
  // counted before each is looked at
  for (const list of ['layers', 'curves', 'dyes'] as const) {
    const items = (value as Record<string, unknown>)[list];
    if (Array.isArray(items) && items.length > 3) return { message: `the sheet has ${items.length} ${list}; at most 3 fit` };
  }
  const { version } = value as { version?: unknown };
  if (typeof version === 'number' && version > 1)
    return { message: `this stock is of version ${version}; this Dyepot reads up to version 1` };
  const result = sheetSchema.validate(value, { convert: false, errors: { wrap: { label: '“' } } });
  if (result.error) return { message: `the sheet: ${result.error.details[0]!.message.replace(/“([^“]*)“/g, '“$1”')}` };
  const sheet = result.value,
    wanted = sheet.kind === 'blackAndWhite' ? 1 : 3,
    short = (what: string, list: readonly unknown[], count: number): string | null =>
      list.length === count ? null : `the sheet: a ${nameOfKind[sheet.kind]} has ${count} ${what}, this one ${list.length}`;
  const { print: p } = sheet;
  const wrong =
    short('layers', sheet.layers, wanted) ??
    short('curves', sheet.curves, wanted) ??
    (wanted === 3 ? short('dyes', sheet.dyes, 3) : null) ??
    (sheet.kind === 'reversal' && p ? 'the sheet: a reversal film is seen itself, it has no print' : null) ??
    (sheet.kind !== 'reversal' && !p ? `the sheet: a ${nameOfKind[sheet.kind]} needs a print` : null) ??
    (p ? short('curves in its print', p.curves, wanted) : null) ??
    (p && wanted === 3 ? (short('layers in its print', p.layers, 3) ?? short('dyes in its print', p.dyes, 3)) : null) ??
    (wanted === 3 ? wrongRows(sheet.interlayer) : null) ??
    (wanted === 3 && !underWay ? crossing('curves', sheet.curves, sheet.kind === 'reversal') : null) ??
    (p && wanted === 3 && !underWay ? crossing('curves of the print', p.curves, false) : null);
  return wrong ? { message: wrong } : { sheet };
}
/** By how much, in density, one layer's curve has to be over another's, and elsewhere under it, to be refused. */
const crosses = 0.35,
  layerName = ['red', 'green', 'blue'];
/** Curves that cross far: greys would be of one colour in the darks and of another in the lights, by more than any print brings back. */
function crossing(what: string, curves: readonly Characteristic[], reversal: boolean): string | null {
  const starts = curves.map((c) => c.start),
    places = Array.from({ length: 81 }, (_, i) => Math.min(...starts) - 6 + 0.15 * i);
  for (const [i, k] of [
    [0, 1],
    [1, 2],
    [0, 2],
  ] as const) {
    const apart = places.map((logH) => densityAt(curves[i]!, logH, reversal) - densityAt(curves[k]!, logH, reversal));
    if (Math.max(...apart) > crosses && Math.min(...apart) < -crosses)
      return `the sheet: the ${what} of the ${layerName[i]}- and the ${layerName[k]}-sensitive layer cross, each over the other by more than ${crosses} in density`;
  }
  return null;
}
function wrongRows(m: readonly number[]): string | null {
  if (m.length !== 9) return `the sheet: interlayer effects are nine numbers, these are ${m.length}`;
  for (let row = 0; row < 3; row++) {
    const sum = m[row * 3]! + m[row * 3 + 1]! + m[row * 3 + 2]!;
    if (Math.abs(sum) > 1e-6)
      return `the sheet: row ${row + 1} of the interlayer effects adds to ${Number(sum.toPrecision(3))}, not to nothing: greys would move`;
  }
  return null;
}

/** Reads a sheet from text. */
export function readSheet(text: string): { sheet: StockSheet } | { message: string } {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return { message: `this is not JSON: ${error instanceof Error ? error.message : ''}` };
  }
  return validateSheet(value);
}
export const writeSheet = (sheet: StockSheet): string => `${JSON.stringify(sheet, null, 2)}\n`;
