/** A place that is known again: where it lies (pixels of the picture it was found in), how large it is, which way it points, and what is about it. */
export interface Feature {
  x: number;
  y: number;
  /** deviation of the blur it was found at, in pixels of the picture */
  size: number;
  /** radians */
  angle: number;
  /** 128 numbers, of length 1 */
  about: Float32Array;
}
interface Plane {
  width: number;
  height: number;
  data: Float32Array;
}
const scales = 3,
  firstBlur = 1.6,
  /** least contrast of an extremum, in log₂ light, and how much longer than wide it may be (Lowe 2004, 4 and 4.1) */
  leastContrast = 0.03,
  edgeRatio = 10,
  most = 900;

function blurred({ width, height, data }: Plane, deviation: number): Plane {
  const far = Math.max(1, Math.ceil(3 * deviation)),
    falling = Array.from({ length: far + 1 }, (_, k) => Math.exp(-(k ** 2) / (2 * deviation * deviation))),
    sum = falling.reduce((a, w, k) => a + (k ? 2 : 1) * w, 0),
    weights = Float64Array.from(falling, (w) => w / sum),
    across = new Float32Array(data.length),
    out = new Float32Array(data.length),
    // a row with what lies beside it: its ends, held
    line = new Float64Array(width + 2 * far),
    down = new Float64Array(width);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    line.fill(data[row]!, 0, far);
    line.set(data.subarray(row, row + width), far);
    line.fill(data[row + width - 1]!, far + width);
    for (let x = 0; x < width; x++) {
      const at = x + far;
      let own = weights[0]! * line[at]!;
      for (let k = 1; k <= far; k++) own += weights[k]! * (line[at - k]! + line[at + k]!);
      across[row + x] = own;
    }
  }
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) down[x] = weights[0]! * across[row + x]!;
    for (let k = 1; k <= far; k++) {
      const w = weights[k]!,
        above = Math.max(0, y - k) * width,
        below = Math.min(height - 1, y + k) * width;
      for (let x = 0; x < width; x++) down[x]! += w * (across[above + x]! + across[below + x]!);
    }
    out.set(down, row);
  }
  return { width, height, data: out };
}
function difference(a: Float32Array, b: Float32Array): Float32Array {
  const out = new Float32Array(a.length);
  for (let i = 0; i < a.length; i++) out[i] = a[i]! - b[i]!;
  return out;
}
function halved({ width, height, data }: Plane): Plane {
  const w = width >> 1,
    h = height >> 1,
    out = new Float32Array(w * h);
  for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) out[y * w + x] = data[2 * y * width + 2 * x]!;
  return { width: w, height: h, data: out };
}

/** The places of a picture that are known again in another, strongest first (scale-invariant features: Lowe 2004), told by log light, so that exposure does not matter. */
export function featuresOf(log: Float32Array, width: number, height: number): Feature[] {
  const found: (Feature & { strength: number })[] = [];
  let base = blurred({ width, height, data: log }, Math.sqrt(firstBlur ** 2 - 0.5 ** 2));
  for (let octave = 0; Math.min(base.width, base.height) >= 24 && octave < 6; octave++) {
    const levels = [base];
    for (let s = 1; s < scales + 3; s++) {
      const ratio = 2 ** (1 / scales),
        before = firstBlur * ratio ** (s - 1);
      levels.push(blurred(levels[s - 1]!, before * Math.sqrt(ratio * ratio - 1)));
    }
    const apart = levels.slice(1).map((l, s) => difference(l.data, levels[s]!.data));
    for (let s = 1; s <= scales; s++)
      for (const { x, y, value } of extrema(apart, s, base.width, base.height)) {
        const blur = firstBlur * 2 ** (s / scales),
          step = 2 ** octave;
        for (const angle of anglesAt(levels[s]!, x, y, blur)) {
          const about = aboutIt(levels[s]!, x, y, blur, angle);
          if (about) found.push({ x: x * step, y: y * step, size: blur * step, angle, about, strength: value });
        }
      }
    base = halved(levels[scales]!);
  }
  return found.sort((a, b) => b.strength - a.strength).slice(0, most);
}

/** Extrema over place and size that have contrast and are no mere edges. */
function extrema(apart: readonly Float32Array[], s: number, width: number, height: number): { x: number; y: number; value: number }[] {
  const out: { x: number; y: number; value: number }[] = [],
    here = apart[s]!;
  for (let y = 8; y < height - 8; y++)
    for (let x = 8; x < width - 8; x++) {
      const i = y * width + x,
        v = here[i]!;
      if (Math.abs(v) < leastContrast) continue;
      let greatest = true,
        least = true;
      for (let ds = -1; ds <= 1 && (greatest || least); ds++) {
        const plane = apart[s + ds]!;
        for (let dy = -1; dy <= 1; dy++)
          for (let dx = -1; dx <= 1; dx++) {
            if (ds === 0 && dy === 0 && dx === 0) continue;
            const w = plane[i + dy * width + dx]!;
            if (w >= v) greatest = false;
            if (w <= v) least = false;
          }
      }
      if (!greatest && !least) continue;
      const xx = here[i + 1]! + here[i - 1]! - 2 * v,
        yy = here[i + width]! + here[i - width]! - 2 * v,
        xy = (here[i + width + 1]! - here[i + width - 1]! - here[i - width + 1]! + here[i - width - 1]!) / 4,
        det = xx * yy - xy * xy;
      if (det <= 0 || ((xx + yy) * (xx + yy)) / det > ((edgeRatio + 1) * (edgeRatio + 1)) / edgeRatio) continue;
      out.push({ x, y, value: Math.abs(v) });
    }
  return out;
}
const slopeAt = ({ width, data }: Plane, x: number, y: number): [number, number] => [
  data[y * width + x + 1]! - data[y * width + x - 1]!,
  data[(y + 1) * width + x]! - data[(y - 1) * width + x]!,
];
/** The directions most slopes about a place have (36 bins; all over 0.8 of the greatest). */
function anglesAt(plane: Plane, x: number, y: number, blur: number): number[] {
  const bins = new Float32Array(36),
    deviation = 1.5 * blur,
    far = Math.round(3 * deviation);
  for (let dy = -far; dy <= far; dy++)
    for (let dx = -far; dx <= far; dx++) {
      const u = x + dx,
        v = y + dy;
      if (u < 1 || v < 1 || u >= plane.width - 1 || v >= plane.height - 1) continue;
      const [gx, gy] = slopeAt(plane, u, v),
        at = ((Math.atan2(gy, gx) / (2 * Math.PI)) * 36 + 36) % 36;
      bins[Math.floor(at) % 36]! += Math.hypot(gx, gy) * Math.exp(-(dx * dx + dy * dy) / (2 * deviation * deviation));
    }
  const smooth = bins.map((v, i) => (bins[(i + 35) % 36]! + v + bins[(i + 1) % 36]!) / 3),
    top = Math.max(...smooth);
  return [...smooth.keys()]
    .filter((i) => smooth[i]! >= 0.8 * top && smooth[i]! > smooth[(i + 35) % 36]! && smooth[i]! >= smooth[(i + 1) % 36]!)
    .slice(0, 3)
    .map((i) => ((i + 0.5) / 36) * 2 * Math.PI);
}
/** Slopes about a place in its own size and direction: 4 × 4 fields of 8 directions, smeared between neighbours, cut at 0.2, of length 1. */
function aboutIt(plane: Plane, x: number, y: number, blur: number, angle: number): Float32Array | null {
  const field = 3 * blur,
    far = Math.round((field * 5 * Math.SQRT2) / 2),
    cos = Math.cos(angle),
    sin = Math.sin(angle),
    out = new Float32Array(128);
  for (let dy = -far; dy <= far; dy++)
    for (let dx = -far; dx <= far; dx++) {
      const u = (cos * dx + sin * dy) / field + 1.5,
        v = (cos * dy - sin * dx) / field + 1.5;
      if (u <= -1 || v <= -1 || u >= 4 || v >= 4) continue;
      const px = x + dx,
        py = y + dy;
      if (px < 1 || py < 1 || px >= plane.width - 1 || py >= plane.height - 1) continue;
      const [gx, gy] = slopeAt(plane, px, py),
        weight = Math.hypot(gx, gy) * Math.exp(-((u - 1.5) ** 2 + (v - 1.5) ** 2) / 8),
        o = (((((Math.atan2(gy, gx) - angle) / (2 * Math.PI)) * 8) % 8) + 8) % 8,
        [u0, v0, o0] = [Math.floor(u), Math.floor(v), Math.floor(o)];
      for (let a = 0; a < 2; a++)
        for (let b = 0; b < 2; b++)
          for (let c = 0; c < 2; c++) {
            const [i, j, k] = [u0 + a, v0 + b, (o0 + c) % 8];
            if (i < 0 || j < 0 || i > 3 || j > 3) continue;
            out[(j * 4 + i) * 8 + k]! += weight * (a ? u - u0 : 1 - u + u0) * (b ? v - v0 : 1 - v + v0) * (c ? o - o0 : 1 - o + o0);
          }
    }
  const unit = (): boolean => {
    const length = Math.hypot(...out);
    if (length < 1e-6) return false;
    for (let i = 0; i < 128; i++) out[i]! /= length;
    return true;
  };
  if (!unit()) return null;
  for (let i = 0; i < 128; i++) out[i] = Math.min(0.2, out[i]!);
  return unit() ? out : null;
}

const numbers = 128;
/** What is about all places, one after the other. */
function packed(of: readonly Feature[]): Float32Array {
  const out = new Float32Array(of.length * numbers);
  of.forEach(({ about }, i) => out.set(about, i * numbers));
  return out;
}
function product(a: Float32Array, from: number, b: Float32Array, other: number): number {
  // four sums, so that none waits for another
  let one = 0,
    two = 0,
    three = 0,
    four = 0;
  for (let k = 0; k < numbers; k += 4) {
    one += a[from + k]! * b[other + k]!;
    two += a[from + k + 1]! * b[other + k + 1]!;
    three += a[from + k + 2]! * b[other + k + 2]!;
    four += a[from + k + 3]! * b[other + k + 3]!;
  }
  return one + two + three + four;
}
/** The nearest of others so far, and how near it and the next are (squares of distances). */
class Nearest {
  first = Infinity;
  second = Infinity;
  at = -1;
  seen(d: number, at: number): void {
    if (d < this.first) {
      this.second = this.first;
      this.first = d;
      this.at = at;
    } else if (d < this.second) this.second = d;
  }
  known(ratio: number): number {
    return this.first < ratio * ratio * this.second ? this.at : -1;
  }
}

/** Pairs of places that are known again: the best by far of all (ratio of the nearest to the next under 0.8), both ways. */
export function pairsOf(a: readonly Feature[], b: readonly Feature[], ratio = 0.8): { a: Feature; b: Feature }[] {
  const [own, others] = [packed(a), packed(b)],
    there = b.map(() => new Nearest()),
    here = a.map((_, i) => {
      const best = new Nearest();
      for (let j = 0; j < b.length; j++) {
        // both are of length 1
        const d = Math.max(0, 2 - 2 * product(own, i * numbers, others, j * numbers));
        best.seen(d, j);
        there[j]!.seen(d, i);
      }
      return best;
    }),
    out: { a: Feature; b: Feature }[] = [];
  here.forEach((best, i) => {
    const at = best.known(ratio);
    if (at >= 0 && there[at]!.known(ratio) === i) out.push({ a: a[i]!, b: b[at]! });
  });
  return out;
}
