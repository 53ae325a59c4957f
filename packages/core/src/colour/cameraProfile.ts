import { apply3, chain3, diagonal3, invert3, type Matrix3, type Vector3 } from './matrix.ts';
import { adapt, d50, d65, xyToXyz, xyzToRec2020, xyzToXy } from './spaces.ts';
import { temperatureOf } from './temperature.ts';

/** What a raw file says of its sensor's colour (DNG 1.7 chapter 6). Matrices go from XYZ to camera RGB. */
export interface CameraProfile {
  colour: { kelvin: number; matrix: Matrix3; forward: Matrix3 | null; calibration: Matrix3 }[];
  analogBalance: Vector3;
  /** camera RGB of a neutral in the scene's light, largest about 1 */
  asShotNeutral: Vector3;
  baselineExposureEv: number;
}

/** Kelvin of the light-source codes that colour matrices are given for (Exif 2.32 LightSource). */
export const lightSourceKelvin: Record<number, number> = {
  1: 5500,
  2: 4230,
  3: 2856,
  4: 5500,
  9: 5500,
  10: 6500,
  11: 7500,
  12: 6430,
  13: 5000,
  14: 4230,
  15: 3450,
  17: 2856,
  18: 4874,
  19: 6774,
  20: 5503,
  21: 6504,
  22: 7504,
  23: 5003,
  24: 3200,
};

function between(profile: CameraProfile, kelvin: number): { matrix: Matrix3; forward: Matrix3 | null; calibration: Matrix3 } {
  const [first, second] = [...profile.colour].sort((a, b) => a.kelvin - b.kelvin);
  if (!first) throw new RangeError('the file has no colour matrix');
  if (!second) return first;
  // inverse temperature is interpolated (DNG 1.7, "Camera to XYZ")
  const t = Math.min(1, Math.max(0, (1 / kelvin - 1 / first.kelvin) / (1 / second.kelvin - 1 / first.kelvin)));
  const mix = (a: Matrix3, b: Matrix3): Matrix3 => a.map((v, i) => v + (b[i]! - v) * t) as unknown as Matrix3;
  return {
    matrix: mix(first.matrix, second.matrix),
    calibration: mix(first.calibration, second.calibration),
    forward: first.forward && second.forward ? mix(first.forward, second.forward) : (first.forward ?? second.forward),
  };
}

/** The chromaticity of the light that makes a camera colour neutral: fixed-point search of DNG 1.7 chapter 6. */
export function neutralToXy(profile: CameraProfile, neutral: Vector3): [number, number] {
  let xy: [number, number] = [d50[0], d50[1]];
  for (let i = 0; i < 30; i++) {
    const { matrix, calibration } = between(profile, temperatureOf(xy).kelvin);
    const next = xyzToXy(apply3(invert3(chain3(diagonal3(profile.analogBalance), calibration, matrix)), neutral));
    const moved = Math.abs(next[0] - xy[0]) + Math.abs(next[1] - xy[1]);
    xy = i > 20 ? [(xy[0] + next[0]) / 2, (xy[1] + next[1]) / 2] : next;
    if (moved < 1e-7) break;
  }
  return xy;
}

/** The camera colour of a neutral under a light's chromaticity (DNG 1.7, "Translating White Balance xy Coordinates to Camera Neutral Coordinates"). */
export function xyToNeutral(profile: CameraProfile, xy: readonly [number, number]): Vector3 {
  const { matrix, calibration } = between(profile, temperatureOf(xy).kelvin);
  return apply3(chain3(diagonal3(profile.analogBalance), calibration, matrix), xyToXyz(xy));
}

/**
 * Camera RGB already divided by the neutral → linear Rec.2020 (D65), by the DNG rules; adaptation by Bradford.
 * A balanced neutral of 1 becomes Rec.2020 1, 1, 1.
 */
export function balancedCameraToRec2020(profile: CameraProfile, neutral: Vector3): Matrix3 {
  const xy = neutralToXy(profile, neutral);
  const { matrix, forward, calibration } = between(profile, temperatureOf(xy).kelvin);
  const reference = chain3(diagonal3(profile.analogBalance), calibration);
  const toD50 = adapt(xyToXyz(d50), xyToXyz(d65));
  if (forward) {
    const neutralReference = apply3(invert3(reference), neutral);
    const toXyzD50 = chain3(
      forward,
      diagonal3([1 / neutralReference[0], 1 / neutralReference[1], 1 / neutralReference[2]]),
      invert3(reference),
    );
    return chain3(xyzToRec2020, toD50, toXyzD50, diagonal3(neutral));
  }
  const toXyz = chain3(invert3(chain3(reference, matrix)), diagonal3(neutral));
  const white = apply3(toXyz, [1, 1, 1]);
  const scaled = toXyz.map((v) => v / white[1]) as unknown as Matrix3;
  return chain3(xyzToRec2020, adapt([white[0] / white[1], 1, white[2] / white[1]], xyToXyz(d65)), scaled);
}
