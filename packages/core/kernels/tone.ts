import { pow, read, row, s } from './maths';

/** A square root of light, which no number and no light below 0 count as none for. */
// @ts-ignore: decorator
@inline function root(v: v128): v128 { return f32x4.sqrt(f32x4.pmax(s(0), v)); }

/** A curve for each channel. p: number of intervals, then three tables over the square root of the value in [0, 1], the last value of each repeated. */
export function curves(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const last = load<f32>(p), step = (<usize>last + 2) << 2, red = p + 4;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    v128.store(r + i, read(red, last, root(v128.load(r + i))));
    v128.store(g + i, read(red + step, last, root(v128.load(g + i))));
    v128.store(b + i, read(red + 2 * step, last, root(v128.load(b + i))));
  }
}
/** A curve of luminance, the ratios of the channels kept. p: luminance weights[3], number of intervals, table as for `curves`. */
export function curveLuminance(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const last = load<f32>(p + 12), table = p + 16;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i), light = row(p, x, y, z), gain = f32x4.div(read(table, last, root(light)), f32x4.pmax(f32x4.pmin(light, s(1)), s(1e-5)));
    v128.store(r + i, f32x4.mul(x, gain));
    v128.store(g + i, f32x4.mul(y, gain));
    v128.store(b + i, f32x4.mul(z, gain));
  }
}
/** A curve of OKLab lightness over planes of L, a, b, colour kept. p: number of intervals, table over L in [0, 1]. */
export function curveLightness(l: usize, _a: usize, _b: usize, n: i32, p: usize): void {
  const last = load<f32>(p), table = p + 4;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) v128.store(l + i, read(table, last, v128.load(l + i)));
}
/** pivot·(v/pivot)^exponent of each channel, or of luminance with the channels' ratios kept. p: pivot, 1/pivot, exponent (less 1 for luminance), 1 for luminance, weights[3]. */
export function contrast(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const pivot = v128.load32_splat(p), over = v128.load32_splat(p + 4), exponent = v128.load32_splat(p + 8), whole = load<f32>(p + 12) > 0;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i);
    if (whole) {
      const gain = pow(f32x4.mul(f32x4.pmax(row(p + 16, x, y, z), s(1e-7)), over), exponent);
      v128.store(r + i, f32x4.mul(x, gain)); v128.store(g + i, f32x4.mul(y, gain)); v128.store(b + i, f32x4.mul(z, gain));
    } else {
      v128.store(r + i, f32x4.mul(pivot, pow(f32x4.pmax(f32x4.mul(x, over), s(0)), exponent)));
      v128.store(g + i, f32x4.mul(pivot, pow(f32x4.pmax(f32x4.mul(y, over), s(0)), exponent)));
      v128.store(b + i, f32x4.mul(pivot, pow(f32x4.pmax(f32x4.mul(z, over), s(0)), exponent)));
    }
  }
}
/** M·rgb + o. p: matrix[9], offsets[3]. */
export function affine(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i);
    v128.store(r + i, f32x4.add(row(p, x, y, z), v128.load32_splat(p + 36)));
    v128.store(g + i, f32x4.add(row(p + 12, x, y, z), v128.load32_splat(p + 40)));
    v128.store(b + i, f32x4.add(row(p + 24, x, y, z), v128.load32_splat(p + 44)));
  }
}
/** What `affine` does, then each channel through a table over [0, 1] (clamped). p: matrix[9], offsets[3], number of intervals, table, the last value repeated. */
export function affineTable(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const last = load<f32>(p + 48), table = p + 52;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i);
    v128.store(r + i, read(table, last, f32x4.add(row(p, x, y, z), v128.load32_splat(p + 36))));
    v128.store(g + i, read(table, last, f32x4.add(row(p + 12, x, y, z), v128.load32_splat(p + 40))));
    v128.store(b + i, read(table, last, f32x4.add(row(p + 24, x, y, z), v128.load32_splat(p + 44))));
  }
}
