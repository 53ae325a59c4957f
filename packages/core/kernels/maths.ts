// Four-lane elementary functions; relative error below 3e-7. Long polynomials are summed by halves (Estrin), so that their steps need not wait for one another.

// @ts-ignore: decorator
@inline export function s(v: f32): v128 { return f32x4.splat(v); }

/** log₂ of positive x; values below 1e-30 count as 1e-30. The mantissa m in √½…√2 by 2·artanh((m − 1)/(m + 1))/ln 2, to the seventh power. */
// @ts-ignore: decorator
@inline export function log2(value: v128): v128 {
  const x = f32x4.pmax(s(1e-30), value), e = i32x4.shr_s(i32x4.sub(x, i32x4.splat(0x3f3504f3)), 23), m = i32x4.sub(x, i32x4.shl(e, 23));
  const t = f32x4.div(f32x4.sub(m, s(1)), f32x4.add(m, s(1))), z = f32x4.mul(t, t);
  const y = f32x4.add(f32x4.add(s(2.8853900818), f32x4.mul(s(0.9617966939), z)), f32x4.mul(f32x4.mul(z, z), f32x4.add(s(0.5770780164), f32x4.mul(s(0.4121985831), z))));
  return f32x4.add(f32x4.mul(y, t), f32x4.convert_i32x4_s(e));
}

/** 2ˣ for −126 ≤ x ≤ 126 (clamped); coefficients of the Cephes library's exp2f (Moshier). */
// @ts-ignore: decorator
@inline export function exp2(value: v128): v128 { return exp2Within(f32x4.pmin(s(126), f32x4.pmax(s(-126), value))); }
/** The same of what is known to lie there. */
// @ts-ignore: decorator
@inline export function exp2Within(x: v128): v128 {
  const near = f32x4.nearest(x), f = f32x4.sub(x, near), z = f32x4.mul(f, f);
  const low = f32x4.add(s(1), f32x4.mul(s(6.931472028550421e-1), f)), middle = f32x4.add(s(2.402264791363012e-1), f32x4.mul(s(5.550332471162809e-2), f)), high = f32x4.add(f32x4.add(s(9.618437357674640e-3), f32x4.mul(s(1.339887440266574e-3), f)), f32x4.mul(s(1.535336188319500e-4), z));
  const y = f32x4.add(f32x4.add(low, f32x4.mul(middle, z)), f32x4.mul(high, f32x4.mul(z, z)));
  // the exponent, 127 on, in the low bits of a number about 1.5 · 2²³
  return f32x4.mul(y, i32x4.shl(f32x4.add(near, s(12583039)), 23));
}

/** xʸ for x ≥ 0. */
// @ts-ignore: decorator
@inline export function pow(x: v128, y: v128): v128 { return exp2(f32x4.mul(log2(x), y)); }

/**
 * Cube root with the sign kept: a third of the exponent as the first guess (Kahan; the third as 1/4 + 1/16 + …), then a
 * Halley and a Newton step.
 */
// @ts-ignore: decorator
@inline export function cbrt(x: v128): v128 {
  const sign = v128.and(x, i32x4.splat(<i32>0x80000000)), a = f32x4.pmax(s(1e-30), v128.xor(x, sign));
  let third = i32x4.shr_u(a, 2);
  third = i32x4.add(third, i32x4.shr_u(third, 2));
  third = i32x4.add(third, i32x4.shr_u(third, 4));
  third = i32x4.add(third, i32x4.shr_u(third, 8));
  let r = i32x4.add(third, i32x4.splat(709960000));
  const volume = f32x4.mul(f32x4.mul(r, r), r);
  r = f32x4.div(f32x4.mul(r, f32x4.add(volume, f32x4.add(a, a))), f32x4.add(f32x4.add(volume, volume), a));
  r = f32x4.add(f32x4.mul(s(0.66666667), r), f32x4.div(f32x4.mul(s(0.33333333), a), f32x4.mul(r, r)));
  return v128.or(r, sign);
}

/** The whole number in each lane of a float of 0 to 2²³: added to 2²³ it stands in the low bits. */
// @ts-ignore: decorator
@inline export function whole(x: v128): v128 { return v128.xor(f32x4.add(x, s(8388608)), i32x4.splat(0x4b000000)); }
/** Two neighbours at each of four addresses (`table` + 4·i), mixed by t. */
// @ts-ignore: decorator
@inline export function pairs(table: usize, i: v128, t: v128): v128 { return neighbours(i32x4.add(i32x4.shl(i, 2), i32x4.splat(<i32>table)), t); }
/** The same of addresses. They are taken out in twos: taking single lanes out costs more. */
// @ts-ignore: decorator
@inline function neighbours(at: v128, t: v128): v128 {
  const first = i64x2.extract_lane(at, 0), second = i64x2.extract_lane(at, 1);
  const a = v128.load64_lane(<usize>(first >>> 32), v128.load64_zero(<usize>first), 1), b = v128.load64_lane(<usize>(second >>> 32), v128.load64_zero(<usize>second), 1);
  return mix(v128.shuffle<f32>(a, b, 0, 2, 4, 6), v128.shuffle<f32>(a, b, 1, 3, 5, 7), t);
}
/** A table of `last` + 2 values read at four places, clamped to [0, 1] (no number counts as 0); linear between entries. */
// @ts-ignore: decorator
@inline export function read(table: usize, last: f32, at: v128): v128 {
  const p = f32x4.pmin(s(last), f32x4.pmax(s(0), f32x4.mul(at, s(last)))), cell = f32x4.floor(p);
  // the whole number stands in the low bits of 2²³ + cell; four times the bits above them is taken off the table's address
  return neighbours(i32x4.add(i32x4.shl(f32x4.add(cell, s(8388608)), 2), i32x4.splat(<i32>table - (0x4b000000 << 2))), f32x4.sub(p, cell));
}

/** a·x + b·y + c·z with scalars a, b, c read from p. */
// @ts-ignore: decorator
@inline export function row(p: usize, x: v128, y: v128, z: v128): v128 {
  return f32x4.add(f32x4.add(f32x4.mul(v128.load32_splat(p), x), f32x4.mul(v128.load32_splat(p + 4), y)), f32x4.mul(v128.load32_splat(p + 8), z));
}

/** a + (b − a)·t */
// @ts-ignore: decorator
@inline export function mix(a: v128, b: v128, t: v128): v128 { return f32x4.add(a, f32x4.mul(f32x4.sub(b, a), t)); }

/** Hermite step of x from an edge over a width, given as its reciprocal. */
// @ts-ignore: decorator
@inline export function smooth(low: v128, over: v128, x: v128): v128 {
  const t = f32x4.pmin(f32x4.pmax(f32x4.mul(f32x4.sub(x, low), over), s(0)), s(1));
  return f32x4.mul(f32x4.mul(t, t), f32x4.sub(s(3), f32x4.add(t, t)));
}

/** Angle of (x, y) in −π…π; Abramowitz and Stegun 4.4.49, error below 2e-8 before rounding. */
// @ts-ignore: decorator
@inline export function atan2(y: v128, x: v128): v128 {
  const ax = f32x4.abs(x), ay = f32x4.abs(y), swap = f32x4.gt(ay, ax), q = f32x4.div(v128.bitselect(ax, ay, swap), f32x4.pmax(v128.bitselect(ay, ax, swap), s(1e-20))), z = f32x4.mul(q, q), z2 = f32x4.mul(z, z), z4 = f32x4.mul(z2, z2);
  const a = f32x4.add(s(1), f32x4.mul(s(-0.3333314528), z)), b = f32x4.add(s(0.1999355085), f32x4.mul(s(-0.1420889944), z)), c = f32x4.add(s(0.1065626393), f32x4.mul(s(-0.0752896400), z)), d = f32x4.add(s(0.0429096138), f32x4.mul(s(-0.0161657367), z));
  let v = f32x4.add(f32x4.add(f32x4.add(a, f32x4.mul(b, z2)), f32x4.mul(f32x4.add(c, f32x4.mul(d, z2)), z4)), f32x4.mul(s(0.0028662257), f32x4.mul(z4, z4)));
  v = f32x4.mul(v, q);
  v = v128.bitselect(f32x4.sub(s(1.5707963268), v), v, swap);
  v = v128.bitselect(f32x4.sub(s(3.1415926536), v), v, f32x4.lt(x, s(0)));
  return v128.or(v, v128.and(y, i32x4.splat(<i32>0x80000000)));
}
/** a + b·z + z²·(c + d·z) + z⁴·(e + f·z) */
// @ts-ignore: decorator
@inline function six(z: v128, a: f32, b: f32, c: f32, d: f32, e: f32, f: f32): v128 {
  const z2 = f32x4.mul(z, z);
  return f32x4.add(f32x4.add(f32x4.add(s(a), f32x4.mul(s(b), z)), f32x4.mul(f32x4.add(s(c), f32x4.mul(s(d), z)), z2)), f32x4.mul(f32x4.add(s(e), f32x4.mul(s(f), z)), f32x4.mul(z2, z2)));
}
/** Sine of −2…2 (Taylor to x¹³; error below 3e-7). */
// @ts-ignore: decorator
@inline export function sine(x: v128): v128 {
  const z = f32x4.mul(x, x);
  return f32x4.mul(x, f32x4.add(s(1), f32x4.mul(z, six(z, -1.6666666667e-1, 8.3333333333e-3, -1.9841269841e-4, 2.7557319224e-6, -2.5052108385e-8, 1.6059043837e-10))));
}
/** Cosine of −2…2 (Taylor to x¹²). */
// @ts-ignore: decorator
@inline export function cosine(x: v128): v128 {
  const z = f32x4.mul(x, x);
  return f32x4.add(s(1), f32x4.mul(z, six(z, -0.5, 4.1666666667e-2, -1.3888888889e-3, 2.4801587302e-5, -2.7557319224e-7, 2.0876756988e-9)));
}
