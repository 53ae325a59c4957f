/** Directions to the eight neighbours of a place in a grid with a border of one, opposite ones side by side. */
const none = 10,
  orphaned = 9,
  terminal = 8;

/** A grid cut in two. `capacities`: from each place in each of eight directions, direction by direction; `terminals`: to the source (over nothing) or the sink (under it). */
export interface Grid {
  /** with the border, whose places have no capacity */
  width: number;
  height: number;
  capacities: Float32Array;
  terminals: Float32Array;
}
export const directionsOf = (width: number): readonly number[] => [1, -1, width, -width, width + 1, -width - 1, width - 1, 1 - width];

/**
 * The least cut of a grid between source and sink, by augmenting paths from two search trees that are kept (Boykov and Kolmogorov
 * 2004). Capacities are used up.
 * @returns 1 for places on the source's side
 */
export function leastCut({ width, height, capacities: cap, terminals: left }: Grid): Uint8Array {
  const n = width * height,
    way = directionsOf(width),
    tree = new Uint8Array(n),
    parent = new Uint8Array(n).fill(none),
    away = new Int32Array(n),
    stamp = new Int32Array(n),
    queued = new Uint8Array(n);
  let active: number[] = [],
    head = 0,
    time = 0;
  const orphans: number[] = [];
  const activate = (i: number): void => {
    if (queued[i]) return;
    queued[i] = 1;
    active.push(i);
  };
  for (let i = 0; i < n; i++) {
    if (left[i] === 0) continue;
    tree[i] = left[i]! > 0 ? 1 : 2;
    parent[i] = terminal;
    away[i] = 1;
    activate(i);
  }
  /** What can still go from a place's parent to it (source's tree), or from it to its parent (sink's). */
  const fromParent = (i: number): number => (tree[i] === 1 ? (parent[i]! ^ 1) * n + i + way[parent[i]!]! : parent[i]! * n + i),
    orphan = (i: number): void => {
      parent[i] = orphaned;
      orphans.push(i);
    };
  const augment = (p: number, d: number): void => {
    const q = p + way[d]!;
    let most = cap[d * n + p]!;
    for (const start of [p, q]) {
      let i = start;
      for (; parent[i] !== terminal; i += way[parent[i]!]!) most = Math.min(most, cap[fromParent(i)]!);
      most = Math.min(most, Math.abs(left[i]!));
    }
    cap[d * n + p]! -= most;
    cap[(d ^ 1) * n + q]! += most;
    for (const start of [p, q]) {
      let i = start;
      while (parent[i] !== terminal) {
        const at = parent[i]!,
          next = i + way[at]!,
          own = fromParent(i),
          back = tree[i] === 1 ? at * n + i : (at ^ 1) * n + next;
        cap[own]! -= most;
        cap[back]! += most;
        if (cap[own]! <= 0) orphan(i);
        i = next;
      }
      left[i]! += left[i]! > 0 ? -most : most;
      if (left[i] === 0) orphan(i);
    }
  };
  /** How far a place is from its tree's terminal; −1 where it hangs on an orphan. */
  const distance = (from: number): number => {
    let steps = 0,
      i = from;
    for (;;) {
      if (stamp[i] === time) {
        steps += away[i]!;
        break;
      }
      steps++;
      if (parent[i] === terminal) {
        stamp[i] = time;
        away[i] = 1;
        break;
      }
      if (parent[i]! >= orphaned) return -1;
      i += way[parent[i]!]!;
    }
    let down = steps;
    for (let j = from; stamp[j] !== time; j += way[parent[j]!]!) {
      stamp[j] = time;
      away[j] = down--;
    }
    return steps;
  };
  const adopt = (): void => {
    time++;
    while (orphans.length > 0) {
      const i = orphans.pop()!;
      let best = Infinity,
        found = none;
      for (let d = 0; d < 8; d++) {
        const j = i + way[d]!;
        if (tree[j] !== tree[i] || (tree[i] === 1 ? cap[(d ^ 1) * n + j]! : cap[d * n + i]!) <= 0) continue;
        const far = distance(j);
        if (far >= 0 && far < best) [best, found] = [far, d];
      }
      if (found !== none) {
        parent[i] = found;
        stamp[i] = time;
        away[i] = best + 1;
        continue;
      }
      for (let d = 0; d < 8; d++) {
        const j = i + way[d]!;
        if (tree[j] !== tree[i] || tree[j] === 0) continue;
        if ((tree[i] === 1 ? cap[(d ^ 1) * n + j]! : cap[d * n + i]!) > 0) activate(j);
        if (parent[j] === (d ^ 1)) orphan(j);
      }
      tree[i] = 0;
      parent[i] = none;
    }
  };
  while (head < active.length) {
    const i = active[head]!;
    let met = false;
    if (tree[i] !== 0)
      for (let d = 0; d < 8 && !met; d++) {
        const j = i + way[d]!,
          room = tree[i] === 1 ? cap[d * n + i]! : cap[(d ^ 1) * n + j]!;
        if (room <= 0) continue;
        if (tree[j] === 0) {
          tree[j] = tree[i]!;
          parent[j] = d ^ 1;
          stamp[j] = stamp[i]!;
          away[j] = away[i]! + 1;
          activate(j);
        } else if (tree[j] !== tree[i]) {
          if (tree[i] === 1) augment(i, d);
          else augment(j, d ^ 1);
          adopt();
          met = true;
        }
      }
    // one that met the other tree is looked at again
    if (met) continue;
    queued[i] = 0;
    head++;
    if (head > 1 << 16) {
      active = active.slice(head);
      head = 0;
    }
  }
  return tree.map((t) => (t === 1 ? 1 : 0));
}
