import { s } from './maths';

// Shrinking of a plane's noise in overlapping blocks of 8 × 8 (Yu and Sapiro 2011, "DCT image denoising"): each block's cosine
// transform (DCT-II, orthonormal), every coefficient shrunk by the noise of its frequency, and back; then the mean of all
// blocks over a place. What blocks side by side share is done once: a row is transformed for every even place, columns
// only then; four blocks lie in the four lanes.

// @ts-ignore: decorator
@inline function add(a: v128, b: v128): v128 { return f32x4.add(a, b); }
// @ts-ignore: decorator
@inline function sub(a: v128, b: v128): v128 { return f32x4.sub(a, b); }
// @ts-ignore: decorator
@inline function times(a: f32, x: v128): v128 { return f32x4.mul(s(a), x); }
/** ½·cos(kπ/16), k = 1…7; the first coefficient has √⅛. */
const C1: f32 = 0.49039264, C2: f32 = 0.46193977, C3: f32 = 0.41573481, C4: f32 = 0.35355339, C5: f32 = 0.27778512, C6: f32 = 0.19134172, C7: f32 = 0.09754516;

/** Cosine transform of eight numbers, stored `step` apart. */
// @ts-ignore: decorator
@inline function forward(x0: v128, x1: v128, x2: v128, x3: v128, x4: v128, x5: v128, x6: v128, x7: v128, dst: usize, step: usize): void {
  const s0 = add(x0, x7), s1 = add(x1, x6), s2 = add(x2, x5), s3 = add(x3, x4);
  const d0 = sub(x0, x7), d1 = sub(x1, x6), d2 = sub(x2, x5), d3 = sub(x3, x4);
  const t0 = add(s0, s3), t1 = add(s1, s2), t2 = sub(s0, s3), t3 = sub(s1, s2);
  v128.store(dst, times(C4, add(t0, t1)));
  v128.store(dst + step, add(add(times(C1, d0), times(C3, d1)), add(times(C5, d2), times(C7, d3))));
  v128.store(dst + step * 2, add(times(C2, t2), times(C6, t3)));
  v128.store(dst + step * 3, sub(sub(times(C3, d0), times(C7, d1)), add(times(C1, d2), times(C5, d3))));
  v128.store(dst + step * 4, times(C4, sub(t0, t1)));
  v128.store(dst + step * 5, add(sub(times(C5, d0), times(C1, d1)), add(times(C7, d2), times(C3, d3))));
  v128.store(dst + step * 6, sub(times(C6, t2), times(C2, t3)));
  v128.store(dst + step * 7, add(sub(times(C7, d0), times(C5, d1)), sub(times(C3, d2), times(C1, d3))));
}
/** Keeps a number: stored, or added to what is there. */
// @ts-ignore: decorator
@inline function put(dst: usize, v: v128, adds: bool): void { v128.store(dst, adds ? add(v128.load(dst), v) : v); }
/** The inverse of `forward`, its eight numbers kept at eight places. */
// @ts-ignore: decorator
@inline function inverse(X0: v128, X1: v128, X2: v128, X3: v128, X4: v128, X5: v128, X6: v128, X7: v128, d0: usize, d1: usize, d2: usize, d3: usize, d4: usize, d5: usize, d6: usize, d7: usize, adds: bool): void {
  const a = times(C4, add(X0, X4)), b = times(C4, sub(X0, X4));
  const c = add(times(C2, X2), times(C6, X6)), d = sub(times(C6, X2), times(C2, X6));
  const e0 = add(a, c), e1 = add(b, d), e2 = sub(b, d), e3 = sub(a, c);
  const o0 = add(add(times(C1, X1), times(C3, X3)), add(times(C5, X5), times(C7, X7)));
  const o1 = sub(sub(times(C3, X1), times(C7, X3)), add(times(C1, X5), times(C5, X7)));
  const o2 = add(sub(times(C5, X1), times(C1, X3)), add(times(C7, X5), times(C3, X7)));
  const o3 = add(sub(times(C7, X1), times(C5, X3)), sub(times(C3, X5), times(C1, X7)));
  put(d0, add(e0, o0), adds); put(d1, add(e1, o1), adds); put(d2, add(e2, o2), adds); put(d3, add(e3, o3), adds);
  put(d4, sub(e3, o3), adds); put(d5, sub(e2, o2), adds); put(d6, sub(e1, o1), adds); put(d7, sub(e0, o0), adds);
}

/** Four numbers at even places from `at` on. */
// @ts-ignore: decorator
@inline function evens(at: usize): v128 { return v128.shuffle<f32>(v128.load(at), v128.load(at, 16), 0, 2, 4, 6); }
// @ts-ignore: decorator
@inline function odds(at: usize): v128 { return v128.shuffle<f32>(v128.load(at), v128.load(at, 16), 1, 3, 5, 7); }
/** Coefficient u of a row's blocks: rings of eight rows, each of eight lists of `list` bytes. */
// @ts-ignore: decorator
@inline function listOf(ring: usize, list: usize, y: i32, u: i32): usize { return ring + (<usize>((y & 7) << 3) + <usize>u) * list; }

function transformRow(src: usize, ring: usize, list: usize, y: i32, blocks: i32): void {
  for (let b = 0; b < blocks; b += 4) {
    const x = src + (<usize>b << 3), to = listOf(ring, list, y, 0) + (<usize>b << 2);
    forward(evens(x), odds(x), evens(x + 8), odds(x + 8), evens(x + 16), odds(x + 16), evens(x + 24), odds(x + 24), to, list);
  }
}
/** x·max(0, 1 − (t/x)²) in place: the non-negative garrote (Breiman 1995; Gao 1998). `t2`: t². Returns where anything is left. */
// @ts-ignore: decorator
@inline function shrink(at: usize, t2: usize): v128 {
  const x = v128.load(at), over = sub(f32x4.mul(x, x), v128.load32_splat(t2)), left = f32x4.gt(over, s(0));
  v128.store(at, v128.and(f32x4.div(over, x), left));
  return left;
}
/** Columns of the blocks that begin at row y: transformed, shrunk, and added back to their rows. */
function shrinkColumns(ring: usize, sums: usize, list: usize, y: i32, blocks: i32, t2: usize, work: usize): void {
  for (let u = 0; u < 8; u++) {
    const t = t2 + (<usize>u << 2);
    for (let o: usize = 0; o < <usize>blocks * 4; o += 16) {
      forward(
        v128.load(listOf(ring, list, y, u) + o), v128.load(listOf(ring, list, y + 1, u) + o), v128.load(listOf(ring, list, y + 2, u) + o), v128.load(listOf(ring, list, y + 3, u) + o),
        v128.load(listOf(ring, list, y + 4, u) + o), v128.load(listOf(ring, list, y + 5, u) + o), v128.load(listOf(ring, list, y + 6, u) + o), v128.load(listOf(ring, list, y + 7, u) + o), work, 16,
      );
      let left = shrink(work, t);
      for (let v = 1; v < 8; v++) left = v128.or(left, shrink(work + <usize>(v << 4), t + <usize>(v << 5)));
      // where all was noise nothing is added
      if (!v128.any_true(left)) continue;
      inverse(
        v128.load(work), v128.load(work, 16), v128.load(work, 32), v128.load(work, 48), v128.load(work, 64), v128.load(work, 80), v128.load(work, 96), v128.load(work, 112),
        listOf(sums, list, y, u) + o, listOf(sums, list, y + 1, u) + o, listOf(sums, list, y + 2, u) + o, listOf(sums, list, y + 3, u) + o,
        listOf(sums, list, y + 4, u) + o, listOf(sums, list, y + 5, u) + o, listOf(sums, list, y + 6, u) + o, listOf(sums, list, y + 7, u) + o, true,
      );
    }
  }
}
/** A row whose blocks are all added: back from its coefficients, the four blocks over each place summed. `elements`: eight lists. */
function finishRow(sums: usize, list: usize, y: i32, blocks: i32, elements: usize, dst: usize, share: f32): void {
  for (let o: usize = 0; o < <usize>blocks * 4; o += 16) {
    const from = listOf(sums, list, y, 0) + o, to = elements + o;
    inverse(
      v128.load(from), v128.load(from + list), v128.load(from + list * 2), v128.load(from + list * 3), v128.load(from + list * 4), v128.load(from + list * 5), v128.load(from + list * 6), v128.load(from + list * 7),
      to, to + list, to + list * 2, to + list * 3, to + list * 4, to + list * 5, to + list * 6, to + list * 7, false,
    );
  }
  for (let b = 4; b < blocks; b += 4) {
    const o = elements + (<usize>b << 2);
    const even = times(share, add(add(v128.load(o), v128.load(o + list * 2 - 4)), add(v128.load(o + list * 4 - 8), v128.load(o + list * 6 - 12))));
    const odd = times(share, add(add(v128.load(o + list), v128.load(o + list * 3 - 4)), add(v128.load(o + list * 5 - 8), v128.load(o + list * 7 - 12))));
    v128.store(dst + (<usize>b << 3), v128.shuffle<f32>(even, odd, 0, 4, 1, 5));
    v128.store(dst + (<usize>b << 3) + 16, v128.shuffle<f32>(even, odd, 2, 6, 3, 7));
  }
}

/**
 * Shrinks the noise of a plane; width and height are divisible by eight. Blocks begin at every second column and every
 * `down`th row (2 or 4). t2: 64 squared thresholds, row by row of frequencies. Valid eight places inside the plane's border.
 * work: room for 137 lists of width · 2 + 64 bytes.
 */
export function shrinkBlocks(src: usize, dst: usize, width: i32, height: i32, stride: usize, down: i32, t2: usize, work: usize): void {
  const list = (<usize>width << 1) + 64, ring = work + 128, sums = ring + list * 64, elements = sums + list * 64;
  const blocks = (width - 8) >> 1;
  const share: f32 = <f32>down / 32;
  memory.fill(sums, 0, list * 64);
  for (let y = 0; y < 8 - down; y++) transformRow(src + <usize>y * stride, ring, list, y, blocks);
  for (let y = 0; y <= height - 8; y += down) {
    for (let k = 8 - down; k < 8; k++) transformRow(src + <usize>(y + k) * stride, ring, list, y + k, blocks);
    shrinkColumns(ring, sums, list, y, blocks, t2, work);
    for (let k = 0; k < down; k++) {
      if (y >= 8) finishRow(sums, list, y + k, blocks, elements, dst + <usize>(y + k) * stride, share);
      memory.fill(listOf(sums, list, y + k, 0), 0, list * 8);
    }
  }
}
/** A plane less another, in place. */
export function less(plane: usize, other: usize, bytes: usize): void {
  for (let i: usize = 0; i < bytes; i += 16) v128.store(plane + i, sub(v128.load(plane + i), v128.load(other + i)));
}
