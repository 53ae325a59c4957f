import { log2, s } from './maths';

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

/**
 * A cube read by tetrahedral interpolation (Kasson, Nin, Plouffe, Hafner 1995). p: side, domain minimum[3], (side − 1)/domain
 * width[3], then side³ colours, red fastest. What lies outside the domain is read at its border.
 */
export function lut3d(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const side = <i32>load<f32>(p), top = <f32>(side - 1), cells = p + 28, dy = <usize>side * 12, dz = dy * <usize>side;
  for (let i: usize = 0; i < <usize>n * 4; i += 4) {
    const x = min<f32>(max<f32>((load<f32>(r + i) - load<f32>(p, 4)) * load<f32>(p, 16), 0), top), y = min<f32>(max<f32>((load<f32>(g + i) - load<f32>(p, 8)) * load<f32>(p, 20), 0), top), z = min<f32>(max<f32>((load<f32>(b + i) - load<f32>(p, 12)) * load<f32>(p, 24), 0), top);
    const ix = min(<i32>x, side - 2), iy = min(<i32>y, side - 2), iz = min(<i32>z, side - 2), fx = x - <f32>ix, fy = y - <f32>iy, fz = z - <f32>iz;
    const o = cells + <usize>ix * 12 + <usize>iy * dy + <usize>iz * dz, far = o + 12 + dy + dz;
    let a: usize, c: usize, w0: f32, w1: f32, w2: f32, w3: f32;
    if (fx >= fy) {
      if (fy >= fz) { a = o + 12; c = o + 12 + dy; w0 = 1 - fx; w1 = fx - fy; w2 = fy - fz; w3 = fz; }
      else if (fx >= fz) { a = o + 12; c = o + 12 + dz; w0 = 1 - fx; w1 = fx - fz; w2 = fz - fy; w3 = fy; }
      else { a = o + dz; c = o + 12 + dz; w0 = 1 - fz; w1 = fz - fx; w2 = fx - fy; w3 = fy; }
    } else if (fz >= fy) { a = o + dz; c = o + dy + dz; w0 = 1 - fz; w1 = fz - fy; w2 = fy - fx; w3 = fx; }
    else if (fz >= fx) { a = o + dy; c = o + dy + dz; w0 = 1 - fy; w1 = fy - fz; w2 = fz - fx; w3 = fx; }
    else { a = o + dy; c = o + 12 + dy; w0 = 1 - fy; w1 = fy - fx; w2 = fx - fz; w3 = fz; }
    store<f32>(r + i, w0 * load<f32>(o) + w1 * load<f32>(a) + w2 * load<f32>(c) + w3 * load<f32>(far));
    store<f32>(g + i, w0 * load<f32>(o, 4) + w1 * load<f32>(a, 4) + w2 * load<f32>(c, 4) + w3 * load<f32>(far, 4));
    store<f32>(b + i, w0 * load<f32>(o, 8) + w1 * load<f32>(a, 8) + w2 * load<f32>(c, 8) + w3 * load<f32>(far, 8));
  }
}
/** Three 1D tables. p: size, domain minimum[3], (size − 1)/domain width[3], then the tables of red, green, blue. */
export function lut1d(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const size = <i32>load<f32>(p), top = <f32>(size - 1);
  for (let c: usize = 0; c < 3; c++) {
    const plane = c == 0 ? r : c == 1 ? g : b, low = load<f32>(p + 4 + (c << 2)), scale = load<f32>(p + 16 + (c << 2)), table = p + 28 + (c * <usize>size << 2);
    for (let i: usize = 0; i < <usize>n * 4; i += 4) {
      const x = min<f32>(max<f32>((load<f32>(plane + i) - low) * scale, 0), top), k = min(<i32>x, size - 2), t = x - <f32>k, q = table + (<usize>k << 2);
      store<f32>(plane + i, load<f32>(q) + (load<f32>(q, 4) - load<f32>(q)) * t);
    }
  }
}
