import { stepKind, type NumberParameter, type ParameterValue } from '@dyepot/core';
import type { ReadoutSignal } from '../../view/readoutSignal.ts';
import type { PictureTools } from '../usePictureTools.ts';

/** What a step's own control is given: its parameters, complete, and how they are set. */
export interface FittingProps {
  params: Readonly<Record<string, ParameterValue>>;
  /** the same, for steps that have only numbers */
  numbers: Readonly<Record<string, number>>;
  signal: ReadoutSignal;
  tools: PictureTools;
  onSet: (name: string, value: ParameterValue, gesture: string) => void;
  /** several at once, as one step of undo with its words */
  onSetAll: (values: Record<string, ParameterValue>, words: string, gesture: string) => void;
}

/** A number parameter of a kind as it is declared. */
export const declared = (kind: string, name: string): NumberParameter => stepKind(kind)!.params[name] as NumberParameter;
/** Fields for some numbers of a kind. */
export const fieldsOf = (
  kind: string,
  numbers: Readonly<Record<string, number>>,
  names: readonly (string | readonly [name: string, label: string])[],
): { name: string; parameter: NumberParameter; value: number; label?: string }[] =>
  names.map((n) => {
    const [name, label] = typeof n === 'string' ? [n, undefined] : n;
    return { name, parameter: declared(kind, name), value: numbers[name]!, ...(label ? { label } : {}) };
  });
/** Width of a drawing in the tray, in its own units. */
export const trayWidth = 276;
