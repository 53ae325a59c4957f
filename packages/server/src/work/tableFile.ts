import { basename, extname } from 'node:path';
import sharp from 'sharp';
import { readCdl, writeCdl, type NamedCdl } from '@dyepot/core/src/formats/cdl.ts';
import { readClf, writeClf } from '@dyepot/core/src/formats/clf.ts';
import { readCube, writeCube } from '@dyepot/core/src/formats/cube.ts';
import { readHald, writeHald } from '@dyepot/core/src/formats/hald.ts';
import { applyTable, table3d, type Rgb, type Table } from '@dyepot/core/src/formats/table.ts';
import { bakeError, bakeLook, lookThrough, suggestedSize, testColours, unbakeable } from '@dyepot/core/src/look/bake.ts';
import { fitCdl } from '@dyepot/core/src/look/fitCdl.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import type { Kernels } from '@dyepot/core/src/render/kernels.ts';
import { ciede2000, xyzToLab } from '@dyepot/core/src/colour/difference.ts';
import { apply3, type Vector3 } from '@dyepot/core/src/colour/matrix.ts';
import { rgbToXyz, srgb } from '@dyepot/core/src/colour/spaces.ts';
import { decodeSrgb } from '@dyepot/core/src/colour/transfer.ts';
import { applyCdl } from '@dyepot/core/src/steps/cdl/index.ts';
import type { Encoding } from '@dyepot/core/src/steps/lookup/index.ts';
import { PlainError } from '../decode/decode.ts';
import { applyClf } from '@dyepot/core/src/formats/clfApply.ts';

/** What stands in a table file: the exact function, and a table of it with what was lost in making one. */
export interface TableFile {
  kind: 'cube' | 'hald' | 'cdl' | 'clf';
  apply: (rgb: Rgb) => Rgb;
  table: Table;
  /** the numbers of a CDL's corrections */ corrections: NamedCdl[];
  warnings: string[];
}
export const tableExtensions = ['.cube', '.clf', '.ctf', '.cc', '.ccc', '.cdl', '.png', '.tif', '.tiff'];
const sampled = 33;

/** The pixels of a picture file as interleaved RGB; 16 bits where it has them. */
export async function readPixels(
  bytes: Uint8Array,
  name: string,
): Promise<{ pixels: Uint8Array | Uint16Array; width: number; height: number }> {
  try {
    const image = sharp(bytes, { limitInputPixels: 6e8 }),
      { depth } = await image.metadata(),
      deep = depth === 'ushort',
      plain = image.removeAlpha().toColourspace(deep ? 'rgb16' : 'srgb'),
      { data, info } = await plain.raw(deep ? { depth: 'ushort' } : {}).toBuffer({ resolveWithObject: true });
    if (info.channels !== 3) throw new PlainError(`${name} has ${info.channels} channels; three are needed`);
    return {
      pixels: deep ? new Uint16Array(data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength)) : new Uint8Array(data),
      width: info.width,
      height: info.height,
    };
  } catch (error) {
    if (error instanceof PlainError) throw error;
    throw new PlainError(`${name} is damaged or is not a picture that can be read`);
  }
}

/** Reads a Cube LUT, Hald image, CDL or CLF by its name's ending. Throws PlainError naming the file and what is wrong. */
export async function readTableFile(bytes: Uint8Array, path: string): Promise<TableFile> {
  const name = basename(path),
    ending = extname(path).toLowerCase(),
    title = basename(path, extname(path));
  const told = <T extends object>(read: T | { message: string }): T => {
    if ('message' in read) throw new PlainError(`${name}: ${read.message}`);
    return read as T;
  };
  if (ending === '.cube') {
    const { table } = told(readCube(bytes));
    return {
      kind: 'cube',
      corrections: [],
      table: { ...table, title: table.title || title },
      apply: (rgb) => applyTable(table, rgb),
      warnings: [],
    };
  }
  if (['.png', '.tif', '.tiff'].includes(ending)) {
    const { pixels, width, height } = await readPixels(bytes, name),
      { table } = told(readHald(pixels, width, height, title));
    return {
      kind: 'hald',
      corrections: [],
      table,
      apply: (rgb) => applyTable(table, rgb),
      warnings: pixels.BYTES_PER_ELEMENT === 1 ? ['An 8-bit Hald image steps in 256 levels; a 16-bit one is finer.'] : [],
    };
  }
  if (['.cc', '.ccc', '.cdl'].includes(ending)) {
    const { corrections } = told(readCdl(bytes)),
      first = corrections[0]!,
      apply = (rgb: Rgb): Rgb => applyCdl(first.cdl, rgb);
    return {
      kind: 'cdl',
      corrections,
      apply,
      table: table3d(first.id || title, sampled, apply),
      warnings: [
        `A CDL is ten numbers; here it is sampled to ${sampled}³. A CDL step holds the numbers themselves.`,
        ...(corrections.length > 1 ? [`It holds ${corrections.length} corrections; the first is taken.`] : []),
      ],
    };
  }
  if (ending === '.clf' || ending === '.ctf') {
    const { clf } = told(readClf(bytes)),
      apply = (rgb: Rgb): Rgb => applyClf(clf, rgb),
      only =
        clf.nodes.length === 1 && clf.nodes[0]!.type === 'table' && (clf.nodes[0]!.table.kind === '1d' || !clf.nodes[0]!.linear)
          ? clf.nodes[0]!.table
          : null;
    return {
      kind: 'clf',
      corrections: [],
      apply,
      table: only ? { ...only, title: clf.name || title } : table3d(clf.name || title, sampled, apply),
      warnings: only
        ? []
        : [
            `Its ${clf.nodes.length} ${clf.nodes.length === 1 ? 'node is' : 'nodes are'} sampled to ${sampled}³ over 0–1; what lies outside is held at the border.`,
          ],
    };
  }
  throw new PlainError(`${name} is not a table that can be read; ${tableExtensions.join(', ')} are`);
}

/** A table no larger than a look should hold. */
export function forLook(table: Table): { table: Table; warnings: string[] } {
  if (table.kind === '1d' || table.size <= 65) return { table, warnings: [] };
  return {
    table: table3d(table.title, 65, (rgb) => applyTable(table, rgb), table.domainMin, table.domainMax),
    warnings: [`Its ${table.size}³ colours are brought down to 65³, so that the look stays small.`],
  };
}

const cdlFormats = ['cc', 'ccc', 'cdl'] as const;
export type BakeFormat = 'cube' | 'png' | 'tif' | 'clf' | (typeof cdlFormats)[number];
/** Whether a format holds the ten numbers of a CDL instead of a table. */
export const holdsCdl = (format: BakeFormat): format is (typeof cdlFormats)[number] => (cdlFormats as readonly string[]).includes(format);
export interface Baked {
  file: Uint8Array;
  leftOut: { name: string; reason: string }[];
  error: { mean: number; worst: number };
  suggestedSize: number;
}
const toXyz = rgbToXyz(srgb),
  labOf = (c: Rgb): Vector3 =>
    xyzToLab(apply3(toXyz, c.map((v) => decodeSrgb(Math.min(1, Math.max(0, v)))) as unknown as Vector3), [0.95047, 1, 1.08883]);

/** Bakes a look to a file's bytes, with what it could not carry and how far it is from the look. */
export async function bakeFile(kernels: Kernels, look: Look, format: BakeFormat, size: number, input: Encoding): Promise<Baked> {
  const leftOut = unbakeable(look),
    note = [
      `Baked by Dyepot from the look “${look.name}”`,
      `Input: ${input === 'srgb' ? 'sRGB pictures' : input === 'linear' ? 'scene-linear Rec.2020, 0.18 middle grey' : 'ACEScct'}; output: sRGB`,
      ...leftOut.map((l) => `Left out: ${l.name}, since ${l.reason}`),
    ];
  if (holdsCdl(format)) {
    const truth = lookThrough(kernels, look, input, testColours),
      cdl = fitCdl(testColours, truth),
      differences = testColours.map((c, i) => ciede2000(labOf(truth[i]!), labOf(applyCdl(cdl, c))));
    return {
      file: new TextEncoder().encode(writeCdl({ id: look.name, cdl }, format)),
      leftOut,
      error: { mean: differences.reduce((a, b) => a + b, 0) / differences.length, worst: Math.max(...differences) },
      suggestedSize: 0,
    };
  }
  const table = bakeLook(kernels, look, size, input),
    { mean, worst } = bakeError(kernels, look, table, input),
    rest = { leftOut, error: { mean, worst }, suggestedSize: suggestedSize(kernels, look, input) };
  if (format === 'cube') return { file: new TextEncoder().encode(writeCube(table, note)), ...rest };
  if (format === 'clf')
    return {
      file: new TextEncoder().encode(
        writeClf({ id: look.name.replace(/\W+/g, '-'), name: look.name, nodes: [{ type: 'table', linear: false, table }] }),
      ),
      ...rest,
    };
  const hald = writeHald(table);
  if ('message' in hald) throw new PlainError(hald.message);
  const image = sharp(hald.pixels, { raw: { width: hald.width, height: hald.width, channels: 3 } }).toColourspace('rgb16');
  return {
    file: await (format === 'png' ? image.png() : image.tiff({ compression: 'deflate', predictor: 'horizontal' })).toBuffer(),
    ...rest,
  };
}
