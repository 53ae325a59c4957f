import { log10 } from '../../colour/elementary.ts';
import { decodeAcescct } from '../../colour/transfer.ts';
import type { Table } from '../../colour/table.ts';
import type { Vector3 } from '../../colour/matrix.ts';
import { least, shown, type Film } from './film.ts';
import { fitReflectance, fittedShare, reflectance, type Polynomial } from './reflectance.ts';
import type { Spectrum } from './spectrum.ts';

/** Nodes along an edge of a stock's table, and the light it reaches over, as ACEScct of linear Rec.2020 (S-2016-001): from none to 6½ stops over middle grey. */
export const tableSize = 33;
const from = 0.0729055341958355,
  to = 0.79;

/** Nodes of the colours that are fitted, along each of the two channels under the greatest. */
const fits = 33;
/** The ratio to the greatest channel at a node: finer towards none. */
const ratioAt = (i: number): number => (i / (fits - 1)) ** 4;
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

/** The relative exposures of a film's layers for colours, between the fitted ones. */
function quickExposures(film: Film): (rgb: Vector3) => number[] {
  const nodes = fittedColours().map((r) => film.exposures(r)),
    layers = film.sheet.layers.length;
  return (rgb) => {
    const most = Math.max(rgb[0], rgb[1], rgb[2]);
    if (most <= 0) return new Array<number>(layers).fill(0);
    const face = rgb[0] === most ? 0 : rgb[1] === most ? 1 : 2,
      place = (c: number): number => Math.min(fits - 1, Math.sqrt(Math.sqrt(Math.max(0, rgb[c % 3]!) / most)) * (fits - 1)),
      u = place(face + 1),
      v = place(face + 2),
      i = Math.min(fits - 2, Math.floor(u)),
      j = Math.min(fits - 2, Math.floor(v)),
      at = (face * fits + i) * fits + j;
    const corners = [nodes[at]!, nodes[at + 1]!, nodes[at + fits]!, nodes[at + fits + 1]!] as const,
      s = u - i,
      t = v - j;
    return corners[0].map((a, l) => {
      const low = a + t * (corners[1][l]! - a),
        high = corners[2][l]! + t * (corners[3][l]! - corners[2][l]!);
      return ((low + s * (high - low)) * most) / fittedShare;
    });
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
    const light = Math.max(0, decodeAcescct(v)),
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

/** Makes a stock's table. */
export function filmTable(film: Film): FilmTable {
  const exposures = quickExposures(film),
    spread = spreadOf(film),
    size = tableSize,
    data = new Float32Array(size ** 3 * 3);
  const light = Array.from({ length: size }, (_, k) => {
    const goal = k / (size - 1);
    let i = 0;
    while (i < spreadIntervals - 1 && spread[i + 1]! < goal) i++;
    const step = spread[i + 1]! - spread[i]!,
      at = (i + (step > 0 ? Math.min(1, Math.max(0, (goal - spread[i]!) / step)) : 1)) / spreadIntervals;
    return Math.max(0, decodeAcescct(k === 0 ? from : at));
  });
  for (let i = 0; i < size ** 3; i++) {
    const rgb: Vector3 = [light[i % size]!, light[Math.floor(i / size) % size]!, light[Math.floor(i / size / size)]!],
      logH = exposures(rgb).map((v) => log10(Math.max(v, least)) + film.logWhite),
      picture = shown(film, logH);
    for (let c = 0; c < 3; c++) data[i * 3 + c] = Math.min(1, encodePicture(picture[c]!));
  }
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
