import { guidedFilter, type Guide } from './guided.ts';
import { hazeMap } from './hazeMap.ts';
import { logLight } from './logLight.ts';
import type { Plate } from '../plate/plate.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { glowMap } from './glowMap.ts';
import { fieldsBy } from './smallPicture.ts';
import { holdOf, isJoinPass, isMapPass, readsPicture, type Plan } from './pass.ts';
import { developPlanes, type Origin, type Planes } from './render.ts';

/** Maps for each pass of a plan, by its place; none for most. */
export type Maps = readonly (readonly Guide[])[];

/** Window (share of the long edge) and the differences (EV) that count as texture, for fine, medium and coarse shapes. */
export const localScales = [
  [1 / 110, 0.35],
  [1 / 34, 0.45],
  [1 / 9, 0.5],
] as const;
/** Everything the passes of a plan need to know of the whole picture, from its small drawn plate; each pass sees the picture as it is before it. */
export function mapsFor(kernels: Kernels, plan: Plan, small: Plate, about: Omit<Origin, 'x' | 'y' | 'maps'>): Maps {
  const maps: (readonly Guide[])[] = plan.passes.map(() => []),
    { width, height } = small,
    n = width * height;
  let scene: Planes | null = null;
  plan.passes.forEach((pass, i) => {
    if (isJoinPass(pass) && readsPicture(pass)) {
      const before = holdOf(plan.passes, i),
        light = developPlanes(kernels, plan, small, before, { x: 0, y: 0, ...about, maps }).subarray(0, 3 * n);
      maps[i] = fieldsBy(
        { kernels, plate: small, light, scene: () => (scene ??= developPlanes(kernels, plan, small, 0, { x: 0, y: 0, ...about })), about },
        pass.mask!,
      );
      return;
    }
    if (!isMapPass(pass)) return;
    const planes = developPlanes(kernels, plan, small, i, { x: 0, y: 0, ...about, maps });
    if (pass.kernel === 'haze') {
      maps[i] = [hazeMap(planes, width, height)];
      return;
    }
    if (pass.kernel === 'glow') {
      maps[i] = glowMap(planes, width, height, pass.parameters[6]! * (about.edge ?? Math.max(width, height)), pass.parameters[7]!);
      return;
    }
    const light = logLight(planes, n);
    maps[i] = localScales.map(([share, ev]) =>
      guidedFilter(light, light, width, height, Math.max(1, Math.round(Math.max(width, height) * share)), ev ** 2),
    );
  });
  return maps;
}
