/** Names of the pointwise kernels in kernels.wasm that take (r, g, b, n, parameters). */
export type PointwiseKernel = 'matrix' | 'response' | 'saturation' | 'grade' | 'mono' | 'curve';

/** One pointwise pass: a kernel and the numbers it reads. Plain data, so that a plan can be printed and compared. */
export interface Pass {
  kernel: PointwiseKernel;
  parameters: readonly number[];
}
