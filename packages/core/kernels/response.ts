import { mix, read, s } from './maths';

// the table stands over the fourth root of light / 64, about nine stops above middle grey
// @ts-ignore: decorator
@inline function curve(x: v128, last: f32, table: usize): v128 {
  return read(table, last, f32x4.sqrt(f32x4.sqrt(f32x4.mul(x, s(0.015625)))));
}

/**
 * The neutral response on each channel. p: guard, number of intervals, then the response at 64·(i / intervals)⁴.
 * The guard (0–1) moves the middle channel towards where it stood between the outer two before the curve, which keeps the
 * hue of the light (the rule of the DNG specification's tone curve, "hue-preserving").
 */
export function response(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const guard = v128.load32_splat(p), last = load<f32>(p, 4), table = p + 8;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = f32x4.pmax(v128.load(r + i), s(0)), y = f32x4.pmax(v128.load(g + i), s(0)), z = f32x4.pmax(v128.load(b + i), s(0));
    const low = f32x4.pmin(x, f32x4.pmin(y, z)), high = f32x4.pmax(x, f32x4.pmax(y, z));
    const cx = curve(x, last, table), cy = curve(y, last, table), cz = curve(z, last, table);
    const cl = f32x4.pmin(cx, f32x4.pmin(cy, cz)), ch = f32x4.pmax(cx, f32x4.pmax(cy, cz));
    const k = f32x4.div(f32x4.sub(ch, cl), f32x4.pmax(f32x4.sub(high, low), s(1e-9)));
    v128.store(r + i, mix(cx, f32x4.add(cl, f32x4.mul(f32x4.sub(x, low), k)), guard));
    v128.store(g + i, mix(cy, f32x4.add(cl, f32x4.mul(f32x4.sub(y, low), k)), guard));
    v128.store(b + i, mix(cz, f32x4.add(cl, f32x4.mul(f32x4.sub(z, low), k)), guard));
  }
}
