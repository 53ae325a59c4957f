import { decodeSrgb } from '../colour/transfer.ts';
import { addHistograms, histogramOf, type Histogram } from './histogram.ts';

/** What can be read off a rendered picture besides its histogram. */
export type ReadoutKind = 'histogram' | 'waveform' | 'parade' | 'vectors' | 'hues';
export const waveWidth = 276,
  waveHeight = 128,
  vectorSide = 138,
  hueBins = 90;
/** OKLab a and b at the edge of the vectorscope. */
export const vectorReach = 0.32;
/** Where skins of all depths lie round OKLab's hue circle, degrees (common practice, measured on skin reflectances: 40–65). */
export const skinHue = 52;

/**
 * Counts over a rendered picture (8-bit sRGB RGBA). The histogram counts every pixel, the others a regular sample, which
 * `sampled` tells; of a picture for the moment less is counted. `wave` is luma (or red, green, blue one after the other) by column and level,
 * `vectors` OKLab a (right) and b (up), `hues` the chroma found at each hue.
 */
export interface Readouts {
  kind: ReadoutKind;
  histogram: Histogram;
  sampled: number;
  wave: Uint32Array | null;
  vectors: Uint32Array | null;
  hues: Float32Array | null;
}

/** How many pixels of a whole picture are counted at most, and of one for the moment. */
const most = {
  histogram: [Infinity, 100_000],
  scope: [300_000, 60_000],
  /** beside another readout */ hues: [48_000, 8_000],
} as const;

const linear = Float32Array.from({ length: 256 }, (_, i) => decodeSrgb(i / 255));

/** Cube roots of 0–1 over the square root, for counting; within 1e-4 above 0.0001. */
const roots = Float32Array.from({ length: 8194 }, (_, i) => Math.cbrt((Math.min(8192, i) / 8192) ** 2));
const quickRoot = (v: number): number => {
  const t = Math.sqrt(Math.min(1, v)) * 8192,
    i = t | 0;
  return roots[i]! + (roots[i + 1]! - roots[i]!) * (t - i);
};
/** OKLab of an 8-bit sRGB colour (Ottosson 2020, the published matrices for linear sRGB). */
export function oklabOf8(r: number, g: number, b: number, root: (v: number) => number = Math.cbrt): [number, number, number] {
  const R = linear[r]!,
    G = linear[g]!,
    B = linear[b]!;
  const l = root(0.4122214708 * R + 0.5363325363 * G + 0.0514459929 * B),
    m = root(0.2119034982 * R + 0.6806995451 * G + 0.1073969566 * B),
    s = root(0.0883024619 * R + 0.2817188376 * G + 0.6299787005 * B);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

/** Which pixels of rows `width` long make a sample of at most so many: each so many further on, by a step that shares no divisor with the row, so that no column is passed over. */
function strideFor(n: number, most: number, width: number): number {
  let stride = Math.max(1, Math.ceil(n / most));
  while (divisor(stride, width) > 1) stride++;
  return stride;
}
/** The greatest whole number that divides both (Euclid). */
const divisor = (a: number, b: number): number => (b === 0 ? a : divisor(b, a % b));
/** The chroma found at each hue, of one pixel in so many. */
function huesOf(rgba: Uint8Array, stride: number): Float32Array {
  const n = rgba.length / 4,
    hues = new Float32Array(hueBins);
  for (let i = 0; i < n; i += stride) {
    const [, a, b] = oklabOf8(rgba[i * 4]!, rgba[i * 4 + 1]!, rgba[i * 4 + 2]!, quickRoot),
      chroma = Math.hypot(a, b);
    if (chroma > 0.004) hues[Math.floor(((Math.atan2(b, a) / (2 * Math.PI) + 1) % 1) * hueBins) % hueBins]! += chroma;
  }
  return hues;
}

/**
 * Reads a picture of `width` pixels a row, or a rectangle of it (which may be empty). `passing`: it is one for the moment.
 * `of`: how many pixels are read in all, where this is a band of a picture; all bands are then counted as closely.
 */
export function readoutsOf(
  rgba: Uint8Array,
  width: number,
  kind: ReadoutKind,
  part: { x: number; y: number; width: number; height: number } | null = null,
  passing = false,
  of = part ? part.width * part.height : rgba.length / 4,
): Readouts {
  if (part) {
    const cut = new Uint8Array(part.width * part.height * 4);
    for (let j = 0; j < part.height; j++) {
      const from = ((part.y + j) * width + part.x) * 4;
      cut.set(rgba.subarray(from, from + part.width * 4), j * part.width * 4);
    }
    return readoutsOf(cut, part.width, kind, null, passing, of);
  }
  const n = rgba.length / 4,
    strideOf = (what: keyof typeof most): number => strideFor(of, most[what][passing ? 1 : 0], width),
    hueStride = strideOf(kind === 'hues' ? 'scope' : 'hues'),
    out: Readouts = {
      kind,
      histogram: histogramOf(rgba, strideOf('histogram')),
      sampled: 0,
      wave: null,
      vectors: null,
      hues: huesOf(rgba, hueStride),
    };
  if (kind === 'histogram') return out;
  if (kind === 'hues') {
    out.sampled = Math.ceil(n / hueStride);
    return out;
  }
  const stride = strideOf('scope');
  if (kind === 'waveform' || kind === 'parade') out.wave = new Uint32Array(waveWidth * waveHeight * (kind === 'parade' ? 3 : 1));
  else out.vectors = new Uint32Array(vectorSide * vectorSide);
  for (let i = 0; i < n; i += stride) {
    const r = rgba[i * 4]!,
      g = rgba[i * 4 + 1]!,
      b = rgba[i * 4 + 2]!;
    out.sampled++;
    if (out.wave) {
      const column = Math.floor(((i % width) * waveWidth) / width);
      if (kind === 'waveform') out.wave[((r * 13933 + g * 46871 + b * 4732) >> 17) * waveWidth + column]!++;
      else for (let c = 0; c < 3; c++) out.wave[(c * waveHeight + (rgba[i * 4 + c]! >> 1)) * waveWidth + column]!++;
      continue;
    }
    const [, a, y] = oklabOf8(r, g, b, quickRoot);
    const u = Math.round((0.5 + a / (2 * vectorReach)) * (vectorSide - 1)),
      v = Math.round((0.5 - y / (2 * vectorReach)) * (vectorSide - 1));
    if (u >= 0 && v >= 0 && u < vectorSide && v < vectorSide) out.vectors![v * vectorSide + u]!++;
  }
  return out;
}

/** The zone of a finished picture's luminance, 0–10: ten of CIE 1976 L* apart, so that middle grey (18 %) lies in V and paper white in X (common practice). */
export const zoneOf = (luminance: number): number => {
  const l = luminance > 216 / 24389 ? 116 * Math.cbrt(luminance) - 16 : (luminance * 24389) / 27;
  return Math.min(10, Math.max(0, l / 10));
};
/** Readouts of two parts of a picture as one. Both of the same kind. */
export function addReadouts(a: Readouts, b: Readouts): Readouts {
  const sum = <T extends Uint32Array | Float32Array>(x: T | null, y: T | null): T | null =>
    x && y ? (x.map((v: number, i: number) => v + y[i]!) as T) : null;
  return {
    kind: a.kind,
    histogram: addHistograms(a.histogram, b.histogram),
    sampled: a.sampled + b.sampled,
    wave: sum(a.wave, b.wave),
    vectors: sum(a.vectors, b.vectors),
    hues: sum(a.hues, b.hues),
  };
}

export interface PointReading {
  rgb: [number, number, number];
  linear: [number, number, number];
  lightness: number;
  chroma: number;
  hueDegrees: number;
  zone: number;
}
/** One pixel read: 0–255, display-linear, OKLCh, and the zone number 0–10. */
export function pointReading(r: number, g: number, b: number): PointReading {
  const [L, a, y] = oklabOf8(r, g, b),
    lin: [number, number, number] = [linear[r]!, linear[g]!, linear[b]!],
    luminance = 0.2126 * lin[0] + 0.7152 * lin[1] + 0.0722 * lin[2];
  return {
    rgb: [r, g, b],
    linear: lin,
    lightness: L,
    chroma: Math.hypot(a, y),
    hueDegrees: ((Math.atan2(y, a) * 180) / Math.PI + 360) % 360,
    zone: zoneOf(luminance),
  };
}
