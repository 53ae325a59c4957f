import { exp2, log2, s, whole } from './maths';

/** A channel's place on its axis: 0 to `top`, by the logarithm of the light over an offset, or by a power of it. */
// @ts-ignore: decorator
@inline function placed(v: v128, p: usize, top: v128, power: f32): v128 {
  const log = log2(f32x4.add(v, v128.load32_splat(p, 4))), curved = power > 0 ? exp2(f32x4.mul(log, s(power))) : log;
  const place = f32x4.add(f32x4.mul(curved, v128.load32_splat(p, 8)), v128.load32_splat(p, 12));
  return f32x4.pmin(top, f32x4.pmax(s(0), place));
}
/** The colour at one of four places: its cell, the two corners between, the far one, each with its weight; as whole codes. */
// @ts-ignore: decorator
@inline function corners(at: usize, a: i32, c: i32, far: i32, w0: f32, w1: f32, w2: f32, w3: f32): v128 {
  const near = f32x4.add(f32x4.mul(s(w0), v128.load(at)), f32x4.mul(s(w1), v128.load(at + <usize>a)));
  const rest = f32x4.add(f32x4.mul(s(w2), v128.load(at + <usize>c)), f32x4.mul(s(w3), v128.load(at + <usize>far)));
  return i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.add(near, rest), s(0.5)));
}

/**
 * Linear planes through a cube of finished codes, read as `lut3d` does (tetrahedral; Kasson, Nin, Plouffe, Hafner 1995), to RGBA.
 * p: side, offset, scale and shift of the place (f(x + offset) · scale + shift), the power that f is (0: log₂), three unused, then side³ codes of four floats, red fastest.
 */
export function draft(r: usize, g: usize, b: usize, n: i32, p: usize, dst: usize): void {
  const side = load<f32>(p), top = s(side - 1), last = s(side - 2), cells = p + 32, power = load<f32>(p, 16), dy = <i32>side * 16, dz = dy * <i32>side, far = 16 + dy + dz;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = placed(v128.load(r + i), p, top, power), y = placed(v128.load(g + i), p, top, power), z = placed(v128.load(b + i), p, top, power);
    const cx = f32x4.pmin(last, f32x4.floor(x)), cy = f32x4.pmin(last, f32x4.floor(y)), cz = f32x4.pmin(last, f32x4.floor(z));
    const u = f32x4.sub(x, cx), v = f32x4.sub(y, cy), w = f32x4.sub(z, cz);
    const at = i32x4.add(i32x4.shl(whole(cx), 4), i32x4.add(i32x4.mul(whole(cy), i32x4.splat(dy)), i32x4.mul(whole(cz), i32x4.splat(dz))));
    const high = f32x4.pmax(u, f32x4.pmax(v, w)), low = f32x4.pmin(u, f32x4.pmin(v, w)), middle = f32x4.pmax(f32x4.pmin(u, v), f32x4.pmin(f32x4.pmax(u, v), w));
    const a = v128.bitselect(i32x4.splat(16), v128.bitselect(i32x4.splat(dy), i32x4.splat(dz), f32x4.eq(high, v)), f32x4.eq(high, u));
    const c = i32x4.sub(i32x4.splat(far), v128.bitselect(i32x4.splat(dz), v128.bitselect(i32x4.splat(dy), i32x4.splat(16), f32x4.eq(low, v)), f32x4.eq(low, w)));
    const w0 = f32x4.sub(s(1), high), w1 = f32x4.sub(high, middle), w2 = f32x4.sub(middle, low);
    const A = corners(cells + <usize>i32x4.extract_lane(at, 0), i32x4.extract_lane(a, 0), i32x4.extract_lane(c, 0), far, f32x4.extract_lane(w0, 0), f32x4.extract_lane(w1, 0), f32x4.extract_lane(w2, 0), f32x4.extract_lane(low, 0));
    const B = corners(cells + <usize>i32x4.extract_lane(at, 1), i32x4.extract_lane(a, 1), i32x4.extract_lane(c, 1), far, f32x4.extract_lane(w0, 1), f32x4.extract_lane(w1, 1), f32x4.extract_lane(w2, 1), f32x4.extract_lane(low, 1));
    const C = corners(cells + <usize>i32x4.extract_lane(at, 2), i32x4.extract_lane(a, 2), i32x4.extract_lane(c, 2), far, f32x4.extract_lane(w0, 2), f32x4.extract_lane(w1, 2), f32x4.extract_lane(w2, 2), f32x4.extract_lane(low, 2));
    const D = corners(cells + <usize>i32x4.extract_lane(at, 3), i32x4.extract_lane(a, 3), i32x4.extract_lane(c, 3), far, f32x4.extract_lane(w0, 3), f32x4.extract_lane(w1, 3), f32x4.extract_lane(w2, 3), f32x4.extract_lane(low, 3));
    v128.store(dst + i, i8x16.narrow_i16x8_u(i16x8.narrow_i32x4_s(A, B), i16x8.narrow_i32x4_s(C, D)));
  }
}
