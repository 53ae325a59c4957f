import { exp, log10 } from '../../colour/elementary.ts';
import type { Table } from '../../colour/table.ts';
import type { Kernels } from '../../kernels/kernels.ts';
import { encodePicture, picturesOf } from './developing.ts';
import { least, shown, type Film } from './film.ts';
import { fitReflectance, fittedShare, reflectance, type Polynomial } from '../../colour/reflectance.ts';
import type { Spectrum } from '../../colour/spectrum.ts';

/** Nodes along an edge of a stock's table, and the light it reaches over, as ACEScct of linear Rec.2020 (S-2016-001): from none to 6½ stops over middle grey. */
export const tableSize = 41;
/** Nodes for the moment, while a hand moves the sheet. */
export const draftSize = 17;
const from = 0.0729055341958355,
  to = 0.79;

/** Light of a value of ACEScct (S-2016-001), by our own exponential. */
const lightOf = (v: number): number =>
  v <= 0.155251141552511 ? (v - 0.0729055341958355) / 10.5402377416545 : exp((v * 17.52 - 9.72) * 0.693147180559945309);

/** A light's value of ACEScct, by our own logarithm. */
export const codeOf = (light: number): number =>
  light <= 0.0078125 ? 10.5402377416545 * light + 0.0729055341958355 : (log10(light) * 3.32192809488736235 + 9.72) / 17.52;

/** Nodes of the colours that are fitted, along each of the two channels under the greatest. */
const fits = 33;
/** The ratio to the greatest channel at a node: finer towards none. */
function ratioAt(i: number): number {
  const root = i / (fits - 1),
    square = root * root;
  return square * square;
}
let fitted: readonly Spectrum[] | null = null;
/** Reflectances of all colours whose greatest channel is 1: by which channel that is, then by the ratios of the two others. Fitted once, from grey outwards. */
function fittedColours(): readonly Spectrum[] {
  if (fitted) return fitted;
  const all: Spectrum[] = [];
  for (let face = 0; face < 3; face++) {
    const polynomials: Polynomial[] = [];
    for (let u = fits - 1; u >= 0; u--)
      for (let v = fits - 1; v >= 0; v--) {
        const rgb = [0, 0, 0] as [number, number, number];
        rgb[face] = 1;
        rgb[(face + 1) % 3] = ratioAt(u);
        rgb[(face + 2) % 3] = ratioAt(v);
        // from the neighbour nearer to grey
        const guess = polynomials[u * fits + v + 1 < (u + 1) * fits ? u * fits + v + 1 : (u + 1) * fits + v] ?? ([0, 0, -0.4] as const),
          p = fitReflectance(rgb, guess);
        polynomials[u * fits + v] = p;
      }
    for (let i = 0; i < fits * fits; i++) all.push(reflectance(polynomials[i]!));
  }
  fitted = all;
  return all;
}

/** A film's relative exposures for the fitted colours, four numbers each; of a single layer it stands in all of them. */
function facesOf({ exposures }: Film): Float32Array {
  const known = faces.get(exposures);
  if (known) return known;
  const colours = fittedColours(),
    out = new Float32Array(colours.length * 4);
  colours.forEach((colour, i) => {
    const exposed = exposures(colour);
    for (let l = 0; l < 3; l++) out[i * 4 + l] = (exposed[l] ?? exposed[0]!) / fittedShare;
  });
  faces.set(exposures, out);
  return out;
}
const faces = new WeakMap<Film['exposures'], Float32Array>();

export const decodePicture = (v: number): number => v * v;

/** A stock as one table: light as ACEScct goes through `spread` on each channel, then through the cube, to the picture encoded by `encodePicture`. */
export interface FilmTable {
  /** values over [0, 1] in equal steps, rising from 0 to 1 */
  spread: Float32Array;
  cube: Table;
}
const spreadIntervals = 1024,
  draftIntervals = 192,
  /** how much of the spread is by stops, the rest by what the stock makes of greys; tuned on the shipped stocks for the least error */
  byStops = 0.6;

/** Nodes are laid where the stock's picture changes: by its own response to greys, and by stops besides, so that every colour has some. */
function spreadOf(film: Film, intervals: number): Float64Array {
  const grey = (v: number): number => {
    const light = Math.max(0, lightOf(v)),
      e = log10(Math.max(light, least)) + film.logWhite,
      [r, g, b] = shown(
        film,
        film.sheet.layers.map(() => e),
      );
    return encodePicture((r + g + b) / 3);
  };
  const greys = Float64Array.from({ length: intervals + 1 }, (_, i) => grey(i / intervals)),
    inside = (i: number): number => Math.min(1, Math.max(0, (i / intervals - from) / (to - from))),
    [low, high] = [grey(from), grey(to)];
  let last = 0;
  return greys.map((v, i) => {
    const toned = Math.min(1, Math.max(0, (v - low) / Math.max(1e-6, high - low)));
    return (last = Math.max(last, byStops * inside(i) + (1 - byStops) * toned));
  });
}

/** The light at each node along an edge of the cube. */
export function nodeLight(spread: ArrayLike<number>, side: number): number[] {
  const last = spread.length - 1;
  return Array.from({ length: side }, (_, k) => {
    if (k === 0) return 0;
    const goal = k / (side - 1);
    let i = 0;
    while (i < last - 1 && spread[i + 1]! < goal) i++;
    const step = spread[i + 1]! - spread[i]!,
      between = step > 0 ? Math.min(1, Math.max(0, (goal - spread[i]!) / step)) : 1;
    return Math.max(0, lightOf((i + between) / last));
  });
}

/** Makes a stock's table of so many nodes along an edge. What is over white stays so until it is shown, so that nothing is cut off between nodes. */
export function filmTable(kernels: Kernels, film: Film, size = tableSize): FilmTable {
  const spread = spreadOf(film, size > draftSize ? spreadIntervals : draftIntervals),
    colours = { exposures: facesOf(film), fits },
    data = picturesOf(kernels, film, colours, nodeLight(spread, size));
  return { spread: Float32Array.from(spread), cube: cubeOf(film.sheet.name, size, data) };
}
const cubeOf = (title: string, size: number, data: Float32Array): Table => ({
  kind: '3d',
  title,
  size,
  domainMin: [0, 0, 0],
  domainMax: [1, 1, 1],
  data,
});

/** How many numbers a whole table is, packed. */
export const packedLength = spreadIntervals + 1 + 3 * tableSize ** 3;
/** A whole table's numbers: its spread, then its cube. */
export const packTable = ({ spread, cube }: FilmTable): Float32Array => {
  const packed = new Float32Array(packedLength);
  packed.set(spread);
  packed.set(cube.data, spread.length);
  return packed;
};
/** The table again. */
export const unpackTable = (packed: Float32Array, title: string): FilmTable => ({
  spread: packed.subarray(0, spreadIntervals + 1),
  cube: cubeOf(title, tableSize, packed.subarray(spreadIntervals + 1)),
});
/** A value of ACEScct through the spread, in double precision. */
export function spreadAt({ spread }: FilmTable, v: number): number {
  const last = spread.length - 1,
    at = Math.min(last, Math.max(0, v * last)),
    i = Math.min(last - 1, Math.floor(at));
  return spread[i]! + (at - i) * (spread[i + 1]! - spread[i]!);
}
