import { neutral } from '../stock/neutral.ts';
import { cdl } from './cdl/index.ts';
import { colourRange } from './colourRange/index.ts';
import { contrast } from './contrast/index.ts';
import { crispness } from './crispness/index.ts';
import { toneCurve } from './curve/index.ts';
import { exposure } from './exposure/index.ts';
import { gel } from './gel/index.ts';
import { grade } from './grade/index.ts';
import { haze } from './haze/index.ts';
import { hueBands } from './hueBands/index.ts';
import { localContrast } from './localContrast/index.ts';
import { tablePrint, tableStock } from './lookup/index.ts';
import { mixer } from './mixer/index.ts';
import { mono } from './mono/index.ts';
import { saturation } from './saturation/index.ts';
import type { StepKind } from './step.ts';
import { vibrance } from './vibrance/index.ts';
import { warmth } from './warmth/index.ts';

/** Every step kind there is, in the order a palette shows them. */
const declared = [
  warmth,
  exposure,
  contrast,
  localContrast,
  haze,
  gel,
  mixer,
  neutral,
  tableStock,
  toneCurve,
  hueBands,
  colourRange,
  grade,
  saturation,
  vibrance,
  mono,
  cdl,
  crispness,
  tablePrint,
] as const satisfies readonly StepKind[];
export const stepKinds: readonly StepKind[] = declared;
/** The names of all kinds, so that the type checker holds every list of them complete. */
export type KindName = (typeof declared)[number]['kind'];

/** The declaration of a kind, or undefined. */
export function stepKind(kind: string): StepKind | undefined {
  return stepKinds.find((k) => k.kind === kind);
}
