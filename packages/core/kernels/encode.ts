import { cbrt, read, row, s, whole } from './maths';
import { labA, labB, labL, placeOf } from './oklab';

/** Thirty random bits for each place; ten serve a channel. */
// @ts-ignore: decorator
@inline function noise(x: v128, y: i32, seed: i32): v128 {
  let h = i32x4.add(i32x4.mul(x, i32x4.splat(374761393)), i32x4.splat(y * 668265263 + seed));
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 13)), i32x4.splat(1274126177));
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 16)), i32x4.splat(<i32>2246822519));
  return v128.xor(h, i32x4.shr_u(h, 15));
}
/** A value of 0–1 as a code of up to `limit`, ten bits of noise added before the rest is dropped. */
// @ts-ignore: decorator
@inline function code(v: v128, limit: v128, bits: v128): v128 {
  const dither = f32x4.mul(f32x4.add(f32x4.convert_i32x4_s(v128.and(bits, i32x4.splat(1023))), s(0.5)), s(0.0009765625));
  return whole(f32x4.floor(f32x4.pmin(limit, f32x4.add(f32x4.mul(v, limit), dither))));
}
/** The share of its greatest channel that the least one of a colour has to have, to need no look: a table over its place between the primaries. */
// @ts-ignore: decorator
@inline function safeShare(u: v128, v: v128, w: v128, peak: v128, least: v128, table: usize): v128 {
  const isU = f32x4.ge(u, f32x4.pmax(v, w)), isV = f32x4.ge(v, w), over = f32x4.div(s(0.16666667), f32x4.pmax(s(1e-9), f32x4.sub(peak, least)));
  const rest = v128.bitselect(f32x4.sub(w, u), f32x4.sub(u, v), isV), base = v128.bitselect(s(0.5), s(0.8333333), isV);
  return read(table, safeIntervals, f32x4.add(v128.bitselect(s(0.16666667), base, isU), f32x4.mul(v128.bitselect(f32x4.sub(v, w), rest, isU), over)));
}
const safeIntervals: f32 = 768;

let fitR: v128 = s(0), fitG: v128 = s(0), fitB: v128 = s(0);
/** A channel at a chroma, as a share of what the lightness alone gives: `grey` + a·S + b·S² + c·S³. */
// @ts-ignore: decorator
@inline function channel(S: v128, grey: v128, a: v128, b: v128, c: v128): v128 { return f32x4.add(grey, f32x4.mul(S, f32x4.add(a, f32x4.mul(S, f32x4.add(b, f32x4.mul(S, c)))))); }
/** One Newton step towards the chroma at which a channel is `top`, never upwards. */
// @ts-ignore: decorator
@inline function lower(S: v128, value: v128, a: v128, b: v128, c: v128, top: v128): v128 {
  const slope = f32x4.add(a, f32x4.mul(S, f32x4.add(f32x4.add(b, b), f32x4.mul(S, f32x4.mul(s(3), c)))));
  return f32x4.sub(S, f32x4.div(f32x4.pmax(f32x4.sub(value, top), s(0)), f32x4.pmax(slope, s(0.02))));
}

/**
 * Brings a colour (linear Rec.2020 a, c, e) into the output space at its own OKLab hue and lightness by lowering chroma
 * (CSS Color 4, §13): towards the space's dark faces softly, from `threshold` of the way there (the curve of the ACES
 * reference gamut compression, S-2021-001); under white hard. At a fixed hue the dark faces stand at one ratio of chroma
 * to lightness, whatever the lightness, so a table over hue holds them; and each channel, over that ratio, is a cubic.
 */
function fit(a: v128, c: v128, e: v128, u: v128, v: v128, w: v128, inside: v128, p: usize): void {
  const last = load<f32>(p, 116), limits = p + 120 + ((<usize>last + 2) << 2), soft = limits + ((<usize>last + 2) << 2), threshold = v128.load32_splat(p + 112);
  const l = cbrt(row(p + 36, a, c, e)), m = cbrt(row(p + 48, a, c, e)), k = cbrt(row(p + 60, a, c, e));
  const L = f32x4.pmin(f32x4.pmax(labL(l, m, k), s(1e-5)), s(1)), A = labA(l, m, k), B = labB(l, m, k);
  const C = f32x4.pmax(f32x4.sqrt(f32x4.add(f32x4.mul(A, A), f32x4.mul(B, B))), s(1e-9)), hue = placeOf(A, B);
  const limit = read(limits, last, hue), ratio = f32x4.div(C, L), d = f32x4.div(ratio, limit), far = f32x4.gt(d, threshold);
  const near = f32x4.pmin(read(soft, last, f32x4.mul(f32x4.sub(d, threshold), s(0.5))), s(1)), white = f32x4.ge(L, s(1));
  // as light as white there is only white
  let S = v128.andnot(v128.bitselect(f32x4.mul(near, limit), ratio, far), white);
  const over = f32x4.div(s(1), C), ah = f32x4.mul(A, over), bh = f32x4.mul(B, over);
  const x = f32x4.add(f32x4.mul(s(0.3963377774), ah), f32x4.mul(s(0.2158037573), bh)), y = f32x4.sub(f32x4.mul(s(-0.1055613458), ah), f32x4.mul(s(0.0638541728), bh)), z = f32x4.sub(f32x4.mul(s(-0.0894841775), ah), f32x4.mul(s(1.2914855480), bh));
  const xx = f32x4.mul(x, x), yy = f32x4.mul(y, y), zz = f32x4.mul(z, z), xxx = f32x4.mul(xx, x), yyy = f32x4.mul(yy, y), zzz = f32x4.mul(zz, z), three = s(3);
  const r1 = f32x4.mul(three, row(p + 72, x, y, z)), r2 = f32x4.mul(three, row(p + 72, xx, yy, zz)), r3 = row(p + 72, xxx, yyy, zzz);
  const g1 = f32x4.mul(three, row(p + 84, x, y, z)), g2 = f32x4.mul(three, row(p + 84, xx, yy, zz)), g3 = row(p + 84, xxx, yyy, zzz);
  const b1 = f32x4.mul(three, row(p + 96, x, y, z)), b2 = f32x4.mul(three, row(p + 96, xx, yy, zz)), b3 = row(p + 96, xxx, yyy, zzz);
  // one but for the rounding of the published matrices
  const r0 = row(p + 72, s(1), s(1), s(1)), g0 = row(p + 84, s(1), s(1), s(1)), b0 = row(p + 96, s(1), s(1), s(1));
  const volume = f32x4.mul(L, f32x4.mul(L, L)), top = f32x4.div(s(1.0001), volume);
  let R = channel(S, r0, r1, r2, r3), G = channel(S, g0, g1, g2, g3), D = channel(S, b0, b1, b2, b3), high = f32x4.pmax(R, f32x4.pmax(G, D));
  const bright = v128.or(f32x4.gt(high, top), white);
  for (let step = 0; step < 4 && v128.any_true(f32x4.gt(high, top)); step++) {
    S = f32x4.pmax(f32x4.pmin(lower(S, R, r1, r2, r3, top), f32x4.pmin(lower(S, G, g1, g2, g3, top), lower(S, D, b1, b2, b3, top))), s(0));
    R = channel(S, r0, r1, r2, r3); G = channel(S, g0, g1, g2, g3); D = channel(S, b0, b1, b2, b3);
    high = f32x4.pmax(R, f32x4.pmax(G, D));
  }
  const moved = v128.andnot(v128.or(far, bright), inside);
  fitR = v128.bitselect(f32x4.mul(volume, R), u, moved);
  fitG = v128.bitselect(f32x4.mul(volume, G), v, moved);
  fitB = v128.bitselect(f32x4.mul(volume, D), w, moved);
}

/**
 * Display-linear Rec.2020 to encoded output for one row of n pixels starting at picture column x, row y.
 * p: matrices to the output's primaries [9], to the cones of OKLab [9], from them to the output [9]; the share of the
 * greatest channel above which the least one never needs a look; the gamut threshold; the number of intervals of three
 * tables, then the tables: the encoding over the square root of the value, the limit of chroma/lightness over hue, and the
 * compressed share of that limit over (share − threshold) / 2; last, over 768 intervals from the second primary's
 * complement round, the share that the least channel needs there. Dither is uniform over one code, from place and seed.
 * `bytes` a pixel: 4 writes RGBA, 3 RGB in 8 bits, 6 RGB in 16 bits.
 */
export function encode(r: usize, g: usize, b: usize, n: i32, p: usize, dst: usize, x: i32, y: i32, seed: i32, bytes: i32): void {
  const limit = s(bytes == 6 ? 65535 : 255), safe = v128.load32_splat(p + 108), last = load<f32>(p, 116), table = p + 120, shares = table + 3 * ((<usize>last + 2) << 2), lanes = i32x4(0, 1, 2, 3);
  for (let i: i32 = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const a = v128.load(r + o), c = v128.load(g + o), e = v128.load(b + o);
    let u = row(p, a, c, e), v = row(p + 12, a, c, e), w = row(p + 24, a, c, e);
    const peak = f32x4.pmax(u, f32x4.pmax(v, w)), least = f32x4.pmin(u, f32x4.pmin(v, w)), low = v128.or(f32x4.le(peak, s(1.0001)), f32x4.ge(least, s(1)));
    // white is white, be it by a rounding more
    let inside = v128.and(f32x4.ge(least, f32x4.mul(peak, safe)), low);
    if (!i32x4.all_true(inside)) {
      inside = v128.and(f32x4.ge(least, f32x4.mul(peak, safeShare(u, v, w, peak, least, shares))), low);
      if (!i32x4.all_true(inside)) {
        fit(a, c, e, u, v, w, inside, p);
        u = fitR; v = fitG; w = fitB;
      }
    }
    const h = noise(i32x4.add(i32x4.splat(x + i), lanes), y, seed);
    const iu = code(read(table, last, f32x4.sqrt(f32x4.pmax(s(0), u))), limit, h), iv = code(read(table, last, f32x4.sqrt(f32x4.pmax(s(0), v))), limit, i32x4.shr_u(h, 10)), iw = code(read(table, last, f32x4.sqrt(f32x4.pmax(s(0), w))), limit, i32x4.shr_u(h, 20));
    if (bytes == 6) {
      const q = dst + <usize>i * 6, uv = i16x8.narrow_i32x4_u(iu, iv), ww = i16x8.narrow_i32x4_u(iw, iw);
      // u v w u v w u v, then w u v w
      v128.store(q, v128.shuffle<u16>(uv, ww, 0, 4, 8, 1, 5, 9, 2, 6));
      v128.store64_lane(q, v128.shuffle<u16>(uv, ww, 10, 3, 7, 11, 0, 0, 0, 0), 0, 16);
    } else {
      const rgba = v128.or(v128.or(iu, i32x4.shl(iv, 8)), v128.or(i32x4.shl(iw, 16), i32x4.splat(<i32>0xff000000)));
      if (bytes == 4) v128.store(dst + o, rgba);
      else {
        const q = dst + <usize>i * 3, rgb = v128.shuffle<u8>(rgba, rgba, 0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 13, 14, 0, 0, 0, 0);
        v128.store64_lane(q, rgb, 0);
        v128.store32_lane(q, rgb, 2, 8);
      }
    }
  }
}

/** Display-linear Rec.2020 brought into the output space as `encode` does, and left there as linear light of its own primaries. p: as of `encode`, where a threshold of 1 leaves what is inside alone. */
export function intoGamut(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const safe = v128.load32_splat(p + 108), shares = p + 120 + 3 * ((<usize>load<f32>(p, 116) + 2) << 2);
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const a = v128.load(r + i), c = v128.load(g + i), e = v128.load(b + i);
    let u = row(p, a, c, e), v = row(p + 12, a, c, e), w = row(p + 24, a, c, e);
    const peak = f32x4.pmax(u, f32x4.pmax(v, w)), least = f32x4.pmin(u, f32x4.pmin(v, w)), low = v128.or(f32x4.le(peak, s(1.0001)), f32x4.ge(least, s(1)));
    const inside = v128.and(f32x4.ge(least, f32x4.mul(peak, f32x4.pmin(safe, safeShare(u, v, w, peak, least, shares)))), low);
    if (!i32x4.all_true(inside)) { fit(a, c, e, u, v, w, inside, p); u = fitR; v = fitG; w = fitB; }
    v128.store(r + i, u);
    v128.store(g + i, v);
    v128.store(b + i, w);
  }
}
