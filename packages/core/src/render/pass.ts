/** Names of the pointwise kernels in kernels.wasm that take (r, g, b, n, parameters). */
export type PointwiseKernel = 'ends' | 'matrix' | 'response' | 'saturation' | 'grade' | 'mono' | 'curve' | 'hueBands' | 'colourRange' | 'vibrance' | 'curves' | 'curveLuminance' | 'curveLightness' | 'contrast' | 'affine' | 'affineTable' | 'acescct' | 'lut3d' | 'lut1d';

/** One pointwise pass: a kernel and the numbers it reads. Plain data, so that a plan can be printed and compared. */
export interface PointwisePass { kernel: PointwiseKernel; parameters: readonly number[] | Float32Array }
/** A pass that reads maps made of the whole small picture as it is just before it. */
export interface MapPass { kernel: 'localContrast' | 'haze'; parameters: readonly number[] }
/** Any pass. `zones` (which reads the frame's guide) and `lensGain` need the place of each row in the whole picture. */
export type Pass = PointwisePass | MapPass | { kernel: 'zones' | 'lensGain'; parameters: readonly number[] | Float32Array };
export const isMapPass = (pass: Pass): pass is MapPass => pass.kernel === 'localContrast' || pass.kernel === 'haze';
/** Whether a pass acts on every place alike. */
export const isPointwise = (pass: Pass): pass is PointwisePass => !isMapPass(pass) && pass.kernel !== 'zones' && pass.kernel !== 'lensGain';

/** A function of 0–1 as a kernel's table: the number of intervals, then its values, the last one twice. */
export function tableOver(intervals: number, f: (t: number) => number): number[] {
  const values = Array.from({ length: intervals + 1 }, (_, i) => f(i / intervals));
  return [intervals, ...values, values[intervals]!];
}
