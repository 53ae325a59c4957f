import { mix, row, s, smooth } from './maths';

/**
 * Plate to scene: 16-bit camera RGB (three planes of n) to linear Rec.2020.
 * p: offset, scale, balance[3], matrix[9]. Where the sensor clipped (0.97 … 1 of its range) the balanced colour goes
 * over to a neutral of its brightest channel, so that blown light never takes the tint of the balance.
 */
export function scene(src: usize, r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const offset = v128.load32_splat(p), scale = v128.load32_splat(p + 4);
  const plane = <usize>n * 2;
  for (let i: usize = 0; i < <usize>n; i += 4) {
    const a = src + i * 2;
    const cr = f32x4.mul(f32x4.sub(f32x4.convert_i32x4_u(v128.load_ext<u16>(a)), offset), scale);
    const cg = f32x4.mul(f32x4.sub(f32x4.convert_i32x4_u(v128.load_ext<u16>(a + plane)), offset), scale);
    const cb = f32x4.mul(f32x4.sub(f32x4.convert_i32x4_u(v128.load_ext<u16>(a + 2 * plane)), offset), scale);
    const t = smooth(s(0.97), s(1.0), f32x4.max(cr, f32x4.max(cg, cb)));
    let x = f32x4.mul(cr, v128.load32_splat(p + 8)), y = f32x4.mul(cg, v128.load32_splat(p + 12)), z = f32x4.mul(cb, v128.load32_splat(p + 16));
    const top = f32x4.max(x, f32x4.max(y, z));
    x = mix(x, top, t); y = mix(y, top, t); z = mix(z, top, t);
    v128.store(r + i * 4, row(p + 20, x, y, z));
    v128.store(g + i * 4, row(p + 32, x, y, z));
    v128.store(b + i * 4, row(p + 44, x, y, z));
  }
}
