import type { RawFacts } from '../plate/mosaic.ts';
import type { Credit } from './xmp.ts';
import { bytes, long, rational, short, text, writeTiff, type TiffDirectory, type TiffTag } from './tiff.ts';

export type ExifFacts = Pick<RawFacts, 'camera' | 'make' | 'lens' | 'exif'>;

/** What a finished picture says of how it was taken (Exif 2.32, CIPA DC-008): a main directory's tags and its Exif directory. What the raw does not say is left out. */
export function exifTags(
  { camera, make, lens, exif }: ExifFacts,
  width: number,
  height: number,
  srgb: boolean,
  credit: Credit | null = null,
): { main: TiffTag[]; exif: TiffDirectory } {
  const model = make && camera.startsWith(`${make} `) ? camera.slice(make.length + 1) : camera,
    time = exif.takenAt?.slice(0, 19).replace('T', ' ').replaceAll('-', ':');
  const positive = (v: number | undefined, tag: (v: number) => TiffTag): TiffTag[] =>
    v !== undefined && Number.isFinite(v) && v > 0 ? [tag(v)] : [];
  return {
    main: [
      ...(make ? [text(271, make)] : []),
      ...(model ? [text(272, model)] : []),
      short(274, 1),
      rational(282, [300], 1),
      rational(283, [300], 1),
      short(296, 2),
      text(305, 'Dyepot'),
      ...(credit?.author ? [text(315, credit.author)] : []),
      short(531, 1),
      ...(credit?.copyright ? [text(33432, credit.copyright)] : []),
    ],
    exif: {
      tags: [
        ...positive(exif.shutterSeconds, (v) =>
          v < 0.5 ? { tag: 33434, type: 5, values: [1, Math.round(1 / v)] } : rational(33434, [v], 10),
        ),
        ...positive(exif.aperture, (v) => rational(33437, [v], 10)),
        ...positive(exif.iso, (v) => short(34855, Math.min(65535, Math.round(v)))),
        bytes(36864, [48, 50, 51, 50], 7),
        ...(time ? [text(36867, time), text(36868, time)] : []),
        bytes(37121, [1, 2, 3, 0], 7),
        ...positive(exif.focalMm, (v) => rational(37386, [v], 10)),
        bytes(40960, [48, 49, 48, 48], 7),
        short(40961, srgb ? 1 : 65535),
        long(40962, width),
        long(40963, height),
        ...positive(exif.focalMm35, (v) => short(41989, Math.round(v))),
        ...(lens ? [text(42036, lens)] : []),
      ],
    },
  };
}

/** The same as a block of its own, as JPEG and PNG carry it. */
export function writeExif(facts: ExifFacts, width: number, height: number, srgb: boolean, credit: Credit | null = null): Uint8Array {
  const { main, exif } = exifTags(facts, width, height, srgb, credit);
  return writeTiff({ tags: main, exif });
}
