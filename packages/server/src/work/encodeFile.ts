import { crc32, deflateSync } from 'node:zlib';
import sharp from 'sharp';
import { decodeSrgb, encodeSrgb } from '@dyepot/core/src/colour/transfer.ts';
import { exifTags, writeExif, type ExifFacts } from '@dyepot/core/src/formats/exif.ts';
import { writeIccProfile } from '@dyepot/core/src/formats/icc.ts';
import { writeRgbTiff } from '@dyepot/core/src/formats/tiff.ts';
import type { OutputSpace } from '@dyepot/core/src/render/output.ts';

export interface FileSettings {
  format: 'jpeg' | 'tiff' | 'png';
  depth: 8 | 16;
  space: OutputSpace;
  /** long edge in pixels, or null for the full size; never enlarged */
  size: number | null;
  /** JPEG quality 1–100 */
  quality: number;
}
export const extensionOf = { jpeg: 'jpg', tiff: 'tif', png: 'png' } as const;

/** Puts Exif (APP1, CIPA DC-008 4.7.2) and an ICC profile (APP2, ICC.1:2022 annex B.4) into a JPEG, leaving the pixels alone. */
export function withJpegProfile(jpeg: Uint8Array, icc: Uint8Array, exif: Uint8Array | null): Buffer {
  const segment = (marker: number, name: Buffer, body: Uint8Array): Buffer => {
    const size = name.length + body.length + 2;
    return Buffer.concat([Buffer.from([0xff, marker, size >> 8, size & 255]), name, body]);
  };
  const after = jpeg[2] === 0xff && jpeg[3] === 0xe0 ? 4 + ((jpeg[4]! << 8) | jpeg[5]!) : 2;
  return Buffer.concat([
    jpeg.subarray(0, exif ? 2 : after),
    ...(exif ? [segment(0xe1, Buffer.from('Exif\0\0', 'latin1'), exif)] : []),
    segment(0xe2, Buffer.from('ICC_PROFILE\0\x01\x01', 'latin1'), icc),
    jpeg.subarray(after),
  ]);
}

/** Puts an ICC profile (iCCP, PNG third edition, 11.3.2.3) and Exif (eXIf, 11.3.4.5) into a PNG right after the header. */
export function withPngProfile(png: Uint8Array, icc: Uint8Array, exif: Uint8Array | null): Buffer {
  const chunk = (body: Buffer): Buffer => {
    const frame = Buffer.alloc(8);
    frame.writeUInt32BE(body.length - 4, 0);
    frame.writeUInt32BE(crc32(body), 4);
    return Buffer.concat([frame.subarray(0, 4), body, frame.subarray(4)]);
  };
  const profile = chunk(Buffer.concat([Buffer.from('iCCPprofile\0\0', 'latin1'), deflateSync(icc)]));
  return Buffer.concat([
    png.subarray(0, 33),
    profile,
    ...(exif ? [chunk(Buffer.concat([Buffer.from('eXIf', 'latin1'), exif]))] : []),
    png.subarray(33),
  ]);
}

const toLinear = (): Uint16Array => Uint16Array.from({ length: 65536 }, (_, i) => Math.round(65535 * decodeSrgb(i / 65535)));
const toEncoded = (): Uint16Array => Uint16Array.from({ length: 65536 }, (_, i) => Math.round(65535 * encodeSrgb(i / 65535)));

/** Scales 16-bit encoded RGB down in linear light (Lanczos 3, libvips). */
export async function scaleDown(
  pixels: Uint16Array,
  width: number,
  height: number,
  to: { width: number; height: number },
): Promise<Uint16Array> {
  const table = toLinear(),
    linear = pixels.map((v) => table[v]!);
  const out = await sharp(linear, { raw: { width, height, channels: 3 } })
    .toColourspace('rgb16')
    .resize(to.width, to.height, { kernel: 'lanczos3', fit: 'fill' })
    .raw({ depth: 'ushort' })
    .toBuffer();
  const back = toEncoded();
  return new Uint16Array(out.buffer, out.byteOffset, out.length / 2).map((v) => back[v]!);
}

/** The size a picture is written at. */
export function writtenSize(width: number, height: number, longEdge: number | null): { width: number; height: number } {
  const scale = longEdge ? Math.min(1, longEdge / Math.max(width, height)) : 1;
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
}

/** The depth a picture has to be rendered at for these settings. */
export const renderDepth = (s: FileSettings, width: number, height: number): 8 | 16 =>
  s.depth === 16 || writtenSize(width, height, s.size).width !== width ? 16 : 8;

/**
 * Encodes rendered pixels (interleaved RGB, 8 or 16 bits as `renderDepth` says) into a file with the right profile, and
 * with what its raw says of how it was taken.
 */
export async function encodeFile(
  pixels: Uint8Array | Uint16Array,
  width: number,
  height: number,
  settings: FileSettings,
  facts: ExifFacts | null,
): Promise<Uint8Array> {
  const size = writtenSize(width, height, settings.size),
    icc = writeIccProfile(settings.space);
  let out: Uint8Array | Uint16Array = pixels;
  if (pixels instanceof Uint16Array) {
    if (size.width !== width) out = await scaleDown(pixels, width, height, size);
    if (settings.depth === 8) out = Uint8Array.from(out, (v) => Math.round(v / 257));
  }
  if (settings.format === 'tiff')
    return writeRgbTiff(size.width, size.height, out, icc, facts && exifTags(facts, size.width, size.height, settings.space === 'srgb'));
  const exif = facts && writeExif(facts, size.width, size.height, settings.space === 'srgb');
  const image = sharp(out, { raw: { width: size.width, height: size.height, channels: 3 } });
  if (settings.format === 'png')
    return withPngProfile(
      await (out instanceof Uint16Array ? image.toColourspace('rgb16') : image).png({ compressionLevel: 6 }).toBuffer(),
      icc,
      exif,
    );
  return withJpegProfile(
    await image
      .jpeg({ quality: settings.quality, optimiseCoding: false, chromaSubsampling: settings.quality >= 90 ? '4:4:4' : '4:2:0' })
      .toBuffer(),
    icc,
    exif,
  );
}
