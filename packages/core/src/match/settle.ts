import { peakOf, type Evidence } from './pair.ts';
import { exposures } from './statistics.ts';

/** What two frames of a set say of each other: what brings `from` to `to`. */
export interface Tie {
  from: number;
  to: number;
  evidence: Evidence;
}
/** What brings a frame to the anchor: EV, log₂ red and blue over green, and how much speaks for it, in places known again; too little for an EV is said, and none is given. */
export interface Settled {
  ev: number;
  ratios: readonly [number, number];
  weight: number;
  sure: boolean;
}

/** How much colour of the light is believed to move within a group (log₂), where nothing is known. */
const movement = 0.03;
/** Exposures a frame may have to be brought, at most. */
const most = 5,
  /** under this a frame has too little in common with others for its exposure to be told */
  leastWeight = 8,
  fine = 0.02;

const scoreAt = ({ score }: Evidence, ev: number): number => {
  const at = (ev + exposures.reach) / exposures.step,
    low = Math.floor(at);
  if (low < 0 || low + 1 >= score.length) return 0;
  return score[low]! + (at - low) * (score[low + 1]! - score[low]!);
};
/** How much more the best speaks for than the common run of exposures. */
const weightOf = ({ score }: Evidence): number => Math.max(...score) - [...score].sort((a, b) => a - b)[score.length >> 1]!;

/**
 * Brings all frames of a set to one of them so that all that pairs of them say is met as well as can be: begun along the strongest
 * ties (a greatest spanning tree: Prim 1957), then each frame in turn put where its ties together say most, until none moves.
 */
export function settle(count: number, anchor: number, ties: readonly Tie[]): Settled[] {
  const of = Array.from({ length: count }, (_, i) => ties.filter((t) => t.from === i || t.to === i)),
    weights = new Map(ties.map((t) => [t, weightOf(t.evidence)])),
    ev = new Float64Array(count),
    there = new Set([anchor]);
  while (there.size < count) {
    let best: Tie | null = null;
    for (const t of ties) if (there.has(t.from) !== there.has(t.to) && (!best || weights.get(t)! > weights.get(best)!)) best = t;
    if (!best) break;
    const peak = peakOf(best.evidence.score);
    // ev[i] brings frame i to the anchor: what brings `from` to `to` lies between the two
    if (there.has(best.to)) ev[best.from] = ev[best.to]! + peak;
    else ev[best.to] = ev[best.from]! - peak;
    there.add(best.from).add(best.to);
  }
  for (let round = 0; round < 12; round++) {
    let moved = 0;
    for (let i = 0; i < count; i++) {
      if (i === anchor || of[i]!.length === 0) continue;
      const told = (v: number): number =>
        of[i]!.reduce((sum, t) => sum + scoreAt(t.evidence, t.from === i ? v - ev[t.to]! : ev[t.from]! - v), 0);
      let best = ev[i]!;
      for (let v = -most; v <= most; v += fine) if (told(v) > told(best) + 1e-9) best = v;
      moved = Math.max(moved, Math.abs(best - ev[i]!));
      ev[i] = best;
    }
    if (moved < fine) break;
  }
  const ratios = settledRatios(count, anchor, of);
  return Array.from({ length: count }, (_, i) => {
    const weight = i === anchor ? Infinity : of[i]!.reduce((sum, t) => sum + weights.get(t)!, 0),
      sure = weight >= leastWeight;
    return { ev: sure ? ev[i]! : 0, ratios: ratios[i]!, weight, sure };
  });
}

/** Colour, by weighted means over ties, and by what is believed of a light: that it hardly moves. */
function settledRatios(count: number, anchor: number, of: readonly (readonly Tie[])[]): (readonly [number, number])[] {
  let now: [number, number][] = Array.from({ length: count }, () => [0, 0]);
  for (let round = 0; round < 60; round++)
    now = now.map((_, i) => {
      if (i === anchor) return [0, 0];
      let total = 1 / (movement * movement);
      const sum: [number, number] = [0, 0];
      for (const t of of[i]!) {
        const weight = t.evidence.agreeing < 4 ? 0 : 1 / t.evidence.deviation ** 2,
          sign = t.from === i ? 1 : -1,
          other = now[t.from === i ? t.to : t.from]!;
        total += weight;
        for (const c of [0, 1] as const) sum[c] += weight * (other[c] + sign * t.evidence.ratios[c]);
      }
      return [sum[0] / total, sum[1] / total];
    });
  return now;
}
