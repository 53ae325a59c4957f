import type { Vector3 } from './matrix.ts';
import { oklabToRec2020, polar } from './oklab.ts';

/** A light of a hue (OKLCh, degrees): linear Rec.2020 with its greatest channel 1, white mixed in where `purity` (0–1) is less than whole. */
export function tintOf(hueDegrees: number, purity: number): Vector3 {
  const rgb = oklabToRec2020([0.75, ...polar(hueDegrees, 0.2)]).map((v) => Math.max(0, v)),
    most = Math.max(...rgb);
  return rgb.map((v) => 1 + purity * (v / most - 1)) as unknown as Vector3;
}
