import { exp, exp10, log10 } from '../../colour/elementary.ts';
import type { Table } from '../../colour/table.ts';
import { logThrough } from './densityGrid.ts';
import { least, shown, type Film } from './film.ts';
import { fitReflectance, fittedShare, reflectance, type Polynomial } from '../../colour/reflectance.ts';
import type { Spectrum } from '../../colour/spectrum.ts';

/** Nodes along an edge of a stock's table, and the light it reaches over, as ACEScct of linear Rec.2020 (S-2016-001): from none to 6½ stops over middle grey. */
export const tableSize = 41;
/** Nodes for the moment, while a hand moves the sheet. */
export const draftSize = 21;
const from = 0.0729055341958355,
  to = 0.79;

/** Light of a value of ACEScct (S-2016-001), by our own exponential. */
const lightOf = (v: number): number =>
  v <= 0.155251141552511 ? (v - 0.0729055341958355) / 10.5402377416545 : exp((v * 17.52 - 9.72) * 0.693147180559945309);

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

/** The relative exposures of a film's layers for colours, between the fitted ones; each time into the same numbers. */
function quickExposures(film: Film): (r: number, g: number, b: number) => Float64Array {
  const layers = film.sheet.layers.length,
    nodes = Float64Array.from(fittedColours().flatMap((r) => film.exposures(r))),
    out = new Float64Array(layers);
  return (r, g, b) => {
    const most = Math.max(r, g, b);
    if (most <= 0) return out.fill(0);
    const face = r === most ? 0 : g === most ? 1 : 2,
      place = (channel: number): number => Math.sqrt(Math.sqrt(channel / most)) * (fits - 1),
      u = place(face === 0 ? g : face === 1 ? b : r),
      v = place(face === 0 ? b : face === 1 ? r : g);
    const i = Math.min(fits - 2, Math.floor(u)),
      j = Math.min(fits - 2, Math.floor(v)),
      s = u - i,
      t = v - j,
      at = ((face * fits + i) * fits + j) * layers,
      next = at + fits * layers;
    for (let l = 0; l < layers; l++) {
      const low = nodes[at + l]! + t * (nodes[at + layers + l]! - nodes[at + l]!),
        high = nodes[next + l]! + t * (nodes[next + layers + l]! - nodes[next + l]!);
      out[l] = ((low + s * (high - low)) * most) / fittedShare;
    }
    return out;
  };
}

/** How a picture is encoded in the table, so that what lies between nodes is near: the power that stands for the eye's. */
export const encodePicture = (v: number): number => Math.sqrt(Math.max(0, v));
export const decodePicture = (v: number): number => v * v;

/** A stock as one table: light as ACEScct goes through `spread` on each channel, then through the cube, to the picture encoded by `encodePicture`. */
export interface FilmTable {
  /** values over [0, 1] in equal steps, rising from 0 to 1 */
  spread: Float32Array;
  cube: Table;
}
const spreadIntervals = 1024,
  /** how much of the spread is by stops, the rest by what the stock makes of greys; tuned on the shipped stocks for the least error */
  byStops = 0.6;

/** Nodes are laid where the stock's picture changes: by its own response to greys, and by stops besides, so that every colour has some. */
function spreadOf(film: Film): Float64Array {
  const grey = (v: number): number => {
    const light = Math.max(0, lightOf(v)),
      e = log10(Math.max(light, least)) + film.logWhite,
      [r, g, b] = shown(
        film,
        film.sheet.layers.map(() => e),
      );
    return encodePicture((r + g + b) / 3);
  };
  const greys = Float64Array.from({ length: spreadIntervals + 1 }, (_, i) => grey(i / spreadIntervals)),
    inside = (i: number): number => Math.min(1, Math.max(0, (i / spreadIntervals - from) / (to - from))),
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

/** The bounds of three densities. */
function boundsOf(densities: Float64Array): { from: number[]; to: number[] } {
  const from = [Infinity, Infinity, Infinity],
    to = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < densities.length; i++) {
    const v = densities[i]!,
      k = i % 3;
    if (v < from[k]!) from[k] = v;
    if (v > to[k]!) to[k] = v;
  }
  return { from, to };
}
/** The pictures of a film's densities, three by three: printed where it is, and looked at. */
function showAll({ stages, eye }: Film, densities: Float64Array, data: Float32Array, side: number): void {
  const out = new Float64Array(3),
    m = eye.toRec2020;
  let of = densities;
  if (stages) {
    const { from, to } = boundsOf(densities),
      exposed = logThrough(stages.paper, from, to, side),
      [r, g, b] = stages.curves as [(v: number) => number, (v: number) => number, (v: number) => number];
    of = new Float64Array(densities.length);
    for (let i = 0; i < densities.length; i += 3) {
      exposed(densities[i]!, densities[i + 1]!, densities[i + 2]!, out);
      of[i] = r(out[0]!);
      of[i + 1] = g(out[1]!);
      of[i + 2] = b(out[2]!);
    }
  }
  const { from, to } = boundsOf(of),
    seen = logThrough(eye.xyz, from, to, side);
  for (let i = 0; i < of.length; i += 3) {
    seen(of[i]!, of[i + 1]!, of[i + 2]!, out);
    const x = exp10(out[0]!),
      y = exp10(out[1]!),
      z = exp10(out[2]!);
    for (let c = 0; c < 3; c++) data[i + c] = encodePicture(m[c * 3]! * x + m[c * 3 + 1]! * y + m[c * 3 + 2]! * z);
  }
}

/** Makes a stock's table of so many nodes along an edge. What is over white stays so until it is shown, so that nothing is cut off between nodes. */
export function filmTable(film: Film, size = tableSize): FilmTable {
  const exposures = quickExposures(film),
    spread = spreadOf(film),
    data = new Float32Array(size ** 3 * 3);
  const light = nodeLight(spread, size);
  const layers = film.sheet.layers.length,
    logH = film.sheet.layers.map(() => 0),
    densities = new Float64Array(size ** 3 * layers);
  let at = 0;
  for (const b of light)
    for (const g of light)
      for (const r of light) {
        const exposed = exposures(r, g, b);
        for (let l = 0; l < layers; l++) logH[l] = log10(Math.max(exposed[l]!, least)) + film.logWhite;
        const d = film.densities(logH);
        for (let l = 0; l < layers; l++) densities[at++] = d[l]!;
      }
  if (layers === 3) showAll(film, densities, data, size < tableSize ? 9 : 17);
  else
    densities.forEach((d, i) => {
      film.seen(film.printed([d])).forEach((v, c) => (data[i * 3 + c] = encodePicture(v)));
    });
  return {
    spread: Float32Array.from(spread),
    cube: { kind: '3d', title: film.sheet.name, size, domainMin: [0, 0, 0], domainMax: [1, 1, 1], data },
  };
}
/** A value of ACEScct through the spread, in double precision. */
export function spreadAt({ spread }: FilmTable, v: number): number {
  const at = Math.min(spreadIntervals, Math.max(0, v * spreadIntervals)),
    i = Math.min(spreadIntervals - 1, Math.floor(at));
  return spread[i]! + (at - i) * (spread[i + 1]! - spread[i]!);
}
