import { displayP3, rec2020To, srgb, type Primaries } from '../colour/spaces.ts';
import { encodeSrgb } from '../colour/transfer.ts';
import { tableOver } from './pass.ts';
import { apply3, type Vector3 } from '../colour/matrix.ts';

export type OutputSpace = 'srgb' | 'p3';
const primaries: Record<OutputSpace, Primaries> = { srgb, p3: displayP3 };
const luma: Record<OutputSpace, Vector3> = { srgb: [0.2126, 0.7152, 0.0722], p3: [0.229, 0.6917, 0.0793] };

const threshold = 0.88;
const power = 1.2;
const intervals = 4096;

/**
 * The numbers of the encode kernel for a space. Gamut compression by the ACES reference gamut compression's curve
 * (S-2021-001), d' = t + (d − t)/(1 + ((d − t)/s)^1.2)^(1/1.2), its limits taken from where Rec.2020's own primaries
 * and secondaries lie outside the space. The sRGB encoding, which both spaces use, is tabled over the square root of
 * the value; its error stays below a tenth of a 16-bit code.
 */
export function encodeParameters(space: OutputSpace): Float32Array {
  const known = tables.get(space);
  if (known) return known;
  const matrix = rec2020To(primaries[space]);
  const corners: Vector3[] = [[1, 0, 0], [0, 1, 0], [0, 0, 1], [1, 1, 0], [0, 1, 1], [1, 0, 1]];
  const compression = [0, 1, 2].flatMap((channel) => {
    const limit = Math.max(1.001, ...corners.map((c) => {
      const out = apply3(matrix, c), peak = Math.max(...out);
      return (peak - out[channel]!) / peak;
    }));
    const scale = (limit - threshold) / Math.pow(Math.pow((1 - threshold) / (limit - threshold), -power) - 1, 1 / power);
    return tableOver(intervals, (t) => threshold + (2 * t) / Math.pow(1 + Math.pow((2 * t) / scale, power), 1 / power)).slice(1);
  });
  const numbers = Float32Array.from([...matrix, ...luma[space], threshold, ...tableOver(intervals, (t) => encodeSrgb(t * t)), ...compression]);
  tables.set(space, numbers);
  return numbers;
}
const tables = new Map<OutputSpace, Float32Array>();
