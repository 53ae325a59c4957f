import { log10 } from '../../colour/elementary.ts';
import type { Kernels } from '../../kernels/kernels.ts';
import { layOut } from '../../render/arena.ts';
import type { Through } from './beerLambert.ts';
import { tabled, type TabledCurve } from './curve.ts';
import { least, type Film } from './film.ts';

/** How a picture is encoded in a stock's table, so that what lies between nodes is near: the power that stands for the eye's. */
export const encodePicture = (v: number): number => Math.sqrt(Math.max(0, v));

/** The rows of a 3 × 3 as columns of four numbers. */
const columnsOf = (m: readonly number[]): number[] => [0, 1, 2].flatMap((c) => [m[c] ?? 0, m[c + 3] ?? 0, m[c + 6] ?? 0, 0]);
const curvesOf = (curves: readonly TabledCurve[]): Float32Array => {
  const length = tabled.last + 2,
    out = new Float32Array(3 * length);
  for (let i = 0; i < 3; i++) out.set((curves[i] ?? curves[0]!).table, i * length);
  return out;
};
/** Nodes along an axis of dyes that are tabulated: what lies between follows by parabolas, within hundred-thousandths of a density. */
const dyeNodes = 17,
  /** for a cube of few nodes, as a hand moves the sheet */
  draftDyeNodes = 9,
  fewNodes = 17;

/** Densities of the nodes in the kernels' memory, four numbers each, and where the rest lies. */
interface Developed {
  nodes: number;
  count: number;
  dyes: number;
  dyeNodes: number;
  numbers: number;
}
/** The least of three densities, and how far apart the nodes over all of them are. */
function boundsOf({ nodes, count, dyeNodes }: Developed, all: Float32Array): { low: number[]; step: number[] } {
  const ends = [0, 1, 2].map((k) => {
    let low = Infinity,
      high = -Infinity;
    for (let i = nodes / 4 + k, end = i + count * 4; i < end; i += 4) {
      const v = all[i]!;
      if (v < low) low = v;
      if (v > high) high = v;
    }
    return { low, step: Math.max(1e-6, high - low) / (dyeNodes - 1) };
  });
  return { low: ends.map((e) => e.low), step: ends.map((e) => e.step) };
}
/** Densities to the logarithms of what comes through their dyes. */
function lightThrough(kernels: Kernels, at: Developed, through: Through): void {
  const all = kernels.f32(),
    { low, step } = boundsOf(at, all),
    { nodes, count, dyes, dyeNodes, numbers } = at;
  const grid = through.grid(low, step, dyeNodes);
  for (let i = 0, o = dyes / 4; i < grid.length; o++) for (let c = 0; c < 3; c++) all[o++] = log10(Math.max(1e-12, grid[i++]!));
  all.set([...low, 0, ...step.map((v) => 1 / v), 0], numbers / 4);
  kernels.exports.throughDyes(nodes, count, dyes, dyeNodes, numbers);
}
/** Pictures of a silver negative on paper, from those 1/512 of a density apart. */
function silverPictures({ printed, seen }: Film, { nodes, count }: Developed, all: Float32Array): Float32Array {
  const perUnit = 512,
    densities = Float32Array.from({ length: count }, (_, i) => all[nodes / 4 + i * 4]!),
    most = densities.reduce((a, b) => Math.max(a, b)),
    shades = Array.from({ length: Math.ceil(most * perUnit) + 2 }, (_, i) => seen(printed([i / perUnit])).map(encodePicture)),
    data = new Float32Array(count * 3);
  densities.forEach((d, i) => {
    const place = d * perUnit,
      k = Math.floor(place);
    for (let c = 0; c < 3; c++) data[i * 3 + c] = shades[k]![c]! + (place - k) * (shades[k + 1]![c]! - shades[k]![c]!);
  });
  return data;
}

/**
 * Encoded pictures of all colours of a cube through a film.
 * @param colours relative exposures of colours whose greatest channel is 1, as the kernel `develop` wants them
 * @param lights the light of each channel at the cube's nodes
 * @returns three numbers each, red fastest
 */
export function picturesOf(
  kernels: Kernels,
  film: Film,
  colours: { exposures: Float32Array; fits: number },
  lights: readonly number[],
): Float32Array {
  const { development, stages, eye } = film,
    side = lights.length,
    count = side ** 3,
    axis = side > fewNodes ? dyeNodes : draftDyeNodes;
  const at = layOut(kernels, {
      lights: side * 4,
      faces: colours.exposures.byteLength,
      curves: 3 * (tabled.last + 2) * 4,
      numbers: 64 * 4,
      dyes: axis ** 3 * 16,
      nodes: count * 16,
      pictures: count * 12,
    }),
    { exports } = kernels,
    all = kernels.f32(),
    put = (values: ArrayLike<number>, place: number): void => all.set(values, place / 4);
  put(lights, at.lights);
  put(colours.exposures, at.faces);
  put(curvesOf(development.curves), at.curves);
  const { middle, effects } = development;
  put([colours.fits, least, film.logWhite, tabled.from, tabled.perUnit], at.numbers);
  put([...middle, ...Array<number>(4 - middle.length).fill(0), ...columnsOf(effects)], at.numbers + 32);
  exports.develop(at.lights, side, at.faces, at.numbers, at.curves, tabled.last, at.nodes);
  const developed = { ...at, count, dyeNodes: axis };
  if (film.sheet.layers.length === 1) return silverPictures(film, developed, all);
  if (stages) {
    lightThrough(kernels, developed, stages.paper);
    put(curvesOf(stages.curves), at.curves);
    put([tabled.from, tabled.perUnit], at.numbers);
    exports.printed(at.nodes, count, at.curves, tabled.last, at.numbers);
  }
  lightThrough(kernels, developed, eye.xyz);
  put(columnsOf(eye.toRec2020), at.numbers);
  exports.pictured(at.nodes, count, at.numbers, at.pictures);
  return all.slice(at.pictures / 4, at.pictures / 4 + count * 3);
}
