import { displayP3, rec2020To, srgb, type Primaries } from '../colour/spaces.ts';
import { apply3, type Vector3 } from '../colour/matrix.ts';

export type OutputSpace = 'srgb' | 'p3';
const primaries: Record<OutputSpace, Primaries> = { srgb, p3: displayP3 };
const luma: Record<OutputSpace, Vector3> = { srgb: [0.2126, 0.7152, 0.0722], p3: [0.229, 0.6917, 0.0793] };

const threshold = 0.88;
const power = 1.2;

/**
 * The numbers of the encode kernel for a space. Gamut compression by the ACES reference gamut compression's curve
 * (S-2021-001), its limits taken from where Rec.2020's own primaries and secondaries lie outside the space.
 */
export function encodeParameters(space: OutputSpace): number[] {
  const matrix = rec2020To(primaries[space]);
  const corners: Vector3[] = [[1, 0, 0], [0, 1, 0], [0, 0, 1], [1, 1, 0], [0, 1, 1], [1, 0, 1]];
  const limits = [0, 1, 2].map((channel) => Math.max(1.001, ...corners.map((c) => {
    const out = apply3(matrix, c), peak = Math.max(...out);
    return (peak - out[channel]!) / peak;
  })));
  const compression = limits.flatMap((limit) => [threshold, (limit - threshold) / Math.pow(Math.pow((1 - threshold) / (limit - threshold), -power) - 1, 1 / power)]);
  return [...matrix, ...luma[space], ...compression];
}
