import type { NoiseModel } from '../plate/noiseModel.ts';
import type { RawFacts, RawPixels } from '../plate/mosaic.ts';

export type { NoiseModel };

/** What a camera of this sensitivity usually has, where a frame cannot tell: 60 000 electrons at ISO 100 (common practice for a large sensor). */
export function usualNoise(iso: number): NoiseModel {
  const well = (60000 * 100) / Math.max(50, iso || 100),
    read = 2.2 + 300 / Math.max(50, iso || 100);
  return { slope: 1 / well, floor: (read / well) ** 2 };
}

const median = (values: Float64Array): number => values.sort()[values.length >> 1]!;

/**
 * The noise of a frame, from its own mosaic: blocks of one colour are sorted by brightness; in each class the quieter
 * fifth of the blocks (by the median of second differences along rows, which slopes do not disturb) stands for flat
 * places, and a line is laid through variance over light (photon transfer). Falls back on the usual for the sensitivity.
 */
export function estimateNoise(raw: RawPixels, facts: RawFacts): NoiseModel {
  const usual = usualNoise(facts.exif.iso);
  if (raw.colours !== 1 || raw.width < 256 || raw.height < 256) return usual;
  const block = 24,
    found: { light: number; variance: number }[] = [],
    d = new Float64Array((block / 2 - 2) * (block / 2));
  const stepX = Math.max(block, Math.floor(raw.width / 60 / 2) * 2),
    stepY = Math.max(block, Math.floor(raw.height / 44 / 2) * 2);
  for (let y = 0; y + block <= raw.height; y += stepY)
    for (let x = 0; x + block <= raw.width; x += stepX)
      for (let c = 0; c < 4; c++) {
        if (raw.cell[c] !== 1) continue;
        const range = facts.white - facts.black[c]!,
          ox = x + (c & 1),
          oy = y + (c >> 1);
        let sum = 0,
          n = 0,
          clipped = false;
        for (let j = 0; j < block / 2; j++)
          for (let i = 1; i < block / 2 - 1; i++) {
            const at = (oy + j * 2) * raw.width + ox + i * 2,
              v = raw.data[at]!;
            if (v >= facts.white * 0.97) clipped = true;
            sum += v;
            d[n++] = Math.abs(raw.data[at - 2]! - 2 * v + raw.data[at + 2]!);
          }
        if (clipped) continue;
        // σ of a normal from the median of |second differences|, whose variance is 6σ²
        const sigma = median(d) / 0.6745 / Math.sqrt(6) / range;
        found.push({ light: Math.max(0, (sum / n - facts.black[c]!) / range), variance: sigma * sigma });
      }
  found.sort((a, b) => a.light - b.light);
  let sw = 0,
    sx = 0,
    sy = 0,
    sxx = 0,
    sxy = 0;
  const classes = 24,
    each = Math.floor(found.length / classes);
  if (each < 12) return usual;
  for (let k = 0; k < classes; k++) {
    const group = found
        .slice(k * each, (k + 1) * each)
        .sort((a, b) => a.variance - b.variance)
        .slice(0, Math.max(4, each / 5)),
      light = group.reduce((s, g) => s + g.light, 0) / group.length,
      variance = (group.reduce((s, g) => s + g.variance, 0) / group.length) * 1.12;
    const w = 1 / (variance + 1e-12) ** 2;
    sw += w;
    sx += w * light;
    sy += w * variance;
    sxx += w * light * light;
    sxy += w * light * variance;
  }
  const slope = (sw * sxy - sx * sy) / Math.max(1e-30, sw * sxx - sx * sx),
    floor = (sy - slope * sx) / sw;
  if (!(slope > usual.slope / 8 && slope < usual.slope * 8)) return usual;
  return { slope, floor: Math.max(floor, usual.floor / 50) };
}
