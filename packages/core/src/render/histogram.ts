/** Counts of an 8-bit rendering: 256 each for red, green, blue and luma (BT.709), and the share clipped at each end. */
export interface Histogram {
  red: Uint32Array;
  green: Uint32Array;
  blue: Uint32Array;
  luma: Uint32Array;
  pixels: number;
}

/** Counts RGBA pixels: all, or one in so many. */
export function histogramOf(rgba: Uint8Array, stride = 1): Histogram {
  const h: Histogram = {
    red: new Uint32Array(256),
    green: new Uint32Array(256),
    blue: new Uint32Array(256),
    luma: new Uint32Array(256),
    pixels: Math.ceil(rgba.length / 4 / stride),
  };
  for (let i = 0; i < rgba.length; i += 4 * stride) {
    const r = rgba[i]!,
      g = rgba[i + 1]!,
      b = rgba[i + 2]!;
    h.red[r]!++;
    h.green[g]!++;
    h.blue[b]!++;
    h.luma[(r * 13933 + g * 46871 + b * 4732) >> 16]!++;
  }
  return h;
}

/** Adds one histogram to another, both left as they are. */
export function addHistograms(a: Histogram, b: Histogram): Histogram {
  const sum = (x: Uint32Array, y: Uint32Array): Uint32Array => x.map((v, i) => v + y[i]!);
  return {
    red: sum(a.red, b.red),
    green: sum(a.green, b.green),
    blue: sum(a.blue, b.blue),
    luma: sum(a.luma, b.luma),
    pixels: a.pixels + b.pixels,
  };
}

/** Share of pixels with at least one channel at the end, roughly: the largest of the three channels' shares, 0–1. */
export function clippedShare(h: Histogram, end: 'black' | 'white'): number {
  const i = end === 'black' ? 0 : 255;
  return Math.max(h.red[i]!, h.green[i]!, h.blue[i]!) / Math.max(1, h.pixels);
}
