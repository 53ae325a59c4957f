import { s } from './maths';

/**
 * Three planes' rows of 16-bit camera light to what fringes are judged by, square roots of balanced light:
 * red, green, blue, purple = min(r, b) − g and green = g − max(r, b), as planes of 32-bit numbers.
 * p: offset, scale, then 1/neutral of red, green, blue.
 */
export function fringeStart(src: usize, plane: usize, dst: usize, bytes: usize, n: i32, p: usize): void {
  const offset = v128.load32_splat(p), scale = v128.load32_splat(p + 4);
  for (let i: usize = 0; i < <usize>n; i += 4) {
    const r = light(src + i * 2, offset, scale, p + 8), g = light(src + plane + i * 2, offset, scale, p + 12), b = light(src + 2 * plane + i * 2, offset, scale, p + 16), o = dst + i * 4;
    v128.store(o, r); v128.store(o + bytes, g); v128.store(o + 2 * bytes, b);
    v128.store(o + 3 * bytes, f32x4.sub(f32x4.pmin(r, b), g));
    v128.store(o + 4 * bytes, f32x4.sub(g, f32x4.pmax(r, b)));
  }
}
// @ts-ignore: decorator
@inline function light(at: usize, offset: v128, scale: v128, balance: usize): v128 {
  return f32x4.sqrt(f32x4.pmax(f32x4.mul(f32x4.mul(f32x4.sub(f32x4.convert_i32x4_s(v128.load_ext<u16>(at)), offset), scale), v128.load32_splat(balance)), s(0)));
}

/** Least (or, with `greatest`, greatest) of a square window, rows then columns; valid `radius` inside. Serra 1982: erosion, dilation. */
export function extreme(src: usize, scratch: usize, dst: usize, width: i32, height: i32, stride: usize, radius: i32, greatest: bool): void {
  for (let y = 0; y < height; y++) for (let x = radius; x < width - radius; x += 4) {
    const o = <usize>y * stride + (<usize>x << 2);
    v128.store(scratch + o, along(src + o, 4, radius, greatest));
  }
  for (let y = radius; y < height - radius; y++) for (let x = radius; x < width - radius; x += 4) {
    const o = <usize>y * stride + (<usize>x << 2);
    v128.store(dst + o, along(scratch + o, <isize>stride, radius, greatest));
  }
}
// @ts-ignore: decorator
@inline function along(at: usize, step: isize, radius: i32, greatest: bool): v128 {
  let v = v128.load(at);
  for (let k: isize = 1; k <= <isize>radius; k++) {
    const a = v128.load(at + <usize>(step * k)), b = v128.load(at - <usize>(step * k));
    v = greatest ? f32x4.pmax(v, f32x4.pmax(a, b)) : f32x4.pmin(v, f32x4.pmin(a, b));
  }
  return v;
}

/** What stands out of its opening (a white top hat) beside an edge is taken out: purple from red and blue, green from green; then back to 16-bit light. */
export function fringeEnd(planes: usize, bytes: usize, purple: usize, green: usize, high: usize, low: usize, dst: usize, plane: usize, n: i32, p: usize, purpleShare: f32, greenShare: f32): void {
  const offset = v128.load32_splat(p), scale = v128.load32_splat(p + 4), still = s(0.012);
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const o = planes + i, t = f32x4.pmin(f32x4.pmax(f32x4.mul(f32x4.sub(f32x4.sub(v128.load(high + i), v128.load(low + i)), s(0.06)), s(8)), s(0)), s(1));
    const violet = f32x4.mul(f32x4.mul(t, s(purpleShare)), f32x4.pmax(f32x4.sub(f32x4.sub(v128.load(o + 3 * bytes), v128.load(purple + i)), still), s(0)));
    const leaf = f32x4.mul(f32x4.mul(t, s(greenShare)), f32x4.pmax(f32x4.sub(f32x4.sub(v128.load(o + 4 * bytes), v128.load(green + i)), still), s(0)));
    back(f32x4.sub(v128.load(o), violet), offset, scale, p + 8, dst + (i >> 1));
    back(f32x4.sub(v128.load(o + bytes), leaf), offset, scale, p + 12, dst + plane + (i >> 1));
    back(f32x4.sub(v128.load(o + 2 * bytes), violet), offset, scale, p + 16, dst + 2 * plane + (i >> 1));
  }
}
// @ts-ignore: decorator
@inline function back(v: v128, offset: v128, scale: v128, balance: usize, dst: usize): void {
  const clean = f32x4.pmax(v, s(0)), q = i32x4.trunc_sat_f32x4_s(f32x4.pmin(f32x4.nearest(f32x4.add(f32x4.div(f32x4.mul(clean, clean), f32x4.mul(scale, v128.load32_splat(balance))), offset)), s(65535)));
  v128.store64_lane(dst, i16x8.narrow_i32x4_u(q, q), 0);
}
