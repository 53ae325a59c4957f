import type { FileLens } from './fileLens.ts';
import type { NoiseModel } from './noiseModel.ts';
import type { CameraProfile } from '../colour/cameraProfile.ts';

/** What a raw file says about the picture besides its pixels. */
export interface RawFacts {
  width: number;
  height: number;
  camera: string;
  lens: string;
  /** who made the camera: what its name begins with */
  make?: string;
  /** `Bayer RGGB` and so on, or the name of another kind */
  mosaic: string;
  /** what kind of finished picture it is where it is no raw; its light is the plain response run backwards */
  finished?: string;
  black: readonly [number, number, number, number];
  white: number;
  /** quarter turns clockwise needed to see the picture upright: 0–3 */
  quarterTurns: number;
  profile: CameraProfile;
  /** why the picture may not be whole, in words; left out where nothing speaks against it */
  doubt?: string;
  /** of this frame, where it was measured */
  noise?: NoiseModel;
  /** what the file says of its lens, turned upright; and its Exif LightSource, 0 when unknown */
  fileLens?: FileLens | null;
  lightSource?: number;
  exif: { iso: number; shutterSeconds: number; aperture: number; focalMm: number; takenAt: string | null; focalMm35?: number };
}

/** An undemosaiced Bayer picture, cropped to its visible area; or, when `colours` is 3, interleaved linear camera RGB. */
export interface RawPixels {
  width: number;
  height: number;
  data: Uint16Array;
  colours: 1 | 3;
  /** colour of each place of the 2 × 2 cell from its top left: 0 red, 1 green, 2 blue */
  cell: readonly [number, number, number, number];
}
