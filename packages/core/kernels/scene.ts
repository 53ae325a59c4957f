import { mix, row, s, smooth } from './maths';

/**
 * Plate to scene: 16-bit camera RGB (three planes of n) to linear Rec.2020.
 * p: offset, scale, balance[3], matrix[9], recovery (0–1). A channel that clipped (0.97 … 1 of the sensor's range) is
 * rebuilt from the other two: it is at least what it could hold, and at least their mean once balanced, as a grey would
 * be; a clipped one among them counts as the brightest of the three. So where all are gone the colour is neutral.
 * Without recovery any clipped channel makes a neutral.
 */
export function scene(src: usize, r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const offset = v128.load32_splat(p), scale = v128.load32_splat(p + 4), recovery = v128.load32_splat(p + 56);
  const plane = <usize>n * 2;
  for (let i: usize = 0; i < <usize>n; i += 4) {
    const a = src + i * 2;
    const cr = f32x4.mul(f32x4.sub(f32x4.convert_i32x4_s(v128.load_ext<u16>(a)), offset), scale);
    const cg = f32x4.mul(f32x4.sub(f32x4.convert_i32x4_s(v128.load_ext<u16>(a + plane)), offset), scale);
    const cb = f32x4.mul(f32x4.sub(f32x4.convert_i32x4_s(v128.load_ext<u16>(a + 2 * plane)), offset), scale);
    let x = f32x4.mul(cr, v128.load32_splat(p + 8)), y = f32x4.mul(cg, v128.load32_splat(p + 12)), z = f32x4.mul(cb, v128.load32_splat(p + 16));
    if (v128.any_true(f32x4.gt(f32x4.pmax(cr, f32x4.pmax(cg, cb)), s(0.97)))) {
      const mr = smooth(s(0.97), s(33.333333), cr), mg = smooth(s(0.97), s(33.333333), cg), mb = smooth(s(0.97), s(33.333333), cb);
      const top = f32x4.pmax(x, f32x4.pmax(y, z)), any = f32x4.pmax(mr, f32x4.pmax(mg, mb));
      // what each channel says to the others: itself while it holds, the brightest once it has clipped
      const sr = mix(x, top, mr), sg = mix(y, top, mg), sb = mix(z, top, mb), half = s(0.5);
      const nr = mix(x, f32x4.pmax(x, f32x4.mul(half, f32x4.add(sg, sb))), mr), ng = mix(y, f32x4.pmax(y, f32x4.mul(half, f32x4.add(sr, sb))), mg), nb = mix(z, f32x4.pmax(z, f32x4.mul(half, f32x4.add(sr, sg))), mb);
      x = mix(mix(x, top, any), nr, recovery); y = mix(mix(y, top, any), ng, recovery); z = mix(mix(z, top, any), nb, recovery);
    }
    v128.store(r + i * 4, row(p + 20, x, y, z));
    v128.store(g + i * 4, row(p + 32, x, y, z));
    v128.store(b + i * 4, row(p + 44, x, y, z));
  }
}
