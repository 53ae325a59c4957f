import type { FilmGrain } from './pass.ts';

/** Phases of a pixel between squares of the grid that weights are kept for. */
export const phases = 512;
/** The aperture that granularity is measured through, µm across (ISO 10505), and its area. */
const aperture = 48,
  apertureArea = (Math.PI * aperture ** 2) / 4;

/** How a film's grain is drawn at a size of pixel. */
export interface GrainLattice {
  /** side of a square of the grid, µm, and how often it is halved from the largest one */
  cellUm: number;
  depth: number;
  /** standard deviation of a square's number at each depth, for a granularity of 1 */
  deviations: readonly number[];
  /** four weights for each phase */
  weights: Float32Array;
  /** variance at a pixel, for a granularity of 1 */
  variance: number;
}

/** A hump of half width `r`, flat to `flat`, falling as a cosine. */
const hump = (x: number, flat: number, r: number): number => {
  const away = Math.abs(x);
  if (away >= r) return 0;
  return away <= flat ? 1 : 0.5 + 0.5 * Math.cos((Math.PI * (away - flat)) / (r - flat));
};
/** Samples of a hump over −1.5…1.5 squares; `shape` 0–1 widens a cosine, 1–2 flattens it into a box. */
const fine = 64;
function humpOf(shape: number): number[] {
  const r = 1.5 * Math.min(1, shape),
    flat = 1.5 * Math.max(0, shape - 1);
  const values = Array.from({ length: 3 * fine }, (_, i) => hump((i + 0.5) / fine - 1.5, flat, r)),
    sum = values.reduce((a, b) => a + b, 0);
  return values.map((v) => v / sum);
}
/** Weights of the four squares about a pixel, the second of which it lies in, for each phase. */
function weightsOf(shape: number): Float32Array {
  const h = humpOf(shape),
    out = new Float32Array(phases * 4);
  for (let p = 0; p < phases; p++)
    h.forEach((v, i) => {
      const place = (p + 0.5) / phases + (i + 0.5) / fine - 1.5;
      out[p * 4 + 1 + Math.floor(place)]! += v;
    });
  return out;
}
/** Mean over the phases of the weights' squares: the variance that is left along one axis. */
function left(weights: Float32Array): number {
  let sum = 0;
  for (const v of weights) sum += v * v;
  return sum / phases;
}
/** ∫k² of a clump (a cosine hump of half width 1.5 squares) seen through a pixel, in 1/squares. */
function sharpness(pixel: number): number {
  const h = humpOf(1),
    steps = Math.max(1, Math.round(pixel * fine)),
    out = new Float64Array(h.length + steps - 1);
  h.forEach((v, i) => {
    for (let j = 0; j < steps; j++) out[i + j]! += v / steps;
  });
  return out.reduce((sum, v) => sum + v * v, 0) * fine;
}
/** Spread of a cosine hump, of its half width. */
const spread = Math.sqrt(1 / 3 - 2 / Math.PI ** 2);
/** Share of the variance that a round aperture sees of clumps of that spread against points, for apertures well over them: discs apart by the mean distance overlap by so much. */
const seen = (spreadUm: number): number => 1 - ((4 / Math.PI) * Math.sqrt(Math.PI) * spreadUm) / aperture;

/**
 * The grid that a grain is drawn on where a pixel is so large: clumps of two squares where they are seen by themselves, squares of
 * pixel size and white noise where they are not. Low frequencies follow from the granularity alone (Selwyn 1935).
 */
export function grainLattice({ sizeUm, roughness, formatMm }: FilmGrain, pixelUm: number): GrainLattice {
  const key = [sizeUm, roughness, formatMm, pixelUm].join(),
    known = lately.get(key);
  if (known) return known;
  const finest = (sizeUm / 2) * (1 + 0.6 * roughness),
    wanted = 1 / sharpness((pixelUm * 2) / sizeUm),
    widthUm = Math.max((wanted * sizeUm) / 2, 1.02 * pixelUm);
  let times = 0;
  while (widthUm / (finest * 2 ** times) > 3) times++;
  const cellUm = finest * 2 ** times,
    goal = Math.min(1, cellUm / widthUm);
  let low = 0.02,
    high = 2;
  for (let i = 0; i < 24; i++) {
    const middle = (low + high) / 2;
    if (left(weightsOf(middle)) > goal) low = middle;
    else high = middle;
  }
  const weights = weightsOf(low),
    depth = Math.max(1, Math.ceil(Math.log2((formatMm * 1000) / 16 / cellUm))),
    // of a square so large that nothing of note is left of it
    density = apertureArea / seen(spread * 0.75 * sizeUm);
  const lattice: GrainLattice = {
    cellUm,
    depth,
    deviations: Array.from({ length: depth + 1 }, (_, d) => Math.sqrt(density) / (cellUm * 2 ** (depth - d))),
    weights,
    variance: (density / cellUm ** 2) * left(weights) ** 2,
  };
  lately.set(key, lattice);
  if (lately.size > 24) lately.delete(lately.keys().next().value!);
  return lattice;
}
const lately = new Map<string, GrainLattice>();
