import { cbrt, mix, row, s } from './maths';

// A row of light sharpened by what a Gaussian takes from its lightness, in three steps: the lightness, its blur down and across.

/** Lightness of a row, the cube root of its luminance (as OKLab and CIELAB have it). p: luminance weights[3]. */
export function lightness(r: usize, g: usize, b: usize, n: i32, dst: usize, p: usize): void {
  for (let i: usize = 0; i < <usize>n << 2; i += 16) v128.store(dst + i, cbrt(row(p, v128.load(r + i), v128.load(g + i), v128.load(b + i))));
}
/** Weighted sum of the rows above and below a row, `stride` bytes apart, always from the outermost inwards. weights: from the middle out. */
export function blurDown(src: usize, stride: usize, dst: usize, n: i32, weights: usize, radius: i32): void {
  for (let i: usize = 0; i < <usize>n << 2; i += 16) {
    let sum = s(0);
    for (let k: usize = <usize>radius; k > 0; k--) sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(weights + (k << 2)), f32x4.add(v128.load(src + i - k * stride), v128.load(src + i + k * stride))));
    v128.store(dst + i, f32x4.add(sum, f32x4.mul(v128.load32_splat(weights), v128.load(src + i))));
  }
}
/** The same along a row. */
export function blurAcross(src: usize, dst: usize, n: i32, weights: usize, radius: i32): void {
  blurDown(src, 4, dst, n, weights, radius);
}
/**
 * Light with its lightness moved by amount · (own − blurred), where that is more than `still` and no further than `most`: both
 * soft, d·d²/(d² + still²) and d/(1 + |d|/most). The factor on light is (lightness after / before)³, so hues stay.
 * p: luminance weights[3], amount, still², 1/most.
 */
export function crispness(r: usize, g: usize, b: usize, light: usize, blurred: usize, n: i32, p: usize): void {
  const amount = v128.load32_splat(p + 12), still = v128.load32_splat(p + 16), most = v128.load32_splat(p + 20);
  for (let i: usize = 0; i < <usize>n << 2; i += 16) {
    const own = v128.load(light + i), d = f32x4.sub(own, v128.load(blurred + i)), d2 = f32x4.mul(d, d);
    const sure = f32x4.div(f32x4.mul(d, d2), f32x4.add(d2, still)), held = f32x4.div(sure, f32x4.add(s(1), f32x4.mul(f32x4.abs(sure), most)));
    const after = f32x4.pmax(s(0), f32x4.add(own, f32x4.mul(amount, held))), k = f32x4.div(after, f32x4.pmax(own, s(1e-4)));
    // where there is next to no light a factor means nothing
    const factor = mix(s(1), f32x4.mul(k, f32x4.mul(k, k)), f32x4.pmin(s(1), f32x4.mul(own, s(20))));
    v128.store(r + i, f32x4.mul(v128.load(r + i), factor));
    v128.store(g + i, f32x4.mul(v128.load(g + i), factor));
    v128.store(b + i, f32x4.mul(v128.load(b + i), factor));
  }
}
