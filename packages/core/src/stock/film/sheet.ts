import type { Characteristic } from './curve.ts';
import type { Bell } from '../../colour/spectrum.ts';

export type StockKind = 'colourNegative' | 'reversal' | 'blackAndWhite';
/** What a layer sees: a bell, and under which wavelength it sees nothing (0: no such cut). */
export interface Layer extends Bell {
  cut: number;
}
/** What a dye holds back: its main absorption, 1 at its peak, and what it holds back besides. */
export interface Dye extends Bell {
  sides: (Bell & { share: number })[];
}
/** A paper or print film, exposed through the negative. */
export interface PrintSheet {
  layers: Layer[];
  curves: Characteristic[];
  dyes: Dye[];
  /** the enlarger's lamp, K; its filters are solved */
  lampKelvin: number;
  /** density of the base in blue and in red light: a warm or a cool white */
  baseBlue: number;
  baseRed: number;
  /** of a silver image: colder (positive) or warmer, in density from one end of the spectrum to the other */
  tone: number;
}
/** Grain as it is seen in the finished picture: RMS density × 1000 through 48 µm, a clump's size, and shares of 0–1 (of tones to 2). */
export interface GrainSheet {
  rms: number;
  sizeUm: number;
  roughness: number;
  colour: number;
  darks: number;
  mids: number;
  lights: number;
}
/** Light scattered back from the base: its share in red, green and blue, and how far it comes down. */
export interface HalationSheet {
  reachUm: number;
  red: number;
  green: number;
  blue: number;
}
/** A stock as its data sheet says it: what the colours follow from. Layers and curves in the order red-, green-, blue-sensitive. */
export interface StockSheet {
  format: 'dyepot-stock';
  version: 1;
  name: string;
  family: string;
  notes: string;
  kind: StockKind;
  /** the light in which it gives neutral greys, K; and whether another light is filtered to it */
  balancedForKelvin: number;
  corrected: boolean;
  layers: Layer[];
  curves: Characteristic[];
  /** how a layer's density moves by the others', about middle grey, as rows of a 3 × 3; the rows add to nothing */
  interlayer: number[];
  dyes: Dye[];
  /** share of the dyes' side absorptions that coloured couplers make up for: 0 none, 1 all */
  masking: number;
  /** the light it, or its print, is seen by, K */
  viewedInKelvin: number;
  /** luminance that middle grey is printed to, 1 being the base's white */
  grey: number;
  print: PrintSheet | null;
  grain?: GrainSheet;
  halation?: HalationSheet;
}

export const nameOfKind: Readonly<Record<StockKind, string>> = {
  colourNegative: 'colour negative',
  reversal: 'reversal film',
  blackAndWhite: 'black-and-white negative',
};
