import { boxMean } from '../guided.ts';
import type { Features } from './features.ts';
import { floodFromTop } from './flood.ts';
import { overMist } from './mist.ts';
import { openings } from './openings.ts';
import { piecesOf } from './pieces.ts';
import type { Found } from './provided.ts';
import { fitSurface } from './surface.ts';

/** Levels of the flood that are tried. */
const levels = 60;
/** Sums of a set of places: how many, of three values, of their squares. */
type Sums = Float64Array;
const spreadOf = (s: Sums): number => [1, 2, 3].reduce((sum, k) => sum + s[k + 3]! / s[0]! - (s[k]! / s[0]!) ** 2, 0);

/**
 * The level of a flood from the top at which what is under water and what is not are each most alike: the border's energy of
 * Shen and Wang 2013 ("Sky region detection in a single image for autonomous ground robot navigation"), J = 1/(γ·|Σs| + |Σg|) with
 * γ = 2, by traces, over regions of any form instead of columns; a large sky is preferred to a small one by the root of its share.
 */
function bestLevel(flood: Float32Array, values: readonly Float32Array[]): number {
  const sorted = flood.slice().sort(),
    n = flood.length,
    bounds = Array.from({ length: levels }, (_, q) => sorted[Math.min(n - 1, Math.floor((n * (q + 1)) / levels))]!),
    bins = bounds.map(() => new Float64Array(7));
  for (let i = 0; i < n; i++) {
    let low = 0,
      high = levels - 1;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (flood[i]! <= bounds[middle]!) high = middle;
      else low = middle + 1;
    }
    const bin = bins[low]!;
    bin[0]!++;
    for (let k = 0; k < 3; k++) {
      const v = values[k]![i]!;
      bin[k + 1]! += v;
      bin[k + 4]! += v * v;
    }
  }
  const all = new Float64Array(7);
  for (const bin of bins) bin.forEach((v, k) => (all[k]! += v));
  const under = new Float64Array(7);
  let best = 0,
    most = 0;
  for (let q = 0; q < levels - 1; q++) {
    bins[q]!.forEach((v, k) => (under[k]! += v));
    if (under[0]! < 0.03 * n) continue;
    const over = all.map((v, k) => v - under[k]!),
      energy = Math.sqrt(under[0]! / n) / (2 * spreadOf(under) + spreadOf(over) + 1e-4);
    if (energy > most) [most, best] = [energy, bounds[q]!];
  }
  return best;
}

/** Pieces that are as light as the sky is, and not of a strong colour other than its blue. */
function skyPieces({ light, a, b, width }: Features, wet: Uint8Array): Uint8Array {
  const { piece, count } = piecesOf(wet, width),
    sums = Array.from({ length: count + 1 }, () => [0, 0, 0, 0]);
  piece.forEach((p, i) => {
    const s = sums[p]!;
    s[0]!++;
    s[1]! += light[i]!;
    s[2]! += a[i]!;
    s[3]! += b[i]!;
  });
  const pale = sums.map(([m, , p, q]) => q! / m! < 0.02 || Math.hypot(p! / m!, q! / m!) < 0.06),
    large = sums.map(([m]) => m! > 0.004 * wet.length),
    lightest = Math.max(...sums.map(([m, l], k) => (k > 0 && large[k] && pale[k] ? l! / m! : -Infinity)));
  return wet.map((w, i) => {
    const k = piece[i]!;
    return w && pale[k] && sums[k]![1]! / sums[k]![0]! > lightest - 1.3 ? 1 : 0;
  });
}

/** The sky: a flood from the top, cut where the light leaves the even slope that a sky has, and the gaps between twigs added; else what is seen of one between things. */
export function sky(f: Features): Found {
  const { width, height, light, a, b, edge } = f,
    squashed = light.map((v) => 0.5 * Math.tanh(v / 3)),
    flood = floodFromTop(edge, width, height),
    level = bestLevel(flood, [squashed, a.map((v) => 2 * v), b.map((v) => 2 * v)]),
    shares = skyUnder(
      f,
      Uint8Array.from(flood, (v) => (v <= level ? 1 : 0)),
    );
  const sure = sureness(f, shares);
  return sure < 0.5 ? openings(f) : { shares, sure };
}
/** Gaps that a flood does not reach, between twigs and behind ropes, are no larger than this share of a picture. */
const mostGap = 0.02;
function skyUnder(f: Features, flooded: Uint8Array): Float32Array {
  const { width, height, light, texture } = f,
    n = width * height,
    wet = skyPieces(f, flooded),
    rows = new Float64Array(height);
  wet.forEach((w, i) => (rows[Math.floor(i / width)]! += w));
  const all = rows.reduce((x, y) => x + y, 0);
  let deep = 0;
  for (let sum = 0; deep < height && sum < 0.95 * all; deep++) sum += rows[deep]!;
  const upper = wet.map((w, i) => (Math.floor(i / width) < 0.62 * deep ? w : 0)),
    tints = tintsOff(f, upper),
    ofSky = upper.map((v, i) => (v && Math.hypot(tints[0]![i]!, tints[1]![i]!) < strange ? 1 : 0)),
    surface = fitSurface(light, ofSky, width, height),
    off = light.map((v, i) => v - surface.at(i % width, Math.floor(i / width))),
    within = Math.max(0.035, 3 * surface.spread);
  let lowest = 0;
  for (let i = 0; i < n; i++) if (wet[i] && off[i]! > -within) lowest = Math.max(lowest, Math.floor(i / width));
  const mesh = throughMesh(off, within, width, height),
    gap = Uint8Array.from({ length: n }, (_, i) => {
      if (wet[i] || Math.floor(i / width) >= lowest) return 0;
      return mesh[i] || (off[i]! > -Math.max(0.08, within) && off[i]! < 5 && texture[i]! < 0.25) ? 1 : 0;
    }),
    { piece, count } = piecesOf(gap, width),
    sizes = new Float64Array(count + 1);
  piece.forEach((k) => sizes[k]!++);
  const even = Uint8Array.from({ length: n }, (_, i) => {
    if (wet[i]) return off[i]! > -within ? 1 : 0;
    return gap[i] && sizes[piece[i]!]! < mostGap * n ? 1 : 0;
  });
  return Float32Array.from(
    overMist(
      f,
      filled(
        ofItsColour(f, even, tints),
        off.map((v) => v + within),
        flooded,
        width,
      ),
    ),
  );
}
/** How far about a place its lightest and darkest neighbours are looked for; what is narrower than twice that is narrow. */
const narrowness = 2;
/**
 * Places seen through twigs: lighter than the middle between the lightest and the darkest about them (Bernsen 1986, “Dynamic
 * thresholding of gray-level images”), where the lightest is the sky's.
 */
function throughMesh(off: Float32Array, within: number, width: number, height: number): Uint8Array {
  const lightest = greatest(off, width, height),
    darkest = least(off, width, height);
  return Uint8Array.from(off, (v, i) => (Math.abs(lightest[i]!) < Math.max(0.1, within) && v > (lightest[i]! + darkest[i]!) / 2 ? 1 : 0));
}
/** The greatest value within `narrowness` of each place, along rows, then columns. */
function greatest(values: Float32Array, width: number, height: number): Float32Array {
  let from = values;
  for (const step of [1, width]) {
    const out = from.slice();
    for (let k = 1; k <= narrowness; k++) {
      // along rows a neighbour has to stand in the row
      const rows = step === 1 ? height : 1,
        long = step === 1 ? width : width * height;
      for (let r = 0; r < rows; r++)
        for (let i = r * long; i < (r + 1) * long - k * step; i++) {
          const next = i + k * step;
          if (from[next]! > out[i]!) out[i] = from[next]!;
          if (from[i]! > out[next]!) out[next] = from[i]!;
        }
    }
    from = out;
  }
  return from;
}
const least = (values: Float32Array, width: number, height: number): Float32Array =>
  greatest(
    values.map((v) => -v),
    width,
    height,
  ).map((v) => -v);
/** Small holes are sky that are as light as the sky about them, or lighter (the sun, the rim of a cloud), or that no edge parts from it. */
function filled(sky: Uint8Array, over: Float32Array, flooded: Uint8Array, width: number): Uint8Array {
  const { piece, count } = piecesOf(
      sky.map((v) => 1 - v),
      width,
    ),
    sums = Array.from({ length: count + 1 }, () => [0, 0, 0] as [number, number, number]);
  piece.forEach((k, i) => {
    sums[k]![0]++;
    sums[k]![1] += over[i]!;
    sums[k]![2] += flooded[i]!;
  });
  return sky.map((v, i) => {
    const [size, sum, under] = sums[piece[i]!]!;
    return v || (size < mostGap * sky.length && (sum > 0 || under > size / 2)) ? 1 : 0;
  });
}
/** How far each place's colour is from the sky's, in a and in b: below what it is told from the sky's goes on as it is there. */
function tintsOff({ a, b, width, height }: Features, upper: Uint8Array): Float32Array[] {
  const depth = upper.lastIndexOf(1) / width;
  return [a, b].map((values) => {
    const { at } = fitSurface(values, upper, width, height);
    return values.map((v, i) => v - at(i % width, Math.min(depth, Math.floor(i / width))));
  });
}
/** Pieces whose colour is that of the sky over them. What hangs together by a narrow way alone is told apart; what is narrow everywhere is a piece of its own. */
function ofItsColour({ width, height }: Features, even: Uint8Array, tints: readonly Float32Array[]): Uint8Array {
  // of each of some pieces, whether its colour is the sky's
  const alike = (piece: Int32Array, count: number): boolean[] => {
      const sums = Array.from({ length: count + 1 }, () => [0, 0, 0] as [number, number, number]);
      piece.forEach((k, i) => {
        sums[k]![0]++;
        tints.forEach((values, t) => (sums[k]![(t + 1) as 1 | 2] += values[i]!));
      });
      return sums.map(([m, p, q]) => Math.hypot(p, q) / m < otherColour);
    },
    // a wall that is as light as the sky beside it
    off = tints.map((values) => boxMean(values, width, height, narrowness)),
    odd = piecesOf(
      even.map((v, i) => (v && Math.hypot(off[0]![i]!, off[1]![i]!) >= strange ? 1 : 0)),
      width,
    ),
    oddSizes = new Float64Array(odd.count + 1);
  odd.piece.forEach((k) => oddSizes[k]!++);
  // small odd places are a glow about the sun, or a cloud
  const own = even.map((v, i) => (v && (odd.piece[i] === 0 || oddSizes[odd.piece[i]!]! < smallOdd * even.length) ? 1 : 0)),
    broad = piecesOf(Uint8Array.from(least(Float32Array.from(own), width, height)), width),
    ofBroad = alike(broad.piece, broad.count),
    // 2 near a broad piece of the sky's colour, 1 near others
    near = greatest(
      Float32Array.from(broad.piece, (k) => (k === 0 ? 0 : ofBroad[k] ? 2 : 1)),
      width,
      height,
    ),
    narrow = piecesOf(
      own.map((v, i) => (v && near[i] === 0 ? 1 : 0)),
      width,
    ),
    ofNarrow = alike(narrow.piece, narrow.count);
  return own.map((v, i) => (v && (near[i] === 2 || (near[i] === 0 && ofNarrow[narrow.piece[i]!])) ? 1 : 0));
}
/** How far off the sky's colour a piece is not sky in the mean, and a place by itself; OKLab. Tuned on the demo's frames. */
const otherColour = 0.02,
  strange = 0.036;
/** What is odd in less than this share of a picture is sky all the same. */
const smallOdd = 0.006;
/**
 * How sure it is that places are a sky: lighter than the rest of the picture, even, and blue rather than warm; whatever its
 * exposure. Weights from the demo's frames and two further shoots.
 */
function sureness(f: Features, shares: Float32Array): number {
  const { b, light } = f,
    places: number[] = [],
    rest: number[] = [];
  shares.forEach((v, i) => (v > 0 ? places : rest).push(i));
  if (places.length < 0.005 * shares.length) return 0;
  const mean = (of: readonly number[], values: Float32Array): number => of.reduce((sum, i) => sum + values[i]!, 0) / of.length,
    // where there is nothing else, nothing is told by it
    over = rest.length > 0 ? mean(places, light) - mean(rest, light) : usuallyOver,
    patterned = patternIn(f, places),
    warm = mean(places, b);
  const lighter = 0.9 * (over - usuallyOver),
    even = Math.min(0.9, 100 * (0.022 - patterned)),
    blue = warm < 0 ? -50 * Math.max(-0.03, warm) : -40 * warm,
    score = lighter + even + blue;
  return 1 / (1 + Math.exp(-3 * score));
}
/** How much lighter than the rest of a picture a sky is, and hardly anything else; EV. */
const usuallyOver = 2.2;
/**
 * The middle spread of light about places, in EV, without what noise is of it: a mean of nine places has a ninth of the
 * variance of noise, but nearly all of that of plaster, cloth or stones. The middle, since at a roof or between twigs a sky is rough.
 */
function patternIn({ light, texture, width, height }: Features, places: readonly number[]): number {
  const soft = boxMean(light, width, height, 1),
    mean = boxMean(soft, width, height, 2),
    square = boxMean(
      soft.map((v) => v * v),
      width,
      height,
      2,
    );
  const middle = (of: (i: number) => number): number => Float64Array.from(places, of).sort()[places.length >> 1]!,
    spread = middle((i) => square[i]! - mean[i]! ** 2),
    noise = middle((i) => texture[i]!) ** 2;
  return Math.sqrt(Math.max(0, spread - noiseLeft * noise));
}
/** What the means of nine places have of the variance of noise: a ninth of what is told from place to place, and some more of what is not. */
const noiseLeft = 0.14;
