import { mix, pow, s } from './maths';

// Compositing and Blending Level 1 (W3C 2015), §9 and §10, on values encoded by the sRGB curve (IEC 61966-2-1): `b` what is there, `c` what is laid on.

// @ts-ignore: decorator
@inline export function encoded(v: v128): v128 {
  const x = f32x4.pmin(s(1), f32x4.pmax(s(0), v));
  return v128.bitselect(f32x4.mul(s(12.92), x), f32x4.sub(f32x4.mul(s(1.055), pow(x, s(0.41666667))), s(0.055)), f32x4.le(x, s(0.0031308)));
}
// @ts-ignore: decorator
@inline export function light(x: v128): v128 {
  return v128.bitselect(f32x4.mul(s(0.07739938), x), pow(f32x4.mul(f32x4.add(x, s(0.055)), s(0.94786730)), s(2.4)), f32x4.le(x, s(0.04045)));
}
// @ts-ignore: decorator
@inline function multiply(b: v128, c: v128): v128 { return f32x4.mul(b, c); }
// @ts-ignore: decorator
@inline function screen(b: v128, c: v128): v128 { return f32x4.sub(f32x4.add(b, c), f32x4.mul(b, c)); }
// @ts-ignore: decorator
@inline function hardLight(b: v128, c: v128): v128 { const twice = f32x4.add(c, c); return v128.bitselect(multiply(b, twice), screen(b, f32x4.sub(twice, s(1))), f32x4.le(c, s(0.5))); }
function softLight(b: v128, c: v128): v128 {
  const low = f32x4.mul(f32x4.add(f32x4.mul(f32x4.sub(f32x4.mul(s(16), b), s(12)), b), s(4)), b), d = v128.bitselect(low, f32x4.sqrt(b), f32x4.le(b, s(0.25))), twice = f32x4.sub(f32x4.add(c, c), s(1));
  return v128.bitselect(f32x4.add(b, f32x4.mul(twice, f32x4.mul(b, f32x4.sub(s(1), b)))), f32x4.add(b, f32x4.mul(twice, f32x4.sub(d, b))), f32x4.le(c, s(0.5)));
}
function dodge(b: v128, c: v128): v128 {
  const v = v128.bitselect(s(1), f32x4.pmin(s(1), f32x4.div(b, f32x4.pmax(s(1e-9), f32x4.sub(s(1), c)))), f32x4.ge(c, s(1)));
  return v128.bitselect(s(0), v, f32x4.le(b, s(0)));
}
function burn(b: v128, c: v128): v128 { return f32x4.sub(s(1), dodge(f32x4.sub(s(1), b), f32x4.sub(s(1), c))); }
/** A separable mode by its number: normal, multiply, screen, overlay, darken, lighten, colour dodge, colour burn, hard light, soft light, difference, exclusion. */
// @ts-ignore: decorator
@inline export function separable(mode: i32, b: v128, c: v128): v128 {
  switch (mode) {
    case 1: return multiply(b, c);
    case 2: return screen(b, c);
    case 3: return hardLight(c, b);
    case 4: return f32x4.pmin(b, c);
    case 5: return f32x4.pmax(b, c);
    case 6: return dodge(b, c);
    case 7: return burn(b, c);
    case 8: return hardLight(b, c);
    case 9: return softLight(b, c);
    case 10: return f32x4.abs(f32x4.sub(b, c));
    case 11: return f32x4.sub(f32x4.add(b, c), f32x4.mul(s(2), f32x4.mul(b, c)));
    default: return c;
  }
}

let R: v128 = s(0), G: v128 = s(0), B: v128 = s(0);
// @ts-ignore: decorator
@inline function lum(x: v128, y: v128, z: v128): v128 { return f32x4.add(f32x4.mul(s(0.3), x), f32x4.add(f32x4.mul(s(0.59), y), f32x4.mul(s(0.11), z))); }
// @ts-ignore: decorator
@inline function least(x: v128, y: v128, z: v128): v128 { return f32x4.pmin(x, f32x4.pmin(y, z)); }
// @ts-ignore: decorator
@inline function most(x: v128, y: v128, z: v128): v128 { return f32x4.pmax(x, f32x4.pmax(y, z)); }
/** SetLum and ClipColor of §10.5 for the colour in R, G, B. */
function setLum(to: v128): void {
  const d = f32x4.sub(to, lum(R, G, B));
  R = f32x4.add(R, d); G = f32x4.add(G, d); B = f32x4.add(B, d);
  const l = lum(R, G, B), low = least(R, G, B), high = most(R, G, B);
  const down = v128.bitselect(f32x4.div(l, f32x4.pmax(s(1e-9), f32x4.sub(l, low))), s(1), f32x4.lt(low, s(0)));
  R = mix(l, R, down); G = mix(l, G, down); B = mix(l, B, down);
  const up = v128.bitselect(f32x4.div(f32x4.sub(s(1), l), f32x4.pmax(s(1e-9), f32x4.sub(high, l))), s(1), f32x4.gt(high, s(1)));
  R = mix(l, R, up); G = mix(l, G, up); B = mix(l, B, up);
}
/** SetSat of §10.5: the colour in R, G, B stretched to run from 0 to a saturation. */
function setSat(to: v128): void {
  const low = least(R, G, B), k = f32x4.div(to, f32x4.pmax(s(1e-9), f32x4.sub(most(R, G, B), low)));
  R = f32x4.mul(f32x4.sub(R, low), k); G = f32x4.mul(f32x4.sub(G, low), k); B = f32x4.mul(f32x4.sub(B, low), k);
}
/** Modes 12 hue, 13 saturation, 14 colour, 15 luminosity, of the whole colour. */
function whole(mode: i32, x: v128, y: v128, z: v128, u: v128, v: v128, w: v128): void {
  const own = lum(x, y, z);
  if (mode == 12) { R = u; G = v; B = w; setSat(f32x4.sub(most(x, y, z), least(x, y, z))); setLum(own); }
  else if (mode == 13) { R = x; G = y; B = z; setSat(f32x4.sub(most(u, v, w), least(u, v, w))); setLum(own); }
  else if (mode == 14) { R = u; G = v; B = w; setLum(own); }
  else { R = x; G = y; B = z; setLum(lum(u, v, w)); }
}
let X: v128 = s(0), Y: v128 = s(0), Z: v128 = s(0);
/** Four pixels of light with an encoded colour laid on by a mode and an opacity; what is brighter than white keeps that much. */
function laid(at: usize, r: usize, g: usize, b: usize, mode: i32, u: v128, v: v128, w: v128, share: v128): void {
  const x = v128.load(r + at), y = v128.load(g + at), z = v128.load(b + at), ex = encoded(x), ey = encoded(y), ez = encoded(z);
  if (mode > 11) whole(mode, ex, ey, ez, u, v, w);
  else { R = separable(mode, ex, u); G = separable(mode, ey, v); B = separable(mode, ez, w); }
  X = over(x, ex, R, share); Y = over(y, ey, G, share); Z = over(z, ez, B, share);
}
/** A flat colour laid on by a mode. p: encoded colour[3], mode, opacity. */
export function wash(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const u = v128.load32_splat(p), v = v128.load32_splat(p, 4), w = v128.load32_splat(p, 8), mode = <i32>load<f32>(p, 12), share = v128.load32_splat(p, 16);
  for (let i: usize = 0; i < <usize>n << 2; i += 16) {
    laid(i, r, g, b, mode, u, v, w, share);
    v128.store(r + i, X); v128.store(g + i, Y); v128.store(b + i, Z);
  }
}

let red: f32 = 0, green: f32 = 0, blue: f32 = 0, there: f32 = 0;
// @ts-ignore: decorator
@inline function channel(packed: i32, shift: i32): f32 { return <f32>((packed >> shift) & 255); }
/** The picture at a place of it (shares), between its pixels; its border beyond half a pixel of it, nothing outside. */
function sample(u: f32, v: f32, width: i32, height: i32, wraps: bool, data: usize): void {
  if (wraps) { u -= Mathf.floor(u); v -= Mathf.floor(v); }
  there = u >= 0 && u <= 1 && v >= 0 && v <= 1 ? 1 : 0;
  if (there == 0) { red = green = blue = 0; return; }
  const x = u * <f32>width - 0.5, y = v * <f32>height - 0.5, fx = Mathf.floor(x), fy = Mathf.floor(y), s0 = x - fx, t0 = y - fy;
  const i = max(0, <i32>fx), k = min(width - 1, <i32>fx + 1), j = max(0, <i32>fy), l = min(height - 1, <i32>fy + 1);
  const a = <i32>load<f32>(data + (<usize>(j * width + i) << 2)), b = <i32>load<f32>(data + (<usize>(j * width + k) << 2)), c = <i32>load<f32>(data + (<usize>(l * width + i) << 2)), d = <i32>load<f32>(data + (<usize>(l * width + k) << 2));
  const p: f32 = (1 - s0) * (1 - t0), q: f32 = s0 * (1 - t0), r: f32 = (1 - s0) * t0, o: f32 = s0 * t0, unit: f32 = 1.0 / 255.0;
  red = unit * (p * channel(a, 16) + q * channel(b, 16) + r * channel(c, 16) + o * channel(d, 16));
  green = unit * (p * channel(a, 8) + q * channel(b, 8) + r * channel(c, 8) + o * channel(d, 8));
  blue = unit * (p * channel(a, 0) + q * channel(b, 0) + r * channel(c, 0) + o * channel(d, 0));
}
/**
 * A picture laid on by a mode. p: boxes[8] as the passes of places have them, 1 for the picture's box, fit (0 covers, 1 lies within, 2
 * stretched, 3 covers and goes on), its width over its height, cosine and sine of its turn, 1/scale, move in shares of the box[2],
 * −1 where it is flipped, mode, opacity, width, height, then its pixels, red · 65536 + green · 256 + blue.
 */
export function overprint(r: usize, g: usize, b: usize, n: i32, p: usize, left: f32, column: i32, step: f32, y: f32): void {
  const box = load<f32>(p, 32) > 0 ? p : p + 16, bw = load<f32>(box, 8), bh = load<f32>(box, 12), fit = <i32>load<f32>(p, 36), aspect = load<f32>(p, 40);
  const tw = fit == 2 ? bw : fit == 1 ? min<f32>(bw, bh * aspect) : max<f32>(bw, bh * aspect), th = fit == 2 ? bh : tw / aspect;
  const c = load<f32>(p, 44), d = load<f32>(p, 48), inv = load<f32>(p, 52), flip = load<f32>(p, 64), mode = <i32>load<f32>(p, 68), opacity = load<f32>(p, 72), width = <i32>load<f32>(p, 76), height = <i32>load<f32>(p, 80);
  const cx = load<f32>(box) + bw * (0.5 + load<f32>(p, 56)), dy = (y - load<f32>(box, 4) - bh * (0.5 + load<f32>(p, 60))) * inv;
  for (let k: i32 = 0; k < n; k += 4) {
    let u = s(0), v = s(0), w = s(0), share = s(0);
    for (let lane: i32 = 0; lane < 4; lane++) {
      const dx = (left + (<f32>(column + k + lane) + 0.5) * step - cx) * inv;
      sample(flip * (c * dx + d * dy) / tw + 0.5, (c * dy - d * dx) / th + 0.5, width, height, fit == 3, p + 84);
      const own = i32x4.eq(i32x4(0, 1, 2, 3), i32x4.splat(lane));
      u = v128.bitselect(s(red), u, own); v = v128.bitselect(s(green), v, own); w = v128.bitselect(s(blue), w, own); share = v128.bitselect(s(there * opacity), share, own);
    }
    const i = <usize>k << 2;
    laid(i, r, g, b, mode, u, v, w, share);
    v128.store(r + i, X); v128.store(g + i, Y); v128.store(b + i, Z);
  }
}
// @ts-ignore: decorator
@inline function over(own: v128, from: v128, to: v128, share: v128): v128 { return f32x4.add(light(mix(from, f32x4.pmin(s(1), f32x4.pmax(s(0), to)), share)), f32x4.sub(own, f32x4.pmin(s(1), f32x4.pmax(s(0), own)))); }
