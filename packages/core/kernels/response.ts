import { exp2, mix, pow, s } from './maths';

// y = gain·xⁿ / (1 + κ·xⁿ), then the toe y·(1 − T·e^(−y/0.02))
// @ts-ignore: decorator
@inline function curve(x: v128, p: usize): v128 {
  const power = pow(f32x4.max(x, s(0)), v128.load32_splat(p));
  const y = f32x4.div(f32x4.mul(v128.load32_splat(p + 4), power), f32x4.add(s(1), f32x4.mul(v128.load32_splat(p + 8), power)));
  const fall = exp2(f32x4.mul(y, s(-72.1347520444)));
  return f32x4.mul(y, f32x4.sub(s(1), f32x4.mul(v128.load32_splat(p + 12), fall)));
}

/**
 * The neutral response on each channel. p: n, gain, κ, toe, guard.
 * The guard (0–1) moves the middle channel towards where it stood between the outer two before the curve, which keeps the
 * hue of the light (the rule of the DNG specification's tone curve, "hue-preserving").
 */
export function response(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const guard = v128.load32_splat(p + 16);
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = f32x4.max(v128.load(r + i), s(0)), y = f32x4.max(v128.load(g + i), s(0)), z = f32x4.max(v128.load(b + i), s(0));
    const low = f32x4.min(x, f32x4.min(y, z)), high = f32x4.max(x, f32x4.max(y, z));
    const cx = curve(x, p), cy = curve(y, p), cz = curve(z, p);
    const cl = f32x4.min(cx, f32x4.min(cy, cz)), ch = f32x4.max(cx, f32x4.max(cy, cz));
    const k = f32x4.div(f32x4.sub(ch, cl), f32x4.max(f32x4.sub(high, low), s(1e-9)));
    v128.store(r + i, mix(cx, f32x4.add(cl, f32x4.mul(f32x4.sub(x, low), k)), guard));
    v128.store(g + i, mix(cy, f32x4.add(cl, f32x4.mul(f32x4.sub(y, low), k)), guard));
    v128.store(b + i, mix(cz, f32x4.add(cl, f32x4.mul(f32x4.sub(z, low), k)), guard));
  }
}
