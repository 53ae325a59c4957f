import { s } from './maths';

/** A row added up in squares: adds to `dst` the sums of `side` neighbours (a power of two), the first one short by `skipped`. A square's sum is the same wherever the row begins. */
export function squares(src: usize, dst: usize, n: i32, side: i32, skipped: i32): void {
  let i: i32 = 0, at = dst;
  for (let left = side - skipped; i < n; left = side, at += 4) {
    const end = min(n, i + left);
    if (end - i == side && side >= 4) {
      let four = s(0);
      for (; i < end; i += 4) four = f32x4.add(four, v128.load(src + (<usize>i << 2)));
      const two = f32x4.add(four, v128.shuffle<f32>(four, four, 2, 3, 0, 1));
      store<f32>(at, load<f32>(at) + (f32x4.extract_lane(two, 0) + f32x4.extract_lane(two, 1)));
    } else {
      let sum: f32 = 0;
      for (; i < end; i++) sum += load<f32>(src + (<usize>i << 2));
      store<f32>(at, load<f32>(at) + sum);
    }
  }
}
/** dst + share·(row between two of squares − dst): `low` and `high` mixed by t, then along them, from place `from` on in steps of `step`; `room` holds the mixed row of `count`. */
export function spread(dst: usize, n: i32, low: usize, high: usize, t: f32, room: usize, count: i32, from: f32, step: f32, share: f32): void {
  for (let i: usize = 0; i < <usize>count << 2; i += 16) { const v = v128.load(low + i); v128.store(room + i, f32x4.add(v, f32x4.mul(s(t), f32x4.sub(v128.load(high + i), v)))); }
  let i: i32 = 0;
  for (; i + 4 <= n; i += 4) {
    const at = f32x4.add(s(from), f32x4.mul(f32x4.convert_i32x4_s(i32x4.add(i32x4.splat(i), i32x4(0, 1, 2, 3))), s(step))), cell = i32x4.trunc_sat_f32x4_s(at);
    const first = room + (<usize>i32x4.extract_lane(cell, 0) << 2), last = room + (<usize>i32x4.extract_lane(cell, 3) << 2);
    let a = v128.load32_splat(first), b = v128.load32_splat(first, 4);
    if (first != last) {
      const p = room + (<usize>i32x4.extract_lane(cell, 1) << 2), q = room + (<usize>i32x4.extract_lane(cell, 2) << 2);
      a = f32x4.replace_lane(f32x4.replace_lane(f32x4.replace_lane(a, 1, load<f32>(p)), 2, load<f32>(q)), 3, load<f32>(last));
      b = f32x4.replace_lane(f32x4.replace_lane(f32x4.replace_lane(b, 1, load<f32>(p, 4)), 2, load<f32>(q, 4)), 3, load<f32>(last, 4));
    }
    const v = f32x4.add(a, f32x4.mul(f32x4.sub(at, f32x4.convert_i32x4_s(cell)), f32x4.sub(b, a))), to = dst + (<usize>i << 2), own = v128.load(to);
    v128.store(to, f32x4.add(own, f32x4.mul(s(share), f32x4.sub(v, own))));
  }
  for (; i < n; i++) {
    const at = from + <f32>i * step, cell = <i32>at, a = load<f32>(room + (<usize>cell << 2)), v = a + (at - <f32>cell) * (load<f32>(room + (<usize>cell << 2), 4) - a), to = dst + (<usize>i << 2), own = load<f32>(to);
    store<f32>(to, own + share * (v - own));
  }
}
