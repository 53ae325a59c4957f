/** Six Lanczos weights for each of 257 places between two pixels, with two zeros behind them. */
// @ts-ignore: decorator
@inline function weightsAt(table: usize, fraction: f32): usize { return table + (<usize>(fraction * 256 + 0.5) << 5); }

/** One plane of width × height 16-bit numbers read between its pixels: (ix, iy) is the first of six by six, wx and wy their weights. */
// @ts-ignore: decorator
@inline function read(plane: usize, width: i32, height: i32, ix: i32, iy: i32, wx: usize, wy: usize): u16 {
  const w0 = v128.load(wx), w1 = v128.load(wx, 16), inside = ix >= 0 && ix + 8 <= width;
  let sum = f32x4.splat(0);
  for (let j = 0; j < 6; j++) {
    const line = plane + (<usize>min(max(iy + j, 0), height - 1) * <usize>width << 1), k = f32x4.splat(load<f32>(wy + (<usize>j << 2)));
    if (inside) {
      const at = line + (<usize>ix << 1);
      sum = f32x4.add(sum, f32x4.mul(k, f32x4.add(f32x4.mul(w0, f32x4.convert_i32x4_s(v128.load_ext<u16>(at))), f32x4.mul(w1, f32x4.convert_i32x4_s(v128.load_ext<u16>(at + 8))))));
    } else {
      let total: f32 = 0;
      for (let x = 0; x < 6; x++) total += load<f32>(wx + (<usize>x << 2)) * <f32>load<u16>(line + (<usize>min(max(ix + x, 0), width - 1) << 1));
      sum = f32x4.add(sum, f32x4.mul(k, f32x4(total, 0, 0, 0)));
    }
  }
  const v = f32x4.extract_lane(sum, 0) + f32x4.extract_lane(sum, 1) + f32x4.extract_lane(sum, 2) + f32x4.extract_lane(sum, 3);
  return <u16>min<f32>(max<f32>(v + 0.5, 0), 65535);
}

/**
 * One row of a picture seen through a homography, by Lanczos' kernel of three lobes (Duchon 1979), each source pixel a
 * 16-bit number. src: three planes of width × height; dst: three planes' rows, `plane` bytes apart.
 * p: X, Y, Z of the row's first pixel and their steps along it [6] (source place = X/Z, Y/Z in pixel centres).
 */
export function warp(src: usize, width: i32, height: i32, dst: usize, plane: usize, n: i32, p: usize, table: usize): void {
  const size = <usize>width * <usize>height * 2;
  for (let i = 0; i < n; i++) {
    const z = load<f32>(p, 8) + <f32>i * load<f32>(p, 20), px = (load<f32>(p) + <f32>i * load<f32>(p, 12)) / z, py = (load<f32>(p, 4) + <f32>i * load<f32>(p, 16)) / z;
    const fx = Mathf.floor(px), fy = Mathf.floor(py), wx = weightsAt(table, px - fx), wy = weightsAt(table, py - fy);
    for (let c: usize = 0; c < 3; c++) store<u16>(dst + c * plane + (<usize>i << 1), read(src + c * size, width, height, <i32>fx - 2, <i32>fy - 2, wx, wy));
  }
}

/** The same for one plane at places of its own: `places` holds n X, then n Y, in pixel centres of the source. */
export function warpPlaces(src: usize, width: i32, height: i32, dst: usize, n: i32, places: usize, table: usize): void {
  for (let i = 0; i < n; i++) {
    const px = load<f32>(places + (<usize>i << 2)), py = load<f32>(places + (<usize>(n + i) << 2)), fx = Mathf.floor(px), fy = Mathf.floor(py);
    store<u16>(dst + (<usize>i << 1), read(src, width, height, <i32>fx - 2, <i32>fy - 2, weightsAt(table, px - fx), weightsAt(table, py - fy)));
  }
}
