import type { Groundwork, Look, OwnSteps, ReadoutKind, Readouts } from '@dyepot/core';
import type { State } from '../store.ts';
import type { Frame } from '../types.ts';
import type { Darkroom } from './darkroom.ts';
import type { Treatment } from './frameJobs.ts';
import type { Box, ViewState } from './layout.ts';
import type { PlaceShown } from './PlaceMarks.tsx';

/** Where the drawn piece lies in the stage; `toStage` of a place of the picture (fractions), and the pixel painted there now. */
export interface Placed {
  box: Box;
  /** where all of the picture lies, in the stage's pixels, seen or not */
  whole: Box;
  stage: { width: number; height: number };
  picture: { width: number; height: number };
  toStage: (at: { x: number; y: number }) => { left: number; top: number } | null;
  read: (at: { x: number; y: number }) => [number, number, number] | null;
  /** whether what was asked for last is still to be painted */
  busy: () => boolean;
}

export interface FrameViewProps {
  darkroom: Darkroom;
  frame: Frame;
  look: Look | null;
  ground: Groundwork | null;
  /** where sharpening acts is shown instead of the picture */
  mask?: boolean;
  /** the look is only shown so for a moment: no exact view is asked for */
  passing?: boolean;
  /** what "before" shows, and its name */
  before: Treatment & { words: string };
  /** the frame's own steps as they are now; none where not said */
  steps?: OwnSteps | null;
  /** a step or skein whose place is laid over the picture, and how */
  place?: { id: string; as: PlaceShown; tint: string } | null;
  view: ViewState;
  onView: (change: Partial<ViewState>) => void;
  live: (s: State) => Treatment;
  readout: ReadoutKind;
  onReadouts: (r: Readouts) => void;
  /** drawn over the picture; its own pointer work goes first */
  children?: (placed: Placed) => React.ReactNode;
  /** a click on the picture, as fractions of it, instead of panning; `mean` is the colour shown over a square there */
  onPick?: ((at: { x: number; y: number }, mean: (side: number) => [number, number, number] | null) => void) | null;
  /** a drag up or down from a place, of the colour shown there, instead of panning */
  onPull?: { start: (colour: [number, number, number], at: { x: number; y: number }) => void; move: (upPx: number) => void } | null;
  /** a Shift-click on the picture */
  onPin?: (at: { x: number; y: number }) => void;
  /** marks pixels at either end of the scale, over the picture */
  clipping?: { black: boolean; white: boolean };
}
