import { s } from './maths';

/** One row of a root polynomial: six numbers at p on three colours and the roots of their products. */
// @ts-ignore: decorator
@inline function six(p: usize, x: v128, y: v128, z: v128, xy: v128, yz: v128, zx: v128): v128 {
  const plain = f32x4.add(f32x4.add(f32x4.mul(v128.load32_splat(p), x), f32x4.mul(v128.load32_splat(p + 4), y)), f32x4.mul(v128.load32_splat(p + 8), z));
  const roots = f32x4.add(f32x4.add(f32x4.mul(v128.load32_splat(p + 12), xy), f32x4.mul(v128.load32_splat(p + 16), yz)), f32x4.mul(v128.load32_splat(p + 20), zx));
  return f32x4.add(plain, roots);
}

/**
 * A root polynomial of the second degree on linear RGB: r, g, b, √rg, √gb, √br (Finlayson, Mackiewicz, Hurlbert 2015). It is homogeneous, so
 * that an exposure before it is the same as after it; the root of what is under nothing is 0. p: three rows of six.
 */
export function rootPolynomial(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i);
    const rx = f32x4.sqrt(f32x4.pmax(s(0), x)), ry = f32x4.sqrt(f32x4.pmax(s(0), y)), rz = f32x4.sqrt(f32x4.pmax(s(0), z));
    const xy = f32x4.mul(rx, ry), yz = f32x4.mul(ry, rz), zx = f32x4.mul(rz, rx);
    v128.store(r + i, six(p, x, y, z, xy, yz, zx));
    v128.store(g + i, six(p + 24, x, y, z, xy, yz, zx));
    v128.store(b + i, six(p + 48, x, y, z, xy, yz, zx));
  }
}
