import sharp from 'sharp';
import { meet, type Meeting } from './bvh.ts';
import { cross, subtract, unit } from './mesh.ts';
import { buildScene } from './scenes/index.ts';
import { prepare } from './prepared.ts';
import type { Thing } from './props.ts';

/** The flat colours a truth picture is painted with, one for each sort of thing. */
export const thingColours: Readonly<Record<Thing | 'sky', readonly [number, number, number]>> = {
  sky: [0, 96, 255],
  figure: [255, 0, 160],
  skin: [255, 160, 120],
  foliage: [0, 160, 0],
  light: [255, 255, 0],
  cloth: [160, 0, 255],
  ground: [96, 80, 64],
};

/** What each pixel of a scene's picture is: through its middle, with an opening as small as a needle's and clear air. RGB. */
export function truthPixels(name: string, width: number, height: number, seed: number): Uint8Array {
  const { scene, things } = buildScene(name, null, seed),
    { tree } = prepare(scene),
    forward = unit(subtract(scene.target, scene.eye)),
    right = unit(cross(forward, [0, 1, 0])),
    up = cross(right, forward),
    focal = scene.focalMm / 1000,
    out = new Uint8Array(width * height * 3),
    hit: Meeting = { slot: -1, distance: 0, u: 0, v: 0 };
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const x = (((column + 0.5) / width - 0.5) * 0.024 * width) / height,
        y = (0.5 - (row + 0.5) / height) * 0.024;
      const way = unit([0, 1, 2].map((i) => forward[i]! * focal + right[i]! * x + up[i]! * y) as [number, number, number]),
        met = meet(tree, ...scene.eye, ...way, 1e6, false, hit),
        thing = met ? things[scene.mesh.material[tree.order[hit.slot]!]!]! : 'sky';
      out.set(thingColours[thing], (row * width + column) * 3);
    }
  return out;
}
/** The same as a PNG. */
export const truthPicture = (name: string, width: number, height: number, seed: number): Promise<Uint8Array> =>
  sharp(truthPixels(name, width, height, seed), { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
