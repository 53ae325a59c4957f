import { lightBins, type Likeness } from './likeness.ts';

/** Exposures told apart, in EV: from −`reach` to `reach`. */
export const exposures = { reach: 4, step: 0.05, count: 161 } as const;
/** How widely a histogram is smeared before it is compared, in EV. */
const smear = 0.2;
const perBin = lightBins.step / exposures.step;

/**
 * How alike two pictures' light is when the first is given so many EV, for every exposure told apart (0–1). Cells of colour are compared
 * one by one, each by how much of it both have, with Bhattacharyya's coefficient of their histograms of log luminance (Bhattacharyya
 * 1943; overlap of colour histograms: Swain and Ballard 1991). A sky in one of the two, or a subject that has gone, is in cells the
 * other lacks and says little.
 */
export function overlaps(frame: Likeness, anchor: Likeness): Float64Array {
  const most = exposures.reach / lightBins.step,
    score = new Float64Array(2 * most + 1);
  for (const [cell, there] of anchor.spread) {
    const own = frame.spread.get(cell);
    if (!own) continue;
    const a = smeared(there).map(Math.sqrt),
      b = smeared(own).map(Math.sqrt);
    for (let by = -most; by <= most; by++) {
      let sum = 0;
      for (let l = Math.max(0, by); l < Math.min(lightBins.count, lightBins.count + by); l++) sum += a[l]! * b[l - by]!;
      score[by + most]! += sum;
    }
  }
  return Float64Array.from({ length: exposures.count }, (_, i) => {
    const at = i / perBin,
      low = Math.floor(at),
      next = score[Math.min(score.length - 1, low + 1)]!;
    return score[low]! + (at - low) * (next - score[low]!);
  });
}
/** Smeared by a Gaussian. */
function smeared(h: Float32Array): Float32Array {
  const deviation = smear / lightBins.step,
    far = Math.ceil(3 * deviation),
    weights = Float32Array.from({ length: 2 * far + 1 }, (_, i) => Math.exp(-((i - far) ** 2) / (2 * deviation * deviation))),
    sum = weights.reduce((a, w) => a + w, 0),
    out = new Float32Array(h.length);
  for (let l = 0; l < h.length; l++)
    if (h[l]! > 0) for (let k = -far; k <= far; k++) if (l + k >= 0 && l + k < h.length) out[l + k]! += (h[l]! * weights[k + far]!) / sum;
  return out;
}
