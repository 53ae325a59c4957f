import { read, row, s } from './maths';

// @ts-ignore: decorator
@inline function compress(c: v128, peak: v128, t: v128, last: f32, table: usize): v128 {
  const d = f32x4.div(f32x4.sub(peak, c), f32x4.max(peak, s(1e-9))), out = f32x4.gt(d, t);
  if (!v128.any_true(out)) return c;
  const near = read(table, last, f32x4.min(f32x4.max(f32x4.mul(f32x4.sub(d, t), s(0.5)), s(0)), s(1)));
  return v128.bitselect(f32x4.sub(peak, f32x4.mul(near, peak)), c, out);
}

// @ts-ignore: decorator
@inline function noise(x: v128, y: i32, channel: i32, seed: i32): v128 {
  let h = i32x4.add(i32x4.mul(x, i32x4.splat(374761393)), i32x4.splat(y * 668265263 + channel * 1442695041 + seed));
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 13)), i32x4.splat(1274126177));
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 16)), i32x4.splat(<i32>2246822519));
  h = v128.xor(h, i32x4.shr_u(h, 15));
  return f32x4.mul(f32x4.convert_i32x4_u(i32x4.shr_u(h, 8)), s(1.0 / 16777216.0));
}

/**
 * Display-linear Rec.2020 to encoded output for one row of n pixels starting at picture column x, row y.
 * p: matrix[9] to the output's primaries, luma[3], the gamut compression's threshold, the number of intervals of four
 * tables, then the tables: the encoding over the square root of the value, and for red, green and blue the compressed
 * distance from grey over (distance − threshold) / 2 (ACES reference gamut compression, S-2021-001).
 * Overshoot above white is mixed with a grey of its own luminance. Dither is uniform over one code, from place and seed.
 * `top` is 255 (writes RGBA, 4 bytes) or 65535 (writes RGB, 6 bytes).
 */
export function encode(r: usize, g: usize, b: usize, n: i32, p: usize, dst: usize, x: i32, y: i32, seed: i32, top: i32): void {
  const limit = s(<f32>top), threshold = v128.load32_splat(p + 48), last = load<f32>(p, 52), table = p + 56, size = (<usize>last + 2) << 2, lanes = i32x4(0, 1, 2, 3);
  for (let i: i32 = 0; i < n; i += 4) {
    const o = <usize>i << 2;
    const a = v128.load(r + o), c = v128.load(g + o), e = v128.load(b + o);
    let u = row(p, a, c, e), v = row(p + 12, a, c, e), w = row(p + 24, a, c, e);
    const peak = f32x4.max(u, f32x4.max(v, w));
    u = compress(u, peak, threshold, last, table + size); v = compress(v, peak, threshold, last, table + 2 * size); w = compress(w, peak, threshold, last, table + 3 * size);
    const luma = f32x4.min(row(p + 36, u, v, w), s(1));
    const t = f32x4.min(f32x4.max(f32x4.div(f32x4.sub(peak, s(1)), f32x4.max(f32x4.sub(peak, luma), s(1e-6))), s(0)), s(1));
    u = f32x4.add(u, f32x4.mul(f32x4.sub(luma, u), t)); v = f32x4.add(v, f32x4.mul(f32x4.sub(luma, v), t)); w = f32x4.add(w, f32x4.mul(f32x4.sub(luma, w), t));
    u = f32x4.min(f32x4.max(u, s(0)), s(1)); v = f32x4.min(f32x4.max(v, s(0)), s(1)); w = f32x4.min(f32x4.max(w, s(0)), s(1));
    const at = i32x4.add(i32x4.splat(x + i), lanes);
    const iu = i32x4.trunc_sat_f32x4_u(f32x4.min(f32x4.add(f32x4.mul(read(table, last, f32x4.sqrt(u)), limit), noise(at, y, 0, seed)), limit));
    const iv = i32x4.trunc_sat_f32x4_u(f32x4.min(f32x4.add(f32x4.mul(read(table, last, f32x4.sqrt(v)), limit), noise(at, y, 1, seed)), limit));
    const iw = i32x4.trunc_sat_f32x4_u(f32x4.min(f32x4.add(f32x4.mul(read(table, last, f32x4.sqrt(w)), limit), noise(at, y, 2, seed)), limit));
    if (top == 255) {
      v128.store(dst + o, v128.or(v128.or(iu, i32x4.shl(iv, 8)), v128.or(i32x4.shl(iw, 16), i32x4.splat(<i32>0xff000000))));
    } else {
      const q = dst + <usize>i * 6;
      store<u16>(q, <u16>i32x4.extract_lane(iu, 0)); store<u16>(q, <u16>i32x4.extract_lane(iv, 0), 2); store<u16>(q, <u16>i32x4.extract_lane(iw, 0), 4);
      store<u16>(q, <u16>i32x4.extract_lane(iu, 1), 6); store<u16>(q, <u16>i32x4.extract_lane(iv, 1), 8); store<u16>(q, <u16>i32x4.extract_lane(iw, 1), 10);
      store<u16>(q, <u16>i32x4.extract_lane(iu, 2), 12); store<u16>(q, <u16>i32x4.extract_lane(iv, 2), 14); store<u16>(q, <u16>i32x4.extract_lane(iw, 2), 16);
      store<u16>(q, <u16>i32x4.extract_lane(iu, 3), 18); store<u16>(q, <u16>i32x4.extract_lane(iv, 3), 20); store<u16>(q, <u16>i32x4.extract_lane(iw, 3), 22);
    }
  }
}
