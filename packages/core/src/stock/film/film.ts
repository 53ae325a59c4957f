import { exp, exp10, log10 } from '../../colour/elementary.ts';
import { luminanceOf } from '../../colour/luminance.ts';
import type { Vector3 } from '../../colour/matrix.ts';
import { curveTable, densityAt, exposureFor, type Characteristic, type TabledCurve } from './curve.ts';
import { asDesigned, exposing, sees, type Handling } from './handling.ts';
import { lately } from './lately.ts';
import { fitReflectance, fittedShare, reflectance, type Polynomial } from '../../colour/reflectance.ts';
import type { Dye, PrintSheet, StockSheet } from './sheet.ts';
import { balanced, balancedStops } from './solving.ts';
import { bell, lightOf, spectrumOf, wavelengths, type Spectrum } from '../../colour/spectrum.ts';
import { throughDyes, type Through } from './beerLambert.ts';
import { countedIn, densitiesFor, looked, paperBase, type Counted, type Eye } from './viewing.ts';

const stop = log10(2);
/** Exposure of what is metered, in lux·s times the speed: 0.65 · K with K = 12.5 (ISO 2720). */
const metered = 8.1;
/** What a stock makes of light. Arrays are in the order red-, green-, blue-sensitive; one number in black and white. */
export interface Film {
  sheet: StockSheet;
  /** exposures of the layers for a smooth reflectance; a perfect white gives 1 each, in the light it is balanced for */
  exposures(reflected: Spectrum): number[];
  /** log₁₀ of the exposure in lux·s that a relative exposure of 1 is: middle grey as metered lies at 0.18 of it */
  logWhite: number;
  densities(logH: readonly number[]): number[];
  /** the print's densities; the film's own where there is none */
  printed(densities: readonly number[]): number[];
  /** linear Rec.2020 of densities of what is seen */
  seen(densities: readonly number[]): Vector3;
  /** the same in stages, for colour: exposures of the print through the film's dyes and the print's curves (none for a film seen itself), and the eye's side */
  stages: { paper: Through; curves: TabledCurve[] } | null;
  /** what `densities` computes by; of one layer there are no effects */
  development: Development;
  eye: Eye;
}
/** Light through the stock: from log exposures to linear Rec.2020. */
export const shown = (film: Film, logH: readonly number[]): Vector3 => film.seen(film.printed(film.densities(logH)));

interface Held {
  main: Spectrum;
  side: Spectrum;
}
const holds = ({ sides, ...main }: Dye): Held => ({
  main: spectrumOf((nm) => bell(main, nm)),
  side: spectrumOf((nm) => sides.reduce((sum, { share, ...b }) => sum + share * bell(b, nm), 0)),
});
const countedLately = lately<Counted>(12),
  maskedLately = lately<Spectrum[]>(12);
/** Dyes counted in a light; the same where they are. */
const counted = (kelvin: number, dyes: readonly Dye[]): Counted =>
  countedLately(JSON.stringify([kelvin, dyes]), () =>
    countedIn(
      kelvin,
      dyes.map((d) => whole(holds(d))),
    ),
  );
const moved = (c: Characteristic, by: number): Characteristic => ({ ...c, start: c.start + by });
/** A curve made steeper about a log exposure, whose density stays; and moved so that the density is had with so much less light. */
function steeper(c: Characteristic, by: number, about: number, less: number, reversal: boolean): Characteristic {
  if (by === 1 && less === 0) return c;
  const there = densityAt(c, about, reversal),
    steep = { ...c, gamma: c.gamma * by };
  return moved(steep, about - less - exposureFor(steep, there, reversal));
}
/** Each push stop makes the curve so much steeper (common practice: a tenth to a sixth). */
const pushSlope = 0.12;

/** The film's own speed, as its curves say it; the meter is set by it. */
export function speedOf({ kind, curves }: Pick<StockSheet, 'kind' | 'curves'>): number {
  const at = (c: Characteristic, over: number): number => exposureFor(c, c.dmin + over, kind === 'reversal');
  // ISO 6: Hm at 0.10 over Dmin, S = 0.8/Hm
  if (kind === 'blackAndWhite') return 0.8 / exp10(at(curves[0]!, 0.1));
  const each = curves.map((c) => at(c, kind === 'reversal' ? 0.2 : 0.15));
  // ISO 5800: the green layer's and the slowest's, each 0.15 over Dmin, S = √2/√(Hg·Hs)
  if (kind === 'colourNegative') return Math.SQRT2 / exp10((each[1]! + Math.max(...each)) / 2);
  // ISO 2240: of the visual density, here the green layer's: 0.20 over Dmin and 2.00 over it (or the shoulder), S = 10/√(Ht·Hs)
  const green = curves[1]!,
    high = Math.min(2, 0.9 * (green.dmax - green.dmin));
  return 10 / exp10((each[1]! + at(green, high)) / 2);
}

/** Opens a stock as it is handled: all that can be known before there is light. The sheet has to be valid. */
export function openFilm(sheet: StockSheet, handling: Handling = asDesigned): Film {
  const reversal = sheet.kind === 'reversal',
    { ratedEv, pushStops } = handling,
    logWhite = log10(metered / speedOf(sheet) / 0.18) - stop * ratedEv,
    metering = log10(metered / speedOf(sheet));
  const developed = sheet.curves.map((c) =>
    steeper(c, handling.contrast * (1 + pushSlope * pushStops), metering, stop * pushStops, reversal),
  );
  const grey = log10(0.18) + logWhite,
    exposures = exposing(sheet, handling);
  const goal = Math.min(0.8, Math.max(0.02, sheet.grey * exp10(stop * handling.printEv)));
  const own = { sheet, exposures, logWhite };
  if (sheet.kind === 'blackAndWhite') return { ...own, ...silver(developed[0]!, sheet.print!, sheet.viewedInKelvin, grey, goal) };
  if (reversal) return { ...own, ...slide(developed, sheet, grey, handling) };
  return { ...own, ...negative(developed, sheet, grey, goal, handling) };
}

/** Development of three layers: their curves, then interlayer effects about the densities of middle grey. */
export interface Development<C = TabledCurve> {
  curves: readonly C[];
  middle: readonly number[];
  /** what each layer's density over the middle (columns) adds to each layer's (rows) */
  effects: readonly number[];
}
function developed({ curves, middle, effects: m }: Development<(logH: number) => number>): Film['densities'] {
  return (logH) => {
    const d = curves.map((c, i) => c(logH[i]!)),
      [x, y, z] = d.map((v, i) => v - middle[i]!) as [number, number, number];
    return d.map((v, i) => Math.max(0, v + m[i * 3]! * x + m[i * 3 + 1]! * y + m[i * 3 + 2]! * z));
  };
}

type Rest = Pick<Film, 'densities' | 'development' | 'printed' | 'seen' | 'stages' | 'eye'>;
const whole = ({ main, side }: Held): Spectrum => main.map((v, i) => v + side[i]!);

/** A silver negative on paper. */
function silver(curve: Characteristic, print: PrintSheet, kelvin: number, grey: number, goal: number): Rest {
  const paper = print.curves[0]!,
    image = spectrumOf((nm) => 1 + (print.tone * (nm - 555)) / 175),
    seen = looked(countedIn(kelvin, [image]), paperBase(print), [paper.dmin]),
    film = curveTable(curve),
    printed = curveTable(paper),
    densities: Film['densities'] = ([x]) => [film(x!)];
  // the density that shows the grey asked for, the exposure it needs, and what the negative lets through there
  let low = paper.dmin,
    high = paper.dmax;
  for (let i = 0; i < 50; i++) {
    const middle = (low + high) / 2;
    if (luminanceOf(...seen([middle])) > goal) low = middle;
    else high = middle;
  }
  const lamp = exposureFor(paper, low) + densities([grey])[0]!;
  return {
    densities,
    development: { curves: [film], middle: [0], effects: [] },
    seen,
    printed: ([d]) => [printed(lamp - d!)],
    stages: null,
    eye: seen.eye,
  };
}

/** A reversal film, seen by itself. Its layers' places and slopes are balanced so that greys are neutral. */
function slide(curves: readonly Characteristic[], sheet: StockSheet, grey: number, { colour }: Handling): Rest {
  const base = new Float64Array(wavelengths.length),
    seen = looked(
      counted(sheet.viewedInKelvin, sheet.dyes),
      base,
      curves.map((c) => c.dmin),
    );
  const at = (moves: readonly number[]): Characteristic[] => tuned(curves, moves, [grey, grey, grey], true),
    greysOf = (film: readonly Characteristic[]): number[] => film.map((c) => densityAt(c, grey, true)),
    effects = sheet.interlayer.map((v) => v * colour);
  const evenly = (ev: number): number[] => curves.map(() => grey + stop * ev),
    film = at(
      balanced((m) => {
        const tuning = at(m),
          curves = tuning.map(
            (c) =>
              (logH: number): number =>
                densityAt(c, logH, true),
          ),
          densities = developed({ curves, middle: greysOf(tuning), effects });
        return (ev) => seen(densities(evenly(ev)));
      }),
    );
  const development = { curves: film.map((c) => curveTable(c, true)), middle: greysOf(film), effects };
  return {
    development,
    densities: developed(development),
    printed: (d) => [...d],
    seen,
    stages: null,
    eye: seen.eye,
  };
}
/** Curves of red and blue moved and bent about their log exposures of grey: shift, slope, toe and Dmax (their logarithms) for red, then for blue. */
function tuned(curves: readonly Characteristic[], moves: readonly number[], about: readonly number[], reversal: boolean): Characteristic[] {
  const bent = (layer: number, [shift, slope, toe, most]: readonly number[]): Characteristic => {
    const c = curves[layer]!,
      soft = { ...c, toe: c.toe * exp(toe!), dmax: c.dmax * exp(most!) },
      there = densityAt(c, about[layer]!, reversal),
      back = moved(soft, about[layer]! - exposureFor(soft, there, reversal));
    return moved(steeper(back, exp(slope!), about[layer]!, 0, reversal), shift!);
  };
  return [bent(0, moves.slice(0, 4)), curves[1]!, bent(2, moves.slice(4))];
}

/** A masked negative and its print; the lamp's filters and the print's slopes are solved so that greys are neutral. */
function negative(curves: readonly Characteristic[], sheet: StockSheet, grey: number, goal: number, { colour }: Handling): Rest {
  const print = sheet.print!,
    { masking } = sheet;
  // a coloured coupler is used up where its dye forms: what is left of it makes up for the dye's side absorption
  const dyes = sheet.dyes.map(holds),
    each = maskedLately(JSON.stringify([masking, sheet.dyes]), () =>
      dyes.map(({ main, side }) => main.map((v, i) => v + (1 - masking) * side[i]!)),
    ),
    base = spectrumOf(() => 0);
  dyes.forEach(({ side }, k) => side.forEach((v, i) => (base[i]! += masking * v * curves[k]!.dmax)));
  const lamp = lightOf(print.lampKelvin),
    paper = print.layers.map((layer) => {
      const seenBy = sees(layer).map((v, i) => v * lamp[i]!),
        total = seenBy.reduce((a, b) => a + b, 0);
      return seenBy.map((v) => v / total);
    });
  const middle = curves.map((c) => densityAt(c, grey)),
    development = { curves: curves.map((c) => curveTable(c)), middle, effects: sheet.interlayer.map((v) => v * colour) },
    densities = developed(development);
  const onPaper = throughDyes(each, base, paper as [Spectrum, Spectrum, Spectrum]),
    exposed = (d: readonly number[]): number[] => onPaper(d).map(log10);
  // greys are balanced on a base without colour: its own then lies evenly over all of them
  const dmin = print.curves.map((c) => c.dmin),
    printDyes = counted(sheet.viewedInKelvin, print.dyes),
    clear = new Float64Array(wavelengths.length),
    plain = looked(printDyes, clear, dmin),
    seen = looked(printDyes, paperBase(print), dmin);
  const greyExposed = exposed(middle),
    // the print's densities that show the grey asked for; then what each layer lacks in exposure is the lamp's filter
    wanted = densitiesFor(plain, goal, print.curves),
    placed = print.curves.map((c, i) => moved(c, greyExposed[i]! - exposureFor(c, wanted[i]!)));
  const printedBy = (tuning: readonly Characteristic[], e: readonly number[]): number[] => tuning.map((c, i) => densityAt(c, e[i]!));
  /** All moved together, until middle grey has the luminance asked for. */
  const atGrey = (tuning: readonly Characteristic[]): Characteristic[] => {
    let by = 0;
    for (let round = 0; round < 12; round++) {
      const off = (shift: number): number =>
        log10(
          luminanceOf(
            ...plain(
              printedBy(
                tuning.map((c) => moved(c, shift)),
                greyExposed,
              ),
            ),
          ) / goal,
        );
      const here = off(by);
      by -= here / Math.max(0.2, (off(by + 1e-4) - here) / 1e-4);
    }
    return tuning.map((c) => moved(c, by));
  };
  const at = (m: readonly number[]): Characteristic[] => tuned(placed, m, greyExposed, false),
    greysExposed = new Map(balancedStops.map((ev) => [ev, exposed(densities([0, 1, 2].map(() => grey + stop * ev)))])),
    moves = balanced((m) => {
      const tuning = at(m);
      return (ev) => plain(printedBy(tuning, greysExposed.get(ev)!));
    }),
    final = atGrey(at(moves)).map((c) => curveTable(c));
  return {
    densities,
    development,
    printed: (d) => exposed(d).map((e, i) => final[i]!(e)),
    seen,
    stages: { paper: onPaper, curves: final },
    eye: seen.eye,
  };
}

/** Exposures of the layers for linear Rec.2020 light of any brightness, by a smooth reflectance of its colour. Negative light is none. */
export function exposuresOf(film: Film, rgb: Vector3): number[] {
  const [r, g, b] = rgb.map((v) => Math.max(0, v)) as unknown as Vector3,
    most = Math.max(r, g, b);
  if (most === 0) return film.sheet.layers.map(() => 0);
  const colour: Vector3 = [r / most, g / most, b / most];
  // from grey to the colour in steps, each from the one before
  let p: Polynomial = [0, 0, -0.4];
  for (const share of [0.25, 0.5, 0.75, 0.9, 1]) p = fitReflectance(colour.map((v) => 1 + share * (v - 1)) as unknown as Vector3, p);
  return film.exposures(reflectance(p)).map((v) => (v * most) / fittedShare);
}
/** A colour through the stock, all of it computed spectrally: what its table stands for. */
export const throughFilm = (film: Film, rgb: Vector3): Vector3 =>
  shown(
    film,
    exposuresOf(film, rgb).map((v) => log10(Math.max(v, least)) + film.logWhite),
  );
/** The least light that is told from none, of white. */
export const least = 1e-5;
