import { exp2, log2, mix, pairs, row, s, whole } from './maths';

// Steps that read maps of the whole small picture: rows of slope and offset of an edge-aware base over log₂ luminance.

/** Place of four pixels from k on in a map's row; p: last column, place of the row's first pixel, step. */
// @ts-ignore: decorator
@inline function placeAt(p: usize, k: i32): v128 { return f32x4.pmin(v128.load32_splat(p), f32x4.pmax(s(0), f32x4.add(v128.load32_splat(p + 4), f32x4.mul(f32x4.add(s(<f32>k), f32x4(0, 1, 2, 3)), v128.load32_splat(p + 8))))); }
// @ts-ignore: decorator
@inline function keepRest(at: usize, v: v128, left: i32): void { v128.store(at, v128.bitselect(v, v128.load(at), i32x4.lt_s(i32x4(0, 1, 2, 3), i32x4.splat(left)))); }

/**
 * Contrast of one row within three sizes of shape. p: luminance weights[3], fine, medium, coarse, place[3]; `rows` holds slope
 * and offset of the fine, medium and coarse base, `stride` bytes each. Gain is 2^(f·(L − B₁) + m·(B₁ − B₂) + c·(B₂ − B₃)).
 */
export function localContrast(r: usize, g: usize, b: usize, n: i32, p: usize, rows: usize, stride: usize): void {
  const fine = v128.load32_splat(p + 12), medium = v128.load32_splat(p + 16), coarse = v128.load32_splat(p + 20);
  for (let k: i32 = 0; k < n; k += 4) {
    const i = <usize>k << 2, x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i), at = placeAt(p + 24, k), low = f32x4.floor(at), cell = whole(low), t = f32x4.sub(at, low), L = log2(f32x4.pmax(row(p, x, y, z), s(1e-5)));
    const first = f32x4.add(f32x4.mul(pairs(rows, cell, t), L), pairs(rows + stride, cell, t)), second = f32x4.add(f32x4.mul(pairs(rows + 2 * stride, cell, t), L), pairs(rows + 3 * stride, cell, t)), third = f32x4.add(f32x4.mul(pairs(rows + 4 * stride, cell, t), L), pairs(rows + 5 * stride, cell, t));
    const gain = exp2(f32x4.add(f32x4.mul(fine, f32x4.sub(L, first)), f32x4.add(f32x4.mul(medium, f32x4.sub(first, second)), f32x4.mul(coarse, f32x4.sub(second, third)))));
    keepRest(r + i, f32x4.mul(x, gain), n - k); keepRest(g + i, f32x4.mul(y, gain), n - k); keepRest(b + i, f32x4.mul(z, gain), n - k);
  }
}

/**
 * Haze of one row taken out, J = (I − A)/t + A with t no less than 0.1 (He, Sun, Tang 2009), or added, I = J·t + A·(1 − t).
 * p: luminance weights[3], amount (−2…1), air light[3], place[3]; `rows` holds slope and offset of the transmission.
 */
export function haze(r: usize, g: usize, b: usize, n: i32, p: usize, rows: usize, stride: usize): void {
  const amount = load<f32>(p + 12), clear = amount > 0, share = s(clear ? amount : -2 * amount);
  for (let k: i32 = 0; k < n; k += 4) {
    const i = <usize>k << 2, x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i), at = placeAt(p + 28, k), low = f32x4.floor(at), cell = whole(low), t = f32x4.sub(at, low), L = log2(f32x4.pmax(row(p, x, y, z), s(1e-5)));
    const through = f32x4.pmin(f32x4.pmax(f32x4.add(f32x4.mul(pairs(rows, cell, t), L), pairs(rows + stride, cell, t)), s(0.1)), s(1));
    const factor = clear ? f32x4.div(s(1), mix(s(1), through, share)) : exp2(f32x4.mul(share, log2(f32x4.mul(through, s(0.85)))));
    for (let c: usize = 0; c < 3; c++) { const air = v128.load32_splat(p + 16 + (c << 2)), plane = (c == 0 ? r : c == 1 ? g : b) + i, v = v128.load(plane); keepRest(plane, f32x4.pmax(f32x4.add(f32x4.mul(f32x4.sub(v, air), factor), air), s(0)), n - k); }
  }
}

/**
 * Light scattered far: what bright places lose goes to the field about them, v + k·(far − w·v) for each channel. p: k[3], place[3];
 * `rows` holds the field's red and green, then its blue and w (what counts as bright, 0–1).
 */
export function glow(r: usize, g: usize, b: usize, n: i32, p: usize, rows: usize, stride: usize): void {
  for (let k: i32 = 0; k < n; k += 4) {
    const i = <usize>k << 2, at = placeAt(p + 12, k), low = f32x4.floor(at), cell = whole(low), t = f32x4.sub(at, low), w = pairs(rows + 3 * stride, cell, t);
    for (let c: usize = 0; c < 3; c++) { const plane = (c == 0 ? r : c == 1 ? g : b) + i, v = v128.load(plane); keepRest(plane, f32x4.add(v, f32x4.mul(v128.load32_splat(p + (c << 2)), f32x4.sub(pairs(rows + c * stride, cell, t), f32x4.mul(w, v)))), n - k); }
  }
}
