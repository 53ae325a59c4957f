import { cbrt, mix, row, s, smooth } from './maths';

// OKLab (Ottosson 2020). `toLab` and `fromLab` go between linear Rec.2020 and OKLab; the kernels that say so work on
// planes of L, a, b, so that neighbours share one way there and back.
// @ts-ignore: decorator
@inline export function labL(l: v128, m: v128, k: v128): v128 { return f32x4.sub(f32x4.add(f32x4.mul(s(0.2104542553), l), f32x4.mul(s(0.7936177850), m)), f32x4.mul(s(0.0040720468), k)); }
// @ts-ignore: decorator
@inline export function labA(l: v128, m: v128, k: v128): v128 { return f32x4.add(f32x4.sub(f32x4.mul(s(1.9779984951), l), f32x4.mul(s(2.4285922050), m)), f32x4.mul(s(0.4505937099), k)); }
// @ts-ignore: decorator
@inline export function labB(l: v128, m: v128, k: v128): v128 { return f32x4.sub(f32x4.add(f32x4.mul(s(0.0259040371), l), f32x4.mul(s(0.7827717662), m)), f32x4.mul(s(0.8086757660), k)); }
// @ts-ignore: decorator
@inline export function cube(x: v128): v128 { return f32x4.mul(x, f32x4.mul(x, x)); }
/** The place 0–1 of a hue round the diamond |a| + |b| = 1, from −b. */
// @ts-ignore: decorator
@inline export function placeOf(A: v128, B: v128): v128 {
  const q = f32x4.div(B, f32x4.pmax(f32x4.add(f32x4.abs(A), f32x4.abs(B)), s(1e-9)));
  return f32x4.mul(v128.bitselect(f32x4.add(q, s(1)), f32x4.sub(s(3), q), f32x4.ge(A, s(0))), s(0.25));
}

/** Linear Rec.2020 to OKLab. p: matrix to the cones [9]. */
export function toLab(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i), l = cbrt(row(p, x, y, z)), m = cbrt(row(p + 12, x, y, z)), k = cbrt(row(p + 24, x, y, z));
    v128.store(r + i, labL(l, m, k));
    v128.store(g + i, labA(l, m, k));
    v128.store(b + i, labB(l, m, k));
  }
}
/** OKLab to linear Rec.2020. p: matrix from the cones [9]. */
export function fromLab(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const L = v128.load(r + i), A = v128.load(g + i), B = v128.load(b + i);
    const l = cube(f32x4.add(L, f32x4.add(f32x4.mul(s(0.3963377774), A), f32x4.mul(s(0.2158037573), B))));
    const m = cube(f32x4.sub(L, f32x4.add(f32x4.mul(s(0.1055613458), A), f32x4.mul(s(0.0638541728), B))));
    const k = cube(f32x4.sub(L, f32x4.add(f32x4.mul(s(0.0894841775), A), f32x4.mul(s(1.2914855480), B))));
    v128.store(r + i, row(p, l, m, k));
    v128.store(g + i, row(p + 12, l, m, k));
    v128.store(b + i, row(p + 24, l, m, k));
  }
}

/** Chroma times a factor at constant lightness and hue, in OKLab. p: factor. */
export function saturation(_L: usize, a: usize, b: usize, n: i32, p: usize): void {
  const factor = v128.load32_splat(p);
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    v128.store(a + i, f32x4.mul(v128.load(a + i), factor));
    v128.store(b + i, f32x4.mul(v128.load(b + i), factor));
  }
}

/**
 * Colour and lightness into darks, mids and lights, in OKLab. Weights are smooth steps over L that add to one.
 * p: where darks begin to end, 1/width of that; the same of lights; then for darks, mids, lights: a [3], b [3], lightness [3].
 * The colour fades to nothing at black and at white so that neither end is stained.
 */
export function grade(l: usize, a: usize, b: usize, n: i32, p: usize): void {
  const d0 = v128.load32_splat(p), d1 = v128.load32_splat(p + 4), l0 = v128.load32_splat(p + 8), l1 = v128.load32_splat(p + 12), q = p + 16;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const L = v128.load(l + i), dark = f32x4.sub(s(1), smooth(d0, d1, L)), light = smooth(l0, l1, L), mid = f32x4.sub(f32x4.sub(s(1), dark), light);
    const ends = f32x4.mul(smooth(s(0), s(4), L), f32x4.sub(s(1), smooth(s(0.9), s(10), L)));
    v128.store(l + i, f32x4.add(L, f32x4.mul(ends, row(q + 24, dark, mid, light))));
    v128.store(a + i, f32x4.add(v128.load(a + i), f32x4.mul(ends, row(q, dark, mid, light))));
    v128.store(b + i, f32x4.add(v128.load(b + i), f32x4.mul(ends, row(q + 12, dark, mid, light))));
  }
}

/** Weighted grey. p: weights[3], even weights[3], gain of their difference, share of colour taken away (0–1). */
export function mono(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const gain = v128.load32_splat(p + 24), share = v128.load32_splat(p + 28);
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i);
    const grey = row(p, x, y, z), even = row(p + 12, x, y, z);
    const out = f32x4.pmax(mix(even, grey, gain), s(0));
    v128.store(r + i, mix(x, out, share));
    v128.store(g + i, mix(y, out, share));
    v128.store(b + i, mix(z, out, share));
  }
}
