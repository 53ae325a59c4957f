import { pairs, s, whole } from './maths';

/** f at four squared radii: `table` holds the number of intervals for each unit of it, the last interval, then values. */
// @ts-ignore: decorator
@inline function over(table: usize, square: v128): v128 {
  const at = f32x4.pmin(v128.load32_splat(table, 4), f32x4.pmax(s(0), f32x4.mul(square, v128.load32_splat(table)))), cell = f32x4.floor(at);
  return pairs(table + 8, whole(cell), f32x4.sub(at, cell));
}
/** How far, in bytes, the second row of places stands from the first: n numbers, to a whole four. */
// @ts-ignore: decorator
@inline export function placesStep(n: i32): usize { return <usize>((n + 3) & ~3) << 2; }

/** Pixels from one place that is reckoned to the next; between them it runs straight. A picture bends far too little for that to be seen: 8²/8 of its second derivative. */
const apart: f32 = 8;
let nodeX: v128 = s(0), nodeY: v128 = s(0);
/** Where the light of pixels j of a row lies in the plate. */
function nodes(j: v128, p: usize, radial: usize): void {
  const mx = v128.load32_splat(p, 24), my = v128.load32_splat(p, 28), unit = v128.load32_splat(p, 32), wx = v128.load32_splat(p, 36), wy = v128.load32_splat(p, 40), wide = v128.load32_splat(p, 44), per = f32x4.div(s(1), unit), perWide = f32x4.div(s(1), wide);
  const k0 = v128.load32_splat(p, 48), k1 = v128.load32_splat(p, 52), k2 = v128.load32_splat(p, 56), k3 = v128.load32_splat(p, 60), vx = v128.load32_splat(p, 64), vy = v128.load32_splat(p, 68), ox = v128.load32_splat(p, 72), oy = v128.load32_splat(p, 76);
  const z = f32x4.div(s(1), f32x4.add(v128.load32_splat(p, 8), f32x4.mul(j, v128.load32_splat(p, 20))));
  const x = f32x4.mul(f32x4.sub(f32x4.mul(f32x4.add(v128.load32_splat(p), f32x4.mul(j, v128.load32_splat(p, 12))), z), mx), per), y = f32x4.mul(f32x4.sub(f32x4.mul(f32x4.add(v128.load32_splat(p, 4), f32x4.mul(j, v128.load32_splat(p, 16))), z), my), per);
  const f = f32x4.mul(unit, over(radial, f32x4.add(f32x4.mul(x, x), f32x4.mul(y, y)))), u = f32x4.mul(f32x4.sub(f32x4.add(f32x4.mul(x, f), mx), wx), perWide), v = f32x4.mul(f32x4.sub(f32x4.add(f32x4.mul(y, f), my), wy), perWide);
  const r = f32x4.add(f32x4.mul(u, u), f32x4.mul(v, v)), g = f32x4.add(k0, f32x4.mul(r, f32x4.add(k1, f32x4.mul(r, f32x4.add(k2, f32x4.mul(r, k3)))))), t = f32x4.add(g, f32x4.mul(s(2), f32x4.add(f32x4.mul(vx, u), f32x4.mul(vy, v))));
  nodeX = f32x4.sub(f32x4.add(f32x4.mul(f32x4.add(f32x4.mul(u, t), f32x4.mul(r, vx)), wide), wx), ox);
  nodeY = f32x4.sub(f32x4.add(f32x4.mul(f32x4.add(f32x4.mul(v, t), f32x4.mul(r, vy)), wide), wy), oy);
}
/** Places from one node to the next: eight, or four where the row ends. */
// @ts-ignore: decorator
@inline function between(dst: usize, node: v128, slope: v128, more: bool): void {
  v128.store(dst, f32x4.add(node, f32x4.mul(slope, f32x4(0, 1, 2, 3))));
  if (more) v128.store(dst + 16, f32x4.add(node, f32x4.mul(slope, f32x4(4, 5, 6, 7))));
}

/**
 * Where the light of one row of n pixels lies in the plate, for one colour. The row goes through a homography, then a
 * radial map about the picture's middle (`radial`, place·f(r²)), then the file's own warp: place·(k0 + k1 r² + k2 r⁴ + k3 r⁶)
 * and r²·v + 2(v·place)·place (DNG 1.7, ch. 7, WarpRectilinear). Writes n X, to a whole four, then n Y.
 * p: X, Y, Z and their steps [6], middle [2], its unit of length, the warp's middle [2], its unit, k [4], v [2], origin to subtract [2].
 */
export function lensPlaces(places: usize, n: i32, p: usize, radial: usize): void {
  const lanes = f32x4(0, apart, 2 * apart, 3 * apart), step = placesStep(n), share = s(1 / apart);
  nodes(lanes, p, radial);
  for (let i = 0; i < n; i += 32) {
    const x = nodeX, y = nodeY;
    nodes(f32x4.add(s(<f32>(i + 32)), lanes), p, radial);
    const dx = f32x4.mul(f32x4.sub(v128.shuffle<f32>(x, nodeX, 1, 2, 3, 4), x), share), dy = f32x4.mul(f32x4.sub(v128.shuffle<f32>(y, nodeY, 1, 2, 3, 4), y), share);
    const to = places + (<usize>i << 2);
    between(to, v128.shuffle<f32>(x, x, 0, 0, 0, 0), v128.shuffle<f32>(dx, dx, 0, 0, 0, 0), i + 4 < n);
    between(to + step, v128.shuffle<f32>(y, y, 0, 0, 0, 0), v128.shuffle<f32>(dy, dy, 0, 0, 0, 0), i + 4 < n);
    if (i + 8 >= n) break;
    between(to + 32, v128.shuffle<f32>(x, x, 1, 1, 1, 1), v128.shuffle<f32>(dx, dx, 1, 1, 1, 1), i + 12 < n);
    between(to + step + 32, v128.shuffle<f32>(y, y, 1, 1, 1, 1), v128.shuffle<f32>(dy, dy, 1, 1, 1, 1), i + 12 < n);
    if (i + 16 >= n) break;
    between(to + 64, v128.shuffle<f32>(x, x, 2, 2, 2, 2), v128.shuffle<f32>(dx, dx, 2, 2, 2, 2), i + 20 < n);
    between(to + step + 64, v128.shuffle<f32>(y, y, 2, 2, 2, 2), v128.shuffle<f32>(dy, dy, 2, 2, 2, 2), i + 20 < n);
    if (i + 24 >= n) break;
    between(to + 96, v128.shuffle<f32>(x, x, 3, 3, 3, 3), v128.shuffle<f32>(dx, dx, 3, 3, 3, 3), i + 28 < n);
    between(to + step + 96, v128.shuffle<f32>(y, y, 3, 3, 3, 3), v128.shuffle<f32>(dy, dy, 3, 3, 3, 3), i + 28 < n);
  }
}

/** Multiplies one row by a gain of the squared distance of `places` from (cx, cy) in units of `unit`. */
export function radialGain(r: usize, g: usize, b: usize, n: i32, places: usize, cx: f32, cy: f32, unit: f32, gain: usize): void {
  const step = placesStep(n), per = s(1 / unit), mx = s(cx), my = s(cy);
  for (let i = 0; i < n; i += 4) {
    const o = <usize>i << 2, x = f32x4.mul(f32x4.sub(v128.load(places + o), mx), per), y = f32x4.mul(f32x4.sub(v128.load(places + step + o), my), per);
    // what lies behind the row's end is the next row's
    const k = v128.bitselect(over(gain, f32x4.add(f32x4.mul(x, x), f32x4.mul(y, y))), s(1), i32x4.lt_s(i32x4(0, 1, 2, 3), i32x4.splat(n - i)));
    v128.store(r + o, f32x4.mul(v128.load(r + o), k));
    v128.store(g + o, f32x4.mul(v128.load(g + o), k));
    v128.store(b + o, f32x4.mul(v128.load(b + o), k));
  }
}
