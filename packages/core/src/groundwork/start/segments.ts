/** A straight line in a picture, in its pixels, and how surely it is none by chance: −log₁₀ of the expected number of false alarms. */
export interface Segment {
  from: readonly [number, number];
  to: readonly [number, number];
  sure: number;
}

/** Directions that go together, and the least share of a line's rectangle that goes its way (the paper's values). */
const tolerance = (22.5 * Math.PI) / 180,
  density = 0.7,
  /** the greatest error of a grey (of 255) that rounding to whole numbers makes */
  quantum = 2,
  scale = 0.8,
  /** widths and ways of a rectangle that are tried (the paper's 11) */
  tries = 11;

interface Slopes {
  width: number;
  height: number;
  /** the direction of the line through a pixel, in radians; NaN where there is none */
  angle: Float32Array;
  steep: Float32Array;
}

/** Smaller by 0.8, after a Gaussian of 0.6 / 0.8. */
function shrink(grey: Float32Array, width: number, height: number): { grey: Float32Array; width: number; height: number } {
  const w = Math.floor(width * scale),
    h = Math.floor(height * scale),
    sigma = 0.6 / scale,
    reach = Math.ceil(sigma * 3);
  const along = (from: Float32Array, length: number, lines: number, step: number, across: number, count: number): Float32Array => {
    const out = new Float32Array(count * lines);
    for (let i = 0; i < count; i++) {
      const middle = (i + 0.5) / scale - 0.5,
        first = Math.round(middle) - reach,
        weights = Array.from({ length: 2 * reach + 1 }, (_, k) => Math.exp(-((first + k - middle) ** 2) / (2 * sigma * sigma))),
        sum = weights.reduce((a, b) => a + b, 0);
      for (let line = 0; line < lines; line++) {
        let v = 0;
        for (let k = 0; k < weights.length; k++)
          v += weights[k]! * from[Math.min(length - 1, Math.max(0, first + k)) * step + line * across]!;
        out[line * count + i] = v / sum;
      }
    }
    return out;
  };
  const rows = along(grey, width, height, 1, width, w),
    columns = along(rows, height, w, w, 1, h),
    out = new Float32Array(w * h);
  for (let x = 0; x < w; x++) for (let y = 0; y < h; y++) out[y * w + x] = columns[x * h + y]!;
  return { grey: out, width: w, height: h };
}
function slopesOf(grey: Float32Array, width: number, height: number): Slopes {
  const angle = new Float32Array(width * height).fill(Number.NaN),
    steep = new Float32Array(width * height),
    least = quantum / Math.sin(tolerance);
  for (let y = 0; y < height - 1; y++)
    for (let x = 0; x < width - 1; x++) {
      const i = y * width + x,
        across = grey[i + width + 1]! - grey[i]!,
        counter = grey[i + 1]! - grey[i + width]!,
        gx = (across + counter) / 2,
        gy = (across - counter) / 2,
        norm = Math.hypot(gx, gy);
      steep[i] = norm;
      if (norm > least) angle[i] = Math.atan2(gx, -gy);
    }
  return { width, height, angle, steep };
}
const apart = (a: number, b: number): number => {
  let d = Math.abs(a - b);
  while (d > Math.PI) d = Math.abs(d - 2 * Math.PI);
  return d;
};

/** A region of pixels of one direction, grown from a seed. */
function grow(s: Slopes, seed: number, used: Uint8Array, within: number): { pixels: number[]; angle: number } {
  const pixels = [seed];
  let angle = s.angle[seed]!,
    dx = Math.cos(angle),
    dy = Math.sin(angle);
  used[seed] = 1;
  for (let k = 0; k < pixels.length; k++) {
    const x = pixels[k]! % s.width,
      y = Math.floor(pixels[k]! / s.width);
    for (let v = Math.max(0, y - 1); v <= Math.min(s.height - 1, y + 1); v++)
      for (let u = Math.max(0, x - 1); u <= Math.min(s.width - 1, x + 1); u++) {
        const i = v * s.width + u,
          a = s.angle[i]!;
        if (used[i] || Number.isNaN(a) || apart(a, angle) > within) continue;
        used[i] = 1;
        pixels.push(i);
        dx += Math.cos(a);
        dy += Math.sin(a);
        angle = Math.atan2(dy, dx);
      }
  }
  return { pixels, angle };
}
interface Rectangle {
  from: [number, number];
  to: [number, number];
  width: number;
  angle: number;
}
/** The rectangle a region fills: its middle and way by the moments of how steep its pixels are. */
function rectangleOf(s: Slopes, pixels: readonly number[], angle: number): Rectangle {
  let sum = 0,
    cx = 0,
    cy = 0;
  for (const i of pixels) {
    const w = s.steep[i]!;
    cx += (i % s.width) * w;
    cy += Math.floor(i / s.width) * w;
    sum += w;
  }
  cx /= sum;
  cy /= sum;
  let xx = 0,
    yy = 0,
    xy = 0;
  for (const i of pixels) {
    const w = s.steep[i]! / sum,
      x = (i % s.width) - cx,
      y = Math.floor(i / s.width) - cy;
    xx += y * y * w;
    yy += x * x * w;
    xy -= x * y * w;
  }
  const least = (xx + yy - Math.sqrt((xx - yy) ** 2 + 4 * xy * xy)) / 2;
  let theta = Math.abs(xx) > Math.abs(yy) ? Math.atan2(least - xx, xy) : Math.atan2(xy, least - yy);
  if (apart(theta, angle) > tolerance) theta += Math.PI;
  const dx = Math.cos(theta),
    dy = Math.sin(theta);
  let [l0, l1, w0, w1] = [0, 0, 0, 0];
  for (const i of pixels) {
    const x = (i % s.width) - cx,
      y = Math.floor(i / s.width) - cy,
      l = x * dx + y * dy,
      w = -x * dy + y * dx;
    l0 = Math.min(l0, l);
    l1 = Math.max(l1, l);
    w0 = Math.min(w0, w);
    w1 = Math.max(w1, w);
  }
  return { from: [cx + l0 * dx, cy + l0 * dy], to: [cx + l1 * dx, cy + l1 * dy], width: Math.max(1, w1 - w0), angle: theta };
}
const lengthOf = (r: Rectangle): number => Math.hypot(r.to[0] - r.from[0], r.to[1] - r.from[1]);

const logFactorials: number[] = [0];
function logFactorial(n: number): number {
  for (let i = logFactorials.length; i <= n; i++) logFactorials.push(logFactorials[i - 1]! + Math.log(i));
  return logFactorials[n]!;
}
/** −log₁₀ of how many lines so good noise would show among `tests`: the tail of a binomial. */
function sureness(n: number, k: number, p: number, logTests: number): number {
  if (n === 0 || k === 0) return -logTests;
  let sum = 0;
  const first = logFactorial(n) - logFactorial(k) - logFactorial(n - k) + k * Math.log(p) + (n - k) * Math.log(1 - p);
  let term = 1;
  for (let i = k; i <= n; i++) {
    sum += term;
    term *= ((n - i) / (i + 1)) * (p / (1 - p));
    if (term < 1e-12 * sum) break;
  }
  return -(first + Math.log(sum)) / Math.LN10 - logTests;
}
/** How sure a rectangle is a line: of the pixels in it, those that go its way. */
function judged(s: Slopes, r: Rectangle, logTests: number): number {
  const length = lengthOf(r),
    dx = Math.cos(r.angle),
    dy = Math.sin(r.angle),
    half = r.width / 2;
  let all = 0,
    along = 0;
  const xs = [r.from[0], r.to[0]],
    ys = [r.from[1], r.to[1]],
    x0 = Math.max(0, Math.floor(Math.min(...xs) - half)),
    x1 = Math.min(s.width - 1, Math.ceil(Math.max(...xs) + half)),
    y0 = Math.max(0, Math.floor(Math.min(...ys) - half)),
    y1 = Math.min(s.height - 1, Math.ceil(Math.max(...ys) + half));
  for (let y = y0; y <= y1; y++)
    for (let x = x0; x <= x1; x++) {
      const u = x - r.from[0],
        v = y - r.from[1],
        l = u * dx + v * dy;
      if (l < 0 || l > length || Math.abs(-u * dy + v * dx) > half) continue;
      all++;
      const a = s.angle[y * s.width + x]!;
      if (!Number.isNaN(a) && apart(a, r.angle) <= tolerance) along++;
    }
  return sureness(all, along, tolerance / Math.PI, logTests);
}

/**
 * Straight lines of a grey picture (0–255, row by row): regions whose pixels' lines go one way, as long thin rectangles, kept where
 * noise would show less than one such. Grompone von Gioi, Jakubowicz, Morel and Randall 2012, “LSD: a Line Segment Detector”, Image
 * Processing On Line; of its refinements the one of tighter directions.
 */
export function segmentsIn(picture: Float32Array, width: number, height: number): Segment[] {
  const small = shrink(picture, width, height),
    s = slopesOf(small.grey, small.width, small.height),
    used = new Uint8Array(s.angle.length),
    logTests = 2.5 * (Math.log10(s.width) + Math.log10(s.height)) + Math.log10(tries),
    leastPixels = Math.floor(-logTests / Math.log10(tolerance / Math.PI)),
    order = Array.from(s.angle.keys())
      .filter((i) => !Number.isNaN(s.angle[i]!))
      .sort((a, b) => s.steep[b]! - s.steep[a]!),
    out: Segment[] = [];
  for (const seed of order) {
    if (used[seed]) continue;
    let region = grow(s, seed, used, tolerance);
    if (region.pixels.length < leastPixels) continue;
    let r = rectangleOf(s, region.pixels, region.angle);
    if (region.pixels.length / (lengthOf(r) * r.width) < density) {
      // what is bent is tried again, holding more closely to the way near its seed
      for (const i of region.pixels) used[i] = 0;
      region = grow(s, seed, used, tolerance / 2);
      if (region.pixels.length < leastPixels) continue;
      r = rectangleOf(s, region.pixels, region.angle);
      if (region.pixels.length / (lengthOf(r) * r.width) < density) continue;
    }
    const sure = judged(s, r, logTests);
    if (sure <= 0) continue;
    const back = (v: number): number => (v + 0.5 + 0.5) / scale;
    out.push({ from: [back(r.from[0]), back(r.from[1])], to: [back(r.to[0]), back(r.to[1])], sure });
  }
  return out;
}
