import { neutralOf } from '../groundwork/balance.ts';
import { plainGroundwork } from '../groundwork/groundwork.ts';
import type { Vector3 } from '../colour/matrix.ts';
import type { Shift, Subject } from './card.ts';
import type { Chart } from './chart.ts';

/** Frames of a group that are compared each with each, at most; in larger ones each with the anchor and those just before it. */
const allWithAll = 8,
  before = 2;

/** Which frames of a group (in the order they were taken) are compared. */
export function pairsToCompare(count: number, anchor: number): { from: number; to: number }[] {
  const out: { from: number; to: number }[] = [];
  for (let i = 0; i < count; i++)
    for (let j = 0; j < i; j++) if (count <= allWithAll || i - j <= before || j === anchor || i === anchor) out.push({ from: i, to: j });
  return out;
}

/** The most typical frame of a group: the one all others have least way to. */
export function typical(count: number, shifts: readonly Shift[]): number {
  const way = (i: number): number =>
    shifts.reduce(
      (sum, s) =>
        sum + Math.abs(s.ev - shifts[i]!.ev) + 4 * Math.hypot(s.ratios[0] - shifts[i]!.ratios[0], s.ratios[1] - shifts[i]!.ratios[1]),
      0,
    );
  let best = 0;
  for (let i = 1; i < count; i++) if (way(i) < way(best) - 1e-6) best = i;
  return best;
}

const logRatio = (to: number, from: number): number => Math.log2(Math.max(1e-6, to) / Math.max(1e-6, from));
/** What brings one camera colour to another. */
export const shiftBetween = (from: Vector3, to: Vector3): Shift => {
  const ev = logRatio(to[1], from[1]);
  return { ev, ratios: [logRatio(to[0], from[0]) - ev, logRatio(to[2], from[2]) - ev] };
};
/** What brings one chart's greys to another's, in the mean of their logarithms; those that clip or drown are left out. */
export function shiftByChart(frame: Chart, anchor: Chart): Shift {
  const pairs = [18, 19, 20, 21, 22]
    .map((i) => [frame.patches[i]!, anchor.patches[i]!] as const)
    .filter(([a, b]) => Math.max(...a, ...b) < 0.95 && Math.min(...a, ...b) > 0.004)
    .map(([a, b]) => shiftBetween(a, b));
  const mean = (of: (s: Shift) => number): number => pairs.reduce((sum, s) => sum + of(s), 0) / Math.max(1, pairs.length);
  return { ev: mean((s) => s.ev), ratios: [mean((s) => s.ratios[0]), mean((s) => s.ratios[1])] };
}
/** A frame by the light of its near greys (`autoBalance`); null where nothing in it looks grey. */
export interface Greys {
  profile: Subject['profile'];
  light: { kelvin: number; tintDuv: number } | null;
}
/** What brings a frame's near-neutral places to the anchor's; null where one of them has none. */
export function shiftByNeutrals(frame: Greys, anchor: Greys, ev: number): Shift | null {
  const [a, b] = [frame, anchor].map(
    ({ light, profile }) => light && neutralOf({ ...plainGroundwork.balance, kind: 'own', ...light }, profile),
  );
  return a && b ? { ev, ratios: shiftBetween(a, b).ratios } : null;
}
