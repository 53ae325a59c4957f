import { row, s } from './maths';

/** Soft light of W3C Compositing and Blending Level 1, §9.1, for values of 0–1: `b` what was there, `c` what comes. */
// @ts-ignore: decorator
@inline function softLight(b: v128, c: v128): v128 {
  const twice = f32x4.sub(f32x4.add(c, c), s(1));
  const low = f32x4.mul(f32x4.mul(f32x4.add(f32x4.mul(f32x4.sub(f32x4.mul(s(16), b), s(12)), b), s(4)), b), s(1)), d = v128.bitselect(low, f32x4.sqrt(b), f32x4.le(b, s(0.25)));
  const darker = f32x4.sub(b, f32x4.mul(f32x4.mul(f32x4.sub(s(1), f32x4.add(c, c)), b), f32x4.sub(s(1), b)));
  return v128.bitselect(darker, f32x4.add(b, f32x4.mul(twice, f32x4.sub(d, b))), f32x4.le(c, s(0.5)));
}
/** The same for light: on square roots, up to white; what is brighter than white stays. */
// @ts-ignore: decorator
@inline function softly(b: v128, c: v128): v128 {
  const x = f32x4.sqrt(f32x4.pmin(s(1), f32x4.pmax(s(0), b))), v = softLight(x, f32x4.sqrt(f32x4.pmin(s(1), f32x4.pmax(s(0), c))));
  return f32x4.add(f32x4.mul(v, v), f32x4.pmax(s(0), f32x4.sub(b, s(1))));
}

/** Planes joined with those put aside (o, p, q). at: luminance weights[3], mode (0 normal, 1 luminance only, 2 colour only, 3 lighten, 4 darken, 5 soft light). */
export function join(r: usize, g: usize, b: usize, o: usize, p: usize, q: usize, n: i32, at: usize): void {
  const mode = <i32>load<f32>(at + 12);
  if (mode == 0) return;
  for (let i: usize = 0; i < <usize>n << 2; i += 16) {
    const x = v128.load(o + i), y = v128.load(p + i), z = v128.load(q + i);
    let u = v128.load(r + i), v = v128.load(g + i), w = v128.load(b + i);
    if (mode < 3) {
      const before = f32x4.pmax(s(1e-6), row(at, x, y, z)), after = f32x4.pmax(s(1e-6), row(at, u, v, w)), k = mode == 1 ? f32x4.div(after, before) : f32x4.div(before, after);
      u = f32x4.mul(mode == 1 ? x : u, k); v = f32x4.mul(mode == 1 ? y : v, k); w = f32x4.mul(mode == 1 ? z : w, k);
    } else if (mode == 3) { u = f32x4.pmax(x, u); v = f32x4.pmax(y, v); w = f32x4.pmax(z, w); }
    else if (mode == 4) { u = f32x4.pmin(x, u); v = f32x4.pmin(y, v); w = f32x4.pmin(z, w); }
    else { u = softly(x, u); v = softly(y, v); w = softly(z, w); }
    v128.store(r + i, u); v128.store(g + i, v); v128.store(b + i, w);
  }
}
