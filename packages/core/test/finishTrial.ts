import { developPlanes, type Origin, type Planes } from '../src/render/render.ts';
import { mapsFor } from '../src/render/maps.ts';
import type { LookStep } from '../src/look/look.ts';
import { emptyLook } from '../src/look/look.ts';
import { passesOf, plan } from '../src/plan/plan.ts';
import type { Pass } from '../src/render/pass.ts';
import { platter, profile } from './groundTrial.ts';
import { kernels } from './kernels.ts';

/** Linear light of a picture after passes of the print alone, as planes; `light` gives what was there. */
export function finished(
  passes: readonly Pass[],
  width: number,
  height: number,
  light: (x: number, y: number, c: number) => number,
  origin: Partial<Origin> = {},
  seed = 77,
): Planes {
  const plate = platter(width, height, light),
    base = plan(emptyLook('t'), { profile, seed }, 'srgb'),
    bare = { ...base, seed, passes };
  return developPlanes(kernels, bare, plate, passes.length, {
    x: 0,
    y: 0,
    ...origin,
    maps: mapsFor(kernels, bare, plate, origin),
  });
}
/** The same of one step. */
export const withStep = (
  step: LookStep,
  width: number,
  height: number,
  light: (x: number, y: number, c: number) => number,
  origin: Partial<Origin> = {},
): Planes => finished(passesOf(step, 1), width, height, light, origin);
