import type { CameraProfile } from '@dyepot/core/src/colour/cameraProfile.ts';
import type { Frame } from '../src/types.ts';

/** A camera that sees linear Rec.2020 under daylight. */
export const trialProfile: CameraProfile = {
  colour: [{ kelvin: 6504, matrix: [1, 0, 0, 0, 1, 0, 0, 0, 1], forward: null, calibration: [1, 0, 0, 0, 1, 0, 0, 0, 1] }],
  analogBalance: [1, 1, 1],
  asShotNeutral: [0.95, 1, 1.08],
  baselineExposureEv: 0,
};
/** A frame of a size, as pages have it, without repairs. */
export const trialFrame = (width: number, height: number): Frame =>
  ({
    id: 7,
    width,
    height,
    hash: '1234567890abcdef',
    repairStamp: '',
    fileLens: null,
    noise: { gain: 1e-5, read: 0 },
    optics: { aperture: 4, pitchUm: 4 },
    profile: trialProfile,
  }) as unknown as Frame;
