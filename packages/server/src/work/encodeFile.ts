import { availableParallelism } from 'node:os';
import sharp from 'sharp';
import { outputs } from '@dyepot/core/src/colour/outputs.ts';
import { exifTags, writeExif, type ExifFacts } from '@dyepot/core/src/formats/exif.ts';
import { writeIccProfile } from '@dyepot/core/src/formats/icc.ts';
import { writeRgbTiff } from '@dyepot/core/src/formats/tiff.ts';
import { writeXmp, type Credit, type LookSaid } from '@dyepot/core/src/formats/xmp.ts';
import type { OutputSpace } from '@dyepot/core/src/render/output.ts';
import { intoJpeg, intoPng, intoWebp } from './containers.ts';

export interface FileSettings {
  format: 'jpeg' | 'tiff' | 'png' | 'webp' | 'avif';
  depth: 8 | 16;
  space: OutputSpace;
  /** pixels of the edge it is measured by, or millions of pixels, or null for the full size; never enlarged */
  size: number | null;
  /** what `size` measures; the long edge where it is not said */
  sizeBy?: 'long' | 'short' | 'megapixels' | 'box';
  /** the box it has to fit in, in pixels, where it is measured by one */
  box?: readonly [width: number, height: number];
  /** JPEG, WebP and AVIF quality 1–100 */
  quality: number;
  /** sharpened for where it is seen, after it has its size; not where it is not said */
  sharpen?: Sharpening;
  /** whether what the raw says of how it was taken goes along; it does where nothing is said */
  taken?: boolean;
  credit?: Credit | null;
  /** whether the file names its look */
  namesLook?: boolean;
}
export type Sharpening = 'none' | 'screen' | 'matte' | 'glossy';
export const extensionOf = { jpeg: 'jpg', tiff: 'tif', png: 'png', webp: 'webp', avif: 'avif' } as const;

const tableOf = (curve: (v: number) => number): Uint16Array => {
  const table = new Uint16Array(65536);
  for (let i = 0; i < 65536; i++) table[i] = Math.round(65535 * curve(i / 65535));
  return table;
};
/** From codes of 16 bits to light and back, made when a space is first asked for. */
const tables = new Map<OutputSpace, { toLinear: Uint16Array; toEncoded: Uint16Array }>();
function tablesOf(space: OutputSpace): { toLinear: Uint16Array; toEncoded: Uint16Array } {
  const known = tables.get(space) ?? { toLinear: tableOf(outputs[space].decode), toEncoded: tableOf(outputs[space].encode) };
  tables.set(space, known);
  return known;
}
function throughTable(pixels: Uint16Array, table: Uint16Array, into: Uint16Array): Uint16Array {
  const count = pixels.length;
  for (let i = 0; i < count; i++) into[i] = table[pixels[i]!]!;
  return into;
}
/** Linear light of pictures scaled down more than once, as long as they are held. */
const linearOf = new WeakMap<Uint16Array, Uint16Array>();

/** Scales 16-bit encoded RGB down in linear light; `again`: the same picture will be scaled down once more. */
export async function scaleDown(
  pixels: Uint16Array,
  width: number,
  height: number,
  to: { width: number; height: number },
  { space = 'srgb', again = false }: { space?: OutputSpace; again?: boolean } = {},
): Promise<Uint16Array> {
  const linear = linearOf.get(pixels) ?? asLight(pixels, space);
  if (again) linearOf.set(pixels, linear);
  else linearOf.delete(pixels);
  return asCodes(await scaledLight(linear, width, height, to), space);
}
/** Encoded pixels as linear light, both in 16 bits; where it shall lie, if that is said. */
export const asLight = (pixels: Uint16Array, space: OutputSpace, into: Uint16Array = new Uint16Array(pixels.length)): Uint16Array =>
  throughTable(pixels, tablesOf(space).toLinear, into);
/** The codes of linear light. */
export const asCodes = (light: Uint16Array, space: OutputSpace): Uint16Array =>
  throughTable(light, tablesOf(space).toEncoded, new Uint16Array(light.length));
// by itself it takes one thread where memory is glibc's; what it makes is the same with any number
sharp.concurrency(Math.min(4, availableParallelism()));
/** Linear light of 16 bits scaled down (Lanczos 3, libvips). */
export async function scaledLight(
  linear: Uint16Array,
  width: number,
  height: number,
  to: { width: number; height: number },
): Promise<Uint16Array> {
  const out = await sharp(linear, { raw: { width, height, channels: 3 } })
    .toColourspace('rgb16')
    .resize(to.width, to.height, { kernel: 'lanczos3', fit: 'fill' })
    .raw({ depth: 'ushort' })
    .toBuffer();
  return new Uint16Array(out.buffer, out.byteOffset, out.length / 2);
}

/** The size a picture is written at. */
export function writtenSize(
  width: number,
  height: number,
  { size, sizeBy = 'long', box }: Pick<FileSettings, 'size' | 'sizeBy' | 'box'>,
): { width: number; height: number } {
  if (sizeBy === 'box' ? !box : size === null) return { width, height };
  const shares = {
      long: size! / Math.max(width, height),
      short: size! / Math.min(width, height),
      megapixels: Math.sqrt((size! * 1e6) / (width * height)),
      box: Math.min((box?.[0] ?? 0) / width, (box?.[1] ?? 0) / height),
    },
    scale = Math.min(1, shares[sizeBy]);
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
}

/** Bytes a pixel takes in a file, at most as a rule: whole numbers as they are, photographs packed as they usually are (common practice). */
const bytesAPixel = { tiff: 3, png: 2.3, jpeg: 1.1, webp: 0.7, avif: 0.6 } as const;
/** How large a file of a picture is likely to be, in bytes. */
export function likelyBytes(width: number, height: number, s: FileSettings): number {
  const size = writtenSize(width, height, s);
  return size.width * size.height * bytesAPixel[s.format] * (s.depth / 8);
}

/** The depth a picture has to be rendered at for these settings. */
export const renderDepth = (s: FileSettings, width: number, height: number): 8 | 16 =>
  s.depth === 16 || writtenSize(width, height, s).width !== width || mediumOf(s) ? 16 : 8;
const mediumOf = ({ sharpen = 'none' }: FileSettings): keyof typeof media | null => (sharpen === 'none' ? null : sharpen);

/**
 * What a medium takes from sharpness: the deviation of its spread in pixels, and how much of what an unsharp mask finds is
 * given back. Ink spreads on matte paper more than on glossy; a screen spreads next to nothing (common practice).
 */
const media: Record<Exclude<Sharpening, 'none'>, { sigma: number; amount: number }> = {
  screen: { sigma: 0.5, amount: 0.6 },
  glossy: { sigma: 0.9, amount: 1 },
  matte: { sigma: 1.1, amount: 1.5 },
};
/** Sharpens lightness by an unsharp mask (libvips, in CIELAB), flat places left alone. */
async function sharpened(pixels: Uint16Array, width: number, height: number, medium: keyof typeof media): Promise<Uint16Array> {
  const { sigma, amount } = media[medium],
    out = await sharp(pixels, { raw: { width, height, channels: 3 } })
      .toColourspace('rgb16')
      .sharpen({ sigma, m1: 0, m2: amount * 2, x1: 1, y2: 12, y3: 12 })
      .raw({ depth: 'ushort' })
      .toBuffer();
  return new Uint16Array(out.buffer, out.byteOffset, out.length / 2);
}

function toBytes(deep: Uint16Array): Uint8Array {
  const out = new Uint8Array(deep.length);
  for (let i = 0; i < deep.length; i++) out[i] = Math.round(deep[i]! / 257);
  return out;
}

/** What a raw says that says nothing of how it was taken. */
const nothingTaken: ExifFacts = {
  camera: '',
  make: '',
  lens: '',
  exif: { iso: 0, shutterSeconds: 0, aperture: 0, focalMm: 0, takenAt: null },
};

/**
 * Encodes rendered pixels (interleaved RGB, 8 or 16 bits as `renderDepth` says) into a file with the right profile, with
 * what its raw says of how it was taken, and with what is to be said of who made it and under which look.
 */
export async function encodeFile(
  pixels: Uint8Array | Uint16Array,
  width: number,
  height: number,
  settings: FileSettings,
  facts: ExifFacts | null,
  look: LookSaid | null = null,
  /** the same pixels will be encoded once more */ again = false,
): Promise<Uint8Array> {
  const size = writtenSize(width, height, settings),
    medium = mediumOf(settings),
    icc = writeIccProfile(settings.space);
  let out: Uint8Array | Uint16Array = pixels;
  if (pixels instanceof Uint16Array) {
    let deep = size.width === width ? pixels : await scaleDown(pixels, width, height, size, { space: settings.space, again });
    if (medium) deep = await sharpened(deep, size.width, size.height, medium);
    out = settings.depth === 8 ? toBytes(deep) : deep;
  }
  const taken = facts && (settings.taken === false ? nothingTaken : facts),
    credit = settings.credit ?? null,
    xmp = writeXmp(credit, settings.namesLook ? look : null),
    srgb = settings.space === 'srgb';
  if (settings.format === 'tiff')
    return writeRgbTiff(size.width, size.height, out, icc, taken && exifTags(taken, size.width, size.height, srgb, credit), xmp);
  const exif = taken && writeExif(taken, size.width, size.height, srgb, credit),
    besides = { icc, exif, xmp },
    image = sharp(out, { raw: { width: size.width, height: size.height, channels: 3 } }),
    { quality } = settings;
  switch (settings.format) {
    case 'png':
      return intoPng(
        await (out instanceof Uint16Array ? image.toColourspace('rgb16') : image).png({ compressionLevel: 6 }).toBuffer(),
        besides,
      );
    case 'webp':
      return intoWebp(await image.webp({ quality, smartSubsample: true }).toBuffer(), size, besides);
    case 'avif': {
      // its profile is the coding-independent one of sRGB, which every reader takes where none is said
      const said = image.withExif({
        IFD0: {
          Software: 'Dyepot',
          ...(credit?.author && { Artist: credit.author }),
          ...(credit?.copyright && { Copyright: credit.copyright }),
        },
      });
      return (xmp ? said.withXmp(xmp) : said).avif({ quality, effort: 4, chromaSubsampling: quality >= 90 ? '4:4:4' : '4:2:0' }).toBuffer();
    }
    case 'jpeg':
      return intoJpeg(
        await image.jpeg({ quality, optimiseCoding: false, chromaSubsampling: quality >= 90 ? '4:4:4' : '4:2:0' }).toBuffer(),
        besides,
      );
  }
}
/** What these settings cannot be; null where they can. */
export function settingsTrouble({ format, depth, space, size, sizeBy = 'long', box, sharpen = 'none' }: FileSettings): string | null {
  if (depth === 16 && format !== 'tiff' && format !== 'png')
    return `a ${nameOfFormat[format]} holds 8 bits here; choose TIFF or PNG for 16`;
  if (format === 'avif' && space !== 'srgb') return 'an AVIF is written in sRGB; choose another format for other spaces';
  if (space === 'linear' && depth !== 16) return 'linear light needs 16 bits: choose TIFF or PNG and 16';
  if (space === 'linear' && sharpen !== 'none') return 'linear light is for work that goes on, and is not sharpened for a medium';
  if (sizeBy === 'box' && (!box || size !== null)) return 'a box has a width and a height';
  if (size !== null && sizeBy === 'megapixels' && (size < 0.05 || size > 900)) return 'the size is 0.05 to 900 megapixels';
  if (size !== null && sizeBy !== 'megapixels' && (!Number.isInteger(size) || size < 16 || size > 30000))
    return 'the edge is a whole number of pixels from 16 to 30000';
  return null;
}
export const nameOfFormat = { jpeg: 'JPEG', tiff: 'TIFF', png: 'PNG', webp: 'WebP', avif: 'AVIF' } as const;
