import { s } from './maths';

// Tiles here are planes of 32-bit numbers, `stride` bytes a row; sums are always taken in the same order, so that a place
// comes out the same whatever tile it lies in.

/** Mean over 2·radius + 1 places along a row, for n places from `src` on. */
// @ts-ignore: decorator
@inline function meanOf(src: usize, step: usize, radius: i32, share: v128): v128 {
  let sum = v128.load(src - step * <usize>radius);
  for (let k = 1 - radius; k <= radius; k++) sum = f32x4.add(sum, v128.load(src + <usize>(<isize>step * k)));
  return f32x4.mul(sum, share);
}

/** Box mean of a plane, rows then columns, through `scratch`; valid `radius` inside the tile. */
export function box(src: usize, scratch: usize, dst: usize, width: i32, height: i32, stride: usize, radius: i32): void {
  const share = f32x4.splat(<f32>1.0 / (<f32>(radius + radius + 1)));
  for (let y = 0; y < height; y++) for (let x = radius; x < width - radius; x += 4) {
    const o = <usize>y * stride + (<usize>x << 2);
    v128.store(scratch + o, meanOf(src + o, 4, radius, share));
  }
  for (let y = radius; y < height - radius; y++) for (let x = radius; x < width - radius; x += 4) {
    const o = <usize>y * stride + (<usize>x << 2);
    v128.store(dst + o, meanOf(scratch + o, stride, radius, share));
  }
}
/** A plane times itself. */
export function squares(src: usize, dst: usize, bytes: usize): void {
  for (let i: usize = 0; i < bytes; i += 16) { const v = v128.load(src + i); v128.store(dst + i, f32x4.mul(v, v)); }
}
/**
 * Slope and offset of the guided filter of a plane by itself (He, Sun, Tang 2010, eq. 5 and 6): from mean (in `slope`)
 * and mean of squares (in `offset`), in place. `noise` is the variance that counts as flat.
 */
export function slopes(slope: usize, offset: usize, bytes: usize, noise: f32): void {
  const flat = s(noise);
  for (let i: usize = 0; i < bytes; i += 16) {
    const mean = v128.load(slope + i), variance = f32x4.pmax(f32x4.sub(v128.load(offset + i), f32x4.mul(mean, mean)), s(0)), a = f32x4.div(variance, f32x4.add(variance, flat));
    v128.store(slope + i, a);
    v128.store(offset + i, f32x4.mul(mean, f32x4.sub(s(1), a)));
  }
}
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
      const q = i32x4.trunc_sat_f32x4_u(f32x4.pmin(f32x4.pmax(v, s(0)), s(65535)));
      v128.store64_lane(dst + c * plane + i * 2, i16x8.narrow_i32x4_u(q, q), 0);
    }
  }
}
/**
 * Sharpens luma: adds amount·(luma − blurred), less where there is no edge (`slope` of the guided filter, below `edge`)
 * and where the difference is no more than noise; and never further than `over` beyond the eight neighbours (no halos).
 */
export function sharpen(luma: usize, blurred: usize, slope: usize, dst: usize, n: i32, stride: usize, amount: f32, edge: f32, noise: f32, over: f32): void {
  const gain = s(amount), from = s(edge), still = s(noise), beyond = s(over);
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const o = luma + i, v = v128.load(o), d = f32x4.sub(v, v128.load(blurred + i)), d2 = f32x4.mul(d, d);
    const m = f32x4.pmin(f32x4.pmax(f32x4.div(f32x4.sub(v128.load(slope + i), from), s(0.25)), s(0)), s(1)), mask = edge <= 0 ? s(1) : m;
    let low = v, high = v;
    for (let j: isize = -1; j <= 1; j++) for (let k: isize = -4; k <= 4; k += 4) { const q = v128.load(o + <usize>(j * <isize>stride + k)); low = f32x4.pmin(low, q); high = f32x4.pmax(high, q); }
    const room = f32x4.mul(beyond, f32x4.sub(high, low)), wanted = f32x4.add(v, f32x4.mul(f32x4.mul(gain, mask), f32x4.mul(d, f32x4.div(d2, f32x4.add(d2, still)))));
    v128.store(dst + i, f32x4.pmin(f32x4.pmax(wanted, f32x4.sub(low, room)), f32x4.add(high, room)));
  }
}
