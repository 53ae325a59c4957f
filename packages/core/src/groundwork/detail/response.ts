import type { Detail } from './detail.ts';
import { lumaDeviation } from './noiseSpectrum.ts';
import { returned, transfer, type Optics } from './optics.ts';
import { thresholds } from './quiet.ts';

/** The response at a size: a raised cosine over log size, from the crest down to a foot on either side. */
export function responseAt({ gain, sizePx, coarsePx, finePx }: Detail['sharpness'], size: number): number {
  const from = Math.log2(size / sizePx),
    foot = from > 0 ? Math.log2(Math.max(coarsePx / sizePx, 1.01)) : Math.log2(Math.max(sizePx / finePx, 1.01));
  const t = Math.min(1, Math.abs(from) / foot);
  return gain * (0.5 + 0.5 * Math.cos(Math.PI * t));
}
/** The share of the response at a contrast, in deviations of noise: nothing under `faint`, all from two and a half times it, `kept` beyond `strong`. */
export function shareAt({ faint, strong, kept }: Detail['sharpness'], contrast: number): number {
  const rise = (at: number): number => Math.min(1, Math.max(0, 0.5 + Math.log2(contrast / at) / 1.3));
  return rise(faint) * (1 - (1 - kept) * rise(Math.max(strong, 2 * faint)));
}
/** Held by this many deviations, a coefficient no larger than noise is neither returned nor raised; tuned on the camera's scenes. */
const heldBy = 4;

const each = (of: (v: number, u: number) => number): number[] => Array.from({ length: 64 }, (_, i) => of(i >> 3, i & 7));
/** Cycles per pixel of the full picture of a coefficient at a plate level. */
const frequency = (v: number, u: number, level: number): number => Math.hypot(u, v) / 16 / 2 ** level;

/** The numbers of the kernel that shapes luma (`kernels/shape.ts`). `brightest`: luma of full light, made even in noise. */
export function shapeNumbers(d: Detail, optics: Optics, level: number, brightest: number): number[] {
  const { noise, softness, sharpness } = d,
    known: Optics = { aperture: softness.aperture ?? optics.aperture, pitchUm: softness.pitchUm ?? optics.pitchUm };
  const t2 = thresholds((v, u) => lumaDeviation(level, v, u), noise.luma, level, Math.max(1, 2 ** level)),
    // the contrast of a diagonal is that of its own frequency
    back = each((v, u) => softness.share * (returned(transfer(frequency(v, u, level), known, softness.filterPx)) - 1)),
    gain = each((v, u) => (u + v === 0 ? 0 : responseAt(sharpness, 1 / frequency(v, u, level)))),
    held = each((v, u) => (heldBy * lumaDeviation(level, v, u)) ** 2 + 1e-12);
  const bright = Array.from({ length: 33 }, (_, i) => (noise.darks + ((noise.lights - noise.darks) * i) / 32) ** 2),
    contrast = Array.from({ length: 97 }, (_, i) => shareAt(sharpness, 2 ** ((Math.floor(i / 4) - 4) / 2) * Math.sqrt(1 + (i & 3) / 4)));
  return [...t2, ...back, ...gain, ...held, ...bright, 32 / brightest, ...contrast];
}
