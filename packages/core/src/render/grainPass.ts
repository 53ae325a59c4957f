import { smoothstep } from '../colour/smoothstep.ts';
import { luminanceShares } from '../colour/luminance.ts';
import { tableOver, type FieldPass, type FilmGrain } from './pass.ts';

/** Grain by its granularity (RMS × 1000 through 48 µm), and how much of it darks, mids and lights have (1: all). */
export interface Granularity extends FilmGrain {
  rms: number;
  darks: number;
  mids: number;
  lights: number;
}
/** How much of it a tone has, by the square root of its light: darks to 0.15, mids about 0.45, lights from 0.85. */
const toned = ({ darks, mids, lights }: Granularity, root: number): number =>
  root < 0.45 ? darks + (mids - darks) * smoothstep((root - 0.15) / 0.3) : mids + (lights - mids) * smoothstep((root - 0.45) / 0.4);

/** Grain as a pass. */
export function grainPass(g: Granularity): FieldPass {
  // fields of three channels that have so much in common: the square root of their correlations' matrix
  const alike = 1 - g.colour,
    all = Math.sqrt(1 + 2 * alike),
    apart = Math.sqrt(Math.max(0, 1 - alike)),
    [own, others] = g.colour > 0 ? [(all + 2 * apart) / 3, (all - apart) / 3] : [1, 0];
  return {
    kernel: 'grain',
    grain: { sizeUm: g.sizeUm, roughness: g.roughness, colour: g.colour, formatMm: g.formatMm, roll: g.roll },
    parameters: [...luminanceShares, own, others, g.rms / 1000 / Math.LOG10E / Math.LN2, 0, ...tableOver(256, (t) => toned(g, t))],
  };
}
