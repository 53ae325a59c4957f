import { add, finishRow, forward, inverse, listOf, sub, transformRow } from './cosine';
import { s } from './maths';

// Luma in overlapping blocks of 8 × 8, as `blocks.ts` has them: noise shrunk, what optics softened returned, details raised or lowered by
// their size and by how far the block stands out from noise. Numbers at p, 64 each: squared thresholds; gain − 1 of what is
// returned; gain − 1 of details; variance a coefficient is held by. Then 33 factors of the thresholds over brightness from 0
// to the brightest, one over the step between them, and 97 shares of the details' gain over contrast.

const NOISE: usize = 0, RETURNED: usize = 256, GAIN: usize = 512, HELD: usize = 768, BRIGHT: usize = 1024, STEP: usize = 1156, CONTRAST: usize = 1160;
/** Quarter octaves from 2⁻⁴ on: the highest bits of a number of 32 bits say where it lies. */
const FIRST: i32 = (127 - 4) << 2, LAST: i32 = 95;

/** A number of a table of 33, between whose places it is mixed. */
// @ts-ignore: decorator
@inline function bright(p: usize, luma: f32): f32 {
  const at = min(max(luma * load<f32>(p + STEP), 0), 31.999), i = <i32>at, from = p + BRIGHT + (<usize>i << 2), a = load<f32>(from);
  return a + (load<f32>(from, 4) - a) * (at - <f32>i);
}
/** The share of a contrast squared, from a table over its quarter octaves. */
// @ts-ignore: decorator
@inline function share(p: usize, square: f32): f32 {
  const bits = reinterpret<i32>(square), i = (bits >> 21) - FIRST;
  const from = p + CONTRAST + (<usize>min(max(i, 0), LAST) << 2), a = load<f32>(from);
  return a + (load<f32>(from, 4) - a) * select<f32>(<f32>(bits & 0x1fffff) * (<f32>1.0 / 2097152), 0, i >= 0 && i < LAST);
}
// @ts-ignore: decorator
@inline function brightAll(p: usize, luma: v128): v128 {
  const four = s(bright(p, f32x4.extract_lane(luma, 0)));
  return f32x4.replace_lane(f32x4.replace_lane(f32x4.replace_lane(four, 1, bright(p, f32x4.extract_lane(luma, 1))), 2, bright(p, f32x4.extract_lane(luma, 2))), 3, bright(p, f32x4.extract_lane(luma, 3)));
}
// @ts-ignore: decorator
@inline function shareAll(p: usize, square: v128): v128 {
  const four = s(share(p, f32x4.extract_lane(square, 0)));
  return f32x4.replace_lane(f32x4.replace_lane(f32x4.replace_lane(four, 1, share(p, f32x4.extract_lane(square, 1))), 2, share(p, f32x4.extract_lane(square, 2))), 3, share(p, f32x4.extract_lane(square, 3)));
}

/** What noise leaves of a coefficient (the non-negative garrote: Gao 1998). `t2`: its squared threshold. Stored; returns its square. */
// @ts-ignore: decorator
@inline function shrink(at: usize, t2: usize, noise: v128): v128 {
  const x = v128.load(at), over = sub(f32x4.mul(x, x), f32x4.mul(noise, v128.load32_splat(t2))), left = v128.and(f32x4.div(over, x), f32x4.gt(over, s(0)));
  v128.store(at, left);
  return f32x4.mul(left, left);
}
/** A coefficient returned and raised; one no larger than noise is left as it is (Wiener's weight). `n`: its numbers, as they begin at p. */
// @ts-ignore: decorator
@inline function raised(at: usize, n: usize, acts: v128): v128 {
  const x = v128.load(at), square = f32x4.mul(x, x), sure = f32x4.div(square, add(square, v128.load32_splat(n + HELD)));
  const returned = add(s(1), f32x4.mul(sure, v128.load32_splat(n + RETURNED))), gain = add(s(1), f32x4.mul(f32x4.mul(sure, acts), v128.load32_splat(n + GAIN)));
  return f32x4.mul(x, f32x4.mul(returned, gain));
}
/** The blocks that begin at row y, back into their rows. With `shows` the share of the gain alone. */
function shapeColumns(ring: usize, sums: usize, list: usize, y: i32, blocks: i32, p: usize, work: usize, shows: bool): void {
  for (let o: usize = 0; o < <usize>blocks * 4; o += 16) {
    let noise = s(0), energy = s(0), mean = s(0);
    // steps by turns have their places side by side
    const own = work + (o & 16);
    // a bit for each column that has anything left
    let kept = 1;
    for (let u = 0; u < 8; u++) {
      const at = own + <usize>(u << 8), t2 = p + NOISE + <usize>(u << 2);
      forward(
        v128.load(listOf(ring, list, y, u) + o), v128.load(listOf(ring, list, y + 1, u) + o), v128.load(listOf(ring, list, y + 2, u) + o), v128.load(listOf(ring, list, y + 3, u) + o),
        v128.load(listOf(ring, list, y + 4, u) + o), v128.load(listOf(ring, list, y + 5, u) + o), v128.load(listOf(ring, list, y + 6, u) + o), v128.load(listOf(ring, list, y + 7, u) + o),
        at, 32,
      );
      let left = s(0);
      if (u === 0) {
        mean = v128.load(at);
        noise = brightAll(p, f32x4.mul(mean, s(0.125)));
      } else left = shrink(at, t2, noise);
      left = add(left, shrink(at + 32, t2 + 32, noise));
      left = add(left, add(shrink(at + 64, t2 + 64, noise), shrink(at + 96, t2 + 96, noise)));
      left = add(left, add(shrink(at + 128, t2 + 128, noise), shrink(at + 160, t2 + 160, noise)));
      left = add(left, add(shrink(at + 192, t2 + 192, noise), shrink(at + 224, t2 + 224, noise)));
      if (v128.any_true(left)) kept |= 1 << u;
      energy = add(energy, left);
    }
    const acts = shareAll(p, f32x4.mul(energy, s(<f32>1.0 / 63)));
    const columns = shows ? 1 : 8;
    for (let u = 0; u < columns; u++) {
      // where all was noise nothing is raised, or added
      if (((kept >> u) & 1) === 0) continue;
      const at = own + <usize>(u << 8), n = p + <usize>(u << 2);
      const X0 = u === 0 ? (shows ? f32x4.mul(acts, s(8)) : mean) : raised(at, n, acts);
      if (shows) for (let k: usize = 32; k < 256; k += 32) v128.store(at + k, s(0));
      inverse(
        X0, raised(at + 32, n + 32, acts), raised(at + 64, n + 64, acts), raised(at + 96, n + 96, acts), raised(at + 128, n + 128, acts), raised(at + 160, n + 160, acts), raised(at + 192, n + 192, acts), raised(at + 224, n + 224, acts),
        listOf(sums, list, y, u) + o, listOf(sums, list, y + 1, u) + o, listOf(sums, list, y + 2, u) + o, listOf(sums, list, y + 3, u) + o,
        listOf(sums, list, y + 4, u) + o, listOf(sums, list, y + 5, u) + o, listOf(sums, list, y + 6, u) + o, listOf(sums, list, y + 7, u) + o, true,
      );
    }
  }
}
/** Luma shaped; blocks begin at every second column and row. Width and height are divisible by eight; valid eight places inside. work: as for shrinkBlocks, and 2048 bytes. */
export function shapeBlocks(src: usize, dst: usize, width: i32, height: i32, stride: usize, p: usize, work: usize, shows: bool): void {
  const list = (<usize>width << 1) + 64, ring = work + 2048, sums = ring + list * 64, elements = sums + list * 64;
  const blocks = (width - 8) >> 1;
  memory.fill(sums, 0, list * 64);
  for (let y = 0; y < 6; y++) transformRow(src + <usize>y * stride, ring, list, y, blocks);
  for (let y = 0; y <= height - 8; y += 2) {
    for (let k = 6; k < 8; k++) transformRow(src + <usize>(y + k) * stride, ring, list, y + k, blocks);
    shapeColumns(ring, sums, list, y, blocks, p, work, shows);
    for (let k = 0; k < 2; k++) {
      if (y >= 8) finishRow(sums, list, y + k, blocks, elements, dst + <usize>(y + k) * stride, <f32>1.0 / 16);
      memory.fill(listOf(sums, list, y + k, 0), 0, list * 8);
    }
  }
}

/** Holds a row within its eight neighbours as they were, and `over` of their spread beyond: no halos. */
export function within(before: usize, row: usize, n: i32, stride: usize, over: f32): void {
  const beyond = s(over);
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const o = before + i;
    let low = v128.load(o), high = low;
    for (let j: isize = -1; j <= 1; j++)
      for (let k: isize = -4; k <= 4; k += 4) {
        const q = v128.load(o + <usize>(j * <isize>stride + k));
        low = f32x4.pmin(low, q);
        high = f32x4.pmax(high, q);
      }
    const room = f32x4.mul(beyond, sub(high, low));
    v128.store(row + i, f32x4.pmin(f32x4.pmax(v128.load(row + i), sub(low, room)), add(high, room)));
  }
}
