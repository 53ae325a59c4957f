import { luminanceOf } from '../colour/luminance.ts';
import type { Matrix3, Vector3 } from '../colour/matrix.ts';
import { apply3 } from '../colour/matrix.ts';
import { plateOffset, plateScale, type Plate } from '../plate/plate.ts';
import { guidedFilter, type Guide } from '../render/guided.ts';

/** Differences smaller than this (EV) are texture, larger ones edges. */
const edgeEv = 0.5;

/**
 * The guide of a frame, from a small whole plate and its scene numbers: a guided filter of log₂ luminance by itself
 * (He, Sun, Tang 2010, eq. 5–8), window a thirtieth of the long edge. `gain` is the lens' at a pixel, where there is one.
 */
export function zoneGuide(plate: Plate, scene: readonly number[], gain: ((x: number, y: number) => number) | null = null): Guide {
  const { width, height, data } = plate,
    n = width * height,
    matrix = scene.slice(5, 14) as unknown as Matrix3,
    light = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    const [r, g, b] = apply3(
      matrix,
      [0, 1, 2].map((c) => ((data[c * n + i]! - plateOffset) / plateScale) * scene[2 + c]!) as unknown as Vector3,
    );
    light[i] = Math.log2(Math.max(1e-5, luminanceOf(r, g, b) * (gain ? gain(i % width, Math.floor(i / width)) : 1)));
  }
  return guidedFilter(light, light, width, height, Math.max(2, Math.round(Math.max(width, height) / 30)), edgeEv ** 2);
}

/** The level of a plate that guides are made of: the first whose long edge is at most 420 pixels, or the last. */
export function guideLevel(width: number, height: number, levels: number): number {
  let level = 0;
  while (level < levels - 1 && Math.max(width, height) >> level > 420) level++;
  return level;
}
