import { chromaLimit, directionAt, lmsTo, rgbAlong } from '../colour/gamut.ts';
import { apply3, invert3, type Vector3 } from '../colour/matrix.ts';
import { rec2020ToLms, rec2020ToOklab } from '../colour/oklab.ts';
import { outputs, type OutputSpace } from '../colour/outputs.ts';
import { rec2020To } from '../colour/spaces.ts';
import { tableOver } from './pass.ts';

export type { OutputSpace };

const threshold = 0.88;
const power = 1.2;
const intervals = 4096;
const shareIntervals = 768;

/**
 * The numbers of the encode kernel for a space. Colours beyond the threshold are drawn in by the ACES reference gamut
 * compression's curve (S-2021-001), d' = t + (d − t)/(1 + ((d − t)/s)^1.2)^(1/1.2), on OKLab chroma at constant hue and
 * lightness; its limit is the farthest of Rec.2020's own colours. The space's encoding is tabled over the square
 * root of the value; its error stays below a tenth of a 16-bit code (for opRGB below two, in the lowest 1/4096).
 */
export function encodeParameters(space: OutputSpace): Float32Array {
  const known = tables.get(space);
  if (known) return known;
  const { primaries, encode } = outputs[space],
    toOutput = rec2020To(primaries),
    fromLms = lmsTo(primaries);
  const limits = tableOver(intervals, (place) => chromaLimit(fromLms, ...directionAt(place))).slice(1);
  // how far outside the most saturated colours of Rec.2020 lie: its triangle's edges
  let limit = 1.001,
    safe = 0;
  const pure: Vector3[] = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
    [1, 0, 0],
  ];
  for (let edge = 0; edge < 3; edge++)
    for (let t = 0; t <= 1; t += 1 / 64) {
      const [L, a, b] = rec2020ToOklab(pure[edge]!.map((v, k) => v * (1 - t) + pure[edge + 1]![k]! * t) as unknown as Vector3),
        chroma = Math.hypot(a, b);
      limit = Math.max(limit, chroma / L / chromaLimit(fromLms, a / chroma, b / chroma));
    }
  for (let place = 0; place < 1; place += 1 / 512) {
    const direction = directionAt(place),
      rgb = rgbAlong(fromLms, ...direction, threshold * chromaLimit(fromLms, ...direction));
    safe = Math.max(safe, Math.min(...rgb) / Math.max(...rgb));
  }
  // what a colour between the primaries needs of its least channel so as to stay below the threshold; by bisection
  const fromOutput = invert3(rec2020To(primaries)),
    far = (rgb: Vector3): boolean => {
      const [L, a, b] = rec2020ToOklab(apply3(fromOutput, rgb)),
        chroma = Math.hypot(a, b),
        q = b / Math.max(1e-9, Math.abs(a) + Math.abs(b));
      return chroma / L > threshold * limits[Math.round(((a >= 0 ? q + 1 : 3 - q) / 4) * intervals)]!;
    };
  const shares = Array.from({ length: shareIntervals + 1 }, (_, i) => {
    const at = (i / shareIntervals) * 6 - 1,
      pure = [0, 2, 4].map((k) => {
        const away = Math.abs(((((at - k + 3) % 6) + 6) % 6) - 3);
        return Math.min(1, Math.max(0, 2 - away));
      });
    let low = 0,
      high = 1;
    for (let k = 0; k < 11; k++) {
      const middle = (low + high) / 2;
      if (far(pure.map((v) => v + (1 - v) * middle) as unknown as Vector3)) low = middle;
      else high = middle;
    }
    return high;
  });
  const careful = shares.map((v, i) => Math.max(v, shares[Math.max(0, i - 1)]!, shares[Math.min(shareIntervals, i + 1)]!) * 1.01 + 0.001);
  const scale = (limit - threshold) / Math.pow(Math.pow((1 - threshold) / (limit - threshold), -power) - 1, 1 / power);
  const soft = tableOver(intervals, (t) => threshold + (2 * t) / Math.pow(1 + Math.pow((2 * t) / scale, power), 1 / power)).slice(1);
  const numbers = Float32Array.from([
    ...toOutput,
    ...rec2020ToLms,
    ...fromLms,
    safe * 1.02 + 1e-4,
    threshold,
    ...tableOver(intervals, (t) => encode(t * t)),
    ...limits,
    ...soft,
    ...careful,
    careful[0]!,
  ]);
  tables.set(space, numbers);
  return numbers;
}
const tables = new Map<OutputSpace, Float32Array>();

/** The same for the intoGamut kernel: only what the space cannot hold is drawn in, to its edge; what it holds stays as it is. */
export function gamutParameters(space: OutputSpace): Float32Array {
  const known = edges.get(space);
  if (known) return known;
  const numbers = Float32Array.from(encodeParameters(space)),
    soft = 30 + 2 * (intervals + 2);
  numbers[28] = 1;
  numbers.fill(1, soft, soft + intervals + 2);
  edges.set(space, numbers);
  return numbers;
}
const edges = new Map<OutputSpace, Float32Array>();
