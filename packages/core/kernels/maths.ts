// Four-lane elementary functions. Polynomials from the Cephes library (Moshier), logf and exp2f; relative error below 3e-7.

// @ts-ignore: decorator
@inline export function s(v: f32): v128 { return f32x4.splat(v); }

/** log₂ of positive x; values below 1e-30 count as 1e-30. */
// @ts-ignore: decorator
@inline export function log2(value: v128): v128 {
  const x = f32x4.max(value, s(1e-30));
  let e = i32x4.sub(i32x4.shr_u(x, 23), i32x4.splat(126));
  let m = v128.or(v128.and(x, i32x4.splat(0x007fffff)), i32x4.splat(0x3f000000));
  const low = f32x4.lt(m, s(0.70710678));
  e = i32x4.add(e, low);
  m = f32x4.add(f32x4.sub(m, s(1)), v128.and(m, low));
  const z = f32x4.mul(m, m);
  let y = s(7.0376836292e-2);
  y = f32x4.add(f32x4.mul(y, m), s(-1.1514610310e-1));
  y = f32x4.add(f32x4.mul(y, m), s(1.1676998740e-1));
  y = f32x4.add(f32x4.mul(y, m), s(-1.2420140846e-1));
  y = f32x4.add(f32x4.mul(y, m), s(1.4249322787e-1));
  y = f32x4.add(f32x4.mul(y, m), s(-1.6668057665e-1));
  y = f32x4.add(f32x4.mul(y, m), s(2.0000714765e-1));
  y = f32x4.add(f32x4.mul(y, m), s(-2.4999993993e-1));
  y = f32x4.add(f32x4.mul(y, m), s(3.3333331174e-1));
  y = f32x4.mul(f32x4.mul(y, m), z);
  y = f32x4.sub(y, f32x4.mul(z, s(0.5)));
  return f32x4.add(f32x4.mul(f32x4.add(m, y), s(1.44269504089)), f32x4.convert_i32x4_s(e));
}

/** 2ˣ for −126 ≤ x ≤ 126 (clamped). */
// @ts-ignore: decorator
@inline export function exp2(value: v128): v128 {
  const x = f32x4.min(f32x4.max(value, s(-126)), s(126));
  const whole = f32x4.nearest(x);
  const f = f32x4.sub(x, whole);
  let y = s(1.535336188319500e-4);
  y = f32x4.add(f32x4.mul(y, f), s(1.339887440266574e-3));
  y = f32x4.add(f32x4.mul(y, f), s(9.618437357674640e-3));
  y = f32x4.add(f32x4.mul(y, f), s(5.550332471162809e-2));
  y = f32x4.add(f32x4.mul(y, f), s(2.402264791363012e-1));
  y = f32x4.add(f32x4.mul(y, f), s(6.931472028550421e-1));
  y = f32x4.add(f32x4.mul(y, f), s(1));
  return f32x4.mul(y, i32x4.shl(i32x4.add(i32x4.trunc_sat_f32x4_s(whole), i32x4.splat(127)), 23));
}

/** xʸ for x ≥ 0. */
// @ts-ignore: decorator
@inline export function pow(x: v128, y: v128): v128 { return exp2(f32x4.mul(log2(x), y)); }

/** Cube root with the sign kept: a third of the exponent as the first guess (Kahan), then two Halley steps. */
// @ts-ignore: decorator
@inline export function cbrt(x: v128): v128 {
  const a = f32x4.max(f32x4.abs(x), s(1e-30));
  let r = i32x4.add(i32x4.trunc_sat_f32x4_s(f32x4.mul(f32x4.convert_i32x4_s(a), s(0.33333333))), i32x4.splat(709921077));
  r = halley(r, a);
  r = halley(r, a);
  return v128.or(r, v128.and(x, i32x4.splat(<i32>0x80000000)));
}
// @ts-ignore: decorator
@inline function halley(r: v128, a: v128): v128 {
  const cube = f32x4.mul(f32x4.mul(r, r), r);
  return f32x4.div(f32x4.mul(r, f32x4.add(cube, f32x4.add(a, a))), f32x4.add(f32x4.add(cube, cube), a));
}

/** A table of `last` + 2 values read at four places in [0, 1], linear between entries. */
// @ts-ignore: decorator
@inline export function read(table: usize, last: f32, at: v128): v128 {
  const p = f32x4.mul(at, s(last)), i = i32x4.trunc_sat_f32x4_s(p), t = f32x4.sub(p, f32x4.convert_i32x4_s(i));
  const q0 = table + (<usize>i32x4.extract_lane(i, 0) << 2), q1 = table + (<usize>i32x4.extract_lane(i, 1) << 2), q2 = table + (<usize>i32x4.extract_lane(i, 2) << 2), q3 = table + (<usize>i32x4.extract_lane(i, 3) << 2);
  const low = f32x4(load<f32>(q0), load<f32>(q1), load<f32>(q2), load<f32>(q3)), high = f32x4(load<f32>(q0, 4), load<f32>(q1, 4), load<f32>(q2, 4), load<f32>(q3, 4));
  return mix(low, high, t);
}

/** a·x + b·y + c·z with scalars a, b, c read from p. */
// @ts-ignore: decorator
@inline export function row(p: usize, x: v128, y: v128, z: v128): v128 {
  return f32x4.add(f32x4.add(f32x4.mul(v128.load32_splat(p), x), f32x4.mul(v128.load32_splat(p + 4), y)), f32x4.mul(v128.load32_splat(p + 8), z));
}

/** a + (b − a)·t */
// @ts-ignore: decorator
@inline export function mix(a: v128, b: v128, t: v128): v128 { return f32x4.add(a, f32x4.mul(f32x4.sub(b, a), t)); }

/** Hermite step of x between two edges. */
// @ts-ignore: decorator
@inline export function smooth(low: v128, high: v128, x: v128): v128 {
  const t = f32x4.min(f32x4.max(f32x4.div(f32x4.sub(x, low), f32x4.sub(high, low)), s(0)), s(1));
  return f32x4.mul(f32x4.mul(t, t), f32x4.sub(s(3), f32x4.add(t, t)));
}

/** Angle of (x, y) in −π…π; Abramowitz and Stegun 4.4.49, error below 2e-8 before rounding. */
// @ts-ignore: decorator
@inline export function atan2(y: v128, x: v128): v128 {
  const ax = f32x4.abs(x), ay = f32x4.abs(y), swap = f32x4.gt(ay, ax), q = f32x4.div(v128.bitselect(ax, ay, swap), f32x4.max(v128.bitselect(ay, ax, swap), s(1e-20))), z = f32x4.mul(q, q);
  let v = s(0.0028662257);
  v = f32x4.add(f32x4.mul(v, z), s(-0.0161657367));
  v = f32x4.add(f32x4.mul(v, z), s(0.0429096138));
  v = f32x4.add(f32x4.mul(v, z), s(-0.0752896400));
  v = f32x4.add(f32x4.mul(v, z), s(0.1065626393));
  v = f32x4.add(f32x4.mul(v, z), s(-0.1420889944));
  v = f32x4.add(f32x4.mul(v, z), s(0.1999355085));
  v = f32x4.add(f32x4.mul(v, z), s(-0.3333314528));
  v = f32x4.mul(f32x4.add(f32x4.mul(v, z), s(1)), q);
  v = v128.bitselect(f32x4.sub(s(1.5707963268), v), v, swap);
  v = v128.bitselect(f32x4.sub(s(3.1415926536), v), v, f32x4.lt(x, s(0)));
  return v128.or(v, v128.and(y, i32x4.splat(<i32>0x80000000)));
}
/** Sine of −2…2 (Taylor to x¹³; error below 3e-7). */
// @ts-ignore: decorator
@inline export function sine(x: v128): v128 {
  const z = f32x4.mul(x, x);
  let v = s(1.6059043837e-10);
  v = f32x4.add(f32x4.mul(v, z), s(-2.5052108385e-8));
  v = f32x4.add(f32x4.mul(v, z), s(2.7557319224e-6));
  v = f32x4.add(f32x4.mul(v, z), s(-1.9841269841e-4));
  v = f32x4.add(f32x4.mul(v, z), s(8.3333333333e-3));
  v = f32x4.add(f32x4.mul(v, z), s(-1.6666666667e-1));
  return f32x4.mul(f32x4.add(f32x4.mul(v, z), s(1)), x);
}
/** Cosine of −2…2 (Taylor to x¹²). */
// @ts-ignore: decorator
@inline export function cosine(x: v128): v128 {
  const z = f32x4.mul(x, x);
  let v = s(2.0876756988e-9);
  v = f32x4.add(f32x4.mul(v, z), s(-2.7557319224e-7));
  v = f32x4.add(f32x4.mul(v, z), s(2.4801587302e-5));
  v = f32x4.add(f32x4.mul(v, z), s(-1.3888888889e-3));
  v = f32x4.add(f32x4.mul(v, z), s(4.1666666667e-2));
  v = f32x4.add(f32x4.mul(v, z), s(-0.5));
  return f32x4.add(f32x4.mul(v, z), s(1));
}
