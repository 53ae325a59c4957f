import { bands } from './spectrum.ts';

/** What the tracer gathers for each pixel; `glow` is light scattered by air, kept apart from surfaces. */
export interface Film {
  width: number;
  height: number;
  surface: Float32Array;
  glow: Float32Array;
  albedo: Float32Array;
  /** normal x, y, z and distance of the first surface */
  guide: Float32Array;
  /** mean and mean square of the surface light's sum over bands */
  moments: Float32Array;
}

export function emptyFilm(width: number, height: number): Film {
  const n = width * height;
  return {
    width,
    height,
    surface: new Float32Array(n * bands),
    glow: new Float32Array(n * bands),
    albedo: new Float32Array(n * bands),
    guide: new Float32Array(n * 4),
    moments: new Float32Array(n * 2),
  };
}

/**
 * Smooths the noise of few samples by an edge-avoiding à-trous wavelet guided by normal, distance and the light's own
 * variance (Dammertz et al. 2010; Schied et al. 2017), on light divided by reflectance so that texture stays.
 * @returns light in sixteen bands per pixel
 */
export function develop(film: Film, samples: number, levels = 4): Float32Array {
  const { width, height, surface, glow, albedo, guide, moments } = film;
  const n = width * height;
  let light = new Float32Array(n * bands),
    next = new Float32Array(n * bands);
  let variance = new Float32Array(n),
    nextVariance = new Float32Array(n);
  const brightness = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    let mean = 0,
      albedoSum = 0;
    for (let b = 0; b < bands; b++) {
      light[i * bands + b] = surface[i * bands + b]! / (albedo[i * bands + b]! + 0.003);
      mean += light[i * bands + b]!;
      albedoSum += albedo[i * bands + b]! + 0.003;
    }
    brightness[i] = mean;
    const scale = bands / albedoSum;
    variance[i] = (Math.max(0, moments[i * 2 + 1]! - moments[i * 2]! ** 2) / samples) * scale * scale;
  }
  const kernel = [0.375, 0.25, 0.0625];
  for (let level = 0; level < levels; level++) {
    const step = 1 << level;
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const i = y * width + x;
        let v = 0,
          vw = 0;
        for (let j = -1; j <= 1; j++)
          for (let k = -1; k <= 1; k++) {
            const yy = y + j,
              xx = x + k;
            if (yy < 0 || xx < 0 || yy >= height || xx >= width) continue;
            v += variance[yy * width + xx]!;
            vw++;
          }
        const tolerance = 3 * Math.sqrt(v / vw) + 1e-4 + 0.01 * brightness[i]!;
        let total = 0,
          totalVariance = 0;
        const o = i * bands;
        for (let b = 0; b < bands; b++) next[o + b] = 0;
        for (let j = -2; j <= 2; j++) {
          const yy = y + j * step;
          if (yy < 0 || yy >= height) continue;
          for (let k = -2; k <= 2; k++) {
            const xx = x + k * step;
            if (xx < 0 || xx >= width) continue;
            const q = yy * width + xx;
            let w = kernel[Math.abs(j)]! * kernel[Math.abs(k)]!;
            if (q !== i) {
              const cosine = guide[i * 4]! * guide[q * 4]! + guide[i * 4 + 1]! * guide[q * 4 + 1]! + guide[i * 4 + 2]! * guide[q * 4 + 2]!;
              const far = Math.abs(guide[i * 4 + 3]! - guide[q * 4 + 3]!) / (0.02 * guide[i * 4 + 3]! * Math.hypot(j, k) * step + 1e-6);
              w *= Math.max(0, cosine) ** 24 * Math.exp(-far * 0.25 - Math.abs(brightness[i]! - brightness[q]!) / tolerance);
              if (w < 1e-4) continue;
            }
            total += w;
            totalVariance += w * w * variance[q]!;
            const p = q * bands;
            for (let b = 0; b < bands; b++) next[o + b]! += w * light[p + b]!;
          }
        }
        for (let b = 0; b < bands; b++) next[o + b]! /= total;
        nextVariance[i] = totalVariance / (total * total);
      }
    }
    [light, next] = [next, light];
    [variance, nextVariance] = [nextVariance, variance];
    for (let i = 0; i < n; i++) {
      let mean = 0;
      for (let b = 0; b < bands; b++) mean += light[i * bands + b]!;
      brightness[i] = mean;
    }
  }
  for (let i = 0; i < n * bands; i++) light[i] = light[i]! * (albedo[i]! + 0.003) + glow[i]!;
  return light;
}
