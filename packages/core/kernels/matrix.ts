import { row } from './maths';

/** A 3×3 matrix on linear RGB. p: matrix[9]. */
export function matrix(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = v128.load(r + i), y = v128.load(g + i), z = v128.load(b + i);
    v128.store(r + i, row(p, x, y, z));
    v128.store(g + i, row(p + 12, x, y, z));
    v128.store(b + i, row(p + 24, x, y, z));
  }
}
