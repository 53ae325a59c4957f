import { add, at, AT_ZERO, greens, mul, SLOPE, START, sub } from './green';
import { s } from './maths';

// Red and blue from green and the differences known where a colour was measured: along the direction in which they and
// green change least (the gradients of Hamilton and Adams 1997, applied to differences); in between by means.

/** Keeps two even directions from being told apart by noise; tuned on photographs run backwards into raws. */
const EVEN: f32 = 0.02;

/** How much two neighbours of a place differ, in colour and in green; squared. */
// @ts-ignore: decorator
@inline function unlikeness(a: v128, b: v128, greenA: v128, greenB: v128, green: v128): v128 {
  const colours = f32x4.abs(sub(a, b));
  const greens = add(f32x4.abs(sub(greenA, green)), f32x4.abs(sub(greenB, green)));
  const all = add(s(EVEN), add(colours, greens));
  return mul(all, all);
}
/** Means of two pairs, each weighed by the unlikeness of the other. */
// @ts-ignore: decorator
@inline function likelier(sumP: v128, sumQ: v128, unlikeP: v128, unlikeQ: v128): v128 {
  const weighed = add(mul(sumP, unlikeQ), mul(sumQ, unlikeP));
  return f32x4.div(mul(s(0.5), weighed), add(unlikeP, unlikeQ));
}

/** At the places of red, blue's difference from green, and the other way round: from the four of its colour at the corners. */
export function corners(ku: usize, kd: usize, gu: usize, g: usize, gd: usize, dst: usize, n: i32, phase: i32): void {
  const green = greens(phase);
  for (let o: usize = 0; o < <usize>n * 4; o += 16) {
    const here = at(g, o, 0);
    const nw = at(ku, o, -1), se = at(kd, o, 1), ne = at(ku, o, 1), sw = at(kd, o, -1);
    const falling = unlikeness(nw, se, at(gu, o, -1), at(gd, o, 1), here);
    const rising = unlikeness(ne, sw, at(gu, o, 1), at(gd, o, -1), here);
    v128.store(dst + o, v128.andnot(likelier(add(nw, se), add(ne, sw), falling, rising), green));
  }
}

/** Back from the domain: x = y⁴ − START, the tangent below; then to 16-bit counts by a gain and an offset. */
// @ts-ignore: decorator
@inline function count(y: v128, gain: v128, offset: v128): v128 {
  const square = mul(y, y);
  const above = sub(mul(square, square), s(START));
  const below = mul(s(1 / SLOPE), sub(y, s(AT_ZERO)));
  const x = v128.bitselect(below, above, f32x4.lt(y, s(AT_ZERO)));
  // 1.5 · 2²³ on, the whole number nearest stands in the low bits; what lies outside 16 bits is clamped when narrowed
  return i32x4.sub(add(mul(x, gain), add(offset, s(12582912))), i32x4.splat(0x4b400000));
}
// @ts-ignore: decorator
@inline function put(dst: usize, i: usize, counts: v128): void {
  v128.store64_lane(dst + i * 2, i16x8.narrow_i32x4_u(counts, counts), 0);
}

/**
 * A finished row: at the places of red and blue both differences are known; at those of green each is the mean of the
 * four around: two in the row, two in the column. known: own colour's difference; other: the other's. `first`, `second`: where the
 * row's own colour and the other go. p: gains of the own colour, of green and of the other; the offset.
 */
export function colours(ku: usize, k: usize, kd: usize, eu: usize, e: usize, ed: usize, g: usize, own: usize, greenOut: usize, other: usize, n: i32, phase: i32, p: usize): void {
  const green = greens(phase);
  const ownGain = v128.load32_splat(p), greenGain = v128.load32_splat(p, 4), otherGain = v128.load32_splat(p, 8), offset = v128.load32_splat(p, 12);
  for (let i: usize = 0; i < <usize>n; i += 4) {
    const o = i * 4, here = at(g, o, 0);
    const ownThere = mul(s(0.25), add(add(at(k, o, -1), at(k, o, 1)), add(at(eu, o, 0), at(ed, o, 0))));
    const otherThere = mul(s(0.25), add(add(at(e, o, -1), at(e, o, 1)), add(at(ku, o, 0), at(kd, o, 0))));
    put(own, i, count(add(here, v128.bitselect(ownThere, at(k, o, 0), green)), ownGain, offset));
    put(greenOut, i, count(here, greenGain, offset));
    put(other, i, count(add(here, v128.bitselect(otherThere, at(e, o, 0), green)), otherGain, offset));
  }
}
