import { displayP3, opRgb, rec2020, srgb, type Primaries } from './spaces.ts';
import { decode2020, decodeOprgb, decodeSrgb, encode2020, encodeOprgb, encodeSrgb } from './transfer.ts';

/** A space finished pictures are written in. */
export interface Output {
  name: string;
  primaries: Primaries;
  encode: (linear: number) => number;
  decode: (encoded: number) => number;
  /** the same decoding as ICC.1:2022 §10.18 has it: a gamma (function 0), or g, a, b, c, d (function 3) */
  curve: readonly number[];
}
const srgbCurve = [2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045],
  alpha = 1.09929682680944;
export const outputs = {
  srgb: { name: 'sRGB IEC 61966-2-1', primaries: srgb, encode: encodeSrgb, decode: decodeSrgb, curve: srgbCurve },
  p3: { name: 'Display P3', primaries: displayP3, encode: encodeSrgb, decode: decodeSrgb, curve: srgbCurve },
  oprgb: { name: 'opRGB IEC 61966-2-5', primaries: opRgb, encode: encodeOprgb, decode: decodeOprgb, curve: [563 / 256] },
  rec2020: {
    name: 'ITU-R BT.2020',
    primaries: rec2020,
    encode: encode2020,
    decode: decode2020,
    curve: [1 / 0.45, 1 / alpha, (alpha - 1) / alpha, 1 / 4.5, 0.0812428583],
  },
  linear: { name: 'Linear, ITU-R BT.2020 primaries', primaries: rec2020, encode: (v) => v, decode: (v) => v, curve: [1] },
} as const satisfies Record<string, Output>;
export type OutputSpace = keyof typeof outputs;
export const outputSpaces = Object.keys(outputs) as OutputSpace[];
