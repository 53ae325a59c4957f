import { stepKind, type NumberParameter, type ParameterValue } from '@dyepot/core';
import type { ReadoutSignal } from '../view/readoutSignal.ts';
import type { BandCurve } from './hueBands/hueHandles.ts';

/** A frame as it comes to a step of the print lane: 8-bit sRGB, RGBA. */
export interface Incoming {
  width: number;
  height: number;
  rgba: Uint8Array;
}
/** What the hand does on the picture for the selected step. */
export type PictureTool = 'off' | 'range' | 'point' | 'pull' | 'place';
export interface PictureTools {
  tool: PictureTool;
  onTool: (tool: PictureTool) => void;
  /** side of the square a colour is picked from */
  size: number;
  onSize: (size: number) => void;
  channel: string;
  onChannel: (channel: string) => void;
  band: BandCurve;
  onBand: (curve: BandCurve) => void;
  onShow: (on: boolean) => void;
  /** the lead as it comes to the step; null where that is not known */
  incoming: () => Promise<Incoming | null>;
}

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
/** Where a step can be begun from. */
export interface Start {
  name: string;
  values: Record<string, ParameterValue>;
}
