import { exp2, log2, s, whole } from './maths';

/** A channel's place on its axis: 0 to `top`, by the logarithm of the light over an offset, or by a power of it. */
// @ts-ignore: decorator
@inline function placed(v: v128, p: usize, top: v128, power: f32): v128 {
  const log = log2(f32x4.add(v, v128.load32_splat(p, 4))), curved = power > 0 ? exp2(f32x4.mul(log, s(power))) : log;
  const place = f32x4.add(f32x4.mul(curved, v128.load32_splat(p, 8)), v128.load32_splat(p, 12));
  return f32x4.pmin(top, f32x4.pmax(s(0), place));
}

/**
 * Where the colours of linear planes lie in a cube, for tetrahedral interpolation (Kasson, Nin, Plouffe, Hafner 1995): eight
 * bytes a pixel, first the byte in the table of its cell's first corner (a multiple of 8) plus which axes come first and last
 * (twice the first, and one where the last is the greater of those left), then the weights of the four corners in 255ths. p: side, offset, scale and shift of the place
 * (f(x + offset) · scale + shift), the power that f is (0: log₂).
 */
export function draftPlaces(r: usize, g: usize, b: usize, n: i32, p: usize, dst: usize): void {
  const side = <i32>load<f32>(p), top = s(<f32>(side - 1)), last = s(<f32>(side - 2)), power = load<f32>(p, 16);
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = placed(v128.load(r + i), p, top, power), y = placed(v128.load(g + i), p, top, power), z = placed(v128.load(b + i), p, top, power);
    const cx = f32x4.pmin(last, f32x4.floor(x)), cy = f32x4.pmin(last, f32x4.floor(y)), cz = f32x4.pmin(last, f32x4.floor(z));
    const u = f32x4.sub(x, cx), v = f32x4.sub(y, cy), w = f32x4.sub(z, cz);
    const cell = i32x4.add(whole(cx), i32x4.add(i32x4.mul(whole(cy), i32x4.splat(side)), i32x4.mul(whole(cz), i32x4.splat(side * side))));
    const high = f32x4.pmax(u, f32x4.pmax(v, w)), low = f32x4.pmin(u, f32x4.pmin(v, w)), middle = f32x4.pmax(f32x4.pmin(u, v), f32x4.pmin(f32x4.pmax(u, v), w));
    // the axis of the greatest part, and that of the least: 0, 1, 2 each, never the same
    const first = v128.andnot(v128.bitselect(i32x4.splat(1), i32x4.splat(2), f32x4.eq(high, v)), f32x4.eq(high, u));
    const lastX = v128.andnot(f32x4.eq(low, u), i32x4.eq(first, i32x4.splat(0))), lastY = v128.andnot(f32x4.eq(low, v), i32x4.eq(first, i32x4.splat(1)));
    const end = v128.bitselect(i32x4.splat(0), v128.bitselect(i32x4.splat(1), i32x4.splat(2), lastY), lastX);
    // twice the first, and one more where the last is the greater of the two that are left
    const greater = v128.bitselect(i32x4.eq(end, i32x4.splat(1)), i32x4.eq(end, i32x4.splat(2)), i32x4.eq(first, i32x4.splat(2)));
    const at = v128.or(i32x4.shl(cell, 3), i32x4.sub(i32x4.shl(first, 1), greater));
    const e3 = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(low, s(255)), s(0.5))), e2 = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(middle, s(255)), s(0.5))), e1 = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(high, s(255)), s(0.5)));
    const w0 = i32x4.sub(i32x4.splat(255), e1), w1 = i32x4.sub(e1, e2), w2 = i32x4.sub(e2, e3);
    const weights = v128.or(v128.or(w0, i32x4.shl(w1, 8)), v128.or(i32x4.shl(w2, 16), i32x4.shl(e3, 24)));
    v128.store(dst + (i << 1), v128.shuffle<u32>(at, weights, 0, 4, 1, 5));
    v128.store(dst + (i << 1), v128.shuffle<u32>(at, weights, 2, 6, 3, 7), 16);
  }
}

/** One pixel's colour: four corners of four 16-bit numbers, mixed in pairs by one multiplication each. */
// @ts-ignore: decorator
@inline function mixed(src: usize, cells: usize, orders: usize, far: usize): v128 {
  const at = load<u32>(src), weights = load<u32>(src, 4), order = orders + <usize>((at & 7) << 3), cell = cells + <usize>(at & ~7);
  const near = v128.load64_zero(cell), one = v128.load64_zero(cell + <usize>load<u32>(order)), two = v128.load64_zero(cell + <usize>load<u32>(order, 4)), end = v128.load64_zero(cell + far);
  const low = i32x4.dot_i16x8_s(v128.shuffle<u16>(near, one, 0, 8, 1, 9, 2, 10, 3, 11), i32x4.splat(<i32>((weights & 255) | ((weights & 0xff00) << 8))));
  const high = i32x4.dot_i16x8_s(v128.shuffle<u16>(two, end, 0, 8, 1, 9, 2, 10, 3, 11), i32x4.splat(<i32>(((weights >> 16) & 255) | ((weights >> 24) << 16))));
  const sum = i32x4.add(low, high);
  // over 255, then over the 128 that a code counts
  return i32x4.shr_s(i32x4.add(i32x4.shr_s(i32x4.add(sum, i32x4.shr_s(sum, 8)), 8), i32x4.splat(64)), 7);
}
/** Places through a cube of finished codes, to RGBA. p: for each of six orders the bytes to its second and third corner and for all to the last, then the codes times 128. */
export function draft(src: usize, n: i32, p: usize, dst: usize): void {
  const far = <usize>load<u32>(p, 48), cells = p + 64;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const from = src + (i << 1);
    const A = mixed(from, cells, p, far), B = mixed(from + 8, cells, p, far), C = mixed(from + 16, cells, p, far), D = mixed(from + 24, cells, p, far);
    v128.store(dst + i, i8x16.narrow_i16x8_u(i16x8.narrow_i32x4_s(A, B), i16x8.narrow_i32x4_s(C, D)));
  }
}
