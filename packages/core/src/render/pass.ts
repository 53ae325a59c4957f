import { multiply3, type Matrix3 } from '../colour/matrix.ts';
import { lmsToRec2020, rec2020ToLms } from '../colour/oklab.ts';

/** Names of the pointwise kernels in kernels.wasm that take (r, g, b, n, parameters). */
export type PointwiseKernel =
  | 'ends'
  | 'matrix'
  | 'intoGamut'
  | 'response'
  | 'toLab'
  | 'fromLab'
  | 'saturation'
  | 'grade'
  | 'mono'
  | 'curve'
  | 'hueBands'
  | 'colourRange'
  | 'vibrance'
  | 'curves'
  | 'curveLuminance'
  | 'curveLightness'
  | 'contrast'
  | 'affine'
  | 'affineTable'
  | 'acescct'
  | 'lut3d'
  | 'lut1d';

/** One pointwise pass: a kernel and the numbers it reads. Plain data, so that a plan can be printed and compared. */
export interface PointwisePass {
  kernel: PointwiseKernel;
  parameters: readonly number[] | Float32Array;
}
/** A kernel that works on planes of OKLab, with the way there and back. Where such passes follow one another, `foldPasses` takes out the ways between. */
export const inLab = (
  kernel: 'saturation' | 'grade' | 'hueBands' | 'colourRange' | 'vibrance' | 'curveLightness',
  parameters: PointwisePass['parameters'],
): PointwisePass[] => [
  { kernel: 'toLab', parameters: rec2020ToLms },
  { kernel, parameters },
  { kernel: 'fromLab', parameters: lmsToRec2020 },
];

/** Neighbouring matrices become their product; a way out of OKLab and straight back in is left out. */
export function foldPasses(passes: readonly Pass[]): Pass[] {
  const out: Pass[] = [];
  for (const pass of passes) {
    const last = out[out.length - 1];
    if (pass.kernel === 'matrix' && last?.kernel === 'matrix')
      out[out.length - 1] = {
        kernel: 'matrix',
        parameters: multiply3(pass.parameters as unknown as Matrix3, last.parameters as unknown as Matrix3),
      };
    else if (pass.kernel === 'toLab' && last?.kernel === 'fromLab') out.pop();
    else out.push(pass);
  }
  return out;
}

/** A pass that reads maps made of the whole small picture as it is just before it. */
export interface MapPass {
  kernel: 'localContrast' | 'haze';
  parameters: readonly number[];
}
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
