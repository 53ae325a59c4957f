import { cbrt, mix, row, s, smooth } from './maths';

// OKLab (Ottosson 2020) from linear Rec.2020: p holds RGB→LMS [9], then LMS→RGB [9]; the cube-root side is constant.
// @ts-ignore: decorator
@inline export function labL(l: v128, m: v128, k: v128): v128 { return f32x4.sub(f32x4.add(f32x4.mul(s(0.2104542553), l), f32x4.mul(s(0.7936177850), m)), f32x4.mul(s(0.0040720468), k)); }
// @ts-ignore: decorator
@inline export function labA(l: v128, m: v128, k: v128): v128 { return f32x4.add(f32x4.sub(f32x4.mul(s(1.9779984951), l), f32x4.mul(s(2.4285922050), m)), f32x4.mul(s(0.4505937099), k)); }
// @ts-ignore: decorator
@inline export function labB(l: v128, m: v128, k: v128): v128 { return f32x4.sub(f32x4.add(f32x4.mul(s(0.0259040371), l), f32x4.mul(s(0.7827717662), m)), f32x4.mul(s(0.8086757660), k)); }
// @ts-ignore: decorator
@inline export function cube(x: v128): v128 { return f32x4.mul(x, f32x4.mul(x, x)); }
// @ts-ignore: decorator
@inline export function store(r: usize, g: usize, b: usize, p: usize, L: v128, A: v128, B: v128): void {
  const l = cube(f32x4.add(L, f32x4.add(f32x4.mul(s(0.3963377774), A), f32x4.mul(s(0.2158037573), B))));
  const m = cube(f32x4.sub(L, f32x4.add(f32x4.mul(s(0.1055613458), A), f32x4.mul(s(0.0638541728), B))));
  const k = cube(f32x4.sub(L, f32x4.add(f32x4.mul(s(0.0894841775), A), f32x4.mul(s(1.2914855480), B))));
  v128.store(r, row(p + 36, l, m, k));
  v128.store(g, row(p + 48, l, m, k));
  v128.store(b, row(p + 60, l, m, k));
}

/** Chroma times a factor at constant OKLab lightness and hue. p: matrices[18], factor. */
export function saturation(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const factor = v128.load32_splat(p + 72);
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i);
    const l = cbrt(row(p, x, y, z)), m = cbrt(row(p + 12, x, y, z)), k = cbrt(row(p + 24, x, y, z));
    store(r + i, g + i, b + i, p, labL(l, m, k), f32x4.mul(labA(l, m, k), factor), f32x4.mul(labB(l, m, k), factor));
  }
}

/**
 * Colour and lightness into darks, mids and lights. Weights are smooth steps over OKLab L that add to one.
 * p: matrices[18]; darks from, to; lights from, to (in L); then a, b, lightness for darks, mids, lights.
 * The colour fades to nothing at black and at white so that neither end is stained.
 */
export function grade(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const d0 = v128.load32_splat(p + 72), d1 = v128.load32_splat(p + 76), l0 = v128.load32_splat(p + 80), l1 = v128.load32_splat(p + 84);
  const q = p + 88;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i);
    const l = cbrt(row(p, x, y, z)), m = cbrt(row(p + 12, x, y, z)), k = cbrt(row(p + 24, x, y, z));
    const L = labL(l, m, k);
    const dark = f32x4.sub(s(1), smooth(d0, d1, L)), light = smooth(l0, l1, L), mid = f32x4.sub(f32x4.sub(s(1), dark), light);
    const ends = f32x4.mul(smooth(s(0), s(0.25), L), f32x4.sub(s(1), smooth(s(0.9), s(1.0), L)));
    const a = f32x4.add(f32x4.add(f32x4.mul(dark, v128.load32_splat(q)), f32x4.mul(mid, v128.load32_splat(q + 12))), f32x4.mul(light, v128.load32_splat(q + 24)));
    const c = f32x4.add(f32x4.add(f32x4.mul(dark, v128.load32_splat(q + 4)), f32x4.mul(mid, v128.load32_splat(q + 16))), f32x4.mul(light, v128.load32_splat(q + 28)));
    const e = f32x4.add(f32x4.add(f32x4.mul(dark, v128.load32_splat(q + 8)), f32x4.mul(mid, v128.load32_splat(q + 20))), f32x4.mul(light, v128.load32_splat(q + 32)));
    store(r + i, g + i, b + i, p, f32x4.add(L, f32x4.mul(e, ends)), f32x4.add(labA(l, m, k), f32x4.mul(a, ends)), f32x4.add(labB(l, m, k), f32x4.mul(c, ends)));
  }
}

/** Weighted grey. p: weights[3], even weights[3], gain of their difference, share of colour taken away (0–1). */
export function mono(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const gain = v128.load32_splat(p + 24), share = v128.load32_splat(p + 28);
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i);
    const grey = row(p, x, y, z), even = row(p + 12, x, y, z);
    const out = f32x4.max(mix(even, grey, gain), s(0));
    v128.store(r + i, mix(x, out, share));
    v128.store(g + i, mix(y, out, share));
    v128.store(b + i, mix(z, out, share));
  }
}
