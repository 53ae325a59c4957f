import { chromaLimit, directionAt, lmsTo, rgbAlong } from '../colour/gamut.ts';
import type { Vector3 } from '../colour/matrix.ts';
import { rec2020ToLms, rec2020ToOklab } from '../colour/oklab.ts';
import { displayP3, rec2020To, srgb, type Primaries } from '../colour/spaces.ts';
import { encodeSrgb } from '../colour/transfer.ts';
import { tableOver } from './pass.ts';

export type OutputSpace = 'srgb' | 'p3';
const primaries: Record<OutputSpace, Primaries> = { srgb, p3: displayP3 };

const threshold = 0.88;
const power = 1.2;
const intervals = 4096;

/**
 * The numbers of the encode kernel for a space. Colours beyond the threshold are drawn in by the ACES reference gamut
 * compression's curve (S-2021-001), d' = t + (d − t)/(1 + ((d − t)/s)^1.2)^(1/1.2), on OKLab chroma at constant hue and
 * lightness; its limit is the farthest of Rec.2020's own colours. The sRGB encoding, which both spaces use, is tabled
 * over the square root of the value; its error stays below a tenth of a 16-bit code.
 */
export function encodeParameters(space: OutputSpace): Float32Array {
  const known = tables.get(space);
  if (known) return known;
  const toOutput = rec2020To(primaries[space]), fromLms = lmsTo(primaries[space]);
  const limits = tableOver(intervals, (place) => chromaLimit(fromLms, ...directionAt(place))).slice(1);
  // how far outside the most saturated colours of Rec.2020 lie: its triangle's edges
  let limit = 1.001, safe = 0;
  const pure: Vector3[] = [[1, 0, 0], [0, 1, 0], [0, 0, 1], [1, 0, 0]];
  for (let edge = 0; edge < 3; edge++) for (let t = 0; t <= 1; t += 1 / 64) {
    const [L, a, b] = rec2020ToOklab(pure[edge]!.map((v, k) => v * (1 - t) + pure[edge + 1]![k]! * t) as unknown as Vector3), chroma = Math.hypot(a, b);
    limit = Math.max(limit, chroma / L / chromaLimit(fromLms, a / chroma, b / chroma));
  }
  for (let place = 0; place < 1; place += 1 / 512) {
    const direction = directionAt(place), rgb = rgbAlong(fromLms, ...direction, threshold * chromaLimit(fromLms, ...direction));
    safe = Math.max(safe, Math.min(...rgb) / Math.max(...rgb));
  }
  const scale = (limit - threshold) / Math.pow(Math.pow((1 - threshold) / (limit - threshold), -power) - 1, 1 / power);
  const soft = tableOver(intervals, (t) => threshold + (2 * t) / Math.pow(1 + Math.pow((2 * t) / scale, power), 1 / power)).slice(1);
  const numbers = Float32Array.from([...toOutput, ...rec2020ToLms, ...fromLms, safe * 1.02 + 1e-4, threshold, ...tableOver(intervals, (t) => encodeSrgb(t * t)), ...limits, ...soft]);
  tables.set(space, numbers);
  return numbers;
}
const tables = new Map<OutputSpace, Float32Array>();
