import { labA, labB, labL, store } from './oklab';
import { atan2, cbrt, cosine, read, row, s, sine, smooth } from './maths';

const turn: f32 = 0.15915494309;

/**
 * Hue, chroma and lightness moved as curves over the hue circle say (OKLCh, Ottosson 2020). Neutrals are protected by a
 * smooth step of chroma. p: matrices[18], chroma from and to, then three tables over the circle: hue shift (radians),
 * chroma factor less one, lightness shift at full weight, each the number of intervals and its values, the first repeated twice.
 */
export function hueBands(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const from = v128.load32_splat(p + 72), to = v128.load32_splat(p + 76), last = load<f32>(p + 80), step = (<usize>last + 2) << 2, shifts = p + 84, chromas = shifts + step, lights = chromas + step;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i);
    const l = cbrt(row(p, x, y, z)), m = cbrt(row(p + 12, x, y, z)), k = cbrt(row(p + 24, x, y, z)), A = labA(l, m, k), B = labB(l, m, k), chroma = f32x4.sqrt(f32x4.add(f32x4.mul(A, A), f32x4.mul(B, B)));
    let at = f32x4.mul(atan2(B, A), s(turn));
    at = f32x4.min(f32x4.max(f32x4.sub(at, f32x4.floor(at)), s(0)), s(1));
    const weight = smooth(from, to, chroma), angle = f32x4.mul(weight, read(shifts, last, at)), factor = f32x4.max(f32x4.add(s(1), f32x4.mul(weight, read(chromas, last, at))), s(0)), c = f32x4.mul(cosine(angle), factor), d = f32x4.mul(sine(angle), factor);
    store(r + i, g + i, b + i, p, f32x4.max(f32x4.add(labL(l, m, k), f32x4.mul(weight, read(lights, last, at))), s(0)), f32x4.sub(f32x4.mul(A, c), f32x4.mul(B, d)), f32x4.add(f32x4.mul(A, d), f32x4.mul(B, c)));
  }
}

/** 1 within `half` of 0, fading to 0 over `soft` more. */
// @ts-ignore: decorator
@inline function near(away: v128, half: v128, soft: v128): v128 { return f32x4.sub(s(1), smooth(half, f32x4.add(half, soft), away)); }

/**
 * A range of colours round a picked one, moved and evened out. p: matrices[18], cosine and sine of the picked hue, its
 * chroma and lightness, then half width and softness in hue (radians), chroma, lightness [6], shifts of hue (radians),
 * chroma (share), lightness [3], and how far each is pulled to the picked colour [3], 0–1; last, 1 to show the weight instead.
 */
export function colourRange(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const q = p + 72, ca = v128.load32_splat(q), sa = v128.load32_splat(q + 4), ownC = v128.load32_splat(q + 8), ownL = v128.load32_splat(q + 12), w = q + 16, shift = q + 40, even = q + 52, show = load<f32>(q + 64) > 0;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i);
    const l = cbrt(row(p, x, y, z)), m = cbrt(row(p + 12, x, y, z)), k = cbrt(row(p + 24, x, y, z)), A = labA(l, m, k), B = labB(l, m, k), L = labL(l, m, k);
    // the picked hue lies along a
    const u = f32x4.add(f32x4.mul(A, ca), f32x4.mul(B, sa)), v = f32x4.sub(f32x4.mul(B, ca), f32x4.mul(A, sa)), chroma = f32x4.sqrt(f32x4.add(f32x4.mul(u, u), f32x4.mul(v, v))), away = atan2(v, u), dc = f32x4.sub(chroma, ownC), dl = f32x4.sub(L, ownL);
    const weight = f32x4.mul(near(f32x4.abs(away), v128.load32_splat(w), v128.load32_splat(w + 4)), f32x4.mul(near(f32x4.abs(dc), v128.load32_splat(w + 8), v128.load32_splat(w + 12)), near(f32x4.abs(dl), v128.load32_splat(w + 16), v128.load32_splat(w + 20))));
    if (show) { const grey = f32x4.mul(s(0.6), L), a3 = f32x4.mul(weight, s(0.16)); store(r + i, g + i, b + i, p, f32x4.add(grey, f32x4.mul(weight, s(0.25))), f32x4.mul(a3, s(0.86)), f32x4.mul(a3, s(0.5))); continue; }
    const angle = f32x4.mul(weight, f32x4.sub(v128.load32_splat(shift), f32x4.mul(v128.load32_splat(even), away)));
    const scaled = f32x4.max(f32x4.add(chroma, f32x4.mul(weight, f32x4.sub(f32x4.mul(v128.load32_splat(shift + 4), chroma), f32x4.mul(v128.load32_splat(even + 4), dc)))), s(0)), factor = f32x4.div(scaled, f32x4.max(chroma, s(1e-6)));
    const c = f32x4.mul(cosine(angle), factor), d = f32x4.mul(sine(angle), factor);
    store(r + i, g + i, b + i, p, f32x4.max(f32x4.add(L, f32x4.mul(weight, f32x4.sub(v128.load32_splat(shift + 8), f32x4.mul(v128.load32_splat(even + 8), dl)))), s(0)), f32x4.sub(f32x4.mul(A, c), f32x4.mul(B, d)), f32x4.add(f32x4.mul(A, d), f32x4.mul(B, c)));
  }
}

/** Chroma raised (or lowered) most where there is little, least on skins. p: matrices[18], change, chroma where it has faded, cosine and sine of the skins' hue, their half width as a cosine, share spared. */
export function vibrance(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const change = v128.load32_splat(p + 72), full = v128.load32_splat(p + 76), ca = v128.load32_splat(p + 80), sa = v128.load32_splat(p + 84), edge = v128.load32_splat(p + 88), spared = v128.load32_splat(p + 92);
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i);
    const l = cbrt(row(p, x, y, z)), m = cbrt(row(p + 12, x, y, z)), k = cbrt(row(p + 24, x, y, z)), A = labA(l, m, k), B = labB(l, m, k), chroma = f32x4.sqrt(f32x4.add(f32x4.mul(A, A), f32x4.mul(B, B)));
    const along = f32x4.div(f32x4.add(f32x4.mul(A, ca), f32x4.mul(B, sa)), f32x4.max(chroma, s(1e-5))), skin = f32x4.mul(spared, smooth(edge, s(1), along));
    const factor = f32x4.max(f32x4.add(s(1), f32x4.mul(change, f32x4.mul(f32x4.sub(s(1), smooth(s(0), full, chroma)), f32x4.sub(s(1), skin)))), s(0));
    store(r + i, g + i, b + i, p, labL(l, m, k), f32x4.mul(A, factor), f32x4.mul(B, factor));
  }
}
