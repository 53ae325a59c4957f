import type { Characteristic } from './curve.ts';
import type { Dye, Layer, PrintSheet, StockSheet } from './sheet.ts';

const layer = (peak: number, towardsBlue: number, towardsRed: number, cut = 0): Layer => ({ peak, towardsBlue, towardsRed, cut });
/** Red-, green- and blue-sensitive; started from the design's prototype. */
const panchromatic: Layer[] = [layer(640, 30, 22, 570), layer(546, 28, 18, 490), layer(448, 36, 24)];
const dye = (peak: number, towardsBlue: number, towardsRed: number, ...sides: [number, number, number][]): Dye => ({
  peak,
  towardsBlue,
  towardsRed,
  sides: sides.map(([at, width, share]) => ({ peak: at, towardsBlue: width, towardsRed: width, share })),
});
const dyes: Dye[] = [
  dye(655, 60, 50, [540, 35, 0.08], [430, 35, 0.06]),
  dye(545, 42, 40, [430, 35, 0.15], [640, 30, 0.04]),
  dye(448, 47, 45, [545, 35, 0.05]),
];
const curve = (dmin: number, dmax: number, gamma: number, toe: number, shoulder: number, start: number): Characteristic => ({
  dmin,
  dmax,
  gamma,
  toe,
  shoulder,
  start,
});
const three = (c: Characteristic): Characteristic[] => [c, c, c];
const paper = (gamma: number, dmax: number, more: Partial<PrintSheet> = {}): PrintSheet => ({
  layers: [layer(660, 20, 18), layer(550, 18, 18), layer(455, 20, 20)],
  curves: three(curve(0.08, dmax, gamma, 0.16, 0.28, -1.2)),
  dyes,
  lampKelvin: 3000,
  baseBlue: 0,
  baseRed: 0,
  tone: 0,
  ...more,
});
/**
 * Interlayer effects by their off-diagonals (how red's density moves by green's and blue's, green's by red's and blue's, blue's by
 * red's and green's); the rows add to nothing. Those of the stocks below were searched so that 24 hues at two chromas turn least
 * and keep, in the mean, the share of their chroma that the stock is to have.
 */
const effects = (rg: number, rb: number, gr: number, gb: number, br: number, bg: number): number[] => [
  -rg - rb,
  rg,
  rb,
  gr,
  -gr - gb,
  gb,
  br,
  bg,
  -br - bg,
];
/** Grain of a stock by its granularity and size; `own` is what each layer has for itself. */
const grain = (rms: number, sizeUm: number, roughness: number, own: number, darks = 0.75, lights = 0.55): Pick<StockSheet, 'grain'> => ({
  grain: { rms, sizeUm, roughness, colour: own, darks, mids: 1, lights },
});
/** Halation of a base with so much of an antihalation layer left out: red goes deepest. */
const halation = (reachUm: number, share: number): Pick<StockSheet, 'halation'> => ({
  halation: { reachUm, red: share, green: share * 0.28, blue: share * 0.04 },
});
const colour = (name: string, family: string, notes: string, more: Partial<StockSheet>): StockSheet => ({
  format: 'dyepot-stock',
  version: 1,
  name,
  family,
  notes,
  kind: 'colourNegative',
  balancedForKelvin: 5500,
  corrected: true,
  layers: panchromatic,
  curves: three(curve(0.15, 2.6, 0.62, 0.16, 0.35, -2.2)),
  interlayer: effects(-0.03, 0.18, -0.64, -0.36, 0.17, -0.58),
  dyes,
  masking: 0.85,
  viewedInKelvin: 5000,
  grey: 0.18,
  print: paper(2.55, 2.35),
  ...more,
});
/** One layer on paper. Grades count as they do on a box: the higher, the harder. */
const silver = (
  name: string,
  notes: string,
  see: Layer,
  film: Characteristic,
  grade: number,
  own: Pick<StockSheet, 'grain' | 'halation'>,
  more: Partial<PrintSheet> = {},
): StockSheet => ({
  ...colour(name, 'Black and white', notes, own),
  kind: 'blackAndWhite',
  layers: [see],
  curves: [film],
  interlayer: [],
  dyes: [],
  masking: 0,
  print: { ...paper(paperSlope(grade), 2.1, more), layers: [], dyes: [], curves: [curve(0.06, 2.1, paperSlope(grade), 0.14, 0.2, -1.2)] },
});
/** Slope of a paper's straight part by its grade, 0–5 (common practice: from about 1.2 to 4). */
export const paperSlope = (grade: number): number => 1.25 * 1.26 ** grade;

/** The stocks that come with Dyepot. */
export const stocks: readonly StockSheet[] = [
  colour('Alkanet', 'Negative', 'For portraits: quiet colours, skins as they are, whites that come softly.', {
    curves: three(curve(0.15, 2.6, 0.58, 0.18, 0.38, -2.2)),
    ...grain(5, 6, 0.2, 0.35),
    ...halation(80, 0.02),
  }),
  colour('Weld', 'Negative', 'For every day: a warm paper, colours a little richer than they were.', {
    curves: three(curve(0.16, 2.7, 0.62, 0.16, 0.35, -2.45)),
    interlayer: effects(-0.16, 0.14, -0.6, -0.4, 0.24, -0.78),
    print: paper(2.55, 2.3, { baseBlue: 0.07 }),
    ...grain(7, 7, 0.35, 0.4),
    ...halation(90, 0.035),
  }),
  colour('Woad', 'Reversal', 'For landscapes on a light table: rich, deep, with little room for light that is not measured.', {
    kind: 'reversal',
    curves: three(curve(0.12, 3.2, 1.75, 0.22, 0.28, 0.3)),
    interlayer: effects(-0.15, 0, -0.52, -0.48, -0.06, -0.33),
    masking: 0,
    print: null,
    ...grain(3.5, 5, 0.15, 0.4, 0.6, 0.7),
    ...halation(60, 0.01),
  }),
  colour('Logwood', 'Cinema', 'For lamps at night, printed for the screen: deep blacks, a long scale, cool whites.', {
    balancedForKelvin: 3200,
    curves: three(curve(0.14, 2.5, 0.55, 0.2, 0.4, -2.55)),
    interlayer: effects(-0.05, 0.17, -0.6, -0.4, 0.26, -0.73),
    print: paper(2.9, 3.4, { baseRed: 0.05 }),
    ...grain(6, 7, 0.25, 0.35),
    ...halation(140, 0.09),
  }),
  colour('Cutch', 'Faded', 'Kept too long in a warm drawer: low contrast, lifted blacks, yellowed paper.', {
    curves: three(curve(0.3, 2.4, 0.5, 0.22, 0.4, -1.9)),
    interlayer: effects(-0.35, 0.14, -0.6, -0.4, 0.28, -1),
    masking: 0.4,
    print: paper(2.1, 1.5, { baseBlue: 0.12, baseRed: 0.02 }),
    ...grain(11, 9, 0.5, 0.55, 1.1, 0.6),
    ...halation(120, 0.05),
  }),
  silver(
    'Oak gall',
    'Fine and even: every tone of a face, on a paper of middle grade.',
    layer(545, 105, 78),
    curve(0.1, 2.4, 0.62, 0.2, 0.4, -2.0),
    2,
    grain(6, 6, 0.3, 0),
  ),
  silver(
    'Walnut',
    'Fast and hard: reds light, blacks shut, for streets and stages.',
    layer(590, 130, 72),
    curve(0.22, 2.6, 0.82, 0.14, 0.3, -2.75),
    3.5,
    { ...grain(16, 10, 0.75, 0), ...halation(70, 0.03) },
    { tone: -0.02 },
  ),
  silver(
    'Orchil',
    'Sees no red: dark lips and brick, pale sky, as before panchromatic plates.',
    layer(480, 70, 42),
    curve(0.12, 2.5, 0.72, 0.16, 0.3, -1.5),
    2.5,
    { ...grain(9, 8, 0.5, 0), ...halation(110, 0.06) },
    { baseBlue: 0.05, tone: -0.05 },
  ),
];
