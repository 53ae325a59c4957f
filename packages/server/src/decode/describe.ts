import { lightSourceKelvin, type CameraProfile } from '@dyepot/core/src/colour/cameraProfile.ts';
import type { Matrix3, Vector3 } from '@dyepot/core/src/colour/matrix.ts';
import { identity3 } from '@dyepot/core/src/colour/matrix.ts';
import { readOpcodes, turnFileLens } from '@dyepot/core/src/formats/opcodes.ts';
import { readDirectories } from '@dyepot/core/src/formats/tiff.ts';
import type { FileLens } from '@dyepot/core/src/groundwork/lens.ts';
import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';

/** The part of LibRaw's metadata that is read. */
export interface LibRawMetadata {
  width: number;
  height: number;
  flip: number;
  camera_make: string;
  camera_model: string;
  iso_speed: number;
  shutter: number;
  aperture: number;
  focal_len: number;
  timestamp: number;
  filters: number;
  colors: number;
  dng_version: number;
  is_foveon: number;
  lens: { Lens: string; FocalLengthIn35mmFormat: number };
  color_data: {
    black: number;
    maximum: number;
    cam_mul: number[];
    pre_mul: number[];
    cam_xyz: number[][];
    dng_color: { illuminant: number; colormatrix: number[][]; forwardmatrix: number[][]; calibration: number[][] }[];
    dng_levels: { asshotneutral: number[]; analogbalance: number[]; baseline_exposure: number };
  };
}

const rows = (m: number[][]): Matrix3 => [0, 1, 2].flatMap((r) => m[r]!.slice(0, 3)) as unknown as Matrix3;
const filled = (m: Matrix3): boolean => m.some((v) => v !== 0);

function profileOf(m: LibRawMetadata): CameraProfile {
  const c = m.color_data;
  const fromDng = c.dng_color
    .filter((d) => filled(rows(d.colormatrix)))
    .map((d) => ({
      kelvin: lightSourceKelvin[d.illuminant] ?? 6504,
      matrix: rows(d.colormatrix),
      forward: filled(rows(d.forwardmatrix)) ? rows(d.forwardmatrix) : null,
      calibration: filled(rows(d.calibration)) ? rows(d.calibration) : identity3,
    }));
  const cam = rows(c.cam_xyz);
  const colour = fromDng.length > 0 ? fromDng : filled(cam) ? [{ kelvin: 6504, matrix: cam, forward: null, calibration: identity3 }] : [];
  if (colour.length === 0) throw new Error('nothing is known of this camera’s colour');
  const dng = c.dng_levels.asshotneutral.slice(0, 3),
    multipliers = (c.cam_mul[0]! > 0 ? c.cam_mul : c.pre_mul).slice(0, 3);
  const neutral = dng.every((v) => v > 0) ? dng : multipliers.map((v) => multipliers[1]! / v);
  const top = Math.max(...neutral),
    baseline = c.dng_levels.baseline_exposure;
  return {
    colour,
    analogBalance: c.dng_levels.analogbalance.every((v) => v > 0)
      ? (c.dng_levels.analogbalance.slice(0, 3) as unknown as Vector3)
      : [1, 1, 1],
    asShotNeutral: neutral.map((v) => v / top) as unknown as Vector3,
    baselineExposureEv: Number.isFinite(baseline) && Math.abs(baseline) < 10 ? baseline : 0,
  };
}

function mosaicOf(m: LibRawMetadata): string {
  if (m.is_foveon || m.filters === 0) return 'three colours at each place';
  if (m.filters < 1000) return 'six by six';
  const at = (row: number, column: number): string => 'RGBG'[(m.filters >>> ((((row << 1) & 14) + (column & 1)) << 1)) & 3]!;
  return `Bayer ${at(0, 0)}${at(0, 1)}${at(1, 0)}${at(1, 1)}`;
}

/** Black level of each place of the 2 × 2 cell: LibRaw's, or the DNG's BlackLevel (tags 50713, 50714). */
function blackOf(m: LibRawMetadata, directories: Map<number, number[]>[]): [number, number, number, number] {
  const common = m.color_data.black;
  const dng = m.dng_version > 0 ? directories.find((d) => d.get(262)?.[0] === 32803 && d.has(50714)) : undefined;
  if (!dng) return [common, common, common, common];
  const levels = dng.get(50714)!,
    repeat = dng.get(50713) ?? [1, 1];
  const at = (row: number, column: number): number => levels[(row % repeat[0]!) * repeat[1]! + (column % repeat[1]!)] ?? levels[0]!;
  return [at(0, 0), at(0, 1), at(1, 0), at(1, 1)];
}

/** What the raw picture's opcode lists 2 and 3 say of the lens (tags 51009, 51022). */
function fileLensOf(directories: Map<number, number[]>[], quarterTurns: number): FileLens | null {
  const raw = directories.find((d) => d.get(254)?.[0] === 0 && (d.has(51022) || d.has(51009)));
  if (!raw) return null;
  const [second, third] = [51009, 51022].map((tag) => readOpcodes(Uint8Array.from(raw.get(tag) ?? [])));
  return turnFileLens(
    {
      warp: third!.warp ?? second!.warp,
      vignetting: second!.vignetting ? { ...second!.vignetting, beforeWarp: true } : third!.vignetting,
      others: [...second!.others, ...third!.others],
    },
    quarterTurns,
  );
}

/** What the file says, checked. Throws Error in plain words when it cannot be used. */
export function describeRaw(m: LibRawMetadata, file: Uint8Array): RawFacts {
  if (!(m.width >= 16 && m.height >= 16 && m.width <= 30000 && m.height <= 30000))
    throw new Error(`the picture claims to be ${m.width} × ${m.height} pixels`);
  const directories = readDirectories(file),
    white = m.color_data.maximum,
    black = blackOf(m, directories);
  if (!black.every((b) => white > b)) throw new Error(`its white level (${white}) is not above its black level (${black.join(', ')})`);
  const quarter: Record<number, number> = { 0: 0, 3: 2, 5: 3, 6: 1 };
  const quarterTurns = quarter[m.flip] ?? 0;
  return {
    width: m.width,
    height: m.height,
    camera: `${m.camera_make} ${m.camera_model}`.trim(),
    make: m.camera_make.trim(),
    lens: m.lens.Lens,
    mosaic: mosaicOf(m),
    black,
    white,
    quarterTurns,
    profile: profileOf(m),
    fileLens: m.dng_version > 0 ? fileLensOf(directories, quarterTurns) : null,
    lightSource: directories.find((d) => d.has(37384))?.get(37384)?.[0] ?? 0,
    exif: {
      iso: m.iso_speed,
      shutterSeconds: m.shutter,
      aperture: m.aperture,
      focalMm: m.focal_len,
      takenAt: m.timestamp > 0 ? new Date(m.timestamp * 1000).toISOString() : null,
      focalMm35: m.lens.FocalLengthIn35mmFormat,
    },
  };
}
