import { distanceFrom } from '../render/distance.ts';
import { grown, type Area, type Size } from '../plate/area.ts';
import { boxOf, coverOf } from './cover.ts';
import type { Piece } from './mend.ts';
import { rootsOf } from './roots.ts';
import type { RepairKind, Shape } from './repairs.ts';

/** How far round a place a source is looked for: so many times its longer side, and at least so many pixels of the level it is looked for at. */
const reachOf = (box: Area): number => Math.max(40, Math.round(Math.max(box.width, box.height) * 3));
/** A place's radius in pixels at the level a source is looked for at: large enough to tell texture, small enough to be quick. */
export const soughtRadius = 9;
/** How many places are tried at most. */
const mostPlaces = 12_000;
/** The rectangle of a level that is looked through. */
export function soughtIn(shape: Shape, size: Size): Area | null {
  const box = boxOf(shape, size);
  return box && grown(box, reachOf(box), size);
}
/** The mean of a plane at places, moved. */
function meanOf(of: readonly number[], p: Float32Array, by: number): number {
  let sum = 0;
  for (let i = 0; i < of.length; i++) sum += p[of[i]! + by]!;
  return sum / of.length;
}
const placesWhere = (count: number, holds: (k: number) => boolean): number[] => {
  const out: number[] = [];
  for (let k = 0; k < count; k++) if (holds(k)) out.push(k);
  return out;
};
const every = <T>(of: readonly T[], most: number): T[] => of.filter((_, i) => i % Math.max(1, Math.ceil(of.length / most)) === 0);

/**
 * Where something could be taken from that covers a shape: of all places near it the one whose surroundings are most like the shape's
 * own, and in which nothing stands out more than round the shape (no strong edge). For a heal only how they vary counts, since their
 * light is met. `piece` is what `soughtIn` asks for, of a level of this size; `nth` counts from 0: the next best that is not the same.
 * @returns offset in shares of width and height; null where there is no room
 */
export function findSource(piece: Piece, size: Size, shape: Shape, kind: RepairKind, nth = 0): { dx: number; dy: number } | null {
  const cover = coverOf(shape, size);
  if (!cover) return null;
  const { box, alpha } = cover,
    { width, height } = piece,
    n = width * height,
    light = rootsOf(piece.data, n),
    near = new Uint8Array(n);
  for (let j = 0; j < box.height; j++)
    for (let i = 0; i < box.width; i++) if (alpha[j * box.width + i]! > 0) near[(box.y + j - piece.y) * width + box.x + i - piece.x] = 1;
  const inside = placesWhere(near.length, (k) => near[k] === 1),
    // how far a shape reaches to either side, in pixels
    half = 'radius' in shape ? shape.radius * Math.max(size.width, size.height) : Math.sqrt(inside.length / Math.PI),
    distance = distanceFrom(near, width, height),
    band = Math.max(3, Math.round(half * 0.8)),
    ring = placesWhere(near.length, (k) => distance[k]! > 0 && distance[k]! <= 3 * band);
  if (inside.length === 0 || ring.length === 0) return null;
  const own = light.map((p) => meanOf(ring, p, 0)),
    spread = light.map((p, c) => ring.reduce((sum, k) => sum + (p[k]! - own[c]!) ** 2, 0) / ring.length + 1);
  /** How unlike a place so far off is, judged at some of its pixels. */
  const unlikeAt = (by: number, about: readonly number[], within: readonly number[], stop: number): number => {
    let score = 0;
    for (let c = 0; c < 3 && score < stop; c++) {
      const p = light[c]!,
        mean = meanOf(about, p, by),
        met = kind === 'heal' ? mean - own[c]! : 0;
      let unlike = 0;
      for (let i = 0; i < about.length; i++) unlike += (p[about[i]! + by]! - met - p[about[i]!]!) ** 2;
      const middle = meanOf(within, p, by);
      let stands = 0;
      for (let i = 0; i < within.length; i++) stands += (p[within[i]! + by]! - middle) ** 2;
      score +=
        (unlike / about.length +
          // what stands out more than round the place itself
          2 * Math.max(0, stands / within.length - spread[c]!) +
          0.5 * (middle - mean) ** 2 +
          // light that is far off carries other noise
          0.02 * (mean - own[c]!) ** 2) /
        spread[c]!;
    }
    return score;
  };
  // all that is compared has to lie in the piece, wherever it is moved
  let [x0, x1, y0, y1] = [width, 0, height, 0];
  for (const of of [inside, ring])
    for (const k of of) {
      const x = k % width,
        y = (k - x) / width;
      x0 = Math.min(x0, x);
      x1 = Math.max(x1, x);
      y0 = Math.min(y0, y);
      y1 = Math.max(y1, y);
    }
  const room = Math.max(0, width - x1 + x0) * Math.max(0, height - y1 + y0),
    step = Math.max(1, Math.round(half * 0.35), Math.ceil(Math.sqrt(room / mostPlaces))),
    [few, fewer] = [every(ring, 48), every(inside, 32)],
    [many, more] = [every(ring, 260), every(inside, 160)],
    far = (u: number, v: number): number => 1 + Math.hypot(u, v) / (6 * Math.max(width, height));
  let found: { u: number; v: number; score: number }[] = [];
  for (let v = -y0; v < height - y1; v += step)
    for (let u = -x0; u < width - x1; u += step) {
      const by = v * width + u;
      // none of it may be taken from the place itself
      if (more.some((k) => near[k + by])) continue;
      found.push({ u, v, score: unlikeAt(by, few, fewer, Infinity) * far(u, v) });
    }
  // the best at some pixels are judged at many
  found = found
    .sort((a, b) => a.score - b.score)
    .slice(0, 200)
    .map(({ u, v }) => ({ u, v, score: unlikeAt(v * width + u, many, more, Infinity) * far(u, v) }));
  found.sort((a, b) => a.score - b.score);
  const kept: typeof found = [];
  for (const f of found) {
    if (kept.every((k) => Math.hypot(k.u - f.u, k.v - f.v) > half)) kept.push(f);
    if (kept.length > nth) break;
  }
  const best = kept[nth % Math.max(1, kept.length)];
  return best ? { dx: best.u / size.width, dy: best.v / size.height } : null;
}
