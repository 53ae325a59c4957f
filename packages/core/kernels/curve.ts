import { read, s } from './maths';

/**
 * A curve on each channel, as a table over the square root of the value in [0, 1] (finer where the eye is).
 * p: number of intervals, then the values at (i / intervals)², the last repeated.
 */
export function curve(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const last = load<f32>(p), table = p + 4;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    v128.store(r + i, read(table, last, f32x4.sqrt(f32x4.pmax(s(0), v128.load(r + i)))));
    v128.store(g + i, read(table, last, f32x4.sqrt(f32x4.pmax(s(0), v128.load(g + i)))));
    v128.store(b + i, read(table, last, f32x4.sqrt(f32x4.pmax(s(0), v128.load(b + i)))));
  }
}
