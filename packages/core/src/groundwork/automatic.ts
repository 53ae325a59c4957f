import { luminanceOf } from '../colour/luminance.ts';
import { apply3, type Matrix3, type Vector3 } from '../colour/matrix.ts';
import { plateOffset, plateScale, type Plate } from '../plate/plate.ts';

/** Bins of the scene-light histogram: a tenth of an EV from −9 to +7 about middle grey. */
export const evBins = 160,
  evFrom = -9,
  evTo = 7;
/** What auto exposure brings the middle tones to: middle grey. */
export const exposureTarget = 0.18;

/** How the light of a small plate is spread under its scene numbers: luminance in EV about middle grey, and the greatest channel's. */
export interface LightSpread {
  luminance: Float32Array;
  top: Float32Array;
  pixels: number;
}
export function lightSpread(plate: Plate, scene: readonly number[]): LightSpread {
  const n = plate.width * plate.height,
    matrix = scene.slice(5, 14) as unknown as Matrix3,
    out: LightSpread = { luminance: new Float32Array(evBins), top: new Float32Array(evBins), pixels: n };
  const bin = (v: number): number =>
    Math.min(evBins - 1, Math.max(0, Math.floor(((Math.log2(Math.max(v, 1e-6) / 0.18) - evFrom) / (evTo - evFrom)) * evBins)));
  for (let i = 0; i < n; i++) {
    const rgb = apply3(
      matrix,
      [0, 1, 2].map((c) => ((plate.data[c * n + i]! - plateOffset) / plateScale) * scene[2 + c]!) as unknown as Vector3,
    );
    out.luminance[bin(luminanceOf(...rgb))]!++;
    out.top[bin(Math.max(...rgb))]!++;
  }
  return out;
}

/** The EV below which a share of the counts lies. */
export function evAtShare(counts: Float32Array, share: number): number {
  const total = counts.reduce((a, b) => a + b, 0);
  let sum = 0;
  for (let i = 0; i < evBins; i++) {
    if (sum + counts[i]! >= total * share)
      return evFrom + ((i + (counts[i]! > 0 ? (total * share - sum) / counts[i]! : 0)) * (evTo - evFrom)) / evBins;
    sum += counts[i]!;
  }
  return evTo;
}

/** The change of exposure that brings the mean of the middle half of the tones (in EV) to middle grey; within ±5 EV in all. */
export function autoExposure(spread: LightSpread): number {
  const low = evAtShare(spread.luminance, 0.25),
    high = evAtShare(spread.luminance, 0.75);
  let sum = 0,
    count = 0;
  spread.luminance.forEach((v, i) => {
    const ev = evFrom + ((i + 0.5) * (evTo - evFrom)) / evBins;
    if (ev >= low && ev <= high) {
      sum += v * ev;
      count += v;
    }
  });
  return count > 0 ? Math.max(-5, Math.min(5, -sum / count)) : 0;
}

/** Ends where the histogram just starts to rise: black under the darkest thousandth, white at the brightest thousandth. */
export function fittedEnds(spread: LightSpread): { black: number; whiteEv: number } {
  return {
    black: Math.min(0.05, Math.max(0, 0.18 * 2 ** evAtShare(spread.luminance, 0.001) * 0.9)),
    whiteEv: Math.min(7, Math.max(1, evAtShare(spread.top, 0.999))),
  };
}
