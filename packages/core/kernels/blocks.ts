import { add, finishRow, forward, inverse, listOf, sub, transformRow } from './cosine';
import { s } from './maths';

// Shrinking of a plane's noise in overlapping blocks (Yu and Sapiro 2011, "DCT image denoising"): every coefficient is shrunk
// by the noise of its frequency, and a place is the mean of all blocks over it.

/** x·max(0, 1 − (t/x)²) in place: the non-negative garrote (Breiman 1995; Gao 1998). `t2`: t². Returns where anything is left. */
// @ts-ignore: decorator
@inline function shrink(at: usize, t2: usize): v128 {
  const x = v128.load(at), over = sub(f32x4.mul(x, x), v128.load32_splat(t2)), left = f32x4.gt(over, s(0));
  v128.store(at, v128.and(f32x4.div(over, x), left));
  return left;
}
/** Columns of the blocks that begin at row y: transformed, shrunk, and added back to their rows. */
function shrinkColumns(ring: usize, sums: usize, list: usize, y: i32, blocks: i32, t2: usize, work: usize): void {
  for (let u = 0; u < 8; u++) {
    const t = t2 + (<usize>u << 2);
    for (let o: usize = 0; o < <usize>blocks * 4; o += 16) {
      // steps by turns have their places side by side
      const own = work + (o & 16);
      forward(
        v128.load(listOf(ring, list, y, u) + o), v128.load(listOf(ring, list, y + 1, u) + o), v128.load(listOf(ring, list, y + 2, u) + o), v128.load(listOf(ring, list, y + 3, u) + o),
        v128.load(listOf(ring, list, y + 4, u) + o), v128.load(listOf(ring, list, y + 5, u) + o), v128.load(listOf(ring, list, y + 6, u) + o), v128.load(listOf(ring, list, y + 7, u) + o), own, 32,
      );
      let left = shrink(own, t);
      for (let v = 1; v < 8; v++) left = v128.or(left, shrink(own + <usize>(v << 5), t + <usize>(v << 5)));
      // where all was noise nothing is added
      if (!v128.any_true(left)) continue;
      inverse(
        v128.load(own), v128.load(own, 32), v128.load(own, 64), v128.load(own, 96), v128.load(own, 128), v128.load(own, 160), v128.load(own, 192), v128.load(own, 224),
        listOf(sums, list, y, u) + o, listOf(sums, list, y + 1, u) + o, listOf(sums, list, y + 2, u) + o, listOf(sums, list, y + 3, u) + o,
        listOf(sums, list, y + 4, u) + o, listOf(sums, list, y + 5, u) + o, listOf(sums, list, y + 6, u) + o, listOf(sums, list, y + 7, u) + o, true,
      );
    }
  }
}
/**
 * Shrinks the noise of a plane; width and height are divisible by eight. Blocks begin at every second column and every
 * `down`th row (2 or 4). t2: 64 squared thresholds, row by row of frequencies. Valid eight places inside the plane's border.
 * work: room for 137 lists of width · 2 + 64 bytes.
 */
export function shrinkBlocks(src: usize, dst: usize, width: i32, height: i32, stride: usize, down: i32, t2: usize, work: usize): void {
  const list = (<usize>width << 1) + 64, ring = work + 256, sums = ring + list * 64, elements = sums + list * 64;
  const blocks = (width - 8) >> 1;
  const share: f32 = <f32>down / 32;
  memory.fill(sums, 0, list * 64);
  for (let y = 0; y < 8 - down; y++) transformRow(src + <usize>y * stride, ring, list, y, blocks);
  for (let y = 0; y <= height - 8; y += down) {
    for (let k = 8 - down; k < 8; k++) transformRow(src + <usize>(y + k) * stride, ring, list, y + k, blocks);
    shrinkColumns(ring, sums, list, y, blocks, t2, work);
    for (let k = 0; k < down; k++) {
      if (y >= 8) finishRow(sums, list, y + k, blocks, elements, dst + <usize>(y + k) * stride, share);
      memory.fill(listOf(sums, list, y + k, 0), 0, list * 8);
    }
  }
}
/** A plane less another, in place. */
export function less(plane: usize, other: usize, bytes: usize): void {
  for (let i: usize = 0; i < bytes; i += 16) v128.store(plane + i, sub(v128.load(plane + i), v128.load(other + i)));
}
