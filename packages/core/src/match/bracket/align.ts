import { plateOffset, plateScale, type Plate } from '../../plate/plate.ts';
import { featuresOf, pairsOf } from '../features.ts';
import { homographyOf, project, type Homography } from '../homography.ts';

export const identity: Homography = [1, 0, 0, 0, 1, 0, 0, 0, 1];
/** Long edge of the plates that places are known again on, at most. */
const knownEdge = 900;
/** Places that must agree for two pictures to be of one view. */
const leastAgreeing = 10;
/** Camera light that is lost in the dark, or clips. */
const [dark, full] = [1.5e-3, 0.93];

/** A plate and how much more light it let in than the reference. */
interface Exposed {
  plate: Plate;
  ev: number;
}
/** log₂ of the light of a place as the reference would have it; no number where it clips or is lost. */
function logAt({ plate: { width, height, data }, ev }: Exposed, i: number): number {
  const n = width * height,
    r = (data[i]! - plateOffset) / plateScale,
    g = (data[n + i]! - plateOffset) / plateScale,
    b = (data[2 * n + i]! - plateOffset) / plateScale,
    light = (r + 2 * g + b) / 4;
  return light < dark || Math.max(r, g, b) > full ? NaN : Math.log2(light) - ev;
}
/** The places of a small plate that are known again; what clips or is lost is flat. */
function knownOf(of: Exposed): ReturnType<typeof featuresOf> {
  const { width, height, data } = of.plate,
    n = width * height,
    log = Float32Array.from({ length: n }, (_, i) => logAt(of, i));
  let [low, high] = [Infinity, -Infinity];
  for (const v of log) if (!Number.isNaN(v)) [low, high] = [Math.min(low, v), Math.max(high, v)];
  for (let i = 0; i < n; i++) if (Number.isNaN(log[i])) log[i] = data[n + i]! > plateOffset + plateScale / 2 ? high : low;
  return featuresOf(log, width, height);
}

type Pair = readonly [from: readonly [number, number], to: readonly [number, number]];
/** Pairs that one similarity explains, the most of many tried (RANSAC: Fischler and Bolles 1981). */
function agreeing(pairs: readonly Pair[], tolerance: number): Pair[] {
  let best: Pair[] = [],
    state = 12345;
  const pick = (): Pair => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return pairs[state % pairs.length]!;
  };
  for (let round = 0; round < 600 && pairs.length >= 2; round++) {
    const [p, q] = [pick(), pick()],
      [dx, dy] = [q[0][0] - p[0][0], q[0][1] - p[0][1]],
      [ex, ey] = [q[1][0] - p[1][0], q[1][1] - p[1][1]],
      length = dx * dx + dy * dy;
    if (length < 900) continue;
    const a = (dx * ex + dy * ey) / length,
      b = (dx * ey - dy * ex) / length;
    // exposures of a bracket are taken from one place through one lens
    if (Math.abs(Math.hypot(a, b) - 1) > 0.05) continue;
    const fits = pairs.filter(([[x, y], [u, v]]) => {
      const [mx, my] = [x - p[0][0], y - p[0][1]];
      return Math.hypot(p[1][0] + a * mx - b * my - u, p[1][1] + b * mx + a * my - v) < tolerance;
    });
    if (fits.length > best.length) best = fits;
  }
  return best;
}
const mapOf = (pairs: readonly Pair[]): Homography | null =>
  homographyOf(
    pairs.map((p) => p[0]),
    pairs.map((p) => p[1]),
  );
/** A map of one level as one of the level that is larger by a power of two, in pixel centres. */
function larger(map: Homography, times: number): Homography {
  const up = (v: number): number => (v + 0.5) * times - 0.5,
    corners: [number, number][] = [
      [0, 0],
      [1000, 0],
      [0, 1000],
      [1000, 1000],
    ];
  return homographyOf(
    corners.map(([x, y]) => [up(x), up(y)]),
    corners.map(([x, y]) => project(map, [x, y]).map(up) as [number, number]),
  )!;
}

/** Half a block that is registered, in pixels, and how many stand across the picture. */
const half = 20,
  across = 12,
  /** how like two blocks must be (correlation), and up to how many pixels a picture has not moved */
  alike = 0.6,
  unmoved = 0.15;
/** Where a block of the reference lies in the other, from a guess, by Gauss and Newton (Lucas and Kanade 1981); null where it has too little to hold on to. */
function registered(reference: Exposed, other: Exposed, cx: number, cy: number, guess: readonly [number, number]): [number, number] | null {
  let [u, v] = guess;
  const side = 2 * half + 1,
    own = new Float32Array(side * side),
    { width } = reference.plate;
  let unknown = 0;
  for (let j = -half; j <= half; j++)
    for (let i = -half; i <= half; i++) {
      const value = logAt(reference, (cy + j) * width + cx + i);
      own[(j + half) * side + i + half] = value;
      if (Number.isNaN(value)) unknown++;
    }
  if (unknown > side * side * 0.3) return null;
  const { width: theirs, height } = other.plate,
    at = (x: number, y: number): number => {
      const x0 = Math.floor(x),
        y0 = Math.floor(y);
      if (x0 < 0 || y0 < 0 || x0 + 1 >= theirs || y0 + 1 >= height) return NaN;
      const o = y0 * theirs + x0,
        [fx, fy] = [x - x0, y - y0],
        [a, b, c, d] = [o, o + 1, o + theirs, o + theirs + 1].map((i) => logAt(other, i)) as [number, number, number, number],
        top = a + (b - a) * fx,
        low = c + (d - c) * fx;
      return top + (low - top) * fy;
    };
  for (let round = 0; round < 12; round++) {
    let [xx, xy, yy, xe, ye, count, mean, sx, sy] = [0, 0, 0, 0, 0, 0, 0, 0, 0],
      [a, b, aa, bb, ab] = [0, 0, 0, 0, 0];
    const parts: number[] = [];
    for (let j = 1 - half; j < half; j++)
      for (let i = 1 - half; i < half; i++) {
        const k = (j + half) * side + i + half,
          gx = (own[k + 1]! - own[k - 1]!) / 2,
          gy = (own[k + side]! - own[k - side]!) / 2,
          there = at(u + i, v + j),
          e = own[k]! - there;
        if (Number.isNaN(gx + gy + e)) continue;
        parts.push(gx, gy, e);
        a += own[k]!;
        b += there;
        aa += own[k]! ** 2;
        bb += there ** 2;
        ab += own[k]! * there;
        count++;
        mean += e;
        sx += gx;
        sy += gy;
      }
    if (count < (side * side) / 3) return null;
    mean /= count;
    sx /= count;
    sy /= count;
    for (let k = 0; k < parts.length; k += 3) {
      const [gx, gy, e] = [parts[k]! - sx, parts[k + 1]! - sy, parts[k + 2]! - mean];
      xx += gx * gx;
      xy += gx * gy;
      yy += gy * gy;
      xe += gx * e;
      ye += gy * e;
    }
    const det = xx * yy - xy * xy,
      least = (xx + yy - Math.hypot(xx - yy, 2 * xy)) / 2;
    // a block without edges in both directions says nothing
    if (least / count < 2e-4 || det <= 0) return null;
    const [du, dv] = [(yy * xe - xy * ye) / det, (xx * ye - xy * xe) / det];
    u += du;
    v += dv;
    if (Math.hypot(u - guess[0], v - guess[1]) > 6) return null;
    if (Math.hypot(du, dv) < 0.02) {
      const like = (ab - (a * b) / count) / Math.sqrt(Math.max(1e-12, (aa - (a * a) / count) * (bb - (b * b) / count)));
      return like > alike ? [u, v] : null;
    }
  }
  return null;
}
/** The map again, from blocks registered on it. */
function refined(reference: Exposed, other: Exposed, map: Homography): Homography | null {
  const { width, height } = reference.plate,
    down = Math.max(3, Math.round((across * height) / width)),
    pairs: Pair[] = [];
  for (let j = 0; j < down; j++)
    for (let i = 0; i < across; i++) {
      const [cx, cy] = [Math.round(((i + 0.5) * width) / across), Math.round(((j + 0.5) * height) / down)];
      if (cx < half + 1 || cy < half + 1 || cx >= width - half - 1 || cy >= height - half - 1) continue;
      const found = registered(reference, other, cx, cy, project(map, [cx, cy]));
      if (found) pairs.push([[cx, cy], found]);
    }
  const kept = agreeing(pairs, 1),
    away = kept.map(([[x, y], [u, v]]) => Math.hypot(u - x, v - y)).sort((p, q) => p - q);
  if (kept.length >= leastAgreeing && away[away.length >> 1]! < unmoved) return identity;
  return kept.length >= leastAgreeing ? mapOf(kept) : null;
}

/**
 * The map that takes places of one exposure to those of another of the same view (pixel centres): places known again (Lowe 2004) on a
 * small level, then blocks registered level by level, light as either exposure lets it in. Null where they show no common view.
 * @param levels each exposure's levels, the full one first, alike in size
 * @param ev how much more light the other let in
 */
export function alignExposures(reference: readonly Plate[], other: readonly Plate[], ev: number): Homography | null {
  let level = reference.findIndex((p) => Math.max(p.width, p.height) <= knownEdge);
  if (level < 0) level = reference.length - 1;
  const pairs = pairsOf(knownOf({ plate: reference[level]!, ev: 0 }), knownOf({ plate: other[level]!, ev })).map(({ a, b }): Pair => [
      [a.x, a.y],
      [b.x, b.y],
    ]),
    first = agreeing(pairs, 2);
  // too few places may be known again where all is flat: then only a picture that did not move will do
  let map = first.length >= leastAgreeing ? mapOf(first) : identity;
  if (!map) return null;
  for (let at = level; at >= 0; at--) {
    const better = refined({ plate: reference[at]!, ev: 0 }, { plate: other[at]!, ev }, map);
    if (!better && at === level && first.length < leastAgreeing) return null;
    map = better ?? map;
    if (at > 0) map = larger(map, 2);
  }
  return map;
}
