import type { Cover } from './cover.ts';
import type { Piece } from './mend.ts';

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
        all = [i, i + 1, i + width, i + width + 1],
        known = all.filter((k) => !hole[k]);
      out.hole[y * w + x] = known.length < 2 ? 1 : 0;
      const from = known.length > 0 ? known : all;
      planes.forEach((p, c) => {
        out.planes[c]![y * w + x] = from.reduce((sum, k) => sum + p[k]!, 0) / from.length;
      });
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

/** Where a patch may be taken from: all of it known and in the picture. */
function sources({ width, height, hole }: Level): { fits: Uint8Array; some: number[] } {
  const fits = new Uint8Array(width * height),
    some: number[] = [],
    sum = new Int32Array((width + 1) * (height + 1));
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      sum[(y + 1) * (width + 1) + x + 1] =
        hole[y * width + x]! + sum[y * (width + 1) + x + 1]! + sum[(y + 1) * (width + 1) + x]! - sum[y * (width + 1) + x]!;
  for (let y = half; y < height - half; y++)
    for (let x = half; x < width - half; x++) {
      const [x0, y0, x1, y1] = [x - half, y - half, x + half + 1, y + half + 1];
      if (sum[y1 * (width + 1) + x1]! - sum[y0 * (width + 1) + x1]! - sum[y1 * (width + 1) + x0]! + sum[y0 * (width + 1) + x0]! > 0)
        continue;
      fits[y * width + x] = 1;
      some.push(y * width + x);
    }
  return { fits, some };
}
/** The squares of what two patches differ by, in sum; given up where it passes `most`. Places outside the picture count for nothing. */
function apart({ width, height, planes }: Level, a: number, b: number, most: number): number {
  const [ax, ay, bx, by] = [a % width, Math.floor(a / width), b % width, Math.floor(b / width)];
  let sum = 0;
  for (let v = -half; v <= half; v++) {
    if (ay + v < 0 || ay + v >= height) continue;
    const left = Math.max(-half, -ax),
      right = Math.min(half, width - 1 - ax);
    for (let c = 0; c < 3; c++) {
      const p = planes[c]!,
        i = (ay + v) * width + ax,
        k = (by + v) * width + bx;
      for (let u = left; u <= right; u++) {
        const d = p[i + u]! - p[k + u]!;
        sum += d * d;
      }
    }
    if (sum > most) return sum;
  }
  return sum;
}

/** For each place of the hole, and so near it that its patch reaches in: where the patch most like it lies. Begun from `from`. */
function nearest(
  level: Level,
  from: Int32Array | null,
  rounds: number,
  random: () => number,
): { field: Int32Array; targets: number[]; cost: Float32Array } {
  const { width, height, hole, planes } = level,
    { fits, some } = sources(level),
    field = new Int32Array(width * height).fill(-1),
    cost = new Float32Array(width * height).fill(Infinity),
    targets: number[] = [];
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) if (hole[y * width + x]) targets.push(y * width + x);
  if (some.length === 0) return { field, targets: [], cost };
  const any = (): number => some[Math.floor(random() * some.length)]!;
  for (const i of targets) {
    const begun = from?.[i] ?? -1;
    field[i] = begun >= 0 && fits[begun] ? begun : any();
  }
  for (let round = 0; round < rounds; round++) {
    for (const i of targets) cost[i] = apart(level, i, field[i]!, Infinity);
    for (let pass = 0; pass < 2; pass++) {
      const way = pass === 0 ? 1 : -1;
      for (let n = 0; n < targets.length; n++) {
        const i = targets[way > 0 ? n : targets.length - 1 - n]!,
          x = i % width,
          offer = (k: number): void => {
            if (k < 0 || k >= fits.length || !fits[k] || k === field[i]) return;
            const c = apart(level, i, k, cost[i]!);
            if (c < cost[i]!) {
              cost[i] = c;
              field[i] = k;
            }
          };
        // what serves the neighbours serves here, one further (Barnes and others 2009)
        if (x - way >= 0 && x - way < width && field[i - way]! >= 0) offer(field[i - way]! + way);
        const above = i - way * width;
        if (above >= 0 && above < field.length && field[above]! >= 0) offer(field[above]! + way * width);
        const best = field[i]!;
        for (let r = from ? wander : Math.max(width, height); r >= 1; r /= 3) {
          const u = Math.round((best % width) + (random() * 2 - 1) * r),
            v = Math.round(Math.floor(best / width) + (random() * 2 - 1) * r);
          if (u >= 0 && u < width && v >= 0 && v < height) offer(v * width + u);
        }
      }
    }
    // every place becomes what the patches over it say, those that fit better saying more (Wexler, Shechtman and Irani 2007)
    if (round < rounds - 1) vote(level, field, cost, targets, planes);
  }
  return { field, targets, cost };
}
function vote({ width, height }: Level, field: Int32Array, cost: Float32Array, targets: readonly number[], planes: Float32Array[]): void {
  const sorted = Float32Array.from(targets, (i) => cost[i]!).sort(),
    spread = Math.max(1e-6, sorted[Math.floor(sorted.length * 0.75)]!),
    next = planes.map(() => new Float32Array(targets.length));
  targets.forEach((i, n) => {
    const x = i % width,
      y = Math.floor(i / width);
    let weights = 0;
    const sum = [0, 0, 0];
    for (let v = Math.max(-half, -y); v <= Math.min(half, height - 1 - y); v++)
      for (let u = Math.max(-half, -x); u <= Math.min(half, width - 1 - x); u++) {
        const k = i + v * width + u;
        if (field[k]! < 0) continue;
        const w = Math.exp(-cost[k]! / (2 * spread)) + 1e-9,
          from = field[k]! - v * width - u;
        weights += w;
        for (let c = 0; c < 3; c++) sum[c]! += w * planes[c]![from]!;
      }
    for (let c = 0; c < 3; c++) next[c]![n] = weights > 0 ? sum[c]! / weights : planes[c]![i]!;
  });
  targets.forEach((i, n) => {
    for (let c = 0; c < 3; c++) planes[c]![i] = next[c]![n]!;
  });
}

/**
 * What could stand in a hole, from what stands round it: small patches most like their surroundings, from coarse to fine (Wexler,
 * Shechtman and Irani 2007), found by PatchMatch (Barnes, Shechtman, Finkelstein and Goldman 2009). At the finest size each place is
 * taken whole from where its patch lies, so that noise stays noise. @returns three planes of the cover's box, plate numbers
 */
export function fillHole(near: Piece, { box, alpha }: Cover): Float32Array[] {
  const { width, height, data } = near,
    n = width * height,
    hole = new Uint8Array(n);
  for (let y = 0; y < box.height; y++)
    for (let x = 0; x < box.width; x++) if (alpha[y * box.width + x]! > 0) hole[(y + box.y - near.y) * width + x + box.x - near.x] = 1;
  const levels: Level[] = [
    { width, height, hole, planes: [0, 1, 2].map((c) => Float32Array.from(data.subarray(c * n, (c + 1) * n), (v) => Math.sqrt(v))) },
  ];
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
    const found = nearest(level, from, roundsAt(l), random);
    field = found.field;
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
