import type { OutputSpace } from './output.ts';
import { kernelNeeds, type KernelWith, type PointwiseKernel } from '../kernels/registry.ts';
import { byLightAlone, readsWhole, sameMask, type MaskPlan } from './maskPlan.ts';
import { multiply3, type Matrix3 } from '../colour/matrix.ts';
import { lmsToRec2020, rec2020ToLms } from '../colour/oklab.ts';

interface Called<K> {
  kernel: K;
  parameters: readonly number[] | Float32Array;
}
/** Passes are plain data, a kernel and the numbers it reads, so that a plan can be printed and compared. */
export type PointwisePass = Called<PointwiseKernel>;
export type RowsPass = Called<KernelWith<'rows'>>;
/** One that knows its place on the uncropped frame; its numbers begin with eight that stand for the boxes of picture and frame. */
export type PlacePass = Called<KernelWith<'place'>>;
/** One that reads a random field of the film plane. */
export interface FieldPass extends Called<KernelWith<'field'>> {
  grain: FilmGrain;
}
/** Grain as a film has it. */
export interface FilmGrain {
  /** diameter of a clump */
  sizeUm: number;
  /** 0 soft to 1 hard-edged */
  roughness: number;
  /** share of what is each channel's own, 0–1 */
  colour: number;
  /** long edge of the uncropped frame on film */
  formatMm: number;
  /** which of many */
  roll: number;
}
export interface MapPass extends Called<KernelWith<'map'>> {
  parameters: readonly number[];
}
/** One that reads neighbours. `reach`: how far, in shares of the long edge of the uncropped picture. */
export interface AreaPass extends Called<KernelWith<'area'>> {
  reach: number;
}
/** `hold` puts the planes aside; `join` mixes what is there with what was put aside last, where a mask says, and lets go of it. */
export type HoldPass = Called<'hold'>;
export interface JoinPass extends Called<'join'> {
  mask: MaskPlan | null;
  /** its place itself is made the picture, as grey light */
  shows?: boolean;
}
export type BracketPass = HoldPass | JoinPass;
export type Pass = PointwisePass | RowsPass | PlacePass | FieldPass | MapPass | AreaPass | BracketPass;

/** Everything that will be computed, as plain data: what each kernel is called with, in order. */
export interface Plan {
  scene: readonly number[];
  passes: readonly Pass[];
  space: OutputSpace;
  seed: number;
}

export const isMapPass = (pass: Pass): pass is MapPass => kernelNeeds[pass.kernel] === 'map';
export const isPlacePass = (pass: Pass): pass is PlacePass => kernelNeeds[pass.kernel] === 'place';
export const isFieldPass = (pass: Pass): pass is FieldPass => kernelNeeds[pass.kernel] === 'field';
/** Whether a pass looks at the pixel alone. */
export const isPointPass = (pass: Pass): pass is PointwisePass => kernelNeeds[pass.kernel] === 'point';
export const isAreaPass = (pass: Pass): pass is AreaPass => kernelNeeds[pass.kernel] === 'area';
export const isJoinPass = (pass: Pass): pass is JoinPass => pass.kernel === 'join';
/** Whether a pass needs to know the whole picture: its maps, or the fields of its mask. */
export const readsPicture = (pass: Pass): boolean => isMapPass(pass) || (isJoinPass(pass) && pass.mask !== null && readsWhole(pass.mask));
/** Whether a pass acts on every place alike. */
export const isPointwise = (pass: Pass): boolean =>
  isPointPass(pass) || pass.kernel === 'hold' || (isJoinPass(pass) && (pass.mask === null || byLightAlone(pass.mask)));
/** Whether two passes do the same: the same kernel with the same numbers, reading as far. */
export const samePass = (a: Pass, b: Pass): boolean =>
  a === b ||
  (a.kernel === b.kernel && reachOf([a]) === reachOf([b]) && sameGrain(a, b) && sameJoin(a, b) && sameNumbers(a.parameters, b.parameters));
function sameGrain(a: Pass, b: Pass): boolean {
  if (!isFieldPass(a) || !isFieldPass(b)) return true;
  const [x, y] = [a.grain, b.grain];
  return (Object.keys(x) as (keyof FilmGrain)[]).every((k) => x[k] === y[k]);
}
const sameJoin = (a: Pass, b: Pass): boolean => !isJoinPass(a) || !isJoinPass(b) || (a.shows === b.shows && sameMask(a.mask, b.mask));
function sameNumbers(a: Pass['parameters'], b: Pass['parameters']): boolean {
  if (a === b) return true;
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}
/** How many planes are put aside after some passes. */
export const openAfter = (passes: readonly Pass[]): number =>
  passes.reduce((open, p) => open + (p.kernel === 'hold' ? 1 : p.kernel === 'join' ? -1 : 0), 0);
/** What of some passes acts on every place alike: without those that do not, and without all that a mask of places keeps to some. */
export function everywhereAlike(passes: readonly Pass[]): (PointwisePass | BracketPass)[] {
  const out: (PointwisePass | BracketPass)[] = [],
    holds: number[] = [];
  for (const pass of passes) {
    if (pass.kernel === 'hold') holds.push(out.length);
    const from = pass.kernel === 'join' ? holds.pop()! : 0;
    if (isPointwise(pass)) out.push(pass as PointwisePass | BracketPass);
    else if (pass.kernel === 'join') out.length = from;
  }
  return out;
}
/** The place of the `hold` whose planes the `join` at a place takes up. */
export function holdOf(passes: readonly Pass[], join: number): number {
  let open = 0;
  for (let i = join; i >= 0; i--) {
    if (passes[i]!.kernel === 'join') open++;
    if (passes[i]!.kernel === 'hold' && --open === 0) return i;
  }
  throw new RangeError('planes are joined that were never put aside');
}
/** The most planes put aside at once. */
export function deepest(passes: readonly Pass[]): number {
  let most = 0;
  passes.forEach((_, i) => (most = Math.max(most, openAfter(passes.slice(0, i + 1)))));
  return most;
}
/** How far some passes read in all, in shares of the long edge of the uncropped picture. */
export const reachOf = (passes: readonly Pass[]): number => passes.filter(isAreaPass).reduce((sum, p) => sum + p.reach, 0);

/** A kernel that works on planes of OKLab, with the way there and back. Where such passes follow one another, `foldPasses` takes out the ways between. */
export const inLab = (
  kernel: 'saturation' | 'grade' | 'toneColour' | 'hueBands' | 'colourRange' | 'vibrance' | 'curveLightness',
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

/** A function of 0–1 as a kernel's table: the number of intervals, then its values, the last one twice. */
export function tableOver(intervals: number, f: (t: number) => number): number[] {
  const values = Array.from({ length: intervals + 1 }, (_, i) => f(i / intervals));
  return [intervals, ...values, values[intervals]!];
}
/** Whether a plan has a mask that needs to know the whole picture. */
export const masksReadPicture = ({ passes }: Pick<Plan, 'passes'>): boolean => passes.some((p) => isJoinPass(p) && readsPicture(p));
