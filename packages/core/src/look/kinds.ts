import { film } from '../stock/film/index.ts';
import { neutral } from '../stock/neutral.ts';
import { cdl } from '../steps/cdl/index.ts';
import { colourRange } from '../steps/colourRange/index.ts';
import { contrast } from '../steps/contrast/index.ts';
import { crispness } from '../steps/crispness/index.ts';
import { grain } from '../steps/grain/index.ts';
import { halation } from '../steps/halation/index.ts';
import { glow } from '../steps/glow/index.ts';
import { vignette } from '../steps/vignette/index.ts';
import { leak } from '../steps/leak/index.ts';
import { lowSun } from '../steps/lowSun/index.ts';
import { border } from '../steps/border/index.ts';
import { fade } from '../steps/fade/index.ts';
import { wash } from '../steps/wash/index.ts';
import { apart } from '../steps/apart/index.ts';
import { toning } from '../steps/toning/index.ts';
import { overprint } from '../steps/overprint/index.ts';
import { toneCurve } from '../steps/curve/index.ts';
import { exposure } from '../steps/exposure/index.ts';
import { gel } from '../steps/gel/index.ts';
import { grade } from '../steps/grade/index.ts';
import { haze } from '../steps/haze/index.ts';
import { hueBands } from '../steps/hueBands/index.ts';
import { localContrast } from '../steps/localContrast/index.ts';
import { tablePrint, tableStock } from '../steps/lookup/index.ts';
import { mixer } from '../steps/mixer/index.ts';
import { mono } from '../steps/mono/index.ts';
import { saturation } from '../steps/saturation/index.ts';
import type { StepKind } from '../render/step.ts';
import { vibrance } from '../steps/vibrance/index.ts';
import { warmth } from '../steps/warmth/index.ts';

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
  film,
  tableStock,
  toneCurve,
  hueBands,
  colourRange,
  grade,
  saturation,
  vibrance,
  apart,
  mono,
  toning,
  fade,
  wash,
  cdl,
  crispness,
  tablePrint,
  glow,
  halation,
  overprint,
  lowSun,
  leak,
  vignette,
  grain,
  border,
] as const satisfies readonly StepKind[];
export const stepKinds: readonly StepKind[] = declared;
/** The names of all kinds, so that the type checker holds every list of them complete. */
export type KindName = (typeof declared)[number]['kind'];

/** The declaration of a kind, or undefined. */
export function stepKind(kind: string): StepKind | undefined {
  return stepKinds.find((k) => k.kind === kind);
}
