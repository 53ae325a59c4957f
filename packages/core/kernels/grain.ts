import { exp2Within, read, row, s } from './maths';

// Grain: a random field that belongs to the film plane. Its means over squares of a grid are known at every size of square
// (Haar's wavelets of white noise are white noise), so that the same place has the same grain however finely it is seen.

/** Three numbers of variance 1 from ten bits each. */
// @ts-ignore: decorator
@inline function tenBits(h: v128, from: i32): v128 { return f32x4.mul(f32x4.sub(f32x4.convert_i32x4_s(v128.and(i32x4.shr_u(h, from), i32x4.splat(1023))), s(511.5)), s(0.0033829)); }
// @ts-ignore: decorator
@inline function bits(i: i32, j: i32, seed: i32): v128 {
  let h = i32x4.add(i32x4.mul(i32x4.add(i32x4.splat(i), i32x4(0, 1, 2, 3)), i32x4.splat(374761393)), i32x4.splat(j * 668265263 + seed));
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 13)), i32x4.splat(1274126177));
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 16)), i32x4.splat(<i32>2246822519));
  return v128.xor(h, i32x4.shr_u(h, 15));
}
/** A row of squares without any larger ones: n numbers from column i on, of standard deviation `amount`. */
export function grainTop(dst: usize, n: i32, i: i32, j: i32, amount: f32, seed: i32): void {
  for (let k: i32 = 0; k < n; k += 4) v128.store(dst + (<usize>k << 2), f32x4.mul(s(amount * 0.57735), f32x4.add(tenBits(bits(i + k, j, seed), 0), f32x4.add(tenBits(bits(i + k, j, seed), 10), tenBits(bits(i + k, j, seed), 20)))));
}
/** Two rows of squares, 2·j and the next, from row j of those twice as large: n numbers each from column 2·i on, each larger one's plus three details, ± as Haar has them. */
export function grainHalf(parent: usize, dst: usize, next: usize, n: i32, i: i32, j: i32, amount: f32, seed: i32): void {
  const a = s(amount);
  for (let k: i32 = 0; k < n; k += 8) {
    const h = bits(i + (k >> 1), j, seed), at = <usize>k << 2, own = v128.load(parent + (at >> 1)), down = f32x4.mul(a, tenBits(h, 0)), across = tenBits(h, 10), both = tenBits(h, 20);
    pair(dst + at, f32x4.add(own, down), f32x4.mul(a, f32x4.add(across, both)));
    pair(next + at, f32x4.sub(own, down), f32x4.mul(a, f32x4.sub(across, both)));
  }
}
/** Neighbours own + side and own − side, four of each by turns. */
// @ts-ignore: decorator
@inline function pair(dst: usize, own: v128, side: v128): void {
  const low = f32x4.add(own, side), high = f32x4.sub(own, side);
  v128.store(dst, v128.shuffle<f32>(low, high, 0, 4, 1, 5));
  v128.store(dst, v128.shuffle<f32>(low, high, 2, 6, 3, 7), 16);
}
/** Four rows added by weights[4]. */
export function grainDown(a: usize, b: usize, c: usize, d: usize, weights: usize, dst: usize, n: i32): void {
  const p = v128.load32_splat(weights), q = v128.load32_splat(weights, 4), u = v128.load32_splat(weights, 8), v = v128.load32_splat(weights, 12);
  for (let i: usize = 0; i < <usize>n << 2; i += 16) v128.store(dst + i, f32x4.add(f32x4.add(f32x4.mul(p, v128.load(a + i)), f32x4.mul(q, v128.load(b + i))), f32x4.add(f32x4.mul(u, v128.load(c + i)), f32x4.mul(v, v128.load(d + i)))));
}
/** Each pixel's four neighbours along a row by their weights; at: where the first lies and where its four weights do, in bytes. */
// @ts-ignore: decorator
@inline function weighed(src: usize, weights: usize, at: usize): v128 { return f32x4.mul(v128.load(src + load<u32>(at)), v128.load(weights + load<u32>(at, 4))); }
/** Two of them with their neighbours added in twos. */
// @ts-ignore: decorator
@inline function twos(a: v128, b: v128): v128 { return f32x4.add(v128.shuffle<f32>(a, b, 0, 2, 4, 6), v128.shuffle<f32>(a, b, 1, 3, 5, 7)); }
/** Each pixel's four neighbours along a row added by its weights. columns: for each of n, a multiple of four, where the first lies and where its four weights do, in bytes. */
export function grainAcross(src: usize, columns: usize, weights: usize, dst: usize, n: i32): void {
  for (let i: usize = 0; i < <usize>n; i += 4) {
    const at = columns + (i << 3);
    v128.store(dst + (i << 2), twos(twos(weighed(src, weights, at), weighed(src, weights, at + 8)), twos(weighed(src, weights, at + 16), weighed(src, weights, at + 24))));
  }
}
/**
 * Light with density moved by the fields of its three channels, d·T(luminance), the mean of light kept. p: luminance weights[3],
 * how each channel takes its own field and the two others' [2], 2-logarithm of light for a field of 1, ln 2/2 of the field's
 * variance, number of intervals, table of T over the square root of luminance in [0, 1].
 */
export function grain(r: usize, g: usize, b: usize, n: i32, p: usize, x: usize, y: usize, z: usize): void {
  const own = v128.load32_splat(p, 12), others = v128.load32_splat(p, 16), unit = v128.load32_splat(p, 20), back = v128.load32_splat(p, 24), last = load<f32>(p, 28);
  for (let k: i32 = 0; k < n; k += 4) {
    const i = <usize>k << 2, u = v128.load(r + i), v = v128.load(g + i), w = v128.load(b + i), a = v128.load(x + i), c = v128.load(y + i), d = v128.load(z + i);
    const depth = f32x4.mul(unit, read(p + 32, last, f32x4.sqrt(f32x4.pmax(s(0), row(p, u, v, w))))), less = f32x4.mul(back, f32x4.mul(depth, depth)), all = f32x4.mul(others, f32x4.add(a, f32x4.add(c, d))), mine = f32x4.sub(own, others);
    v128.store(r + i, f32x4.mul(u, exp2Within(f32x4.sub(f32x4.mul(depth, f32x4.add(all, f32x4.mul(mine, a))), less))));
    v128.store(g + i, f32x4.mul(v, exp2Within(f32x4.sub(f32x4.mul(depth, f32x4.add(all, f32x4.mul(mine, c))), less))));
    v128.store(b + i, f32x4.mul(w, exp2Within(f32x4.sub(f32x4.mul(depth, f32x4.add(all, f32x4.mul(mine, d))), less))));
  }
}
