/** What tells the light of a frame from others'. */
export interface LightFacts {
  /** when it was taken, in ms; null where the file does not say */
  takenAt: number | null;
  /** the camera's own balance, in mired */
  mired: number;
  /** log₂ of the light that reached the sensor, by what the camera was set to and the middle of its tones */
  brightness: number;
  /** mean of log₂ red and blue over green */
  ratios: readonly [number, number];
}

/** What counts as far in each, so that they can be added: minutes, mired (what a camera believes of tungsten drifts by as much), EV, log₂. */
const far = { minutes: 40, mired: 60, ev: 3, ratio: 0.8 };
/** However long ago, time alone tells so much and no more: the light may be the same the next day. */
const mostOfTime = 2;

/** How unlike two frames' light is: 0 the same, towards 1 another altogether, however far apart the two are. */
export function unlike(a: LightFacts, b: LightFacts): number {
  const minutes = a.takenAt === null || b.takenAt === null ? 0 : Math.abs(a.takenAt - b.takenAt) / 60_000;
  const d = Math.hypot(
    Math.min(mostOfTime, minutes / far.minutes),
    (a.mired - b.mired) / far.mired,
    (a.brightness - b.brightness) / far.ev,
    (a.ratios[0] - b.ratios[0]) / far.ratio,
    (a.ratios[1] - b.ratios[1]) / far.ratio,
  );
  return 1 - Math.exp(-0.5 * d * d);
}

/**
 * Groups frames by their light: joined two by two, the nearest in the mean first (average linkage: Sokal and Michener 1958), and
 * stopped where frames lie best among their own and apart from others (mean silhouette: Rousseeuw 1987). Frames that are all alike are one group.
 * @returns for each frame its group, numbered in the order of their first frames
 */
export function groupsOfLight(frames: readonly LightFacts[], mostGroups = 24): number[] {
  const n = frames.length;
  if (n === 0) return [];
  const d = Array.from({ length: n }, (_, i) => Float32Array.from({ length: n }, (_, j) => unlike(frames[i]!, frames[j]!)));
  let groups: number[][] = frames.map((_, i) => [i]);
  const between = d.map((row) => Float64Array.from(row)),
    alive = frames.map((_, i) => i);
  let best = { score: -1, groups: [frames.map((_, i) => i)] };
  while (alive.length > 1) {
    if (alive.length <= mostGroups && alive.length < n) {
      const now = alive.map((i) => groups[i]!),
        score = silhouette(d, now);
      if (score > best.score) best = { score, groups: now };
    }
    let [x, y, least] = [0, 1, Infinity];
    for (let i = 0; i < alive.length; i++)
      for (let j = i + 1; j < alive.length; j++) {
        const v = between[alive[i]!]![alive[j]!]!;
        if (v < least) [x, y, least] = [i, j, v];
      }
    const [a, b] = [alive[x]!, alive[y]!],
      [na, nb] = [groups[a]!.length, groups[b]!.length];
    for (const k of alive) between[a]![k] = between[k]![a] = (na * between[a]![k]! + nb * between[b]![k]!) / (na + nb);
    groups = groups.map((g, i) => (i === a ? [...g, ...groups[b]!] : g));
    alive.splice(y, 1);
  }
  // one light may be all there is: groups that hardly differ are none
  const chosen = best.score > 0.45 ? best.groups : [frames.map((_, i) => i)],
    ordered = chosen.map((g) => [...g].sort((a, b) => a - b)).sort((a, b) => a[0]! - b[0]!),
    out = new Array<number>(n).fill(0);
  ordered.forEach((g, k) => g.forEach((i) => (out[i] = k)));
  return out;
}

/** The mean silhouette of a partition: −1 to 1. */
function silhouette(d: readonly Float32Array[], groups: readonly (readonly number[])[]): number {
  let sum = 0,
    count = 0;
  for (const own of groups)
    for (const i of own) {
      count++;
      if (own.length === 1) continue;
      const mean = (g: readonly number[]): number => g.reduce((s, j) => s + d[i]![j]!, 0),
        within = mean(own) / (own.length - 1),
        out = Math.min(...groups.filter((g) => g !== own).map((g) => mean(g) / g.length));
      sum += (out - within) / Math.max(out, within, 1e-6);
    }
  return groups.length < 2 ? -1 : sum / count;
}
