import { neutral } from '../stock/neutral.ts';
import { toneCurve } from './curve/index.ts';
import { exposure } from './exposure/index.ts';
import { grade } from './grade/index.ts';
import { mono } from './mono/index.ts';
import { saturation } from './saturation/index.ts';
import type { StepKind } from './step.ts';
import { warmth } from './warmth/index.ts';

/** Every step kind there is, in the order a palette shows them. */
export const stepKinds: readonly StepKind[] = [warmth, exposure, neutral, toneCurve, saturation, grade, mono];

/** The declaration of a kind, or undefined. */
export function stepKind(kind: string): StepKind | undefined {
  return stepKinds.find((k) => k.kind === kind);
}
