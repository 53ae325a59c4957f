import { exp2, log2, row, s, smooth } from './maths';

/** A row of a map read at four places: cell and fraction. */
// @ts-ignore: decorator
@inline export function across(map: usize, i: v128, t: v128): v128 {
  const q0 = map + (<usize>i32x4.extract_lane(i, 0) << 2), q1 = map + (<usize>i32x4.extract_lane(i, 1) << 2), q2 = map + (<usize>i32x4.extract_lane(i, 2) << 2), q3 = map + (<usize>i32x4.extract_lane(i, 3) << 2);
  const low = f32x4(load<f32>(q0), load<f32>(q1), load<f32>(q2), load<f32>(q3)), high = f32x4(load<f32>(q0, 4), load<f32>(q1, 4), load<f32>(q2, 4), load<f32>(q3, 4));
  return f32x4.add(low, f32x4.mul(f32x4.sub(high, low), t));
}

/**
 * Exposure by tone zone for one row of n pixels. p: luminance weights[3], EV of 0.18 …: lower and upper edge of four
 * boundaries in log₂ light [8], the change of EV across each [4], then mapLast (columns of the guide less one), and
 * place and step of the row's pixels in the guide. The guide gives slope and offset of the edge-aware base at each
 * column: base = slope·log₂ luminance + offset (guided filter, He, Sun, Tang 2010). Gain is 2^Σ change·step(base).
 */
export function zones(r: usize, g: usize, b: usize, n: i32, p: usize, slope: usize, offset: usize): void {
  const last = v128.load32_splat(p + 60), start = v128.load32_splat(p + 64), step = v128.load32_splat(p + 68), lanes = f32x4(0, 1, 2, 3);
  for (let k: i32 = 0; k < n; k += 4) {
    const i = <usize>k << 2, x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i);
    const at = f32x4.min(f32x4.max(f32x4.add(start, f32x4.mul(f32x4.add(f32x4.splat(<f32>k), lanes), step)), s(0)), last);
    const cell = i32x4.trunc_sat_f32x4_s(at), t = f32x4.sub(at, f32x4.convert_i32x4_s(cell));
    const base = f32x4.add(f32x4.mul(across(slope, cell, t), log2(f32x4.max(row(p, x, y, z), s(1e-5)))), across(offset, cell, t));
    let ev = s(0);
    for (let q: usize = 0; q < 16; q += 4) ev = f32x4.add(ev, f32x4.mul(v128.load32_splat(p + 44 + q), smooth(v128.load32_splat(p + 12 + q), v128.load32_splat(p + 28 + q), base)));
    const gain = exp2(ev);
    // what lies behind the row's end is the next row's
    const own = i32x4.lt_s(i32x4(0, 1, 2, 3), i32x4.splat(n - k)), factor = v128.bitselect(gain, s(1), own);
    v128.store(r + i, f32x4.mul(x, factor));
    v128.store(g + i, f32x4.mul(y, factor));
    v128.store(b + i, f32x4.mul(z, factor));
  }
}
