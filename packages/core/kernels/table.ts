import { log2, pairs, s, whole } from './maths';

/** ACEScct (S-2016-001): linear to log, or back. */
// @ts-ignore: decorator
@inline function toCct(x: v128): v128 { return v128.bitselect(f32x4.add(f32x4.mul(s(10.5402377416545), x), s(0.0729055341958355)), f32x4.mul(f32x4.add(log2(x), s(9.72)), s(<f32>(1.0 / 17.52))), f32x4.le(x, s(0.0078125))); }
export function acescct(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    v128.store(r + i, toCct(v128.load(r + i)));
    v128.store(g + i, toCct(v128.load(g + i)));
    v128.store(b + i, toCct(v128.load(b + i)));
  }
}

/** A place on an axis: 0 to `top`, what is no number counting as the start. */
// @ts-ignore: decorator
@inline function placed(v: v128, p: usize, top: v128): v128 { return f32x4.pmin(top, f32x4.pmax(s(0), f32x4.mul(f32x4.sub(v, v128.load32_splat(p)), v128.load32_splat(p + 12)))); }
/** The colour at one of four places: its cell, the two corners between, the far one, each with its weight. */
// @ts-ignore: decorator
@inline function corners(at: usize, a: i32, c: i32, far: i32, w0: f32, w1: f32, w2: f32, w3: f32): v128 {
  return f32x4.add(f32x4.add(f32x4.add(f32x4.mul(s(w0), v128.load(at)), f32x4.mul(s(w1), v128.load(at + <usize>a))), f32x4.mul(s(w2), v128.load(at + <usize>c))), f32x4.mul(s(w3), v128.load(at + <usize>far)));
}

/**
 * A cube read by tetrahedral interpolation (Kasson, Nin, Plouffe, Hafner 1995): from the cell's first corner along the axis
 * of the greatest part, then of the middle one, to the far corner. p: side, domain minimum[3], (side − 1)/domain width[3],
 * then side³ colours, red fastest, and one number more. What lies outside the domain is read at its border.
 */
export function lut3d(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const side = load<f32>(p), top = s(side - 1), last = s(side - 2), cells = p + 28, dy = <i32>side * 12, dz = dy * <i32>side, far = 12 + dy + dz;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = placed(v128.load(r + i), p + 4, top), y = placed(v128.load(g + i), p + 8, top), z = placed(v128.load(b + i), p + 12, top);
    const cx = f32x4.pmin(last, f32x4.floor(x)), cy = f32x4.pmin(last, f32x4.floor(y)), cz = f32x4.pmin(last, f32x4.floor(z)), u = f32x4.sub(x, cx), v = f32x4.sub(y, cy), w = f32x4.sub(z, cz);
    const at = i32x4.add(i32x4.mul(whole(cx), i32x4.splat(12)), i32x4.add(i32x4.mul(whole(cy), i32x4.splat(dy)), i32x4.mul(whole(cz), i32x4.splat(dz))));
    const high = f32x4.pmax(u, f32x4.pmax(v, w)), low = f32x4.pmin(u, f32x4.pmin(v, w)), middle = f32x4.pmax(f32x4.pmin(u, v), f32x4.pmin(f32x4.pmax(u, v), w));
    const a = v128.bitselect(i32x4.splat(12), v128.bitselect(i32x4.splat(dy), i32x4.splat(dz), f32x4.eq(high, v)), f32x4.eq(high, u));
    const c = i32x4.sub(i32x4.splat(far), v128.bitselect(i32x4.splat(dz), v128.bitselect(i32x4.splat(dy), i32x4.splat(12), f32x4.eq(low, v)), f32x4.eq(low, w)));
    const w0 = f32x4.sub(s(1), high), w1 = f32x4.sub(high, middle), w2 = f32x4.sub(middle, low);
    const A = corners(cells + <usize>i32x4.extract_lane(at, 0), i32x4.extract_lane(a, 0), i32x4.extract_lane(c, 0), far, f32x4.extract_lane(w0, 0), f32x4.extract_lane(w1, 0), f32x4.extract_lane(w2, 0), f32x4.extract_lane(low, 0));
    const B = corners(cells + <usize>i32x4.extract_lane(at, 1), i32x4.extract_lane(a, 1), i32x4.extract_lane(c, 1), far, f32x4.extract_lane(w0, 1), f32x4.extract_lane(w1, 1), f32x4.extract_lane(w2, 1), f32x4.extract_lane(low, 1));
    const C = corners(cells + <usize>i32x4.extract_lane(at, 2), i32x4.extract_lane(a, 2), i32x4.extract_lane(c, 2), far, f32x4.extract_lane(w0, 2), f32x4.extract_lane(w1, 2), f32x4.extract_lane(w2, 2), f32x4.extract_lane(low, 2));
    const D = corners(cells + <usize>i32x4.extract_lane(at, 3), i32x4.extract_lane(a, 3), i32x4.extract_lane(c, 3), far, f32x4.extract_lane(w0, 3), f32x4.extract_lane(w1, 3), f32x4.extract_lane(w2, 3), f32x4.extract_lane(low, 3));
    const AB = v128.shuffle<u32>(A, B, 0, 4, 1, 5), CD = v128.shuffle<u32>(C, D, 0, 4, 1, 5);
    v128.store(r + i, v128.shuffle<u64>(AB, CD, 0, 2));
    v128.store(g + i, v128.shuffle<u64>(AB, CD, 1, 3));
    v128.store(b + i, v128.shuffle<u64>(v128.shuffle<u32>(A, B, 2, 6, 2, 6), v128.shuffle<u32>(C, D, 2, 6, 2, 6), 0, 2));
  }
}
/** Three 1D tables. p: size, domain minimum[3], (size − 1)/domain width[3], then the tables of red, green, blue. */
export function lut1d(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const size = load<f32>(p), top = s(size - 1), last = s(size - 2);
  for (let c: usize = 0; c < 3; c++) {
    const plane = c == 0 ? r : c == 1 ? g : b, q = p + 4 + (c << 2), table = p + 28 + ((c * <usize>size) << 2);
    for (let i: usize = 0; i < <usize>n * 4; i += 16) {
      const x = placed(v128.load(plane + i), q, top), cell = f32x4.pmin(last, f32x4.floor(x));
      v128.store(plane + i, pairs(table, whole(cell), f32x4.sub(x, cell)));
    }
  }
}
