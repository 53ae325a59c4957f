import type { Kernels } from '../kernels/kernels.ts';
import { layOut } from '../render/arena.ts';
import type { Cover } from './cover.ts';
import type { Piece } from './mend.ts';
import { rootsOf } from './roots.ts';

/** Half a patch’s side less a half, in pixels, and how often patches are looked for anew at each size. */
const half = 3,
  side = 2 * half + 1;
const roundsAt = (level: number): number => (level === 0 ? 1 : level === 1 ? 2 : 4);
/** How far from where it lies a better patch is looked for by chance, at most, where a coarser size has said where to begin. */
const wander = 24;

interface Level {
  width: number;
  height: number;
  /** three planes, in the square root of light, where noise is alike in darks and lights */
  planes: Float32Array[];
  hole: Uint8Array;
}
function halved({ width, height, planes, hole }: Level): Level {
  const w = width >> 1,
    h = height >> 1,
    out: Level = { width: w, height: h, planes: planes.map(() => new Float32Array(w * h)), hole: new Uint8Array(w * h) };
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = 2 * y * width + 2 * x,
        unknown = hole[i]! + hole[i + 1]! + hole[i + width]! + hole[i + width + 1]!;
      out.hole[y * w + x] = unknown > 2 ? 1 : 0;
      // of what is known; where nothing is, of what stands there
      const own = (k: number): number => (unknown === 4 ? 1 : 1 - hole[k]!),
        [a, b, c, d] = [own(i), own(i + 1), own(i + width), own(i + width + 1)] as [number, number, number, number],
        all = a + b + c + d;
      for (let p = 0; p < 3; p++) {
        const from = planes[p]!;
        out.planes[p]![y * w + x] = (a * from[i]! + b * from[i + 1]! + c * from[i + width]! + d * from[i + width + 1]!) / all;
      }
    }
  return out;
}
/** A row of numbers that look random and are the same on every machine (xorshift, Marsaglia 2003). */
function numbers(seed: number): () => number {
  let s = seed | 1;
  return () => {
    s ^= s << 13;
    s ^= s >>> 17;
    s ^= s << 5;
    return (s >>> 0) / 4294967296;
  };
}

/** The places of a level at which a byte is set. */
function placesOf(set: Uint8Array): Int32Array {
  const out = new Int32Array(set.length);
  let count = 0;
  for (let i = 0; i < set.length; i++) if (set[i]) out[count++] = i;
  return out.subarray(0, count);
}
/** Where a patch may be taken from: all of it known and in the picture. */
function sources({ width, height, hole }: Level): Uint8Array {
  const across = new Uint8Array(width * height),
    fits = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = half; x < width - half; x++) {
      let some = 0;
      for (let u = -half; u <= half; u++) some |= hole[y * width + x + u]!;
      across[y * width + x] = some ? 0 : 1;
    }
  for (let y = half; y < height - half; y++)
    for (let x = 0; x < width; x++) {
      let all = 1;
      for (let v = -half; v <= half; v++) all &= across[(y + v) * width + x]!;
      fits[y * width + x] = all;
    }
  return fits;
}
/**
 * For each place of the hole: where the patch most like its own lies (Barnes and others 2009). Begun from `from`; between rounds every
 * place becomes what the patches over it say. `each` is called after every pass.
 */
function nearest(
  kernels: Kernels,
  level: Level,
  from: Int32Array | null,
  rounds: number,
  random: () => number,
  each: (share: number) => void,
): Int32Array {
  const { width, height, hole, planes } = level,
    fits = sources(level),
    some = placesOf(fits),
    targets = placesOf(hole),
    n = width * height,
    count = targets.length;
  if (some.length === 0) return new Int32Array(n).fill(-1);
  const at = layOut(kernels, {
      planes: 12 * n,
      fits: n,
      targets: 4 * count,
      field: 4 * n,
      cost: 4 * n,
      says: 4 * n,
      voted: 12 * count,
      state: 4,
    }),
    { exports: e } = kernels,
    f32 = kernels.f32(),
    field = new Int32Array(f32.buffer, at.field, n).fill(-1);
  for (const i of targets) {
    const begun = from?.[i] ?? -1;
    field[i] = begun >= 0 && fits[begun] ? begun : some[Math.floor(random() * some.length)]!;
  }
  kernels.u8().set(fits, at.fits);
  new Int32Array(f32.buffer, at.targets, count).set(targets);
  new Uint32Array(f32.buffer, at.state, 1)[0] = Math.floor(random() * 4294967295) | 1;
  planes.forEach((p, c) => f32.set(p, at.planes / 4 + c * n));
  for (let round = 0; round < rounds; round++) {
    e.patchCosts(at.planes, width, height, at.targets, count, at.field, at.cost);
    for (const backwards of [false, true]) {
      const furthest = from ? wander : Math.max(width, height);
      e.patchPass(at.planes, width, height, at.fits, at.targets, count, at.field, at.cost, backwards, furthest, at.state);
      each((round + (backwards ? 1 : 0.5)) / rounds);
    }
    if (round === rounds - 1) break;
    // those that fit better say more (Wexler, Shechtman and Irani 2007)
    const cost = Float32Array.from(targets, (i) => f32[at.cost / 4 + i]!),
      spread = Math.max(1e-6, Float32Array.from(cost).sort()[Math.floor(count * 0.75)]!);
    f32.fill(0, at.says / 4, at.says / 4 + n);
    for (let k = 0; k < count; k++) f32[at.says / 4 + targets[k]!] = Math.exp(-cost[k]! / (2 * spread)) + 1e-9;
    e.patchVote(at.planes, width, height, at.targets, count, at.field, at.says, at.voted);
    for (let c = 0; c < 3; c++)
      for (let k = 0; k < count; k++) f32[at.planes / 4 + c * n + targets[k]!] = f32[at.voted / 4 + c * count + k]!;
  }
  planes.forEach((p, c) => p.set(f32.subarray(at.planes / 4 + c * n, at.planes / 4 + (c + 1) * n)));
  return Int32Array.from(field);
}

/**
 * What could stand in a hole, from what stands round it: small patches most like their surroundings, from coarse to fine (Wexler,
 * Shechtman and Irani 2007), found by PatchMatch (Barnes, Shechtman, Finkelstein and Goldman 2009). At the finest size each place is
 * taken whole from where its patch lies, so that noise stays noise. `each` is told how far it is, 0–1. @returns three planes of the cover's box, plate numbers
 */
export function fillHole(kernels: Kernels, near: Piece, { box, alpha }: Cover, each: (share: number) => void = () => {}): Float32Array[] {
  const { width, height, data } = near,
    n = width * height,
    hole = new Uint8Array(n);
  for (let y = 0; y < box.height; y++)
    for (let x = 0; x < box.width; x++) if (alpha[y * box.width + x]! > 0) hole[(y + box.y - near.y) * width + x + box.x - near.x] = 1;
  const levels: Level[] = [{ width, height, hole, planes: rootsOf(data, n) }];
  const widest = Math.min(box.width, box.height);
  while (widest >> levels.length > 6 && Math.min(width, height) >> levels.length > 4 * side && levels.length < 7)
    levels.push(halved(levels[levels.length - 1]!));
  const random = numbers(0x9e3779b9 ^ (box.x * 73856093) ^ (box.y * 19349663));
  let field: Int32Array | null = null,
    last: Level | null = null;
  for (let l = levels.length - 1; l >= 0; l--) {
    const level = levels[l]!;
    let from: Int32Array | null = null;
    if (field && last) {
      from = new Int32Array(level.width * level.height).fill(-1);
      for (let y = 0; y < level.height; y++)
        for (let x = 0; x < level.width; x++) {
          const i = y * level.width + x,
            k = Math.min(last.height - 1, y >> 1) * last.width + Math.min(last.width - 1, x >> 1);
          if (!level.hole[i] || field[k]! < 0) continue;
          const u = (field[k]! % last.width) * 2 + (x & 1),
            v = Math.floor(field[k]! / last.width) * 2 + (y & 1);
          if (u < level.width && v < level.height) {
            from[i] = v * level.width + u;
            for (let c = 0; c < 3; c++) level.planes[c]![i] = level.planes[c]![v * level.width + u]!;
          }
        }
    } else smear(level);
    // a level has four times the places of the one before it
    field = nearest(kernels, level, from, roundsAt(l), random, (share) => each(4 ** -l * (0.25 + 0.75 * share)));
    last = level;
  }
  const out = [0, 1, 2].map(() => new Float32Array(box.width * box.height));
  for (let y = 0; y < box.height; y++)
    for (let x = 0; x < box.width; x++) {
      const i = (y + box.y - near.y) * width + x + box.x - near.x,
        k = hole[i] && field![i]! >= 0 ? field![i]! : i;
      for (let c = 0; c < 3; c++) out[c]![y * box.width + x] = data[c * n + k]!;
    }
  return out;
}
/** A first guess at the coarsest size: what stands round the hole runs into it from the edge inwards. */
function smear({ width, height, hole, planes }: Level): void {
  const left = Uint8Array.from(hole);
  for (let more = true; more;) {
    more = false;
    const now = Uint8Array.from(left);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const i = y * width + x;
        if (!now[i]) continue;
        const from = [x > 0 ? i - 1 : -1, x < width - 1 ? i + 1 : -1, y > 0 ? i - width : -1, y < height - 1 ? i + width : -1].filter(
          (k) => k >= 0 && !now[k],
        );
        if (from.length === 0) continue;
        for (const p of planes) p[i] = from.reduce((sum, k) => sum + p[k]!, 0) / from.length;
        left[i] = 0;
        more = true;
      }
  }
}
