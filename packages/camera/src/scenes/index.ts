import { emptyMesh } from '../mesh.ts';
import { seeded } from '../random.ts';
import { lightOf } from '../spectrum.ts';
import type { Stage } from '../props.ts';
import { duskScene } from './dusk.ts';
import { moorScene } from './moor.ts';
import { vatScene } from './vat.ts';
import { windowScene } from './window.ts';
import type { Scene } from '../scene.ts';

export const lights = ['window', 'vat', 'dusk', 'moor'] as const;
export type LightName = (typeof lights)[number];
/** The temperature of each light's main source, in kelvin. */
export const kelvinOf: Record<LightName, number> = { window: 6800, vat: 2850, dusk: 4400, moor: 4700 };

/**
 * Builds a scene. Names are a light and a view: `window-0` … `moor-3`.
 * Throws RangeError for a name that does not exist.
 */
export function buildScene(
  name: string,
  kelvin: number | null,
  seed: number,
): { scene: Scene; chart: Stage['chart']; kelvin: number; light: LightName } {
  const [light, viewText] = name.split('-') as [LightName, string];
  const view = Number(viewText ?? 0);
  if (!lights.includes(light) || !(view >= 0 && view <= 3))
    throw new RangeError(`no scene is called ${name}; there are ${lights.map((l) => `${l}-0…${l}-3`).join(', ')}`);
  const k = kelvin ?? kelvinOf[light];
  const stage: Stage = { mesh: emptyMesh(), materials: [], random: seeded(seed + 1000 * lights.indexOf(light)), chart: null };
  const main = lightOf(k);
  const scene =
    light === 'window'
      ? windowScene(stage, view, main)
      : light === 'vat'
        ? vatScene(stage, view, main)
        : light === 'dusk'
          ? duskScene(stage, view, main, lightOf(Math.min(20000, k * 1.55)))
          : moorScene(stage, view, main, lightOf(k * 1.3));
  return { scene, chart: stage.chart, kelvin: k, light };
}
