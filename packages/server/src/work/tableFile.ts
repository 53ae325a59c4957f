import { basename, extname } from 'node:path';
import sharp from 'sharp';
import { readCdl, type NamedCdl } from '@dyepot/core/src/formats/cdl.ts';
import { readClf } from '@dyepot/core/src/formats/clf.ts';
import { readCube } from '@dyepot/core/src/formats/cube.ts';
import { readHald } from '@dyepot/core/src/formats/hald.ts';
import { applyTable, table3d, type Rgb, type Table } from '@dyepot/core/src/colour/table.ts';
import { applyCdl } from '@dyepot/core/src/colour/cdl.ts';
import { PlainError } from '../plainError.ts';
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
  try {
    return await readByEnding(bytes, path);
  } catch (error) {
    if (error instanceof PlainError) throw error;
    throw new PlainError(`${basename(path)}: ${error instanceof Error ? error.message : 'it cannot be read'}`);
  }
}
async function readByEnding(bytes: Uint8Array, path: string): Promise<TableFile> {
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
