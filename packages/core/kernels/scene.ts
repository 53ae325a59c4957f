import { mix, pairs, row, s, smooth, whole } from './maths';

/** Where a channel has clipped, 0–1: from 0.97 to the whole of the sensor's range. */
// @ts-ignore: decorator
@inline function gone(camera: v128): v128 { return smooth(s(0.97), s(33.333333), camera); }

/**
 * Plate to scene, one row: 16-bit camera RGB (three planes, `plane` bytes apart) to linear Rec.2020.
 * p: offset, scale, balance[3], matrix[9], recovery (0–1), place of the row in the map[3], weight of the map (0 or 1).
 * A clipped channel is rebuilt from those that hold: each, over its share in the colour of what surrounds the place (`rows`:
 * red and blue of one green, balanced, `stride` bytes apart), tells how much light there was; the mean is believed as far as
 * they agree, else they are taken for a grey's. It is at least what it held. Where all are gone the colour is neutral, as it
 * is wherever any has clipped without recovery.
 */
export function scene(src: usize, plane: usize, r: usize, g: usize, b: usize, n: i32, p: usize, rows: usize, stride: usize): void {
  const offset = v128.load32_splat(p), scale = v128.load32_splat(p + 4), recovery = v128.load32_splat(p + 56), known = load<f32>(p + 72) > 0;
  for (let k: i32 = 0; k < n; k += 4) {
    const i = <usize>k << 2, a = src + (<usize>k << 1);
    const cr = f32x4.mul(f32x4.sub(f32x4.convert_i32x4_s(v128.load_ext<u16>(a)), offset), scale);
    const cg = f32x4.mul(f32x4.sub(f32x4.convert_i32x4_s(v128.load_ext<u16>(a + plane)), offset), scale);
    const cb = f32x4.mul(f32x4.sub(f32x4.convert_i32x4_s(v128.load_ext<u16>(a + 2 * plane)), offset), scale);
    let x = f32x4.mul(cr, v128.load32_splat(p + 8)), y = f32x4.mul(cg, v128.load32_splat(p + 12)), z = f32x4.mul(cb, v128.load32_splat(p + 16));
    if (v128.any_true(f32x4.gt(f32x4.pmax(cr, f32x4.pmax(cg, cb)), s(0.97)))) {
      const mr = gone(cr), mg = gone(cg), mb = gone(cb);
      const hr = f32x4.sub(s(1), mr), hg = f32x4.sub(s(1), mg), hb = f32x4.sub(s(1), mb);
      let red = s(1), blue = s(1);
      if (known) {
        const at = f32x4.pmin(v128.load32_splat(p + 60), f32x4.pmax(s(0), f32x4.add(v128.load32_splat(p + 64), f32x4.mul(f32x4.add(s(<f32>k), f32x4(0, 1, 2, 3)), v128.load32_splat(p + 68)))));
        const low = f32x4.floor(at), cell = whole(low), t = f32x4.sub(at, low);
        red = pairs(rows, cell, t);
        blue = pairs(rows + stride, cell, t);
        // two that hold and do not fit that colour speak of another one
        const er = f32x4.div(x, red), eb = f32x4.div(z, blue), far = f32x4.pmax(f32x4.pmax(apart(er, y, hr, hg), apart(eb, y, hb, hg)), apart(er, eb, hr, hb));
        const fits = f32x4.sub(s(1), smooth(s(0.15), s(1.6666666), far));
        red = mix(s(1), red, fits);
        blue = mix(s(1), blue, fits);
      }
      const held = f32x4.add(f32x4.add(hr, hg), f32x4.add(hb, s(1e-6)));
      const light = f32x4.div(f32x4.add(f32x4.add(f32x4.mul(hr, f32x4.div(x, red)), f32x4.mul(hg, y)), f32x4.mul(hb, f32x4.div(z, blue))), held);
      const nr = mix(x, f32x4.pmax(x, f32x4.mul(light, red)), mr), ng = mix(y, f32x4.pmax(y, light), mg), nb = mix(z, f32x4.pmax(z, f32x4.mul(light, blue)), mb);
      // towards the brightest as the last of the three goes
      const top = f32x4.pmax(x, f32x4.pmax(y, z)), white = f32x4.pmax(nr, f32x4.pmax(ng, nb)), all = f32x4.mul(mr, f32x4.mul(mg, mb)), any = f32x4.pmax(mr, f32x4.pmax(mg, mb));
      x = mix(mix(x, top, any), mix(nr, white, all), recovery);
      y = mix(mix(y, top, any), mix(ng, white, all), recovery);
      z = mix(mix(z, top, any), mix(nb, white, all), recovery);
    }
    v128.store(r + i, row(p + 20, x, y, z));
    v128.store(g + i, row(p + 32, x, y, z));
    v128.store(b + i, row(p + 44, x, y, z));
  }
}
/** How far two tell of different light, as a share of the greater, where both hold. */
// @ts-ignore: decorator
@inline function apart(a: v128, b: v128, holdsA: v128, holdsB: v128): v128 {
  return f32x4.mul(f32x4.mul(holdsA, holdsB), f32x4.div(f32x4.abs(f32x4.sub(a, b)), f32x4.pmax(s(1e-6), f32x4.pmax(a, b))));
}
