import type { CurvePoints } from '@dyepot/core';

/** A curve read as levels: codes 0–255 in and out at its ends, and the power (1/mid) that its middle stands for. */
export interface Levels {
  blackIn: number;
  mid: number;
  whiteIn: number;
  blackOut: number;
  whiteOut: number;
}
const inside = (v: number): number => Math.min(0.99, Math.max(0.01, v)),
  tidy = (v: number): number => Math.round(v * 10000) / 10000,
  limit = (v: number): number => Math.min(1, Math.max(0, v));

/** The levels of a curve. Of more than three points the middle one gives the mid. */
export function levelsOf(points: CurvePoints): Levels {
  const first = points[0]!,
    last = points[points.length - 1]!,
    middle = points.length > 2 ? points[Math.floor(points.length / 2)]! : null,
    t = middle ? (middle[0] - first[0]) / (last[0] - first[0]) : 0.5,
    v = middle ? (middle[1] - first[1]) / (last[1] - first[1] || 1) : 0.5;
  return {
    blackIn: first[0] * 255,
    whiteIn: last[0] * 255,
    blackOut: first[1] * 255,
    whiteOut: last[1] * 255,
    mid: Math.min(5, Math.max(0.2, Math.log(inside(t)) / Math.log(inside(v)))),
  };
}

/** The same curve at other levels: its points are carried along, between ends kept at least five codes apart. */
export function withLevels(points: CurvePoints, change: Partial<Levels>): CurvePoints {
  const old = levelsOf(points),
    own = { ...old, ...change },
    low = Math.min(own.blackIn, own.whiteIn - 5) / 255,
    high = Math.max(own.whiteIn, own.blackIn + 5) / 255,
    [from, to] = [own.blackOut / 255, own.whiteOut / 255],
    power = old.mid / own.mid,
    /** a straight curve has no middle to carry */
    carried: CurvePoints =
      points.length === 2 && Math.abs(power - 1) > 0.005
        ? [points[0]!, [(points[0]![0] + points[1]![0]) / 2, (points[0]![1] + points[1]![1]) / 2], points[1]!]
        : points;
  const range = { x: (old.whiteIn - old.blackIn) / 255, y: (old.whiteOut - old.blackOut) / 255 };
  const out = carried.map(([x, y], i): [number, number] => {
    const t = (x - old.blackIn / 255) / range.x,
      v = range.y === 0 ? i / (carried.length - 1) : (y - old.blackOut / 255) / range.y;
    return [tidy(limit(low + t * (high - low))), tidy(limit(from + (to - from) * limit(v) ** power))];
  });
  // a middle back on the straight line says nothing
  const [a, b, c] = out;
  const straight = out.length === 3 && Math.abs(b![0] - (a![0] + c![0]) / 2) < 2e-4 && Math.abs(b![1] - (a![1] + c![1]) / 2) < 2e-4;
  return straight ? [a!, c!] : out;
}

/** Where 256 counts begin and end, leaving a thousandth at each side. */
export function countedEnds(counts: Uint32Array): [low: number, high: number] {
  const total = counts.reduce((a, b) => a + b, 0) / 1000,
    find = (from: number, way: 1 | -1): number => {
      let sum = 0,
        i = from;
      while (i >= 0 && i < 256 && (sum += counts[i]!) < total) i += way;
      return Math.min(255, Math.max(0, i));
    };
  return [find(0, 1), find(255, -1)];
}
