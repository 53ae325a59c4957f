import { xyzToLab } from '../../colour/difference.ts';
import { apply3, type Vector3 } from '../../colour/matrix.ts';
import { d65, rec2020ToXyz, xyToXyz } from '../../colour/spaces.ts';
import type { Look } from '../../look/look.ts';

/** What is looked at, in the order it is told. */
export const checkKinds = [
  'folds',
  'jumps',
  'stretch',
  'greys',
  'skins',
  'clips',
  'gamut',
  'lights',
  'idle',
  'cancel',
  'off',
  'table',
] as const;
export type CheckKind = (typeof checkKinds)[number];
/** One thing a look does that its maker may not want, with its place and its figure. */
export interface Finding {
  kind: CheckKind;
  /** `weak` is a fault in most looks; `said` is worth knowing */
  weight: 'weak' | 'said';
  words: string;
  figure: number;
  unit: string;
  /** steps it is about */
  steps: string[];
  /** colours before (as the plain response shows them) and after, as #rrggbb */
  chips: [string, string][];
  /** figures over scene exposure (EV from middle grey), where it is about tones */
  tones: [number, number][];
}
/** What counts as beyond: chroma of a grey, and how far a skin may go in CIEDE2000 with its lightness left out. */
export interface CheckBounds {
  grey: number;
  skin: number;
}
export const checkBounds: CheckBounds = { grey: 2, skin: 8 };

const white = xyToXyz(d65);
/** Picture light as a screen can show it. */
export const clipped = (c: Vector3): Vector3 => c.map((v) => Math.min(1, Math.max(0, v))) as unknown as Vector3;
export const labOf = (c: Vector3): Vector3 => xyzToLab(apply3(rec2020ToXyz, clipped(c)), white);
/** Runs colours through a look. */
export type Send = (look: Look, colours: readonly Vector3[]) => Vector3[];
/** Pairs of colours as #rrggbb. */
export type Hexes = (before: readonly Vector3[], after: readonly Vector3[]) => [string, string][];

/** A finding, with nothing to show unless it is said. */
export const finding = (
  kind: CheckKind,
  weight: Finding['weight'],
  figure: number,
  unit: string,
  words: string,
  more: Partial<Finding> = {},
): Finding => ({
  kind,
  weight,
  words,
  figure: Math.round(figure * 100) / 100,
  unit,
  steps: [],
  chips: [],
  tones: [],
  ...more,
});
