import { createHash } from 'node:crypto';
import { writeOpcodes } from '@dyepot/core/src/formats/opcodes.ts';
import { bytes, long, rational, short, signedRational, text, writeTiff } from '@dyepot/core/src/formats/tiff.ts';
import type { FileLens } from '@dyepot/core/src/groundwork/lens.ts';
import { encodeLosslessJpeg } from './ljpeg.ts';
import { cellColours, colourMatrix, forwardMatrix, type Exposure, type Shot } from './sensor.ts';
import { lightOf } from './spectrum.ts';

export interface DngOptions {
  compression: 'none' | 'lossless';
  layout: 'strips' | 'tiles';
  preview: { width: number; height: number; jpeg: Uint8Array };
  exif: {
    iso: number;
    shutterSeconds: number;
    aperture: number;
    focalMm: number;
    time: string;
    /** Exif LightSource: 0 unknown, 3 tungsten, 9 fine weather, 10 cloudy, 11 shade */ lightSource?: number;
  };
  /** what undoes the lens' faults, written as opcode list 3 */
  lens?: FileLens;
  baselineExposureEv: number;
}
/** Tiles of 256, or smaller where the picture is: readers mishandle a tile wider than the picture. */
const tileSide = (side: number): number => Math.min(256, Math.max(16, side - (side % 16)));

/** MD5 of the mosaic, row by row, each value as 16 bits with the low byte first (DNG 1.4.0.0, RawImageDigest). */
const rawImageDigest = (mosaic: Uint16Array): Uint8Array =>
  createHash('md5')
    .update(new Uint8Array(mosaic.buffer, mosaic.byteOffset, mosaic.byteLength))
    .digest();

/** Writes a DNG 1.4 file (DNG specification 1.4.0.0): preview in the main directory, the mosaic in a subdirectory. */
export function writeDng(shot: Shot, e: Exposure, o: DngOptions): Uint8Array {
  const { width, height, mosaic } = shot;
  const parts: Uint8Array[] = [];
  // common readers take an uncompressed tile only when there is one
  const whole = o.layout === 'tiles' && o.compression === 'none';
  if (whole && (width % 16 !== 0 || height % 16 !== 0)) throw new RangeError('uncompressed tiles need a width and height divisible by 16');
  const [pw, ph] = whole
    ? [width, height]
    : o.layout === 'tiles'
      ? [tileSide(width), tileSide(height)]
      : [width, Math.min(height, o.compression === 'lossless' ? height : 64)];
  for (let y = 0; y < height; y += ph) {
    for (let x = 0; x < width; x += pw) {
      const rows = o.layout === 'tiles' ? ph : Math.min(ph, height - y);
      const part = new Uint16Array(pw * rows);
      for (let j = 0; j < rows; j++)
        for (let i = 0; i < pw; i++)
          part[j * pw + i] = mosaic[Math.min(height - 2 + (j & 1), y + j) * width + Math.min(width - 2 + (i & 1), x + i)]!;
      parts.push(o.compression === 'lossless' ? encodeLosslessJpeg(part, pw, rows, pw, e.bits) : new Uint8Array(part.buffer));
    }
  }
  const where =
    o.layout === 'tiles'
      ? { tags: [long(322, pw), long(323, ph)], offsetsTag: 324, countsTag: 325 }
      : { tags: [long(278, ph)], offsetsTag: 273, countsTag: 279 };
  return writeTiff({
    tags: [
      long(254, 1),
      long(256, o.preview.width),
      long(257, o.preview.height),
      short(258, 8, 8, 8),
      short(259, 7),
      short(262, 6),
      text(271, 'Hollin'),
      text(272, 'Field One'),
      short(274, 1),
      short(277, 3),
      long(278, o.preview.height),
      rational(282, [300]),
      rational(283, [300]),
      short(284, 1),
      short(296, 2),
      text(305, 'Dyepot simulated camera'),
      text(306, o.exif.time),
      rational(529, [0.299, 0.587, 0.114]),
      short(530, 2, 2),
      short(531, 1),
      rational(532, [0, 255, 128, 255, 128, 255], 1),
      bytes(50706, [1, 4, 0, 0]),
      bytes(50707, [1, 1, 0, 0]),
      text(50708, 'Hollin Field One'),
      signedRational(50721, colourMatrix(lightOf(2856))),
      signedRational(50722, colourMatrix(lightOf(6504))),
      rational(50727, [1, 1, 1]),
      rational(
        50728,
        shot.asShotNeutral.map((v) => v / Math.max(...shot.asShotNeutral)),
        1000000,
      ),
      signedRational(50730, [o.baselineExposureEv]),
      rational(50731, [1]),
      rational(50732, [1]),
      rational(50734, [1]),
      short(50778, 17),
      short(50779, 21),
      bytes(50972, rawImageDigest(mosaic)),
      signedRational(50964, forwardMatrix(lightOf(2856))),
      signedRational(50965, forwardMatrix(lightOf(6504))),
    ],
    data: { offsetsTag: 273, countsTag: 279, parts: [o.preview.jpeg] },
    exif: {
      tags: [
        rational(33434, [o.exif.shutterSeconds], 1000000),
        rational(33437, [o.exif.aperture], 10),
        short(34855, o.exif.iso),
        bytes(36864, [48, 50, 51, 48], 7),
        text(36867, o.exif.time),
        text(36868, o.exif.time),
        short(37384, o.exif.lightSource ?? 0),
        rational(37386, [o.exif.focalMm], 10),
        rational(42034, [24, 70, 2.8, 2.8], 10),
        text(42035, 'Hollin'),
        text(42036, 'Hollin 24-70 mm f/2.8'),
      ],
    },
    subdirectories: [
      {
        tags: [
          long(254, 0),
          long(256, width),
          long(257, height),
          short(258, 16),
          short(259, o.compression === 'lossless' ? 7 : 1),
          short(262, 32803),
          short(277, 1),
          short(284, 1),
          ...where.tags,
          short(33421, 2, 2),
          bytes(33422, cellColours(e.pattern)),
          bytes(50710, [0, 1, 2]),
          short(50711, 1),
          short(50713, 2, 2),
          rational(50714, [e.black, e.black, e.black, e.black], 1),
          long(50717, (1 << e.bits) - 1),
          rational(50718, [1, 1], 1),
          rational(50719, [0, 0], 1),
          rational(50720, [width, height], 1),
          rational(50780, [1]),
          ...(o.lens ? [bytes(51022, writeOpcodes(o.lens), 7)] : []),
        ],
        data: { offsetsTag: where.offsetsTag, countsTag: where.countsTag, parts },
      },
    ],
  });
}
