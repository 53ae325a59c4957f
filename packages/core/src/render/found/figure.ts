import type { Features } from './features.ts';
import { neighbourWeights } from './neighbours.ts';
import { leastCut } from './maxFlow.ts';
import { costOf, mixtureOf, type Values } from './mixture.ts';

/** How often the mixtures are learned anew, at most (Rother, Kolmogorov, Blake 2004: until it settles). */
const rounds = 4;
/**
 * What counts how much, in the mixtures' own measure (natural logarithms of likelihoods). `alike`: how much neighbours want to be of one
 * kind (Rother, Kolmogorov, Blake 2004: 50). `aside`: how much less a place at the sides of a box is likely the thing than one in its
 * middle; a person puts the thing there. `known`: each natural logarithm of the odds that a place is the thing, where they are known.
 */
const [byColour, byOdds] = [
  { alike: 50, aside: 4, known: 0 },
  { alike: 83, aside: 5, known: 3.3 },
];
/** How sure one can be at most that a place is the thing, or is not (logarithm of the odds). */
const surest = 3.5;

/** A box on a picture, in pixels. */
export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}
/**
 * Cuts a thing out of a small picture by a box round it (GrabCut: Rother, Kolmogorov and Blake 2004), over light and colour.
 * @param box in pixels; what lies outside of it is not the thing
 * @param likely how likely each place of the picture is the thing (0–1), where that is known
 * @returns 1 for each place of the picture that is the thing
 */
export function cutOut({ width, height, light, a, b }: Features, box: Box, likely: Float32Array | null = null): Float32Array {
  const { alike, aside, known } = likely ? byOdds : byColour,
    margin = Math.round(0.35 * Math.max(box.width, box.height)) + 4,
    x0 = Math.max(0, Math.floor(box.x) - margin),
    y0 = Math.max(0, Math.floor(box.y) - margin),
    x1 = Math.min(width, Math.ceil(box.x + box.width) + margin),
    y1 = Math.min(height, Math.ceil(box.y + box.height) + margin),
    w = x1 - x0 + 2,
    h = y1 - y0 + 2,
    n = w * h;
  // the part of the picture with a border of one; light as an eye counts it beside colour
  const values: Values = [new Float32Array(n), new Float32Array(n), new Float32Array(n)],
    inside = new Uint8Array(n),
    /** the logarithm of the odds that it is the thing */
    odds = new Float32Array(n),
    real: number[] = [];
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      const i = (y - y0 + 1) * w + x - x0 + 1,
        k = y * width + x;
      values[0][i] = 0.08 * Math.max(-6, light[k]!);
      values[1][i] = a[k]!;
      values[2][i] = b[k]!;
      real.push(i);
      if (likely) odds[i] = Math.min(surest, Math.max(-surest, Math.log((likely[k]! + 1e-4) / (1 - likely[k]! + 1e-4))));
      inside[i] = x >= box.x && x < box.x + box.width && y >= box.y && y < box.y + box.height ? 1 : 0;
    }
  const smooth = neighbourWeights(values, real, w, alike);
  let is: Uint8Array = inside.map((v, i) => (v && odds[i]! >= 0 ? 1 : 0));
  const certain = 9 * alike;
  for (let round = 0; round < rounds; round++) {
    const mine = real.filter((i) => is[i]),
      others = real.filter((i) => !is[i]);
    if (mine.length < 40 || others.length < 40) break;
    const own = mixtureOf(values, mine),
      other = mixtureOf(values, others),
      terminals = new Float32Array(n);
    for (const i of real) {
      const across = ((((i % w) - 0.5 + x0 - box.x) / box.width) * 2 - 1) ** 2;
      terminals[i] = inside[i] ? costOf(other, values, i) - costOf(own, values, i) + known * odds[i]! - aside * (across - 0.4) : -certain;
    }
    const next = leastCut({ width: w, height: h, capacities: smooth.slice(), terminals });
    const changed = next.some((v, i) => v !== is[i]);
    is = next;
    if (!changed) break;
  }
  const out = new Float32Array(width * height);
  for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) out[y * width + x] = is[(y - y0 + 1) * w + x - x0 + 1]!;
  return out;
}
