import { cbrt, log2, mix, pairs, pow, row, s, smooth, whole } from './maths';
import { labA, labB, labL } from './oklab';

// Shares of a mask, 0–1. A row's pixels lie at start + column·step, y; planes may be written up to three places beyond their end.

const lanes = f32x4(0, 1, 2, 3);
// @ts-ignore: decorator
@inline function across(start: f32, step: f32, k: i32): v128 { return f32x4.add(s(start), f32x4.mul(f32x4.add(s(<f32>k), lanes), s(step))); }
// @ts-ignore: decorator
@inline function within01(v: v128): v128 { return f32x4.pmin(s(1), f32x4.pmax(s(0), v)); }
// @ts-ignore: decorator
@inline function hermite(t: v128): v128 { return f32x4.mul(f32x4.mul(t, t), f32x4.sub(s(3), f32x4.add(t, t))); }

/** A gradient along a line, h(tᵉ) with h(t) = t²·(3 − 2t), t = u·x + v·y + w clamped to 0–1. p: u, v, w, e. */
export function gradientShare(dst: usize, n: i32, p: usize, start: f32, step: f32, y: f32): void {
  const u = v128.load32_splat(p), rest = s(load<f32>(p + 4) * y + load<f32>(p + 8)), e = v128.load32_splat(p + 12);
  for (let k: i32 = 0; k < n; k += 4) v128.store(dst + (<usize>k << 2), hermite(pow(within01(f32x4.add(f32x4.mul(u, across(start, step, k)), rest)), e)));
}
/** An ellipse, 1 − h((d − inner)/feather), d the distance from its centre in half axes. p: centre[2], to the unit circle[4], inner, 1/feather. */
export function radialShare(dst: usize, n: i32, p: usize, start: f32, step: f32, y: f32): void {
  const dy = y - load<f32>(p + 4), a = v128.load32_splat(p + 8), b = s(load<f32>(p + 12) * dy), c = v128.load32_splat(p + 16), d = s(load<f32>(p + 20) * dy), inner = v128.load32_splat(p + 24), over = v128.load32_splat(p + 28);
  for (let k: i32 = 0; k < n; k += 4) {
    const dx = f32x4.sub(across(start, step, k), v128.load32_splat(p)), u = f32x4.add(f32x4.mul(a, dx), b), v = f32x4.add(f32x4.mul(c, dx), d);
    v128.store(dst + (<usize>k << 2), f32x4.sub(s(1), smooth(inner, over, f32x4.sqrt(f32x4.add(f32x4.mul(u, u), f32x4.mul(v, v))))));
  }
}

/** Squared distance of places to a segment, and how far along it is nearest. q: start[2], way[2], 1/length². */
// @ts-ignore: decorator
@inline function along(q: usize, dx: v128, dy: f32): v128 { return within01(f32x4.mul(f32x4.add(f32x4.mul(dx, v128.load32_splat(q + 8)), s(dy * load<f32>(q + 12))), v128.load32_splat(q + 16))); }
// @ts-ignore: decorator
@inline function squareAway(q: usize, dx: v128, dy: f32, t: v128): v128 {
  const ex = f32x4.sub(dx, f32x4.mul(t, v128.load32_splat(q + 8))), ey = f32x4.sub(s(dy), f32x4.mul(t, v128.load32_splat(q + 12)));
  return f32x4.add(f32x4.mul(ex, ex), f32x4.mul(ey, ey));
}
/**
 * Strokes of a brush over a row, one after another. Where a stroke lies its share is flow·(1 − h((d − hard)/(1 − hard))), d the
 * distance to its line in half widths; painting m + (1 − m)·share, erasing m·(1 − share). p: strokes; of each: segments, hard,
 * 1/(1 − hard), flow (under none: erases), then left, top, right, bottom; of each segment eight: start[2], way[2], 1/length², half
 * width, its change along, the greatest. `near` is room for a row.
 */
export function strokeShare(dst: usize, near: usize, n: i32, p: usize, start: f32, step: f32, y: f32): void {
  const strokes = <i32>load<f32>(p);
  let at = p + 4;
  for (let k: i32 = 0; k < n; k += 4) v128.store(dst + (<usize>k << 2), s(0));
  for (let j = 0; j < strokes; j++) {
    const segments = <i32>load<f32>(at), hard = v128.load32_splat(at + 4), over = v128.load32_splat(at + 8), flow = load<f32>(at + 12), q0 = at + 32;
    const first = max<i32>(0, (<i32>floor((load<f32>(at + 16) - start) / step) - 1) & ~3), end = min<i32>(n, <i32>ceil((load<f32>(at + 24) - start) / step) + 2), reached = y >= load<f32>(at + 20) && y <= load<f32>(at + 28) && first < end;
    at = q0 + (<usize>segments << 5);
    if (!reached) continue;
    for (let k = first; k < end; k += 4) v128.store(near + (<usize>k << 2), s(1));
    for (let i = 0; i < segments; i++) {
      const q = q0 + (<usize>i << 5), ax = load<f32>(q), ay = load<f32>(q + 4), most = load<f32>(q + 28), wx = load<f32>(q + 8), wy = load<f32>(q + 12), dy = y - ay;
      if (dy < min<f32>(0, wy) - most || dy > max<f32>(0, wy) + most) continue;
      const from = max<i32>(first, (<i32>floor((ax + min<f32>(0, wx) - most - start) / step) - 1) & ~3), to = min<i32>(end, <i32>ceil((ax + max<f32>(0, wx) + most - start) / step) + 2), wide = v128.load32_splat(q + 20), change = v128.load32_splat(q + 24);
      for (let k = from; k < to; k += 4) {
        const dx = f32x4.sub(across(start, step, k), s(ax)), t = along(q, dx, dy), r = f32x4.add(wide, f32x4.mul(t, change)), o = near + (<usize>k << 2);
        v128.store(o, f32x4.pmin(v128.load(o), f32x4.div(squareAway(q, dx, dy, t), f32x4.mul(r, r))));
      }
    }
    for (let k = first; k < end; k += 4) {
      const away = v128.load(near + (<usize>k << 2));
      // off the stroke its share is nought
      if (!v128.any_true(f32x4.lt(away, s(1)))) continue;
      const o = dst + (<usize>k << 2), m = v128.load(o), share = f32x4.mul(s(abs(flow)), f32x4.sub(s(1), smooth(hard, over, f32x4.sqrt(away))));
      v128.store(o, flow < 0 ? f32x4.mul(m, f32x4.sub(s(1), share)) : f32x4.add(m, f32x4.mul(f32x4.sub(s(1), m), share)));
    }
  }
}
/** A row between two coarser ones (t of the way from a to b) whose places lie four pixels apart: four pixels from each of n places on. */
export function spreadRow(a: usize, b: usize, t: f32, n: i32, dst: usize): void {
  const way = f32x4(0, 0.25, 0.5, 0.75);
  let own = load<f32>(a) + (load<f32>(b) - load<f32>(a)) * t;
  for (let k: usize = 0; k < <usize>n; k++) {
    const u = load<f32>(a + (k << 2) + 4), next = u + (load<f32>(b + (k << 2) + 4) - u) * t;
    v128.store(dst + (k << 4), f32x4.add(s(own), f32x4.mul(s(next - own), way)));
    own = next;
  }
}
/** A closed outline, h(½ + d/2f), d the distance to it (inside positive), f the feather at the nearest place. p: edges, top, bottom, two unused; of each edge eight: start[2], way[2], 1/length², feather, its change along, one unused. */
export function outlineShare(dst: usize, n: i32, p: usize, start: f32, step: f32, y: f32): void {
  const edges = <i32>load<f32>(p), reached = y >= load<f32>(p + 4) && y <= load<f32>(p + 8);
  for (let k: i32 = 0; k < n; k += 4) {
    const o = dst + (<usize>k << 2), x = across(start, step, k);
    if (!reached) { v128.store(o, s(0)); continue; }
    let least = s(1e9), feather = s(1), inside = i32x4.splat(0);
    for (let i = 0; i < edges; i++) {
      const q = p + 20 + (<usize>i << 5), ay = load<f32>(q + 4), wy = load<f32>(q + 12), dx = f32x4.sub(x, v128.load32_splat(q)), dy = y - ay, t = along(q, dx, dy), d = squareAway(q, dx, dy, t), nearer = f32x4.lt(d, least);
      least = v128.bitselect(d, least, nearer);
      feather = v128.bitselect(f32x4.add(v128.load32_splat(q + 20), f32x4.mul(t, v128.load32_splat(q + 24))), feather, nearer);
      // a line to the right crosses the edge
      if ((dy >= 0) != (dy >= wy)) inside = v128.xor(inside, f32x4.lt(dx, s(dy / wy * load<f32>(q + 8))));
    }
    const d = f32x4.sqrt(least), away = v128.bitselect(d, f32x4.neg(d), inside);
    v128.store(o, hermite(within01(f32x4.add(s(0.5), f32x4.div(away, f32x4.add(feather, feather))))));
  }
}

/** A range of tones of light, in EV from middle grey. p: luminance weights[3], foot and 1/width of the fade below, of the fade above. */
export function toneShare(r: usize, g: usize, b: usize, dst: usize, n: i32, p: usize): void {
  for (let i: usize = 0; i < <usize>n << 2; i += 16) {
    const ev = f32x4.sub(log2(f32x4.pmax(s(1e-6), row(p, v128.load(r + i), v128.load(g + i), v128.load(b + i)))), s(-2.4739312));
    v128.store(dst + i, f32x4.mul(smooth(v128.load32_splat(p + 12), v128.load32_splat(p + 16), ev), f32x4.sub(s(1), smooth(v128.load32_splat(p + 20), v128.load32_splat(p + 24), ev))));
  }
}
/** Colours near some others: the greatest of 1 − h((d − inner)/feather), d² = (w·ΔL)² + Δa² + Δb² in OKLab. p: matrix to the cones[9], w, inner, 1/feather, colours, then L·w, a, b of each. */
export function colourShare(r: usize, g: usize, b: usize, dst: usize, n: i32, p: usize): void {
  const w = v128.load32_splat(p + 36), count = <i32>load<f32>(p + 48);
  for (let i: usize = 0; i < <usize>n << 2; i += 16) {
    const x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i), l = cbrt(row(p, x, y, z)), m = cbrt(row(p + 12, x, y, z)), k = cbrt(row(p + 24, x, y, z)), L = f32x4.mul(w, labL(l, m, k)), A = labA(l, m, k), B = labB(l, m, k);
    let least = s(1e9);
    for (let j = 0; j < count; j++) {
      const q = p + 52 + <usize>j * 12, u = f32x4.sub(L, v128.load32_splat(q)), v = f32x4.sub(A, v128.load32_splat(q + 4)), t = f32x4.sub(B, v128.load32_splat(q + 8));
      least = f32x4.pmin(least, f32x4.add(f32x4.mul(u, u), f32x4.add(f32x4.mul(v, v), f32x4.mul(t, t))));
    }
    v128.store(dst + i, f32x4.sub(s(1), smooth(v128.load32_splat(p + 40), v128.load32_splat(p + 44), f32x4.sqrt(least))));
  }
}
/** A field of the whole picture over its light, slope·log₂Y + offset, between two of its values: t = (v − low)·over, plain, or h(t). p: luminance weights[3], low, over, 1 for plain, place[3]; `rows` holds slope and offset. */
export function fieldShare(r: usize, g: usize, b: usize, dst: usize, n: i32, p: usize, rows: usize, stride: usize): void {
  const last = v128.load32_splat(p + 24), from = v128.load32_splat(p + 28), step = v128.load32_splat(p + 32), low = v128.load32_splat(p + 12), over = v128.load32_splat(p + 16), plain = load<f32>(p + 20) > 0;
  for (let k: i32 = 0; k < n; k += 4) {
    const i = <usize>k << 2, at = f32x4.pmin(last, f32x4.pmax(s(0), f32x4.add(from, f32x4.mul(f32x4.add(s(<f32>k), lanes), step)))), left = f32x4.floor(at), cell = whole(left), t = f32x4.sub(at, left), L = log2(f32x4.pmax(row(p, v128.load(r + i), v128.load(g + i), v128.load(b + i)), s(1e-5)));
    const v = within01(f32x4.mul(f32x4.sub(f32x4.add(f32x4.mul(pairs(rows, cell, t), L), pairs(rows + stride, cell, t)), low), over));
    v128.store(dst + i, plain ? v : hermite(v));
  }
}

/** A mask with a part joined to it, v = opacity·(share or 1 − share): 0 added m + v − m·v, 1 taken away m·(1 − v), 2 kept within m·(1 − opacity + v). */
export function maskWith(m: usize, share: usize, n: i32, mode: i32, opacity: f32, inverted: i32): void {
  for (let i: usize = 0; i < <usize>n << 2; i += 16) {
    const part = v128.load(share + i), was = v128.load(m + i), v = f32x4.mul(s(opacity), inverted ? f32x4.sub(s(1), part) : part);
    v128.store(m + i, mode == 0 ? f32x4.add(was, f32x4.mul(v, f32x4.sub(s(1), was))) : f32x4.mul(was, mode == 1 ? f32x4.sub(s(1), v) : f32x4.add(s(1 - opacity), v)));
  }
}
/** A mask turned over. */
export function maskOver(m: usize, n: i32): void { for (let i: usize = 0; i < <usize>n << 2; i += 16) v128.store(m + i, f32x4.sub(s(1), v128.load(m + i))); }
/** A mask as grey light, for looking at. */
export function maskGrey(m: usize, r: usize, g: usize, b: usize, n: i32): void {
  for (let i: usize = 0; i < <usize>n << 2; i += 16) { const v = v128.load(m + i); v128.store(r + i, v); v128.store(g + i, v); v128.store(b + i, v); }
}
/** Planes mixed with those put aside (o, p, q), exactly the one at 0 and the other at 1. */
export function maskMix(r: usize, g: usize, b: usize, o: usize, p: usize, q: usize, m: usize, n: i32): void {
  for (let i: usize = 0; i < <usize>n << 2; i += 16) {
    const t = v128.load(m + i), all = f32x4.ge(t, s(1)), none = f32x4.le(t, s(0));
    for (let c: usize = 0; c < 3; c++) {
      const to = (c == 0 ? r : c == 1 ? g : b) + i, was = v128.load((c == 0 ? o : c == 1 ? p : q) + i), is = v128.load(to);
      v128.store(to, v128.bitselect(was, v128.bitselect(is, mix(was, is, t), all), none));
    }
  }
}
