import { decodeSrgb, encodeSrgb, s } from './maths';

// @ts-ignore: decorator
@inline function look(table: usize, last: f32, v: f32): f32 {
  const at = v * last, i = <i32>at, t = at - <f32>i, q = table + (<usize>i << 2);
  const a = load<f32>(q);
  return a + (load<f32>(q, 4) - a) * t;
}

// @ts-ignore: decorator
@inline function through(at: usize, table: usize, last: f32): void {
  const x = v128.load(at);
  const e = encodeSrgb(f32x4.min(f32x4.max(x, s(0)), s(1)));
  const y = f32x4(look(table, last, f32x4.extract_lane(e, 0)), look(table, last, f32x4.extract_lane(e, 1)), look(table, last, f32x4.extract_lane(e, 2)), look(table, last, f32x4.extract_lane(e, 3)));
  v128.store(at, decodeSrgb(y));
}

/** A curve over sRGB-encoded values on each channel. p: size (as f32), then size + 1 values, the last repeated. */
export function curve(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const last = load<f32>(p) - 1, table = p + 4;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    through(r + i, table, last);
    through(g + i, table, last);
    through(b + i, table, last);
  }
}
