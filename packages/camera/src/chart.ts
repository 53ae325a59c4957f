import { patchLab } from '@dyepot/core/src/colour/chartPatches.ts';
import { dot, lightOf, observer, smoothestReflectance, type Spectrum } from './spectrum.ts';

/** The reflectance of each patch: the smoothest one with the published value. The last entry is the grey card, 18 %. */
export function patchReflectances(): Spectrum[] {
  const d50 = lightOf(5003);
  const white = observer.map((curve) => dot(curve, d50));
  const patches = patchLab.map(([L, a, b]) => {
    const fy = (L + 16) / 116;
    const cube = (f: number): number => (f > 6 / 29 ? f ** 3 : 3 * (6 / 29) ** 2 * (f - 4 / 29));
    return smoothestReflectance([white[0]! * cube(fy + a / 500), cube(fy), white[2]! * cube(fy - b / 200)], d50);
  });
  return [...patches, new Float64Array(16).fill(0.18)];
}
