/** A lens as the Lensfun database (version 1) describes it, at the focal length and aperture of one frame. */
export interface LensProfile {
  /** maker and model, and the file it was read from */
  name: string;
  source: string;
  distortion: { model: 'ptlens' | 'poly3' | 'poly5'; terms: readonly number[] } | null;
  /** lateral chromatic aberration of red and blue against green */
  aberration: { model: 'linear' | 'poly3'; red: readonly number[]; blue: readonly number[] } | null;
  /** k1, k2, k3 of light falling off */
  vignetting: readonly number[] | null;
  /** length of r = 1 in half diagonals of the frame: for distortion and aberration, and for vignetting */
  distortionUnit: number;
  vignettingUnit: number;
}
