/** Names of the pointwise kernels in kernels.wasm that take (r, g, b, n, parameters). */
export type PointwiseKernel = 'ends' | 'matrix' | 'response' | 'saturation' | 'grade' | 'mono' | 'curve';

/** One pointwise pass: a kernel and the numbers it reads. Plain data, so that a plan can be printed and compared. */
export interface PointwisePass { kernel: PointwiseKernel; parameters: readonly number[] | Float32Array }
/** Any pass. `zones` (which reads the frame's guide besides) and `lensGain` need the place of each row in the whole picture. */
export type Pass = PointwisePass | { kernel: 'zones' | 'lensGain'; parameters: readonly number[] | Float32Array };

/** A function of 0–1 as a kernel's table: the number of intervals, then its values, the last one twice. */
export function tableOver(intervals: number, f: (t: number) => number): number[] {
  const values = Array.from({ length: intervals + 1 }, (_, i) => f(i / intervals));
  return [intervals, ...values, values[intervals]!];
}
