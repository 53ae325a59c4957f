import { exp2, log2, pairs, row, s, smooth, whole } from './maths';

/**
 * Exposure by tone zone for one row of n pixels. p: luminance weights[3], EV of 0.18 …: lower edge of four
 * boundaries in log₂ light [4], 1/width of each [4], the change of EV across each [4], then mapLast (columns of the guide less one), and
 * place and step of the row's pixels in the guide. The guide gives slope and offset of the edge-aware base at each
 * column: base = slope·log₂ luminance + offset (guided filter, He, Sun, Tang 2010). Gain is 2^Σ change·step(base).
 */
export function zones(r: usize, g: usize, b: usize, n: i32, p: usize, slope: usize, offset: usize): void {
  const last = v128.load32_splat(p + 60), start = v128.load32_splat(p + 64), step = v128.load32_splat(p + 68), lanes = f32x4(0, 1, 2, 3);
  for (let k: i32 = 0; k < n; k += 4) {
    const i = <usize>k << 2, x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i);
    const at = f32x4.pmin(last, f32x4.pmax(s(0), f32x4.add(start, f32x4.mul(f32x4.add(f32x4.splat(<f32>k), lanes), step))));
    const low = f32x4.floor(at), cell = whole(low), t = f32x4.sub(at, low);
    const base = f32x4.add(f32x4.mul(pairs(slope, cell, t), log2(f32x4.pmax(row(p, x, y, z), s(1e-5)))), pairs(offset, cell, t));
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
