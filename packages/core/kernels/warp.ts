import { placesStep } from './lens';
import { s } from './maths';

// Lanczos' kernel of three lobes (Duchon 1979) over six by six pixels. A table holds, for each of 257 places between two
// pixels, 32 bytes of six weights as reals, then, all of those over, 16 bytes of the same as parts of 16384, eight numbers.

/** One row of eight pixels less 32768, weighted along the row: four sums of two. */
// @ts-ignore: decorator
@inline function along(at: usize, weights: v128): v128 { return f32x4.convert_i32x4_s(i32x4.dot_i16x8_s(weights, v128.xor(i16x8.splat(<i16>0x8000), v128.load(at)))); }
/** Six rows from `at`, weighted by wx along and wy down: four parts of the pixel's value less 32768, times 16384. */
// @ts-ignore: decorator
@inline function patch(at: usize, stride: usize, wx: v128, wy: usize): v128 {
  const w = v128.load(wy), v = v128.load(wy, 16);
  const first = f32x4.add(f32x4.mul(v128.shuffle<f32>(w, w, 0, 0, 0, 0), along(at, wx)), f32x4.mul(v128.shuffle<f32>(w, w, 1, 1, 1, 1), along(at + stride, wx))), second = f32x4.add(f32x4.mul(v128.shuffle<f32>(w, w, 2, 2, 2, 2), along(at + 2 * stride, wx)), f32x4.mul(v128.shuffle<f32>(w, w, 3, 3, 3, 3), along(at + 3 * stride, wx)));
  return f32x4.add(f32x4.add(first, second), f32x4.add(f32x4.mul(v128.shuffle<f32>(v, v, 0, 0, 0, 0), along(at + 4 * stride, wx)), f32x4.mul(v128.shuffle<f32>(v, v, 1, 1, 1, 1), along(at + 5 * stride, wx))));
}
/** The same where the patch hangs over the border, which is repeated. */
function edge(plane: usize, width: i32, height: i32, ix: i32, iy: i32, wx: usize, wy: usize): v128 {
  let total: f32 = 0;
  for (let j = 0; j < 6; j++) for (let x = 0; x < 6; x++) total += load<f32>(wy + (<usize>j << 2)) * load<f32>(wx + (<usize>x << 2)) * (<f32>load<u16>(plane + (<usize>(min(max(iy + j, 0), height - 1) * width + min(max(ix + x, 0), width - 1)) << 1)) - 32768);
  return f32x4(total * 16384, 0, 0, 0);
}
/** Whichever of the two a place is; both are worked out. */
// @ts-ignore: decorator
@inline function either(plane: usize, width: i32, height: i32, ix: i32, iy: i32, kx: usize, ky: usize, table: usize): v128 {
  const jx = min(max(ix, 0), max(width - 8, 0)), jy = min(max(iy, 0), max(height - 6, 0));
  const within = patch(plane + (<usize>(jy * width + jx) << 1), <usize>width << 1, v128.load(table + 8224 + (kx << 4)), table + (ky << 5));
  return select<v128>(within, edge(plane, width, height, ix, iy, table + (kx << 5), table + (ky << 5)), ix >= 0 && iy >= 0 && ix + 8 <= width && iy + 6 <= height);
}
// @ts-ignore: decorator
@inline function inside(plane: usize, width: i32, ix: i32, iy: i32, kx: usize, ky: usize, table: usize): v128 { return patch(plane + (<usize>(iy * width + ix) << 1), <usize>width << 1, v128.load(table + 8224 + (kx << 4)), table + (ky << 5)); }
/** Four places of one plane, as 16-bit numbers. */
// @ts-ignore: decorator
@inline function four(plane: usize, width: i32, height: i32, ix: v128, iy: v128, kx: v128, ky: v128, table: usize): v128 {
  const x0 = i32x4.extract_lane(ix, 0), x1 = i32x4.extract_lane(ix, 1), x2 = i32x4.extract_lane(ix, 2), x3 = i32x4.extract_lane(ix, 3), y0 = i32x4.extract_lane(iy, 0), y1 = i32x4.extract_lane(iy, 1), y2 = i32x4.extract_lane(iy, 2), y3 = i32x4.extract_lane(iy, 3);
  const u0 = i32x4.extract_lane(kx, 0), u1 = i32x4.extract_lane(kx, 1), u2 = i32x4.extract_lane(kx, 2), u3 = i32x4.extract_lane(kx, 3), v0 = i32x4.extract_lane(ky, 0), v1 = i32x4.extract_lane(ky, 1), v2 = i32x4.extract_lane(ky, 2), v3 = i32x4.extract_lane(ky, 3);
  const none = i32x4.splat(0), before = v128.or(i32x4.lt_s(ix, none), i32x4.lt_s(iy, none)), after = v128.or(i32x4.lt_s(i32x4.splat(width - 8), ix), i32x4.lt_s(i32x4.splat(height - 6), iy));
  let a: v128, b: v128, c: v128, d: v128;
  if (v128.any_true(v128.or(before, after))) {
    a = either(plane, width, height, x0, y0, u0, v0, table);
    b = either(plane, width, height, x1, y1, u1, v1, table);
    c = either(plane, width, height, x2, y2, u2, v2, table);
    d = either(plane, width, height, x3, y3, u3, v3, table);
  } else {
    a = inside(plane, width, x0, y0, u0, v0, table);
    b = inside(plane, width, x1, y1, u1, v1, table);
    c = inside(plane, width, x2, y2, u2, v2, table);
    d = inside(plane, width, x3, y3, u3, v3, table);
  }
  const ab = f32x4.add(v128.shuffle<f32>(a, b, 0, 4, 1, 5), v128.shuffle<f32>(a, b, 2, 6, 3, 7)), cd = f32x4.add(v128.shuffle<f32>(c, d, 0, 4, 1, 5), v128.shuffle<f32>(c, d, 2, 6, 3, 7));
  const sum = f32x4.add(v128.shuffle<f32>(ab, cd, 0, 1, 4, 5), v128.shuffle<f32>(ab, cd, 2, 3, 6, 7));
  const v = i32x4.trunc_sat_f32x4_s(f32x4.pmin(s(65535), f32x4.pmax(s(0), f32x4.add(f32x4.mul(sum, s(1.0 / 16384.0)), s(32768.5)))));
  return i16x8.narrow_i32x4_u(v, v);
}
/** The first pixel of the six about a place (in pixel centres; what lies beyond any picture, or nowhere, is held near), and which of 256 places between two it is. */
// @ts-ignore: decorator
@inline function firstOf(low: v128): v128 { return i32x4.sub(i32x4.trunc_sat_f32x4_s(f32x4.pmin(s(1e6), f32x4.pmax(s(-1e6), low))), i32x4.splat(2)); }
// @ts-ignore: decorator
@inline function betweenOf(x: v128, low: v128): v128 { return i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(f32x4.sub(x, low), s(256)), s(0.5))); }

/**
 * One row of a picture seen through a homography, each source pixel a 16-bit number. src: three planes of width × height;
 * dst: three planes' rows, `plane` bytes apart. p: X, Y, Z of the row's first pixel and their steps along it [6] (source
 * place = X/Z, Y/Z in pixel centres). Up to three numbers behind each row are written as well.
 */
export function warp(src: usize, width: i32, height: i32, dst: usize, plane: usize, n: i32, p: usize, table: usize): void {
  const size = <usize>width * <usize>height * 2;
  for (let i = 0; i < n; i += 4) {
    const j = f32x4.add(s(<f32>i), f32x4(0, 1, 2, 3)), z = f32x4.add(v128.load32_splat(p, 8), f32x4.mul(j, v128.load32_splat(p, 20)));
    const px = f32x4.div(f32x4.add(v128.load32_splat(p), f32x4.mul(j, v128.load32_splat(p, 12))), z), py = f32x4.div(f32x4.add(v128.load32_splat(p, 4), f32x4.mul(j, v128.load32_splat(p, 16))), z);
    const lx = f32x4.floor(px), ly = f32x4.floor(py), ix = firstOf(lx), iy = firstOf(ly), kx = betweenOf(px, lx), ky = betweenOf(py, ly);
    for (let c: usize = 0; c < 3; c++) v128.store64_lane(dst + c * plane + (<usize>i << 1), four(src + c * size, width, height, ix, iy, kx, ky, table), 0);
  }
}

/** The same for one plane at places of its own (`lensPlaces`), in pixel centres of the source. */
export function warpPlaces(src: usize, width: i32, height: i32, dst: usize, n: i32, places: usize, table: usize): void {
  const step = placesStep(n);
  for (let i = 0; i < n; i += 4) {
    const px = v128.load(places + (<usize>i << 2)), py = v128.load(places + step + (<usize>i << 2)), lx = f32x4.floor(px), ly = f32x4.floor(py);
    v128.store64_lane(dst + (<usize>i << 1), four(src, width, height, firstOf(lx), firstOf(ly), betweenOf(px, lx), betweenOf(py, ly), table), 0);
  }
}
