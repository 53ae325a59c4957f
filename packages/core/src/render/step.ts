import type { StoredTable } from '../colour/table.ts';
import type { Pass } from './pass.ts';

/** Where light is when a step meets it. */
export type Lane = 'scene' | 'stock' | 'print';

export interface NumberParameter {
  type: 'number';
  label: string;
  unit: string;
  min: number;
  max: number;
  default: number;
  /** size of one nudge, and how many decimals are shown */
  step: number;
  decimals: number;
}
export interface CurveParameter {
  type: 'curve';
  label: string;
  default: readonly (readonly [number, number])[];
}
/** One of a few words. */
export interface ChoiceParameter {
  type: 'choice';
  label: string;
  options: readonly (readonly [value: string, words: string])[];
  default: string;
  /** whether it does anything, as the others stand; always when not said */
  matters?: (values: ParameterValues) => boolean;
}
/** A curve round the hue circle: handles of hue (degrees), value and width (degrees); none is zero everywhere. */
export interface BandParameter {
  type: 'band';
  label: string;
  unit: string;
  min: number;
  max: number;
  default: readonly BandHandle[];
}
export type BandHandle = readonly [hue: number, value: number, width: number];
/** A lookup table that stands in the look itself. */
export interface TableParameter {
  type: 'table';
  label: string;
  default: null;
}
/** A document of its own that stands in the look: one that says its format, or nothing. */
export interface DocumentParameter {
  type: 'document';
  label: string;
  default: null;
  /** the format it says it is of; the look's schema knows how that is checked */
  format: 'dyepot-stock' | 'dyepot-picture';
}
export type StoredDocument = { readonly format: string };
export type Parameter = DocumentParameter | NumberParameter | CurveParameter | ChoiceParameter | BandParameter | TableParameter;
export type CurvePoints = readonly (readonly [number, number])[];
export type ParameterValue = number | string | CurvePoints | readonly BandHandle[] | StoredTable | StoredDocument | null;
export type ParameterValues = Readonly<Record<string, ParameterValue>>;

export interface StepKind {
  kind: string;
  lane: Lane;
  name: string;
  /** one line for the palette, and words by which a retoucher looks for it */
  purpose: string;
  /** what its strength does, and what else is to be known of its numbers: for the page of the steps */
  atStrength: string;
  note?: string;
  needs: readonly string[];
  params: Readonly<Record<string, Parameter>>;
  /**
   * What the step does at a strength (0–2, 1 as designed). No pass at all when it changes nothing.
   * Parameters are validated and complete.
   */
  compile(params: ParameterValues, strength: number): Pass[];
  /** what a table cannot carry of it; none when it is the same everywhere in the picture */
  unbakeable?: string;
}

/** Declares a step kind; validation, controls, the look file and the docs page derive from what is said here. */
export function defineStep<const Kind extends string>(kind: StepKind & { kind: Kind }): StepKind & { kind: Kind } {
  return kind;
}

/** A number parameter with its unit and range. */
export function number(
  label: string,
  unit: string,
  min: number,
  max: number,
  value: number,
  step: number,
  decimals: number,
): NumberParameter {
  return { type: 'number', label, unit, min, max, default: value, step, decimals };
}

/** A choice parameter. */
export const choice = (
  label: string,
  options: ChoiceParameter['options'],
  value: string,
  matters?: ChoiceParameter['matters'],
): ChoiceParameter => ({
  type: 'choice',
  label,
  options,
  default: value,
  ...(matters ? { matters } : {}),
});

/** Reads a number parameter. */
export const numberOf = (params: ParameterValues, name: string): number => params[name] as number;

/** All parameters at their defaults. */
export function defaultsOf(kind: StepKind): Record<string, ParameterValue> {
  return Object.fromEntries(Object.entries(kind.params).map(([name, p]) => [name, p.default]));
}
