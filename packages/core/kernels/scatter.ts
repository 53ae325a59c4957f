import { s } from './maths';

/** A row added up in squares: adds to `dst` the sums of `side` neighbours, the first one short by `skipped`. */
export function squares(src: usize, dst: usize, n: i32, side: i32, skipped: i32): void {
  let at = dst, left = side - skipped, sum: f32 = 0;
  for (let i: i32 = 0; i < n; i++) {
    sum += load<f32>(src + (<usize>i << 2));
    if (--left == 0 || i == n - 1) { store<f32>(at, load<f32>(at) + sum); at += 4; sum = 0; left = side; }
  }
}
/** dst + share·(row between two of squares − dst): `low` and `high` mixed by t, then along them, from place `from` on in steps of `step`; `room` holds the mixed row of `count`. */
export function spread(dst: usize, n: i32, low: usize, high: usize, t: f32, room: usize, count: i32, from: f32, step: f32, share: f32): void {
  for (let i: usize = 0; i < <usize>count << 2; i += 16) { const v = v128.load(low + i); v128.store(room + i, f32x4.add(v, f32x4.mul(s(t), f32x4.sub(v128.load(high + i), v)))); }
  for (let i: i32 = 0; i < n; i++) {
    const at = from + <f32>i * step, cell = <i32>at, a = load<f32>(room + (<usize>cell << 2)), v = a + (at - <f32>cell) * (load<f32>(room + (<usize>cell << 2), 4) - a), to = dst + (<usize>i << 2), own = load<f32>(to);
    store<f32>(to, own + share * (v - own));
  }
}
