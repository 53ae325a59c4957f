import { s } from './maths';

// The cosine transform of overlapping blocks of 8 × 8 (DCT-II, orthonormal: Ahmed, Natarajan, Rao 1974). What blocks side by
// side share is done once: a row is transformed for every even place, columns only then; four blocks lie in the four lanes.

// @ts-ignore: decorator
@inline export function add(a: v128, b: v128): v128 { return f32x4.add(a, b); }
// @ts-ignore: decorator
@inline export function sub(a: v128, b: v128): v128 { return f32x4.sub(a, b); }
// @ts-ignore: decorator
@inline export function times(a: f32, x: v128): v128 { return f32x4.mul(s(a), x); }
/** ½·cos(kπ/16), k = 1…7; the first coefficient has √⅛. */
const C1: f32 = 0.49039264, C2: f32 = 0.46193977, C3: f32 = 0.41573481, C4: f32 = 0.35355339, C5: f32 = 0.27778512, C6: f32 = 0.19134172, C7: f32 = 0.09754516;

/** Cosine transform of eight numbers, stored `step` apart. */
// @ts-ignore: decorator
@inline export function forward(x0: v128, x1: v128, x2: v128, x3: v128, x4: v128, x5: v128, x6: v128, x7: v128, dst: usize, step: usize): void {
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
@inline export function inverse(X0: v128, X1: v128, X2: v128, X3: v128, X4: v128, X5: v128, X6: v128, X7: v128, d0: usize, d1: usize, d2: usize, d3: usize, d4: usize, d5: usize, d6: usize, d7: usize, adds: bool): void {
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
@inline export function listOf(ring: usize, list: usize, y: i32, u: i32): usize { return ring + (<usize>((y & 7) << 3) + <usize>u) * list; }

export function transformRow(src: usize, ring: usize, list: usize, y: i32, blocks: i32): void {
  for (let b = 0; b < blocks; b += 4) {
    const x = src + (<usize>b << 3), to = listOf(ring, list, y, 0) + (<usize>b << 2);
    forward(evens(x), odds(x), evens(x + 8), odds(x + 8), evens(x + 16), odds(x + 16), evens(x + 24), odds(x + 24), to, list);
  }
}
/** A row whose blocks are all added: back from its coefficients, the four blocks over each place summed. `elements`: eight lists. */
export function finishRow(sums: usize, list: usize, y: i32, blocks: i32, elements: usize, dst: usize, share: f32): void {
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
