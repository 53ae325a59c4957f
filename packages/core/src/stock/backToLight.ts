import type { CameraProfile } from '../colour/cameraProfile.ts';
import { identity3 } from '../colour/matrix.ts';
import { responseOf } from '../colour/response.ts';
import { xyzToRec2020 } from '../colour/spaces.ts';
import type { PictureSpace } from '../formats/readIcc.ts';
import type { RawPixels } from '../plate/mosaic.ts';
import { renditions } from './neutral.ts';

const { hueGuard, ...plain } = renditions.plain.params,
  guard = hueGuard / 100,
  /** light that the plain response makes white */
  white = 0.18 * 2 ** plain.whiteEv;
/** Where white stands in the plate: below where a sensor's channels count as clipped, so that nothing is rebuilt that a picture shows. */
const whiteAt = 0.9;

/** A finished picture's “camera”: linear Rec.2020, with white where the plain response has it. */
export const finishedProfile: CameraProfile = {
  colour: [{ kelvin: 6504, matrix: xyzToRec2020, forward: null, calibration: identity3 }],
  analogBalance: [1, 1, 1],
  asShotNeutral: [1, 1, 1],
  baselineExposureEv: Math.log2(white / whiteAt),
};
/** The largest value of the pixels that `backToLight` gives. */
export const finishedWhite = 65535;

const intervals = 4096;
/** Light over the square root of display light: the plain response run backwards, by bisection. */
function lightTable(): Float64Array {
  const shown = responseOf(plain);
  return Float64Array.from({ length: intervals + 2 }, (_, i) => {
    const wanted = Math.min(1, (i / intervals) ** 2);
    let low = 0,
      high = white;
    for (let k = 0; k < 60; k++) {
      const middle = (low + high) / 2;
      if (shown(middle) < wanted) low = middle;
      else high = middle;
    }
    return high;
  });
}

/**
 * A finished picture taken back to light: its space undone, then the plain response run backwards, hue guard and all, so that
 * under the plain look it is itself again.
 * @param rgb interleaved, 8 or 16 bits
 * @returns interleaved linear Rec.2020, of which 0.9 · 65535 is the light that the plain response makes white
 */
export function backToLight(
  rgb: Uint8Array | Uint16Array,
  width: number,
  height: number,
  { toRec2020: m, decode }: PictureSpace,
): RawPixels {
  const n = width * height,
    data = new Uint16Array(n * 3),
    most = rgb.BYTES_PER_ELEMENT === 1 ? 255 : 65535,
    linear = decode.map((f) => Float64Array.from({ length: most + 1 }, (_, v) => f(v / most))),
    table = lightTable(),
    light = (shown: number): number => {
      const at = Math.sqrt(Math.min(1, shown)) * intervals,
        cell = Math.floor(at);
      return table[cell]! + (table[cell + 1]! - table[cell]!) * (at - cell);
    },
    scale = (whiteAt * finishedWhite) / white,
    [red, green, blue] = linear as [Float64Array, Float64Array, Float64Array];
  for (let i = 0; i < n * 3; i += 3) {
    const x = red[rgb[i]!]!,
      y = green[rgb[i + 1]!]!,
      z = blue[rgb[i + 2]!]!;
    const r = Math.max(0, m[0] * x + m[1] * y + m[2] * z),
      g = Math.max(0, m[3] * x + m[4] * y + m[5] * z),
      b = Math.max(0, m[6] * x + m[7] * y + m[8] * z);
    const low = Math.min(r, g, b),
      high = Math.max(r, g, b),
      lowLight = light(low),
      highLight = light(high),
      middle = middleLight(light, low, high, r + g + b - low - high, lowLight, highLight);
    const lightOf = (v: number): number => (v === low ? lowLight : v === high ? highLight : middle);
    data[i] = lightOf(r) * scale + 0.5;
    data[i + 1] = lightOf(g) * scale + 0.5;
    data[i + 2] = lightOf(b) * scale + 0.5;
  }
  return { width, height, data, colours: 3, cell: [0, 1, 1, 2] };
}

/**
 * The middle channel's light: what the guard of the response made of it is undone by false position (Illinois). The guard mixes what the curve
 * makes of a light with where that light stands between the outer two.
 */
function middleLight(
  light: (shown: number) => number,
  low: number,
  high: number,
  wanted: number,
  lowLight: number,
  highLight: number,
): number {
  const span = highLight - lowLight;
  if (span < 1e-9 || high - low < 1e-9) return light(wanted);
  const k = (high - low) / span,
    guarded = (u: number): number => (1 - guard) * u + guard * (low + (light(u) - lowLight) * k) - wanted;
  let a = low,
    b = high,
    fa = low - wanted,
    fb = high - wanted,
    u = wanted;
  for (let i = 0; i < 6 && fb - fa > 1e-9; i++) {
    u = (a * fb - b * fa) / (fb - fa);
    const f = guarded(u);
    if (Math.abs(f) < 1e-6) break;
    if (f > 0) {
      b = u;
      fb = f;
      fa /= 2;
    } else {
      a = u;
      fa = f;
      fb /= 2;
    }
  }
  return light(u);
}
