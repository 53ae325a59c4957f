import { pairsOf, type Feature } from './features.ts';
import type { Sample } from './likeness.ts';
import { exposures, overlaps } from './statistics.ts';

/** What two frames say of each other: what brings the first to the second. */
export interface Evidence {
  /** how much speaks for each exposure told apart (`exposures`), in places known again */
  readonly score: Float64Array;
  /** log₂ of red and blue over green that the first lacks, by what both show; and the deviation of that */
  readonly ratios: readonly [red: number, blue: number];
  readonly deviation: number;
  /** places known again that agree */
  readonly agreeing: number;
}

/** How far light of one place may differ between two views, in EV, and what the whole pictures' likeness counts for beside places known again. */
const [spread, ofTheWhole] = [0.16, 6];
/** How far its colour may (log₂ of red and blue over green): places that differ by more are less likely the same. */
const colourSpread = 0.15;
/** What is believed of how much places differ in colour before any is seen (log₂), and how many places that belief is worth. */
const [expected, worth] = [0.3, 4];

/** How far places turn (radians) and grow (log₂) alike between two views, and how many others like it make a pair half believed. */
const [turning, growing, half] = [0.25, 0.4, 2];

interface Pair {
  a: Feature;
  b: Feature;
}
/**
 * How far pairs are believed (0–1), each by how many others turn and grow as it does between the two views: what is the same thing seen
 * again does so together, what merely looks alike does not (clusters of pose: Lowe 2004, 7.3).
 */
function beliefs(pairs: readonly Pair[]): number[] {
  const poses = pairs.map(({ a, b }) => ({ turn: b.angle - a.angle, grown: Math.log2(b.size / a.size) }));
  return poses.map((own) => {
    let support = -1;
    for (const other of poses) {
      const turned = Math.abs(Math.atan2(Math.sin(own.turn - other.turn), Math.cos(own.turn - other.turn)));
      support += Math.exp(-(turned ** 2) / (2 * turning * turning) - (own.grown - other.grown) ** 2 / (2 * growing * growing));
    }
    return support / (support + half);
  });
}
/** What is believed at least of a pair that counts as agreeing. */
const leastBelief = 0.3;

/** Compares two frames of one light, by the places that are known again in both (Lowe 2004) and by what light their colours have. */
export function compare(frame: Sample, anchor: Sample): Evidence {
  const score = overlaps(frame.likeness, anchor.likeness).map((v) => ofTheWhole * v),
    seenByBoth = pairsOf(frame.known, anchor.known),
    belief = beliefs(seenByBoth),
    both = seenByBoth.flatMap(({ a, b }, i) => {
      const [from, to] = [(a as Sample['known'][number]).camera, (b as Sample['known'][number]).camera];
      if (!from || !to) return [];
      const [r, g, blue] = from.map((v, c) => Math.log2(to[c]! / v)) as [number, number, number];
      const [redOff, blueOff] = [r - g, blue - g],
        weight = belief[i]! * Math.exp(-(redOff ** 2 + blueOff ** 2) / (2 * colourSpread * colourSpread));
      return [{ ev: g, red: redOff, blue: blueOff, weight, believed: belief[i]! > leastBelief }];
    });
  for (let i = 0; i < exposures.count; i++) {
    const ev = i * exposures.step - exposures.reach;
    for (const p of both) score[i]! += p.weight * Math.exp(-((p.ev - ev) ** 2) / (2 * spread * spread));
  }
  const ev = peakOf(score),
    agreeing = both.filter((p) => p.believed && Math.abs(p.ev - ev) < 2 * spread && Math.hypot(p.red, p.blue) < 2.5 * colourSpread),
    [red, redSpread] = middle(agreeing.map((p) => p.red)),
    [blue, blueSpread] = middle(agreeing.map((p) => p.blue)),
    seen = Math.max(redSpread, blueSpread, 0.02),
    n = agreeing.length;
  return {
    score,
    ratios: [red, blue],
    deviation: Math.sqrt((n * seen * seen + worth * expected * expected) / (n + worth) / Math.max(1, n)),
    agreeing: n,
  };
}

/** The exposure that most speaks for, by a parabola through the greatest and its neighbours. */
export function peakOf(score: ArrayLike<number>): number {
  let best = 0;
  for (let i = 1; i < score.length; i++) if (score[i]! > score[best]!) best = i;
  const at = score[best]!,
    [before, after] = [score[best - 1] ?? at, score[best + 1] ?? at],
    bend = before - 2 * at + after,
    part = bend < 0 ? Math.max(-0.5, Math.min(0.5, (0.5 * (before - after)) / bend)) : 0;
  return (best + part) * exposures.step - exposures.reach;
}
/** The median, and the deviation by the median of what lies off it. */
function middle(values: readonly number[]): [number, number] {
  if (values.length === 0) return [0, 1];
  const median = (of: number[]): number => of.sort((a, b) => a - b)[of.length >> 1]!,
    m = median([...values]);
  return [m, 1.4826 * median(values.map((v) => Math.abs(v - m)))];
}
