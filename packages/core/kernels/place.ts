import { exp2, read, row, s, smooth } from './maths';

// Passes that know their place on the uncropped frame, in shares of its long edge. Their numbers begin with two boxes, left, top,
// width and height: the picture's, then the frame's. A row's pixels lie at left + (column + ½)·step, whatever piece they are drawn in.

// @ts-ignore: decorator
@inline function across(left: f32, column: i32, step: f32): v128 { return f32x4.add(s(left), f32x4.mul(f32x4.add(s(<f32>column + 0.5), f32x4(0, 1, 2, 3)), s(step))); }

/**
 * Light times 2^ev of the distance from a centre, in half axes. p: boxes[8], luminance weights[3], 1 for the picture's box, centre in
 * shares of the box[2], size in half axes, how round (0 the box's ratio, 1 a circle), how far lights are kept, number of
 * intervals, table over half the distance, the last value repeated: of the factor where no lights are kept, else of EV.
 */
export function vignette(r: usize, g: usize, b: usize, n: i32, p: usize, left: f32, column: i32, step: f32, y: f32): void {
  const box = load<f32>(p, 44) > 0 ? p : p + 16, width = load<f32>(box, 8), height = load<f32>(box, 12), long = max<f32>(width, height), round = load<f32>(p, 60), size = load<f32>(p, 56) * 0.5;
  const ax = s(1 / (size * (width + (long - width) * round))), ay: f32 = 1 / (size * (height + (long - height) * round)), cx = s(load<f32>(box) + load<f32>(p, 48) * width), dy = s((y - load<f32>(box, 4) - load<f32>(p, 52) * height) * ay), kept = v128.load32_splat(p, 64), keeps = load<f32>(p, 64) > 0, last = load<f32>(p, 68), dy2 = f32x4.mul(dy, dy);
  for (let k: i32 = 0; k < n; k += 4) {
    const i = <usize>k << 2, x = v128.load(r + i), v = v128.load(g + i), z = v128.load(b + i), dx = f32x4.mul(f32x4.sub(across(left, column + k, step), cx), ax);
    let gain = read(p + 72, last, f32x4.mul(s(0.5), f32x4.sqrt(f32x4.add(f32x4.mul(dx, dx), dy2))));
    if (keeps) {
      const held = f32x4.mul(kept, smooth(s(0.3), s(1.6), row(p + 32, x, v, z)));
      gain = exp2(f32x4.add(f32x4.pmax(s(0), gain), f32x4.mul(f32x4.pmin(s(0), gain), f32x4.sub(s(1), held))));
    }
    v128.store(r + i, f32x4.mul(x, gain)); v128.store(g + i, f32x4.mul(v, gain)); v128.store(b + i, f32x4.mul(z, gain));
  }
}

/**
 * Light laid over a picture, c·(1 + w·m) + w·a: a leak, whose w falls inwards from a place (u) and along it on either side (v), or
 * a source, round about it. p: boxes[8], place in shares of the frame[2], direction inwards (cosine, sine), reciprocals of the
 * reaches[2], 1 for a source, m[3], a[3], number of intervals, table of w over u/reach in [0, 1], the same over |v|/reach.
 */
export function veil(r: usize, g: usize, b: usize, n: i32, p: usize, left: f32, column: i32, step: f32, y: f32): void {
  const ox = s(load<f32>(p, 16) + load<f32>(p, 32) * load<f32>(p, 24)), dy = s(y - load<f32>(p, 20) - load<f32>(p, 36) * load<f32>(p, 28));
  const c = v128.load32_splat(p, 40), d = v128.load32_splat(p, 44), pu = v128.load32_splat(p, 48), pv = v128.load32_splat(p, 52), round = load<f32>(p, 56) > 0, last = load<f32>(p, 84), second = p + 88 + ((<usize>last + 2) << 2);
  for (let k: i32 = 0; k < n; k += 4) {
    const dx = f32x4.sub(across(left, column + k, step), ox), u = f32x4.mul(pu, f32x4.add(f32x4.mul(c, dx), f32x4.mul(d, dy))), v = f32x4.mul(pv, f32x4.sub(f32x4.mul(c, dy), f32x4.mul(d, dx)));
    const w = round ? read(p + 88, last, f32x4.sqrt(f32x4.add(f32x4.mul(u, u), f32x4.mul(v, v)))) : f32x4.mul(read(p + 88, last, u), read(second, last, f32x4.abs(v)));
    if (!v128.any_true(f32x4.gt(w, s(0)))) continue;
    for (let ch: usize = 0; ch < 3; ch++) {
      const at = (ch == 0 ? r : ch == 1 ? g : b) + (<usize>k << 2), x = v128.load(at);
      v128.store(at, f32x4.add(f32x4.mul(x, f32x4.add(s(1), f32x4.mul(w, v128.load32_splat(p + 60 + (ch << 2))))), f32x4.mul(w, v128.load32_splat(p + 72 + (ch << 2)))));
    }
  }
}

/** A number of −1…1 at a crossing of a grid. */
// @ts-ignore: decorator
@inline function at(i: i32, j: i32, seed: i32): f32 {
  let h = i * 374761393 + j * 668265263 + seed;
  h = (h ^ (h >>> 13)) * 1274126177;
  h = (h ^ (h >>> 16)) * <i32>2246822519;
  return <f32>((h >>> 9) & 0xffff) * <f32>(1.0 / 32767.5) - 1;
}
/** Value noise: smooth between the crossings of a grid (Perlin 1985, after Lewis). */
function valueNoise(x: f32, y: f32, seed: i32): f32 {
  const fx = Mathf.floor(x), fy = Mathf.floor(y), i = <i32>fx, j = <i32>fy, t = x - fx, v = y - fy;
  const a = t * t * (3 - 2 * t), c = v * v * (3 - 2 * v), low = at(i, j, seed), high = at(i, j + 1, seed);
  const top = low + (at(i + 1, j, seed) - low) * a, bottom = high + (at(i + 1, j + 1, seed) - high) * a;
  return top + (bottom - top) * c;
}
/**
 * A border of one colour round the picture, its edge torn as far as said. p: boxes[8], colour[3], width, softness, how far the edge is
 * torn, crossings of the tear's grid a unit, number of the tear.
 */
export function border(r: usize, g: usize, b: usize, n: i32, p: usize, left: f32, column: i32, step: f32, y: f32): void {
  const l = load<f32>(p), t = load<f32>(p, 4), right = l + load<f32>(p, 8), bottom = t + load<f32>(p, 12), width = load<f32>(p, 44), soft = load<f32>(p, 48), torn = load<f32>(p, 52), grid = load<f32>(p, 56), seed = <i32>load<f32>(p, 60) * 7919, dy = min<f32>(y - t, bottom - y);
  for (let k: i32 = 0; k < n; k++) {
    const x = left + (<f32>(column + k) + 0.5) * step, d = min<f32>(dy, min<f32>(x - l, right - x));
    if (d > width + torn + soft) continue;
    const moved = torn > 0 ? d + torn * (0.65 * valueNoise(x * grid, y * grid, seed) + 0.35 * valueNoise(x * grid * 3.7, y * grid * 3.7, seed + 1)) : d;
    const share = min<f32>(1, max<f32>(0, (moved - width) / soft + 0.5)), i = <usize>k << 2;
    store<f32>(r + i, load<f32>(p, 32) + share * (load<f32>(r + i) - load<f32>(p, 32)));
    store<f32>(g + i, load<f32>(p, 36) + share * (load<f32>(g + i) - load<f32>(p, 36)));
    store<f32>(b + i, load<f32>(p, 40) + share * (load<f32>(b + i) - load<f32>(p, 40)));
  }
}
