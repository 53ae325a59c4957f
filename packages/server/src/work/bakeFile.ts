import sharp from 'sharp';
import { writeCdl } from '@dyepot/core/src/formats/cdl.ts';
import { writeClf, type Clf } from '@dyepot/core/src/formats/clf.ts';
import { writeCube } from '@dyepot/core/src/formats/cube.ts';
import { writeHald } from '@dyepot/core/src/formats/hald.ts';
import { applyTable, type Rgb, type Table } from '@dyepot/core/src/colour/table.ts';
import { bakeError, bakeLook, lookThrough, suggestedSize, unbakeable, bakeClf, testColoursFor } from '@dyepot/core/src/plan/bake.ts';
import { fitCdl } from '@dyepot/core/src/plan/fitCdl.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import type { Kernels } from '@dyepot/core/src/kernels/kernels.ts';
import { applyCdl } from '@dyepot/core/src/colour/cdl.ts';
import type { Encoding } from '@dyepot/core/src/steps/lookup/index.ts';
import { PlainError } from '../plainError.ts';
import { applyClf } from '@dyepot/core/src/formats/clfApply.ts';

const cdlFormats = ['cc', 'ccc', 'cdl'] as const;
export type BakeFormat = 'cube' | 'png' | 'tif' | 'clf' | (typeof cdlFormats)[number];
/** Whether a format holds the ten numbers of a CDL instead of a table. */
export const holdsCdl = (format: BakeFormat): format is (typeof cdlFormats)[number] => (cdlFormats as readonly string[]).includes(format);
export interface Baked {
  file: Uint8Array;
  leftOut: { name: string; reason: string }[];
  error: { mean: number; worst: number };
  /** the least size that serves; 0 where there is none to choose */
  suggestedSize: number;
}
const inputs: Record<Encoding, string> = {
  srgb: 'sRGB pictures',
  linear: 'scene-linear Rec.2020, 0.18 middle grey',
  acescct: 'ACEScct',
};
const textOf = (text: string): Uint8Array => new TextEncoder().encode(text);

/** A table as a Hald image of 16 bits. Throws PlainError when it is no size for one. */
async function haldFile(table: Table, format: 'png' | 'tif'): Promise<Uint8Array> {
  const hald = writeHald(table);
  if ('message' in hald) throw new PlainError(hald.message);
  const image = sharp(hald.pixels, { raw: { width: hald.width, height: hald.width, channels: 3 } }).toColourspace('rgb16');
  return (format === 'png' ? image.png() : image.tiff({ compression: 'deflate', predictor: 'horizontal' })).toBuffer();
}

/** Bakes a look to a file's bytes, with what it could not carry and how far it is from the look. */
export async function bakeFile(kernels: Kernels, look: Look, format: BakeFormat, size: number, input: Encoding): Promise<Baked> {
  const leftOut = unbakeable(look);
  if (input === 'linear' && (format === 'png' || format === 'tif'))
    throw new PlainError('a Hald image reaches from 0 to 1, and linear scene light goes further; choose ACEScct, or a .cube or .clf file');
  const told = (apply: (rgb: Rgb) => Rgb): Pick<Baked, 'leftOut' | 'error'> => {
    const { mean, worst } = bakeError(kernels, look, apply, input);
    return { leftOut, error: { mean, worst } };
  };
  if (holdsCdl(format)) {
    const colours = testColoursFor(input),
      cdl = fitCdl(colours, lookThrough(kernels, look, input, colours));
    return { file: textOf(writeCdl({ id: look.name, cdl }, format)), ...told((c) => applyCdl(cdl, c)), suggestedSize: 0 };
  }
  if (format === 'clf') {
    const clf = bakeClf(kernels, look, size, input),
      through = (list: Clf) => (c: Rgb) => applyClf(list, c);
    return {
      file: textOf(writeClf(clf)),
      ...told(through(clf)),
      suggestedSize: suggestedSize(kernels, look, input, (n) => through(bakeClf(kernels, look, n, input))),
    };
  }
  const table = bakeLook(kernels, look, size, input),
    through = (t: Table) => (c: Rgb) => applyTable(t, c),
    note = [
      `Baked by Dyepot from the look “${look.name}”`,
      `Input: ${inputs[input]}; output: sRGB`,
      ...leftOut.map((l) => `Left out: ${l.name}, since ${l.reason}`),
    ];
  return {
    file: format === 'cube' ? textOf(writeCube(table, note)) : await haldFile(table, format),
    ...told(through(table)),
    suggestedSize: suggestedSize(kernels, look, input, (n) => through(bakeLook(kernels, look, n, input))),
  };
}
