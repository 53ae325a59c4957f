import { createHash } from 'node:crypto';
import { closeSync, createReadStream, openSync, readSync } from 'node:fs';
import { basename, extname } from 'node:path';
import { pipeline } from 'node:stream/promises';
import sharp, { type Metadata } from 'sharp';
import { pictureSpace, readIccProfile, type PictureSpace } from '@dyepot/core/src/formats/readIcc.ts';
import { readDirectories } from '@dyepot/core/src/formats/tiff.ts';
import type { RawFacts, RawPixels } from '@dyepot/core/src/plate/mosaic.ts';
import { backToLight, finishedProfile, finishedWhite } from '@dyepot/core/src/stock/backToLight.ts';
import { PlainError } from '../plainError.ts';
import { tiffExtents } from './extents.ts';

/** Kinds of finished pictures that may stand in a shoot. */
const kinds = { jpeg: 'JPEG', png: 'PNG', tiff: 'TIFF' } as const;
type Kind = keyof typeof kinds;

/** Which finished picture a file begins as; null where it may be a raw. A TIFF is one unless it speaks of a raw picture. */
export function finishedKind(path: string, head: Uint8Array): Kind | null {
  if (head[0] === 0xff && head[1] === 0xd8) return 'jpeg';
  if (head[0] === 0x89 && String.fromCharCode(...head.subarray(1, 4)) === 'PNG') return 'png';
  if (!/^\.tiff?$/i.test(extname(path))) return null;
  const file = openSync(path, 'r');
  try {
    const extents = tiffExtents((offset, length) => {
      const piece = Buffer.alloc(Math.min(length, 1 << 20));
      return piece.subarray(0, readSync(file, piece, 0, piece.length, offset));
    });
    return extents && !extents.dng && !extents.parts.some((p) => p.raw) ? 'tiff' : null;
  } finally {
    closeSync(file);
  }
}

const mostSide = 30_000,
  mostPixels = 120e6;
/** Sizes that can stand in a shoot; says what is wrong with others. */
function checkSize(name: string, { width, height }: Metadata): void {
  if (Math.min(width, height) < 16) throw new PlainError(`${name} is ${width} × ${height} pixels, too small for a frame`);
  if (Math.max(width, height) > mostSide || width * height > mostPixels)
    throw new PlainError(`${name} is ${width} × ${height} pixels; up to ${mostSide} a side and 120 million in all can be read`);
}

const text = (values: number[] | undefined): string => (values ? String.fromCharCode(...values.filter((v) => v > 0)).trim() : '');
/** What Exif 2.32 says of the picture. Its local times are taken as they stand, as a raw's are. */
function exifOf(meta: Metadata): Map<number, number[]> {
  const all = new Map<number, number[]>();
  if (!meta.exif) return all;
  for (const tags of readDirectories(meta.exif.subarray(meta.exif.toString('latin1', 0, 4) === 'Exif' ? 6 : 0)))
    for (const [tag, values] of tags) if (!all.has(tag)) all.set(tag, values);
  return all;
}
function factsOf(meta: Metadata, kind: Kind): RawFacts {
  const exif = exifOf(meta),
    one = (tag: number): number => exif.get(tag)?.[0] ?? 0,
    make = text(exif.get(271)),
    model = text(exif.get(272)),
    time = /^(\d{4}):(\d\d):(\d\d) (\d\d:\d\d:\d\d)$/.exec(text(exif.get(36867))),
    taken = time ? new Date(`${time[1]}-${time[2]}-${time[3]}T${time[4]}Z`) : null;
  const turned = (meta.orientation ?? 1) >= 5;
  return {
    width: turned ? meta.height : meta.width,
    height: turned ? meta.width : meta.height,
    camera: model.startsWith(make) ? model : `${make} ${model}`,
    make,
    lens: text(exif.get(42036)),
    mosaic: 'three colours at each place',
    finished: kinds[kind],
    black: [0, 0, 0, 0],
    white: finishedWhite,
    quarterTurns: 0,
    profile: finishedProfile,
    fileLens: null,
    lightSource: 0,
    exif: {
      iso: one(34855),
      shutterSeconds: one(33434),
      aperture: one(33437),
      focalMm: one(37386),
      takenAt: taken && Number.isFinite(taken.getTime()) ? taken.toISOString() : null,
      focalMm35: one(41989),
    },
  };
}

/** The space a picture's numbers are of: its profile's, or what Exif says (ColorSpace 2 is opRGB), or sRGB. Null where only its profile's tables tell. */
function spaceOf(meta: Metadata): PictureSpace | null {
  if (meta.space === 'cmyk' || meta.space === 'lab') return null;
  if (meta.icc && meta.channels >= 3) return readIccProfile(meta.icc);
  return pictureSpace(exifOf(meta).get(40961)?.[0] === 2 ? 'oprgb' : 'srgb');
}

/** Reads a finished picture as a frame: upright, taken back to light. Rejects with PlainError naming the file. */
export async function decodeFinished(
  path: string,
  kind: Kind,
  wanted: { pixels: boolean; hashed: boolean },
): Promise<{ facts: RawFacts; raw?: RawPixels; hash?: string }> {
  const name = basename(path),
    damaged = (error: unknown): never => {
      const why = error instanceof Error ? error.message.split('\n')[0]! : '';
      throw new PlainError(
        /premature|truncat|end of|unexpected|short/i.test(why)
          ? `${name} is cut short: its picture does not go to its end`
          : `${name} is damaged: it could not be read as a ${kinds[kind]}`,
      );
    };
  const meta = await sharp(path, { limitInputPixels: mostPixels }).metadata().catch(damaged);
  checkSize(name, meta);
  if (['float', 'double', 'complex', 'dpcomplex', 'int', 'uint'].includes(meta.depth))
    throw new PlainError(
      `${name} has numbers of ${meta.depth === 'int' || meta.depth === 'uint' ? '32 bits' : 'floating point'}; 8 and 16 bits can be read`,
    );
  const facts = factsOf(meta, kind),
    hash = wanted.hashed ? { hash: await sumOf(path) } : {};
  if (!wanted.pixels) return { facts, ...hash };
  const own = spaceOf(meta),
    deep = meta.depth === 'ushort';
  // a profile of tables, or of other colours than red, green and blue, is left to the library's colour management
  const { data, info } = await sharp(path, { limitInputPixels: mostPixels, failOn: 'error', ignoreIcc: own !== null, autoOrient: true })
    .flatten({ background: '#000' })
    .toColourspace(deep ? 'rgb16' : 'srgb')
    .raw({ depth: deep ? 'ushort' : 'uchar' })
    .toBuffer({ resolveWithObject: true })
    .catch(damaged);
  const values = deep ? new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2) : data,
    rgb = info.channels === 3 ? values : threeOf(values, info.channels, info.width * info.height);
  return { facts, raw: backToLight(rgb, info.width, info.height, own ?? pictureSpace('srgb')), ...hash };
}
/** The first of fewer channels, three times; of more, the first three. */
function threeOf(values: Uint8Array | Uint16Array, channels: number, n: number): Uint8Array | Uint16Array {
  const out = values.BYTES_PER_ELEMENT === 1 ? new Uint8Array(n * 3) : new Uint16Array(n * 3);
  for (let i = 0; i < n; i++) for (let c = 0; c < 3; c++) out[i * 3 + c] = values[i * channels + (channels >= 3 ? c : 0)]!;
  return out;
}
async function sumOf(path: string): Promise<string> {
  const sum = createHash('sha256');
  await pipeline(createReadStream(path), sum);
  return sum.digest('hex');
}
