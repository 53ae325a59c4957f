import { placeOf } from './oklab';
import { atan2, cosine, pairs, s, sine, smooth, whole } from './maths';

// Kernels over planes of OKLab L, a, b (Ottosson 2020).

/**
 * Darker by a shift of L is less light: L and chroma by the factor that takes so much from an L of 0.6. What is dark keeps
 * its texture and its saturation, and noise does not grow against it.
 */
// @ts-ignore: decorator
@inline function darker(shift: v128): v128 { return f32x4.pmax(f32x4.add(s(1), f32x4.mul(f32x4.pmin(shift, s(0)), s(1.6666667))), s(0.05)); }

/**
 * Hue, chroma and lightness moved as curves over the hue circle say (OKLCh). Neutrals are protected by a smooth step of
 * chroma; of lightness doubly, by its square, since the eye sees unsteady lightness first. Lighter is so much more L.
 * p: chroma from, 1/width of the step; 1 where hue, where chroma, where lightness is moved at all, else 0; then three
 * tables over the place of the hue round the diamond: hue shift (radians), chroma factor less one, lightness shift at full
 * weight; the number of intervals, then the values of each, the first repeated twice.
 */
export function hueBands(l: usize, a: usize, b: usize, n: i32, p: usize): void {
  const from = v128.load32_splat(p), over = v128.load32_splat(p + 4), turns = load<f32>(p, 8) > 0, scales = load<f32>(p, 12) > 0, lightens = load<f32>(p, 16) > 0;
  const last = load<f32>(p, 20), step = (<usize>last + 2) << 2, shifts = p + 24, chromas = shifts + step, lights = chromas + step;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const A = v128.load(a + i), B = v128.load(b + i), weight = smooth(from, over, f32x4.sqrt(f32x4.add(f32x4.mul(A, A), f32x4.mul(B, B))));
    if (!v128.any_true(f32x4.gt(weight, s(0)))) continue;
    const at = f32x4.mul(f32x4.pmin(s(1), f32x4.pmax(s(0), placeOf(A, B))), s(last)), low = f32x4.floor(at), cell = whole(low), t = f32x4.sub(at, low);
    let factor = s(1), c: v128, d = s(0);
    if (scales) factor = f32x4.pmax(f32x4.add(s(1), f32x4.mul(weight, pairs(chromas, cell, t))), s(0));
    if (lightens) {
      const light = f32x4.mul(f32x4.mul(weight, weight), pairs(lights, cell, t)), less = darker(light);
      factor = f32x4.mul(less, factor);
      v128.store(l + i, f32x4.pmax(f32x4.add(f32x4.mul(v128.load(l + i), less), f32x4.pmax(light, s(0))), s(0)));
    }
    c = factor;
    if (turns) {
      const angle = f32x4.mul(weight, pairs(shifts, cell, t));
      c = f32x4.mul(cosine(angle), factor);
      d = f32x4.mul(sine(angle), factor);
    }
    v128.store(a + i, f32x4.sub(f32x4.mul(A, c), f32x4.mul(B, d)));
    v128.store(b + i, f32x4.add(f32x4.mul(A, d), f32x4.mul(B, c)));
  }
}

/** 1 up to an edge, fading to 0 over a width, given as its reciprocal. */
// @ts-ignore: decorator
@inline function near(away: v128, p: usize): v128 { return f32x4.sub(s(1), smooth(v128.load32_splat(p), v128.load32_splat(p + 4), away)); }

/**
 * A range of colours round a picked one, moved and evened out. p: cosine and sine of the picked hue, its chroma and
 * lightness, then half width and 1/softness in hue (radians), chroma, lightness [6], shifts of hue (radians), chroma
 * (share), lightness [3], and how far each is pulled to the picked colour [3], 0–1; 1 to show the weight instead; the
 * chroma from which a colour is far enough from neutral to have a hue, and 1/width of that step; last, a cosine of the hue
 * below which nothing is reached for certain. Of lightness neutrals are protected doubly, as above.
 */
export function colourRange(l: usize, a: usize, b: usize, n: i32, p: usize): void {
  const ca = v128.load32_splat(p), sa = v128.load32_splat(p + 4), ownC = v128.load32_splat(p + 8), ownL = v128.load32_splat(p + 12), w = p + 16, shift = p + 40, even = p + 52, show = load<f32>(p + 64) > 0;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const L = v128.load(l + i), A = v128.load(a + i), B = v128.load(b + i);
    // the picked hue lies along u
    const u = f32x4.add(f32x4.mul(A, ca), f32x4.mul(B, sa)), v = f32x4.sub(f32x4.mul(B, ca), f32x4.mul(A, sa)), chroma = f32x4.sqrt(f32x4.add(f32x4.mul(u, u), f32x4.mul(v, v))), dc = f32x4.sub(chroma, ownC), dl = f32x4.sub(L, ownL);
    const sure = smooth(v128.load32_splat(p + 68), v128.load32_splat(p + 72), chroma);
    // the angle is worked out only where one of the four may be within reach
    let weight = v128.and(f32x4.mul(sure, f32x4.mul(near(f32x4.abs(dc), w + 8), near(f32x4.abs(dl), w + 16))), f32x4.ge(u, f32x4.mul(v128.load32_splat(p + 76), chroma))), away = s(0);
    if (v128.any_true(f32x4.gt(weight, s(0)))) { away = atan2(v, u); weight = f32x4.mul(weight, near(f32x4.abs(away), w)); }
    if (show) { const a3 = f32x4.mul(weight, s(0.16)); v128.store(l + i, f32x4.add(f32x4.mul(s(0.6), L), f32x4.mul(weight, s(0.25)))); v128.store(a + i, f32x4.mul(a3, s(0.86))); v128.store(b + i, f32x4.mul(a3, s(0.5))); continue; }
    if (!v128.any_true(f32x4.gt(weight, s(0)))) continue;
    const angle = f32x4.mul(weight, f32x4.sub(v128.load32_splat(shift), f32x4.mul(v128.load32_splat(even), away)));
    const scaled = f32x4.pmax(f32x4.add(chroma, f32x4.mul(weight, f32x4.sub(f32x4.mul(v128.load32_splat(shift + 4), chroma), f32x4.mul(v128.load32_splat(even + 4), dc)))), s(0)), factor = f32x4.div(scaled, f32x4.pmax(chroma, s(1e-6)));
    const calm = f32x4.mul(weight, sure), light = f32x4.mul(calm, v128.load32_splat(shift + 8)), less = darker(light), c = f32x4.mul(cosine(angle), f32x4.mul(factor, less)), d = f32x4.mul(sine(angle), f32x4.mul(factor, less));
    v128.store(l + i, f32x4.pmax(f32x4.add(f32x4.mul(f32x4.sub(L, f32x4.mul(calm, f32x4.mul(v128.load32_splat(even + 8), dl))), less), f32x4.pmax(light, s(0))), s(0)));
    v128.store(a + i, f32x4.sub(f32x4.mul(A, c), f32x4.mul(B, d)));
    v128.store(b + i, f32x4.add(f32x4.mul(A, d), f32x4.mul(B, c)));
  }
}

/** Chroma raised (or lowered) most where there is little, least on skins. p: change, 1/chroma where it has faded, cosine and sine of the skins' hue, their half width as a cosine and 1/(1 − that), share spared. */
export function vibrance(_L: usize, a: usize, b: usize, n: i32, p: usize): void {
  const change = v128.load32_splat(p), full = v128.load32_splat(p + 4), ca = v128.load32_splat(p + 8), sa = v128.load32_splat(p + 12), edge = v128.load32_splat(p + 16), over = v128.load32_splat(p + 20), spared = v128.load32_splat(p + 24);
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const A = v128.load(a + i), B = v128.load(b + i), chroma = f32x4.sqrt(f32x4.add(f32x4.mul(A, A), f32x4.mul(B, B)));
    const along = f32x4.div(f32x4.add(f32x4.mul(A, ca), f32x4.mul(B, sa)), f32x4.pmax(chroma, s(1e-5))), skin = f32x4.mul(spared, smooth(edge, over, along));
    const factor = f32x4.pmax(f32x4.add(s(1), f32x4.mul(change, f32x4.mul(f32x4.sub(s(1), smooth(s(0), full, chroma)), f32x4.sub(s(1), skin)))), s(0));
    v128.store(a + i, f32x4.mul(A, factor));
    v128.store(b + i, f32x4.mul(B, factor));
  }
}
