import { s } from './maths';

// Green by directional linear minimum mean square-error estimation (Zhang and Wu 2005), in the domain of the fourth root,
// where noise is nearly even and edges are not dominated by lights. One stage of one row at a time: demosaic.ts says in which order.

/** Where the fourth root's domain begins: f(x) = ∜(x + START) for x ≥ 0, its tangent below. */
export const START: f32 = 0.003, AT_ZERO: f32 = 0.234034732, SLOPE: f32 = 19.5028943;
/** The least variance, so that nothing is divided by none. */
const LEAST: f32 = 1e-9;

// @ts-ignore: decorator
@inline export function at(row: usize, o: usize, shift: i32): v128 { return v128.load(row + o + shift * 4); }
// @ts-ignore: decorator
@inline export function add(a: v128, b: v128): v128 { return f32x4.add(a, b); }
// @ts-ignore: decorator
@inline export function sub(a: v128, b: v128): v128 { return f32x4.sub(a, b); }
// @ts-ignore: decorator
@inline export function mul(a: v128, b: v128): v128 { return f32x4.mul(a, b); }
/** Row y of a ring of sixteen rows of `bytes` each. */
// @ts-ignore: decorator
@inline export function row(ring: usize, bytes: usize, y: i32): usize { return ring + <usize>(y & 15) * bytes; }
/** Which of four neighbours are green, in a row that begins with its own colour (phase 0) or with green (1). */
// @ts-ignore: decorator
@inline export function greens(phase: i32): v128 { return phase == 0 ? i32x4(0, -1, 0, -1) : i32x4(-1, 0, -1, 0); }

/**
 * One mosaic row from 16-bit counts to the estimation's domain: f((v − black)·gain), with the two columns' own values.
 * p: black of even, odd columns; gain of even, odd columns.
 */
export function level(src: usize, dst: usize, n: i32, p: usize): void {
  const pair = v128.load(p), black = v128.shuffle<f32>(pair, pair, 0, 1, 0, 1), gain = v128.shuffle<f32>(pair, pair, 2, 3, 2, 3);
  for (let i: usize = 0; i < <usize>n; i += 4) {
    const x = mul(sub(f32x4.convert_i32x4_s(v128.load_ext<u16>(src + i * 2)), black), gain);
    const root = f32x4.sqrt(f32x4.sqrt(add(f32x4.pmax(s(0), x), s(START))));
    v128.store(dst + i * 4, v128.bitselect(add(s(AT_ZERO), mul(s(SLOPE), x)), root, f32x4.lt(x, s(0))));
  }
}

/**
 * Green minus the other colour, seen along one direction: what stands here against the gradient-corrected mean of its
 * neighbours (Hamilton and Adams 1997).
 */
// @ts-ignore: decorator
@inline function difference(here: v128, near: v128, far: v128, green: v128): v128 {
  const there = add(mul(s(0.5), near), mul(s(0.25), sub(add(here, here), far)));
  return v128.bitselect(sub(here, there), sub(there, here), green);
}
export function differenceAcross(m: usize, dst: usize, n: i32, phase: i32): void {
  const green = greens(phase);
  for (let o: usize = 0; o < <usize>n * 4; o += 16) {
    const near = add(at(m, o, -1), at(m, o, 1));
    const far = add(at(m, o, -2), at(m, o, 2));
    v128.store(dst + o, difference(at(m, o, 0), near, far, green));
  }
}
export function differenceAlong(n2: usize, n1: usize, m: usize, s1: usize, s2: usize, dst: usize, n: i32, phase: i32): void {
  const green = greens(phase);
  for (let o: usize = 0; o < <usize>n * 4; o += 16) {
    const near = add(at(n1, o, 0), at(s1, o, 0));
    const far = add(at(n2, o, 0), at(s2, o, 0));
    v128.store(dst + o, difference(at(m, o, 0), near, far, green));
  }
}

/** Zhang and Wu's low-pass filter of nine: 4 9 15 23 26 23 15 9 4, over 128; from the sums of each pair. */
// @ts-ignore: decorator
@inline function lowPass(middle: v128, one: v128, two: v128, three: v128, four: v128): v128 {
  const inner = add(mul(s(0.203125), middle), mul(s(0.1796875), one));
  const outer = add(mul(s(0.1171875), two), add(mul(s(0.0703125), three), mul(s(0.03125), four)));
  return add(inner, outer);
}
export function smoothAcross(d: usize, smooth: usize, misfit: usize, n: i32): void {
  for (let o: usize = 0; o < <usize>n * 4; o += 16) {
    const here = at(d, o, 0);
    const low = lowPass(here, add(at(d, o, -1), at(d, o, 1)), add(at(d, o, -2), at(d, o, 2)), add(at(d, o, -3), at(d, o, 3)), add(at(d, o, -4), at(d, o, 4)));
    const off = sub(here, low);
    v128.store(smooth + o, low);
    v128.store(misfit + o, mul(off, off));
  }
}
export function smoothAlong(ring: usize, bytes: usize, y: i32, smooth: usize, misfit: usize, n: i32): void {
  const r0 = row(ring, bytes, y);
  const u1 = row(ring, bytes, y - 1), u2 = row(ring, bytes, y - 2), u3 = row(ring, bytes, y - 3), u4 = row(ring, bytes, y - 4);
  const d1 = row(ring, bytes, y + 1), d2 = row(ring, bytes, y + 2), d3 = row(ring, bytes, y + 3), d4 = row(ring, bytes, y + 4);
  for (let o: usize = 0; o < <usize>n * 4; o += 16) {
    const here = at(r0, o, 0);
    const low = lowPass(here, add(at(u1, o, 0), at(d1, o, 0)), add(at(u2, o, 0), at(d2, o, 0)), add(at(u3, o, 0), at(d3, o, 0)), add(at(u4, o, 0), at(d4, o, 0)));
    const off = sub(here, low);
    v128.store(smooth + o, low);
    v128.store(misfit + o, mul(off, off));
  }
}
/**
 * The estimate from five places' smooth part and misfit: signal s² = var(smooth), noise n² = mean(misfit),
 * x = µ + s²/(s² + n²)·(d − µ), with the variance s²n²/(s² + n²) (Zhang and Wu 2005, eqs. 9 to 12).
 */
// @ts-ignore: decorator
@inline function estimate(d: v128, sum: v128, squares: v128, misfit: v128, x: usize, v: usize): void {
  const fifth = s(0.2);
  const mean = mul(sum, fifth);
  const signal = add(f32x4.pmax(s(0), sub(mul(squares, fifth), mul(mean, mean))), s(LEAST));
  const noise = add(mul(misfit, fifth), s(LEAST));
  const share = f32x4.div(signal, add(signal, noise));
  v128.store(x, add(mean, mul(share, sub(d, mean))));
  v128.store(v, mul(share, noise));
}
export function estimateAcross(d: usize, smooth: usize, misfit: usize, x: usize, v: usize, n: i32): void {
  for (let o: usize = 0; o < <usize>n * 4; o += 16) {
    let sum = s(0), squares = s(0), off = s(0);
    for (let k = -2; k <= 2; k++) {
      const low = at(smooth, o, k);
      sum = add(sum, low);
      squares = add(squares, mul(low, low));
      off = add(off, at(misfit, o, k));
    }
    estimate(at(d, o, 0), sum, squares, off, x + o, v + o);
  }
}
export function estimateAlong(d: usize, smooth: usize, misfit: usize, bytes: usize, y: i32, x: usize, v: usize, n: i32): void {
  const own = row(d, bytes, y);
  for (let o: usize = 0; o < <usize>n * 4; o += 16) {
    let sum = s(0), squares = s(0), off = s(0);
    for (let k = -2; k <= 2; k++) {
      const low = at(row(smooth, bytes, y + k), o, 0);
      sum = add(sum, low);
      squares = add(squares, mul(low, low));
      off = add(off, at(row(misfit, bytes, y + k), o, 0));
    }
    estimate(at(own, o, 0), sum, squares, off, x + o, v + o);
  }
}

/** Three rows weighted 1 2 1. */
// @ts-ignore: decorator
@inline function down(up: usize, here: usize, below: usize, o: usize): v128 { return add(add(at(up, o, 0), at(below, o, 0)), mul(s(2), at(here, o, 0))); }
/** 1 2 1 across what `down` made of a row. */
// @ts-ignore: decorator
@inline function around(sums: usize, o: usize): v128 {
  const middle = at(sums, o, 0);
  return add(add(at(sums, o, -1), at(sums, o, 1)), add(middle, middle));
}
/**
 * Green everywhere: both directions' estimates weighed by the other's variance around. `known`: the own colour minus green,
 * where green was missing. sums: room for two rows, `bytes` from one to the next.
 */
export function green(m: usize, across: usize, along: usize, ah: usize, ch: usize, dh: usize, av: usize, cv: usize, dv: usize, dst: usize, known: usize, sums: usize, bytes: usize, n: i32, phase: i32): void {
  const green = greens(phase), second = sums + bytes;
  // one group beside what is worked on too
  for (let o: i32 = -16; o < n * 4 + 16; o += 16) {
    v128.store(sums + o, down(ah, ch, dh, <usize>o));
    v128.store(second + o, down(av, cv, dv, <usize>o));
  }
  for (let o: usize = 0; o < <usize>n * 4; o += 16) {
    const h = around(sums, o), v = around(second, o);
    const mixed = f32x4.div(add(mul(at(across, o, 0), v), mul(at(along, o, 0), h)), add(h, v));
    const missing = v128.andnot(mixed, green);
    v128.store(dst + o, add(at(m, o, 0), missing));
    v128.store(known + o, f32x4.neg(missing));
  }
}
