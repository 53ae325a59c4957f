import type { Plate } from '../plate/plate.ts';
import { plateOffset } from '../plate/scale.ts';

/** A speck on the sensor, as it shows in a frame: middle in shares of width and height, radius in shares of the long edge. */
export interface Speck {
  x: number;
  y: number;
  radius: number;
  /** how much darker it is, in EV, and how far that is over what varies round it (deviations) */
  depth: number;
  sure: number;
}
/** Long edge of the picture specks are looked for in, in pixels. */
export const dustEdge = 1700;
/** How many deviations a speck has to stand out by: alone in one frame, and where other frames are asked too. */
export const usualLeast = 5,
  sharedLeast = 3.5;

/** Means over squares of so many pixels each way, three times over: near a Gaussian (central limit). */
function blurred(from: Float32Array, width: number, height: number, sigma: number): Float32Array {
  const reach = Math.max(1, Math.round(Math.sqrt((12 * sigma * sigma) / 3 + 1) / 2 - 0.5));
  let a = Float32Array.from(from),
    b = new Float32Array(from.length);
  const along = (p: Float32Array, q: Float32Array, count: number, step: number, lines: number, next: number): void => {
    for (let l = 0; l < lines; l++) {
      const o = l * next;
      let sum = 0;
      for (let k = -reach; k <= reach; k++) sum += p[o + Math.min(count - 1, Math.max(0, k)) * step]!;
      for (let i = 0; i < count; i++) {
        q[o + i * step] = sum / (2 * reach + 1);
        sum += p[o + Math.min(count - 1, i + reach + 1) * step]! - p[o + Math.max(0, i - reach) * step]!;
      }
    }
  };
  for (let pass = 0; pass < 3; pass++) {
    along(a, b, width, 1, height, width);
    [a, b] = [b, a];
    along(a, b, height, width, width, 1);
    [a, b] = [b, a];
  }
  return a;
}
/** Green light of a plate in EV. */
function evOf({ width, height, data }: Plate): Float32Array {
  const n = width * height;
  const ev = new Float32Array(n);
  for (let i = 0; i < n; i++) ev[i] = Math.log2(Math.max(24, data[n + i]! - plateOffset));
  return ev;
}
/** A picture that shows dust: how far each place is from what lies round it, in EV. */
export function dustPicture(plate: Plate): Float32Array {
  const ev = evOf(plate),
    fine = blurred(ev, plate.width, plate.height, 1.2),
    wide = blurred(ev, plate.width, plate.height, 14);
  return fine.map((v, i) => v - wide[i]!);
}

/** Sizes looked for (deviation of the Gaussian, in pixels), and how much wider what is round is taken to be. */
const sizes = [1.6, 2.3, 3.2, 4.5, 6.4, 9],
  wider = 1.6;
/** How round a speck has to be: the lesser of its two bends over the greater. */
const leastRound = 0.35,
  leastDepth = 0.06,
  mostDepth = 1.4;

/**
 * Specks of dust in a frame: small round soft places darker than what is round them, where that is clean enough to tell. The greatest
 * answers of differences of Gaussians over places and sizes (Lindeberg 1998), kept where they are round and stand out by `least`
 * deviations of what lies round them.
 */
export function specksIn(plate: Plate, least = usualLeast): Speck[] {
  const { width, height } = plate,
    edge = Math.max(width, height),
    ev = evOf(plate),
    smooth = sizes.map((s) => blurred(ev, width, height, s)),
    rounds = sizes.map((s) => blurred(ev, width, height, s * wider)),
    answers = sizes.map((_, k) => rounds[k]!.map((v, i) => v - smooth[k]![i]!));
  const found: Speck[] = [];
  for (let k = 0; k < sizes.length; k++) {
    const d = answers[k]!,
      margin = Math.ceil(sizes[k]! * 2),
      r = sizes[k]! * 1.5;
    for (let y = margin; y < height - margin; y++)
      for (let x = margin; x < width - margin; x++) {
        const i = y * width + x,
          v = d[i]!;
        if (v < leastDepth * 0.35) continue;
        if (
          v < d[i - 1]! ||
          v < d[i + 1]! ||
          v < d[i - width]! ||
          v < d[i + width]! ||
          v < d[i - width - 1]! ||
          v < d[i + width + 1]! ||
          v < d[i - width + 1]! ||
          v < d[i + width - 1]!
        )
          continue;
        if ((k > 0 && answers[k - 1]![i]! > v) || (k < sizes.length - 1 && answers[k + 1]![i]! > v)) continue;
        // how it bends each way: a line bends across and not along
        const h = Math.max(1, Math.round(sizes[k]!)),
          xx = d[i - h]! + d[i + h]! - 2 * v,
          yy = d[i - h * width]! + d[i + h * width]! - 2 * v,
          xy = (d[i + h * width + h]! + d[i - h * width - h]! - d[i + h * width - h]! - d[i - h * width + h]!) / 4,
          mean = (xx + yy) / 2,
          apart = Math.sqrt(((xx - yy) / 2) ** 2 + xy * xy),
          round = (mean + apart) / (mean - apart);
        if (!(mean + apart < 0) || round < leastRound) continue;
        // what lies round it, in a ring, at the same smoothness; a slope is no unrest
        const ring: number[] = [];
        for (let a = 0; a < 32; a++) {
          const t = (a / 32) * 2 * Math.PI,
            far = r * (a % 2 === 0 ? 2.1 : 3),
            u = Math.round(x + far * Math.cos(t)),
            w = Math.round(y + far * Math.sin(t));
          if (u >= 0 && w >= 0 && u < width && w < height) ring.push(w * width + u);
        }
        if (ring.length < 20) continue;
        const level = flat(ring, smooth[k]!, x, y, width),
          depth = level.middle - smooth[k]![i]!,
          // texture answers everywhere; a speck stands alone
          crowd = crowdOf(d, x, y, r, width, height),
          sure = Math.min(depth / (level.unrest + 0.004), v / (crowd + 0.0012));
        if (depth < leastDepth || depth > mostDepth || sure < least) continue;
        found.push({ x: (x + 0.5) / width, y: (y + 0.5) / height, radius: (r * 1.65) / edge, depth, sure });
      }
  }
  // one speck shows at one size
  found.sort((a, b) => b.sure - a.sure);
  const kept: Speck[] = [];
  for (const s of found)
    if (kept.every((o) => Math.hypot((o.x - s.x) * width, (o.y - s.y) * height) > (o.radius + s.radius) * edge * 0.7)) kept.push(s);
  return kept;
}
/** How strongly the places farther round answer, as a deviation. */
function crowdOf(d: Float32Array, x: number, y: number, r: number, width: number, height: number): number {
  let squares = 0,
    n = 0;
  for (let a = 0; a < 72; a++) {
    const t = (a * 2.399963) % (2 * Math.PI),
      far = r * (2.6 + (a / 72) * 5),
      u = Math.round(x + far * Math.cos(t)),
      w = Math.round(y + far * Math.sin(t));
    if (u < 0 || w < 0 || u >= width || w >= height) continue;
    squares += d[w * width + u]! ** 2;
    n++;
  }
  return n > 0 ? Math.sqrt(squares / n) : Infinity;
}
/** The plane through places of a picture by least squares: what it is in the middle, and how far the places are from it. */
function flat(places: readonly number[], p: Float32Array, x: number, y: number, width: number): { middle: number; unrest: number } {
  let [sx, sy, sv, sxx, syy, sxy, sxv, syv] = [0, 0, 0, 0, 0, 0, 0, 0];
  const n = places.length;
  for (const i of places) {
    const u = (i % width) - x,
      w = Math.floor(i / width) - y,
      v = p[i]!;
    sx += u;
    sy += w;
    sv += v;
    sxx += u * u;
    syy += w * w;
    sxy += u * w;
    sxv += u * v;
    syv += w * v;
  }
  const [cxx, cyy, cxy, cxv, cyv] = [
      sxx - (sx * sx) / n,
      syy - (sy * sy) / n,
      sxy - (sx * sy) / n,
      sxv - (sx * sv) / n,
      syv - (sy * sv) / n,
    ],
    det = cxx * cyy - cxy * cxy || 1,
    a = (cxv * cyy - cyv * cxy) / det,
    b = (cyv * cxx - cxv * cxy) / det,
    middle = (sv - a * sx - b * sy) / n;
  let squares = 0;
  for (const i of places) squares += (p[i]! - middle - a * ((i % width) - x) - b * (Math.floor(i / width) - y)) ** 2;
  return { middle, unrest: Math.sqrt(squares / Math.max(1, n - 3)) };
}

/** A speck that several frames show at one place of the sensor, and in which of them it can be seen. */
export interface SharedSpeck extends Omit<Speck, 'depth' | 'sure'> {
  /** counts of the list of frames */
  frames: number[];
}
/**
 * Specks that lie at one place of the sensor in several frames of one camera, of the same size and turned the same way. A speck has
 * to show in at least two frames, and in a quarter of them: what stands at one place of one picture is part of it.
 */
export function sharedSpecks(frames: readonly (readonly Speck[])[], size: { width: number; height: number }): SharedSpeck[] {
  const edge = Math.max(size.width, size.height),
    groups: { x: number; y: number; radius: number; members: { frame: number; speck: Speck }[] }[] = [];
  frames.forEach((specks, frame) => {
    for (const speck of specks) {
      const near = groups.find(
        (g) =>
          Math.hypot((g.x - speck.x) * size.width, (g.y - speck.y) * size.height) < 0.8 * Math.max(g.radius, speck.radius) * edge &&
          !g.members.some((m) => m.frame === frame),
      );
      if (!near) groups.push({ ...speck, members: [{ frame, speck }] });
      else {
        near.members.push({ frame, speck });
        for (const key of ['x', 'y', 'radius'] as const)
          near[key] = near.members.reduce((sum, m) => sum + m.speck[key], 0) / near.members.length;
      }
    }
  });
  return groups
    .filter((g) => g.members.length >= Math.max(2, frames.length * 0.25))
    .sort((a, b) => b.members.length - a.members.length)
    .map(({ x, y, radius, members }) => ({
      x,
      y,
      radius: Math.max(radius, ...members.map((m) => m.speck.radius)),
      frames: members.map((m) => m.frame),
    }));
}
