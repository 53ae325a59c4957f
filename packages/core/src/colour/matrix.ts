/** A 3×3 matrix in row order. */
export type Matrix3 = readonly [number, number, number, number, number, number, number, number, number];
export type Vector3 = readonly [number, number, number];

export const identity3: Matrix3 = [1, 0, 0, 0, 1, 0, 0, 0, 1];

/** Product a·b of two 3×3 matrices. */
export function multiply3(a: Matrix3, b: Matrix3): Matrix3 {
  const cell = (row: number, column: number): number =>
    a[row * 3]! * b[column]! + a[row * 3 + 1]! * b[column + 3]! + a[row * 3 + 2]! * b[column + 6]!;
  return [cell(0, 0), cell(0, 1), cell(0, 2), cell(1, 0), cell(1, 1), cell(1, 2), cell(2, 0), cell(2, 1), cell(2, 2)];
}

/** Product of several matrices, leftmost applied last. */
export function chain3(...matrices: Matrix3[]): Matrix3 {
  return matrices.reduce(multiply3, identity3);
}

/** Applies a matrix to a column vector. */
export function apply3(m: Matrix3, v: Vector3): Vector3 {
  return [m[0] * v[0] + m[1] * v[1] + m[2] * v[2], m[3] * v[0] + m[4] * v[1] + m[5] * v[2], m[6] * v[0] + m[7] * v[1] + m[8] * v[2]];
}

/** Diagonal matrix. */
export function diagonal3(v: Vector3): Matrix3 {
  return [v[0], 0, 0, 0, v[1], 0, 0, 0, v[2]];
}

/** Inverse by cofactors. Throws RangeError when the matrix is singular. */
export function invert3(m: Matrix3): Matrix3 {
  const [a, b, c, d, e, f, g, h, i] = m;
  const determinant = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  if (!(Math.abs(determinant) > 1e-12)) throw new RangeError('the matrix has no inverse');
  const s = 1 / determinant;
  return [
    (e * i - f * h) * s,
    (c * h - b * i) * s,
    (b * f - c * e) * s,
    (f * g - d * i) * s,
    (a * i - c * g) * s,
    (c * d - a * f) * s,
    (d * h - e * g) * s,
    (b * g - a * h) * s,
    (a * e - b * d) * s,
  ];
}
