import type { Region } from '../render/maskPlan.ts';
import type { ToneRange } from './tone.ts';

/** How a part is joined with those before it. */
export type Mode = 'add' | 'subtract' | 'intersect';
export type Point = readonly [x: number, y: number];
interface Common {
  mode: Mode;
  /** 0–1 */
  opacity: number;
  inverted: boolean;
}
/** A line along which the share goes from 0 to 1; places in shares of the picture's width and height; `middle` is where along it the share is a half. */
export interface GradientPart extends Common {
  kind: 'gradient';
  from: Point;
  to: Point;
  middle: number;
}
/** An ellipse; its centre in shares of the picture's width and height, its half axes in shares of the long edge, turned by degrees, feather in shares of the half axes. */
export interface RadialPart extends Common {
  kind: 'radial';
  centre: Point;
  radii: Point;
  turn: number;
  feather: number;
}
export interface TonePart extends Common, Omit<ToneRange, 'inverted'> {}
/** Colours near those picked, in OKLab: how near, and how softly it ends. */
export interface ColourPart extends Common {
  kind: 'colour';
  picks: readonly (readonly [L: number, a: number, b: number])[];
  reach: number;
  softness: number;
}
/** Distance, told by haze: from the share of air in the light where it begins to where it is whole. */
export interface HazePart extends Common {
  kind: 'haze';
  from: number;
  to: number;
}
export interface FoundPart extends Common {
  kind: 'found';
  what: Region;
}
/** A brush's stroke on the film plane: half width in shares of the uncropped frame's long edge, feather and flow 0–1; points x, y (10 000ths of the long edge), pressure (0–100), one after another. */
export interface Stroke {
  erase: boolean;
  size: number;
  feather: number;
  flow: number;
  points: readonly number[];
}
export interface BrushPart extends Common {
  kind: 'brush';
  strokes: readonly Stroke[];
}
/** A closed line through points of the film plane, each with a feather of its own, all in shares of the uncropped frame's long edge. */
export interface OutlinePart extends Common {
  kind: 'outline';
  points: readonly (readonly [x: number, y: number, feather: number])[];
}
/** A thing cut out of a box on the film plane; a small map of it, base64 of one byte a place. */
export interface FigurePart extends Common {
  kind: 'figure';
  box: readonly [left: number, top: number, width: number, height: number];
  width: number;
  height: number;
  data: string;
}
/** A mask of the look's, or the frame's, that has a name. */
export interface NamedPart extends Common {
  kind: 'named';
  mask: string;
}
export type MaskPart =
  GradientPart | RadialPart | TonePart | ColourPart | HazePart | FoundPart | BrushPart | OutlinePart | FigurePart | NamedPart;
export type PartKind = MaskPart['kind'];

/** Where a step acts: parts in order, then what is done with the whole. Feather and growth in shares of the uncropped frame's long edge. */
export interface Mask {
  parts: readonly MaskPart[];
  inverted: boolean;
  feather: number;
  grow: number;
  /** how far it snaps to the picture's edges, 0–1 */
  snap: number;
}
/** A mask that steps can use by its name. */
export interface NamedMask {
  id: string;
  name: string;
  mask: Mask;
}

const bound: readonly PartKind[] = ['brush', 'outline', 'figure'];
/** Whether a part means something on its own frame alone. */
export const isFrameBound = ({ kind }: MaskPart): boolean => bound.includes(kind);
export const isPortable = (mask: Mask): boolean => !mask.parts.some(isFrameBound);

export const partNames: Readonly<Record<PartKind, string>> = {
  gradient: 'Gradient',
  radial: 'Pool',
  tone: 'Tones',
  colour: 'Colours',
  haze: 'Distance',
  found: 'Found',
  brush: 'Brush',
  outline: 'Outline',
  figure: 'Thing in a box',
  named: 'Named place',
};
/** A mask of some parts and nothing done with the whole. */
export const maskOf = (...parts: MaskPart[]): Mask => ({ parts, inverted: false, feather: 0, grow: 0, snap: 0 });
export const common: Common = { mode: 'add', opacity: 1, inverted: false };
