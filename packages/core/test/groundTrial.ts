import { identity3, invert3 } from '../src/colour/matrix.ts';
import { plainGroundwork, type Groundwork } from '../src/groundwork/groundwork.ts';
import { zoneGuide } from '../src/groundwork/guide.ts';
import { groundPasses } from '../src/groundwork/light.ts';
import { plateOffset, plateScale, type Plate } from '../src/plate/plate.ts';
import { plan } from '../src/plan/plan.ts';
import { developPlanes } from '../src/render/render.ts';
import { kernels } from './kernels.ts';

export const toXyz = [0.4124, 0.3576, 0.1805, 0.2126, 0.7152, 0.0722, 0.0193, 0.1192, 0.9505] as const;
export const profile = {
  colour: [{ kelvin: 6504, matrix: invert3(toXyz), forward: null, calibration: identity3 }],
  analogBalance: [1, 1, 1] as const,
  asShotNeutral: [1, 1, 1] as const,
  baselineExposureEv: 0,
};
export const platter = (width: number, height: number, at: (x: number, y: number, c: number) => number): Plate => {
  const data = new Uint16Array(width * height * 3);
  for (let c = 0; c < 3; c++)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        data[(c * height + y) * width + x] = Math.min(65535, Math.max(0, Math.round(at(x, y, c) * plateScale + plateOffset)));
  return { width, height, data };
};
export const ground = (over: Partial<Groundwork>): Groundwork => ({ ...plainGroundwork, ...over });
export const geometry = (over: Partial<Groundwork['geometry']>): Groundwork =>
  ground({ geometry: { ...plainGroundwork.geometry, ...over } });
export const develop = (g: Groundwork, plate: Plate): Float32Array => {
  const p = plan(null, { profile, seed: 1, groundwork: g }, 'srgb');
  return developPlanes(kernels, p, plate, groundPasses(g).length, { x: 0, y: 0, guide: zoneGuide(plate, p.scene) });
};
