import { distanceFrom } from '../distance.ts';
import type { Features } from './features.ts';
import { neighbourWeights } from './neighbours.ts';
import { leastCut } from './maxFlow.ts';
import { costOf, mixtureOf, type Values } from './mixture.ts';

/** How much neighbours want to be of one kind, and how much a place at the far end of the band wants to stay what it was drawn as, in the mixtures' own measure: where colours tell nothing a border stays. */
const alike = 12,
  stays = 2,
  /** how far from the border colours are learned, over how far it may move */
  learned = 4;

/**
 * A border moved to where colours part best: what lies further than `reach` pixels from it stays, the band between is cut by mixtures that
 * are learned on its two sides (Rother, Kolmogorov and Blake 2004, with their border as the band). As it was where a side has too little.
 * @param inside 1 for each place of the picture that is inside
 */
export function borderMoved({ width, height, light, a, b }: Features, inside: Uint8Array, reach: number): Uint8Array {
  const w = width + 2,
    n = w * (height + 2),
    values: Values = [new Float32Array(n), new Float32Array(n), new Float32Array(n)],
    deep = distanceFrom(
      inside.map((v) => 1 - v),
      width,
      height,
    ),
    far = distanceFrom(inside, width, height),
    places: number[] = [],
    own: number[] = [],
    others: number[] = [],
    band: { i: number; drawn: number }[] = [],
    terminals = new Float32Array(n);
  for (let k = 0; k < inside.length; k++) {
    const i = (Math.floor(k / width) + 1) * w + (k % width) + 1,
      away = (inside[k] ? deep[k]! : far[k]!) / 3;
    values[0][i] = 0.08 * Math.max(-6, light[k]!);
    values[1][i] = a[k]!;
    values[2][i] = b[k]!;
    places.push(i);
    if (away <= reach) band.push({ i, drawn: ((inside[k] ? 1 : -1) * away) / reach });
    else {
      terminals[i] = inside[k] ? 1e6 : -1e6;
      if (away <= reach * (1 + learned)) (inside[k] ? own : others).push(i);
    }
  }
  if (band.length === 0 || own.length < 40 || others.length < 40) return inside;
  const [mine, theirs] = [mixtureOf(values, own), mixtureOf(values, others)];
  for (const { i, drawn } of band) terminals[i] = costOf(theirs, values, i) - costOf(mine, values, i) + stays * drawn;
  const cut = leastCut({ width: w, height: height + 2, capacities: neighbourWeights(values, places, w, alike), terminals });
  return inside.map((_, k) => cut[(Math.floor(k / width) + 1) * w + (k % width) + 1]!);
}
