import { emptyMesh, type Point } from '../mesh.ts';
import { seeded } from '../random.ts';
import { lightOf } from '../spectrum.ts';
import type { Stage } from '../props.ts';
import { duskScene } from './dusk.ts';
import { moorScene } from './moor.ts';
import { frontScene } from './front.ts';
import { shoreScene } from './shore.ts';
import { vatScene } from './vat.ts';
import { windowScene } from './window.ts';
import type { Scene } from '../scene.ts';

export const lights = ['window', 'vat', 'dusk', 'moor', 'shore', 'front'] as const;
export type LightName = (typeof lights)[number];
/** The temperature of each light's main source, in kelvin. */
export const kelvinOf: Record<LightName, number> = { window: 6800, vat: 2850, dusk: 4400, moor: 4700, shore: 5200, front: 5600 };

/** How many views each has. */
const views: Record<LightName, number> = { window: 5, vat: 4, dusk: 4, moor: 4, shore: 1, front: 1 };

/**
 * Builds a scene. Names are a light and a view: `window-0` … `front-0`; after a colon may stand how far the camera steps aside, in metres to
 * the right, up and back: `vat-2:0.2,0,-0.1`. Throws RangeError for a name that does not exist.
 */
export function buildScene(
  name: string,
  kelvin: number | null,
  seed: number,
): { scene: Scene; chart: Stage['chart']; things: Stage['things']; kelvin: number; light: LightName } {
  const [place, stepText] = name.split(':') as [string, string?],
    [light, viewText] = place.split('-') as [LightName, string],
    step = (stepText ?? '0,0,0').split(',').map(Number);
  const view = Number(viewText ?? 0);
  if (!lights.includes(light) || !(view >= 0 && view < views[light]))
    throw new RangeError(`no scene is called ${name}; there are ${lights.map((l) => `${l}-0…${l}-${views[l] - 1}`).join(', ')}`);
  const k = kelvin ?? kelvinOf[light];
  const stage: Stage = { mesh: emptyMesh(), materials: [], things: [], random: seeded(seed + 1000 * lights.indexOf(light)), chart: null };
  const main = lightOf(k);
  const scene =
    light === 'window'
      ? windowScene(stage, view, main)
      : light === 'vat'
        ? vatScene(stage, view, main)
        : light === 'dusk'
          ? duskScene(stage, view, main, lightOf(Math.min(20000, k * 1.55)))
          : light === 'moor'
            ? moorScene(stage, view, main, lightOf(k * 1.3))
            : light === 'shore'
              ? shoreScene(stage, main, lightOf(k * 1.15))
              : frontScene(stage, main, lightOf(k * 1.12));
  if (step.length !== 3 || !step.every((v) => Math.abs(v) <= 2))
    throw new RangeError(`a step aside is three lengths of at most 2 m, such as 0.2,0,-0.1, not “${stepText}”`);
  const aside = (at: Point, share: number): Point => at.map((v, i) => v + share * step[i]!) as unknown as Point;
  Object.assign(scene, { eye: aside(scene.eye, 1), target: aside(scene.target, 0.6) });
  return { scene, chart: stage.chart, things: stage.things, kelvin: k, light };
}
