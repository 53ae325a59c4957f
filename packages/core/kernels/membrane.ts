import { s } from './maths';

// A field that is the mean of its four neighbours wherever it is sought, on grids that halve (multigrid, Brandt 1977). A grid's rows
// are `stride` numbers apart, eight of them margin on either side, with a margin row above and below; addresses are of row 0, place 0.
// `share` is ¼ where the field is sought and 0 elsewhere; `spans` are each row's first and one past its last place sought, in eights.
// Rounds of grids are steered by conjugate gradients, which make them sure whatever the shape (Tatebe 1993).

// @ts-ignore: decorator
@inline function around(v: usize, stride: usize): v128 { return f32x4.add(f32x4.add(v128.load(v - 4), v128.load(v + 4)), f32x4.add(v128.load(v - stride), v128.load(v + stride))); }

/** Places of one colour, as of a chessboard, become what their neighbours ask (Gauss and Seidel): v + ¼(wanted + Σ neighbours − 4v). */
export function relax(v: usize, wanted: usize, share: usize, spans: usize, stride: usize, rows: i32, colour: i32): void {
  const bytes = stride << 2, even = i32x4(-1, 0, -1, 0), odd = i32x4(0, -1, 0, -1), four = s(4);
  for (let y: i32 = 0; y < rows; y++) {
    const at = <usize>y * bytes, end = at + (<usize>load<i32>(spans + (y << 3) + 4) << 2), lanes = ((y ^ colour) & 1) == 0 ? even : odd;
    const start = at + (<usize>load<i32>(spans + (y << 3)) << 2);
    // neighbours in a row are of the other colour and stay: they are shifted in rather than loaded again from what was just stored
    let before = v128.load(v + start - 16), own = v128.load(v + start);
    for (let i = start; i < end; i += 16) {
      const after = v128.load(v + i + 16), beside = f32x4.add(v128.shuffle<f32>(before, own, 3, 4, 5, 6), v128.shuffle<f32>(own, after, 1, 2, 3, 4));
      const sum = f32x4.add(beside, f32x4.add(v128.load(v + i - bytes), v128.load(v + i + bytes))), left = f32x4.sub(f32x4.add(v128.load(wanted + i), sum), f32x4.mul(four, own));
      v128.store(v + i, f32x4.add(own, f32x4.mul(left, v128.and(lanes, v128.load(share + i)))));
      before = own;
      own = after;
    }
  }
}
/** What is left over of each four places, in sum, is wanted of the one that stands for them. `spans` and `rows` are the smaller grid's. */
export function leftOver(v: usize, wanted: usize, share: usize, stride: usize, small: usize, spans: usize, smallStride: usize, rows: i32): void {
  const bytes = stride << 2, four = s(4);
  for (let y: i32 = 0; y < rows; y++) {
    const end = load<i32>(spans + (y << 3) + 4);
    for (let x: i32 = load<i32>(spans + (y << 3)); x < end; x += 4) {
      const i = <usize>(2 * y) * bytes + (<usize>x << 3), k = i + bytes;
      const a = f32x4.mul(v128.load(share + i), f32x4.sub(f32x4.add(v128.load(wanted + i), around(v + i, bytes)), f32x4.mul(four, v128.load(v + i))));
      const b = f32x4.mul(v128.load(share + i + 16), f32x4.sub(f32x4.add(v128.load(wanted + i + 16), around(v + i + 16, bytes)), f32x4.mul(four, v128.load(v + i + 16))));
      const c = f32x4.mul(v128.load(share + k), f32x4.sub(f32x4.add(v128.load(wanted + k), around(v + k, bytes)), f32x4.mul(four, v128.load(v + k))));
      const d = f32x4.mul(v128.load(share + k + 16), f32x4.sub(f32x4.add(v128.load(wanted + k + 16), around(v + k + 16, bytes)), f32x4.mul(four, v128.load(v + k + 16))));
      const p = f32x4.add(a, c), q = f32x4.add(b, d);
      v128.store(small + ((<usize>y * smallStride + <usize>x) << 2), f32x4.mul(four, f32x4.add(v128.shuffle<f32>(p, q, 0, 2, 4, 6), v128.shuffle<f32>(p, q, 1, 3, 5, 7))));
    }
  }
}
/** Adds what the smaller grid found: nine sixteenths from the place that stands for four, the rest from those beside it. */
export function addFound(v: usize, share: usize, spans: usize, stride: usize, rows: i32, small: usize, smallStride: usize): void {
  const bytes = stride << 2, down = smallStride << 2, three = s(3), quarter = s(0.25);
  for (let y: i32 = 0; y < rows; y++) {
    const end = load<i32>(spans + (y << 3) + 4), own = small + <usize>(y >> 1) * down, other = (y & 1) == 0 ? own - down : own + down;
    for (let x: i32 = load<i32>(spans + (y << 3)); x < end; x += 8) {
      const j = <usize>x << 1, i = <usize>y * bytes + (<usize>x << 2);
      const m = f32x4.add(f32x4.mul(three, v128.load(own + j)), v128.load(other + j)), l = f32x4.add(f32x4.mul(three, v128.load(own + j - 4)), v128.load(other + j - 4)), r = f32x4.add(f32x4.mul(three, v128.load(own + j + 4)), v128.load(other + j + 4));
      const t = f32x4.mul(three, m), low = f32x4.mul(quarter, f32x4.add(t, l)), high = f32x4.mul(quarter, f32x4.add(t, r));
      const a = f32x4.mul(v128.shuffle<f32>(low, high, 0, 4, 1, 5), v128.load(share + i)), b = f32x4.mul(v128.shuffle<f32>(low, high, 2, 6, 3, 7), v128.load(share + i + 16));
      v128.store(v + i, f32x4.add(v128.load(v + i), a));
      v128.store(v + i + 16, f32x4.add(v128.load(v + i + 16), b));
    }
  }
}

// @ts-ignore: decorator
@inline function sum(v: v128): f32 { return (f32x4.extract_lane(v, 0) + f32x4.extract_lane(v, 1)) + (f32x4.extract_lane(v, 2) + f32x4.extract_lane(v, 3)); }

/** dst = 4v − Σ neighbours where it is sought, 0 elsewhere. @returns Σ v·dst */
export function bend(v: usize, dst: usize, share: usize, spans: usize, stride: usize, rows: i32): f32 {
  const bytes = stride << 2, four = s(4);
  let total = s(0);
  for (let y: i32 = 0; y < rows; y++) {
    const at = <usize>y * bytes, end = at + (<usize>load<i32>(spans + (y << 3) + 4) << 2);
    for (let i = at + (<usize>load<i32>(spans + (y << 3)) << 2); i < end; i += 16) {
      const own = v128.load(v + i), bent = f32x4.mul(f32x4.mul(four, v128.load(share + i)), f32x4.sub(f32x4.mul(four, own), around(v + i, bytes)));
      v128.store(dst + i, bent);
      total = f32x4.add(total, f32x4.mul(own, bent));
    }
  }
  return sum(total);
}
/** Σ a·b over the places sought. */
export function product(a: usize, b: usize, spans: usize, stride: usize, rows: i32): f32 {
  let total = s(0);
  for (let y: i32 = 0; y < rows; y++) {
    const at = <usize>y * (stride << 2), end = at + (<usize>load<i32>(spans + (y << 3) + 4) << 2);
    for (let i = at + (<usize>load<i32>(spans + (y << 3)) << 2); i < end; i += 16) total = f32x4.add(total, f32x4.mul(v128.load(a + i), v128.load(b + i)));
  }
  return sum(total);
}
/** dst = a + amount·b over the places sought. @returns the greatest |amount·b| */
export function added(dst: usize, a: usize, amount: f32, b: usize, spans: usize, stride: usize, rows: i32): f32 {
  const by = s(amount);
  let most = s(0);
  for (let y: i32 = 0; y < rows; y++) {
    const at = <usize>y * (stride << 2), end = at + (<usize>load<i32>(spans + (y << 3) + 4) << 2);
    for (let i = at + (<usize>load<i32>(spans + (y << 3)) << 2); i < end; i += 16) {
      const more = f32x4.mul(by, v128.load(b + i));
      v128.store(dst + i, f32x4.add(v128.load(a + i), more));
      most = f32x4.pmax(most, f32x4.abs(more));
    }
  }
  return max<f32>(max<f32>(f32x4.extract_lane(most, 0), f32x4.extract_lane(most, 1)), max<f32>(f32x4.extract_lane(most, 2), f32x4.extract_lane(most, 3)));
}
