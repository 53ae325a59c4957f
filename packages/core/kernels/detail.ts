import { s } from './maths';

// Tiles here are planes of 32-bit numbers, `stride` bytes a row; sums are always taken in the same order, so that a place
// comes out the same whatever tile it lies in.

/** Means of two by two places: width × height of the smaller plane. */
export function quarter(src: usize, dst: usize, width: i32, height: i32, stride: usize, small: usize): void {
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x += 4) {
    const o = src + <usize>(2 * y) * stride + (<usize>x << 3), a = f32x4.add(v128.load(o), v128.load(o + stride)), b = f32x4.add(v128.load(o, 16), v128.load(o + stride, 16));
    v128.store(dst + <usize>y * small + (<usize>x << 2), f32x4.mul(s(0.25), f32x4.add(v128.shuffle<f32>(a, b, 0, 2, 4, 6), v128.shuffle<f32>(a, b, 1, 3, 5, 7))));
  }
}
/** Four places between those of a half-sized row pair, `near` three times as near as `far`. */
// @ts-ignore: decorator
@inline function between(near: usize, far: usize): v128 {
  const v = f32x4.add(f32x4.mul(s(0.75), v128.load(near)), f32x4.mul(s(0.25), v128.load(far)));
  return f32x4.add(f32x4.mul(s(0.75), v128.shuffle<f32>(v, v, 1, 1, 2, 2)), f32x4.mul(s(0.25), v128.shuffle<f32>(v, v, 0, 2, 1, 3)));
}
/** Adds a plane of half the size, mixed bilinearly; valid four places inside the plane's border. */
export function addBetween(plane: usize, half: usize, width: i32, height: i32, stride: usize, small: usize): void {
  for (let y = 4; y < height - 4; y++) {
    const near = half + <usize>(y >> 1) * small, far = half + <usize>((y >> 1) + ((y & 1) == 1 ? 1 : -1)) * small;
    for (let x = 4; x < width - 4; x += 4) {
      const o = plane + <usize>y * stride + (<usize>x << 2), h = (<usize>x << 1) - 4;
      v128.store(o, f32x4.add(v128.load(o), between(near + h, far + h)));
    }
  }
}
/**
 * Camera light (three planes of 16-bit numbers, `plane` bytes apart) to numbers whose noise is even, (2/a)·√(a·v + b)
 * (Anscombe 1948, with read noise: Murtagh, Starck, Bijaoui 1995), and to their luma (r + 2g + b)/4 and differences from green.
 * p: offset, scale, a, b, 2/a.
 */
export function stabilise(src: usize, plane: usize, luma: usize, red: usize, blue: usize, n: i32, p: usize): void {
  const offset = v128.load32_splat(p), scale = v128.load32_splat(p + 4), a = v128.load32_splat(p + 8), b = v128.load32_splat(p + 12), k = v128.load32_splat(p + 16);
  for (let i: usize = 0; i < <usize>n; i += 4) {
    const r = f32x4.mul(k, f32x4.sqrt(f32x4.pmax(f32x4.add(f32x4.mul(a, f32x4.mul(f32x4.sub(f32x4.convert_i32x4_s(v128.load_ext<u16>(src + i * 2)), offset), scale)), b), s(0))));
    const g = f32x4.mul(k, f32x4.sqrt(f32x4.pmax(f32x4.add(f32x4.mul(a, f32x4.mul(f32x4.sub(f32x4.convert_i32x4_s(v128.load_ext<u16>(src + plane + i * 2)), offset), scale)), b), s(0))));
    const z = f32x4.mul(k, f32x4.sqrt(f32x4.pmax(f32x4.add(f32x4.mul(a, f32x4.mul(f32x4.sub(f32x4.convert_i32x4_s(v128.load_ext<u16>(src + 2 * plane + i * 2)), offset), scale)), b), s(0))));
    v128.store(luma + i * 4, f32x4.mul(s(0.25), f32x4.add(f32x4.add(r, z), f32x4.add(g, g))));
    v128.store(red + i * 4, f32x4.sub(r, g));
    v128.store(blue + i * 4, f32x4.sub(z, g));
  }
}
/** Back from luma and differences to 16-bit camera light; the inverse of `stabilise`. p besides: 1/a, 1/scale at [5], [6]. */
export function restore(luma: usize, red: usize, blue: usize, dst: usize, plane: usize, n: i32, p: usize): void {
  const b = v128.load32_splat(p + 12), k = v128.load32_splat(p + 16), back = v128.load32_splat(p + 20), up = v128.load32_splat(p + 24), offset = v128.load32_splat(p);
  for (let i: usize = 0; i < <usize>n; i += 4) {
    const cr = v128.load(red + i * 4), cb = v128.load(blue + i * 4), g = f32x4.sub(v128.load(luma + i * 4), f32x4.mul(s(0.25), f32x4.add(cr, cb)));
    for (let c: usize = 0; c < 3; c++) {
      const t = f32x4.div(f32x4.pmax(c == 0 ? f32x4.add(g, cr) : c == 1 ? g : f32x4.add(g, cb), s(0)), k);
      const v = f32x4.nearest(f32x4.add(f32x4.mul(f32x4.mul(f32x4.sub(f32x4.mul(t, t), b), back), up), offset));
      const q = i32x4.trunc_sat_f32x4_s(f32x4.pmin(f32x4.pmax(v, s(0)), s(65535)));
      v128.store64_lane(dst + c * plane + i * 2, i16x8.narrow_i32x4_u(q, q), 0);
    }
  }
}
