/** f at a squared radius: `table` holds the number of intervals for each unit of it, the last interval, then values. */
// @ts-ignore: decorator
@inline function over(table: usize, square: f32): f32 {
  const at = min<f32>(square * load<f32>(table), load<f32>(table, 4)), cell = Mathf.floor(at), q = table + 8 + (<usize>cell << 2);
  return load<f32>(q) + (load<f32>(q, 4) - load<f32>(q)) * (at - cell);
}

/**
 * Where the light of one row of n pixels lies in the plate, for one colour. The row goes through a homography, then a
 * radial map about the picture's middle (`radial`, place·f(r²)), then the file's own warp: place·(k0 + k1 r² + k2 r⁴ + k3 r⁶)
 * and r²·v + 2(v·place)·place (DNG 1.7, ch. 7, WarpRectilinear).
 * p: X, Y, Z and their steps [6], middle [2], its unit of length, the warp's middle [2], its unit, k [4], v [2], origin to subtract [2].
 */
export function lensPlaces(places: usize, n: i32, p: usize, radial: usize): void {
  const mx = load<f32>(p, 24), my = load<f32>(p, 28), unit = load<f32>(p, 32), wx = load<f32>(p, 36), wy = load<f32>(p, 40), wide = load<f32>(p, 44);
  const k0 = load<f32>(p, 48), k1 = load<f32>(p, 52), k2 = load<f32>(p, 56), k3 = load<f32>(p, 60), vx = load<f32>(p, 64), vy = load<f32>(p, 68), ox = load<f32>(p, 72), oy = load<f32>(p, 76);
  for (let i = 0; i < n; i++) {
    const z = load<f32>(p, 8) + <f32>i * load<f32>(p, 20), x = ((load<f32>(p) + <f32>i * load<f32>(p, 12)) / z - mx) / unit, y = ((load<f32>(p, 4) + <f32>i * load<f32>(p, 16)) / z - my) / unit;
    const f = over(radial, x * x + y * y), u = (x * f * unit + mx - wx) / wide, v = (y * f * unit + my - wy) / wide, r = u * u + v * v, g = k0 + r * (k1 + r * (k2 + r * k3)), t = <f32>2.0 * (vx * u + vy * v);
    store<f32>(places + (<usize>i << 2), (u * g + r * vx + t * u) * wide + wx - ox);
    store<f32>(places + (<usize>(n + i) << 2), (v * g + r * vy + t * v) * wide + wy - oy);
  }
}

/** Multiplies one row by a gain of the squared distance of `places` from (cx, cy) in units of `unit`. */
export function radialGain(r: usize, g: usize, b: usize, n: i32, places: usize, cx: f32, cy: f32, unit: f32, gain: usize): void {
  for (let i = 0; i < n; i++) {
    const o = <usize>i << 2, x = (load<f32>(places + o) - cx) / unit, y = (load<f32>(places + o + (<usize>n << 2)) - cy) / unit, k = over(gain, x * x + y * y);
    store<f32>(r + o, load<f32>(r + o) * k);
    store<f32>(g + o, load<f32>(g + o) * k);
    store<f32>(b + o, load<f32>(b + o) * k);
  }
}
