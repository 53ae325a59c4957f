import { s } from './maths';

/**
 * Black and white ends of scene light, middle grey (0.18) staying. p: black, gain, bend.
 * Black: (v − black)·gain on each channel, gain = 0.18/(0.18 − black). White: one factor for all three,
 * 1/(1 + bend·(m − 0.18)) with m the greatest channel, a curve through 0 and 0.18 that takes the wanted light to white.
 */
export function ends(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const black = v128.load32_splat(p), gain = v128.load32_splat(p + 4), bend = v128.load32_splat(p + 8);
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = f32x4.mul(f32x4.sub(v128.load(r + i), black), gain), y = f32x4.mul(f32x4.sub(v128.load(g + i), black), gain), z = f32x4.mul(f32x4.sub(v128.load(b + i), black), gain);
    const m = f32x4.pmax(x, f32x4.pmax(y, z)), k = f32x4.div(s(1), f32x4.pmax(f32x4.add(s(1), f32x4.mul(bend, f32x4.sub(m, s(0.18)))), s(0.05)));
    v128.store(r + i, f32x4.mul(x, k));
    v128.store(g + i, f32x4.mul(y, k));
    v128.store(b + i, f32x4.mul(z, k));
  }
}
