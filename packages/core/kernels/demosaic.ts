import { s, whole } from './maths';

/**
 * One mosaic row from 16-bit counts to balanced reals: (v − black)·gain, with the two columns' own values.
 * p: black of even, odd columns; gain of even, odd columns. dst has room for four values before and after.
 * The border mirrors without repeating the edge, which keeps the colour order.
 */
export function level(src: usize, dst: usize, width: i32, p: usize): void {
  const b0 = load<f32>(p), b1 = load<f32>(p, 4), g0 = load<f32>(p, 8), g1 = load<f32>(p, 12);
  const black = f32x4(b0, b1, b0, b1), gain = f32x4(g0, g1, g0, g1);
  for (let i: usize = 0; i < <usize>width; i += 4) {
    v128.store(dst + i * 4, f32x4.mul(f32x4.sub(f32x4.convert_i32x4_s(v128.load_ext<u16>(src + i * 2)), black), gain));
  }
  const end = dst + (<usize>width << 2);
  store<f32>(dst - 4, load<f32>(dst + 4)); store<f32>(dst - 8, load<f32>(dst + 8));
  store<f32>(end, load<f32>(end - 8)); store<f32>(end + 4, load<f32>(end - 12));
}

// @ts-ignore: decorator
@inline function at(row: usize, o: usize, shift: i32): v128 { return v128.load(row + o + shift * 4); }
// @ts-ignore: decorator
@inline function count(x: v128, gain: v128, offset: v128): v128 {
  return whole(f32x4.nearest(f32x4.pmin(s(65535), f32x4.pmax(s(0), f32x4.add(f32x4.mul(x, gain), offset)))));
}

/**
 * Gradient-corrected linear interpolation of a Bayer row (Malvar, He, Cutler 2004, figure 2), from five levelled rows.
 * `phase` 0: this row starts with its own colour (red or blue), 1: with green. `red` 1: the row's own colour is red.
 * p: un-balancing gain for red, green, blue times the plate's scale; the plate's offset. Writes 16-bit planes.
 */
export function demosaic(n2: usize, n1: usize, c0: usize, s1: usize, s2: usize, r: usize, g: usize, b: usize, width: i32, phase: i32, red: i32, p: usize): void {
  const eighth = s(0.125), own = phase == 0 ? i32x4(-1, 0, -1, 0) : i32x4(0, -1, 0, -1);
  const gr = v128.load32_splat(p), gg = v128.load32_splat(p + 4), gb = v128.load32_splat(p + 8), offset = v128.load32_splat(p + 12);
  for (let i: usize = 0; i < <usize>width; i += 4) {
    const o = i * 4;
    const c = at(c0, o, 0), nn = at(n2, o, 0), ss = at(s2, o, 0), ww = at(c0, o, -2), ee = at(c0, o, 2);
    const ns = f32x4.add(at(n1, o, 0), at(s1, o, 0)), we = f32x4.add(at(c0, o, -1), at(c0, o, 1));
    const diagonal = f32x4.add(f32x4.add(at(n1, o, -1), at(n1, o, 1)), f32x4.add(at(s1, o, -1), at(s1, o, 1)));
    const farV = f32x4.add(nn, ss), farH = f32x4.add(ww, ee), far = f32x4.add(farV, farH);
    const green = f32x4.mul(eighth, f32x4.sub(f32x4.add(f32x4.mul(s(4), c), f32x4.mul(s(2), f32x4.add(ns, we))), far));
    const across = f32x4.mul(eighth, f32x4.add(f32x4.sub(f32x4.add(f32x4.mul(s(5), c), f32x4.mul(s(4), we)), f32x4.add(diagonal, farH)), f32x4.mul(s(0.5), farV)));
    const along = f32x4.mul(eighth, f32x4.add(f32x4.sub(f32x4.add(f32x4.mul(s(5), c), f32x4.mul(s(4), ns)), f32x4.add(diagonal, farV)), f32x4.mul(s(0.5), farH)));
    const other = f32x4.mul(eighth, f32x4.sub(f32x4.add(f32x4.mul(s(6), c), f32x4.mul(s(2), diagonal)), f32x4.mul(s(1.5), far)));
    const mine = v128.bitselect(c, across, own), theirs = v128.bitselect(other, along, own);
    const G = count(v128.bitselect(green, c, own), gg, offset);
    const R = count(red == 1 ? mine : theirs, gr, offset), B = count(red == 1 ? theirs : mine, gb, offset);
    v128.store64_lane(r + i * 2, i16x8.narrow_i32x4_u(R, R), 0);
    v128.store64_lane(g + i * 2, i16x8.narrow_i32x4_u(G, G), 0);
    v128.store64_lane(b + i * 2, i16x8.narrow_i32x4_u(B, B), 0);
  }
}

/** Two 16-bit rows of one plane to one of half the width: the rounded mean of 2 × 2. */
export function halve(row0: usize, row1: usize, dst: usize, width: i32): void {
  for (let i: i32 = 0; i < width; i++) {
    const o = <usize>i * 4;
    store<u16>(dst + <usize>i * 2, <u16>((<u32>load<u16>(row0 + o) + <u32>load<u16>(row0 + o, 2) + <u32>load<u16>(row1 + o) + <u32>load<u16>(row1 + o, 2) + 2) >> 2));
  }
}
