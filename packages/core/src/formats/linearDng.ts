import { lightSourceKelvin, type CameraProfile } from '../colour/cameraProfile.ts';
import type { RawFacts } from '../plate/mosaic.ts';
import { writeOpcodes } from './opcodes.ts';
import { bytes, long, rational, short, signedRational, text, writeTiff, type TiffTag } from './tiff.ts';

/** The Exif light source whose temperature is nearest. */
const sourceOf = (kelvin: number): number =>
  Number(
    Object.entries(lightSourceKelvin).sort(([, a], [, b]) => Math.abs(1e6 / a - 1e6 / kelvin) - Math.abs(1e6 / b - 1e6 / kelvin))[0]![0],
  );
function colourTags({ colour, analogBalance, asShotNeutral, baselineExposureEv }: CameraProfile): TiffTag[] {
  const each = [...colour]
    .sort((a, b) => a.kelvin - b.kelvin)
    .slice(0, 2)
    .flatMap(({ kelvin, matrix, forward, calibration }, i): TiffTag[] => [
      signedRational(50721 + i, matrix),
      signedRational(50723 + i, calibration),
      short(50778 + i, sourceOf(kelvin)),
      ...(forward ? [signedRational(50964 + i, forward)] : []),
    ]);
  return [...each, rational(50727, analogBalance), rational(50728, asShotNeutral, 1_000_000), signedRational(50730, [baselineExposureEv])];
}

/**
 * A DNG of linear camera RGB (DNG 1.4: PhotometricInterpretation LinearRaw), upright, white 65535.
 * @param pixels interleaved, 16 bits
 * @param software what made it, as Exif says it
 */
export function writeLinearDng(width: number, height: number, pixels: Uint16Array, facts: RawFacts, software: string): Uint8Array {
  const { exif } = facts,
    time = exif.takenAt ? exif.takenAt.slice(0, 19).replaceAll('-', ':').replace('T', ' ') : null,
    make = facts.make || 'Unknown',
    model = facts.camera.startsWith(make) ? facts.camera.slice(make.length).trim() : facts.camera;
  return writeTiff({
    tags: [
      long(254, 0),
      long(256, width),
      long(257, height),
      short(258, 16, 16, 16),
      short(259, 1),
      short(262, 34892),
      text(271, make),
      text(272, model || 'Unknown'),
      short(274, 1),
      short(277, 3),
      long(278, height),
      short(284, 1),
      text(305, software),
      ...(time ? [text(306, time)] : []),
      bytes(50706, [1, 4, 0, 0]),
      bytes(50707, [1, 1, 0, 0]),
      text(50708, facts.camera || 'Unknown'),
      long(50717, 65535, 65535, 65535),
      ...colourTags(facts.profile),
      // of an upright picture it is what the raws said, turned upright
      ...(facts.fileLens ? [bytes(51022, writeOpcodes(facts.fileLens), 7)] : []),
    ],
    exif: {
      tags: [
        ...(exif.shutterSeconds > 0 ? [rational(33434, [exif.shutterSeconds], 1_000_000)] : []),
        ...(exif.aperture > 0 ? [rational(33437, [exif.aperture], 10)] : []),
        ...(exif.iso > 0 ? [short(34855, Math.min(65535, exif.iso))] : []),
        ...(time ? [text(36867, time)] : []),
        ...(exif.focalMm > 0 ? [rational(37386, [exif.focalMm], 10)] : []),
        ...(facts.lens ? [text(42036, facts.lens)] : []),
      ],
    },
    data: { offsetsTag: 273, countsTag: 279, parts: [new Uint8Array(pixels.buffer, pixels.byteOffset, pixels.byteLength)] },
  });
}
