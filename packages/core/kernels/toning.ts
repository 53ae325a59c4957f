import { mix, read, s } from './maths';

/** Colour by lightness over planes of OKLab L, a, b: a and b moved by `share` to what two tables over L in [0, 1] say. p: share, number of intervals, table of a, of b, the last of each repeated. */
export function toneColour(l: usize, a: usize, b: usize, n: i32, p: usize): void {
  const share = v128.load32_splat(p), last = load<f32>(p, 4), second = p + 8 + ((<usize>last + 2) << 2);
  for (let i: usize = 0; i < <usize>n << 2; i += 16) {
    const L = v128.load(l + i);
    v128.store(a + i, mix(v128.load(a + i), read(p + 8, last, L), share));
    v128.store(b + i, mix(v128.load(b + i), read(second, last, L), share));
  }
}
