import { drawingOf, drawPlate } from '../src/plan/draw.ts';
import { plainGroundwork, type Groundwork } from '../src/groundwork/groundwork.ts';
import { plainLens, type FileLens, type Lens } from '../src/groundwork/lens.ts';
import { usualNoise } from '../src/groundwork/noise.ts';
import { plateOffset, plateScale, type Plate } from '../src/plate/plate.ts';
import { kernels } from './kernels.ts';

export const platter = (width: number, height: number, at: (x: number, y: number, c: number) => number): Plate => {
  const data = new Uint16Array(width * height * 3);
  for (let c = 0; c < 3; c++)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) data[(c * height + y) * width + x] = Math.round(at(x, y, c) * plateScale + plateOffset);
  return { width, height, data };
};
export const light = (p: Plate, x: number, y: number, c: number): number =>
  (p.data[(c * p.height + y) * p.width + x]! - plateOffset) / plateScale;
export const withLens = (lens: Partial<Lens>, geometry: Partial<Groundwork['geometry']> = {}): Groundwork => ({
  ...plainGroundwork,
  lens: { ...plainLens, ...lens },
  geometry: { ...plainGroundwork.geometry, ...geometry },
});
export const draw = (g: Groundwork, plate: Plate, fileLens: FileLens | null = null): Plate => {
  const d = drawingOf(g, { ...plate, noise: usualNoise(100), fileLens }, 0, null),
    { x, y, width, height } = d.source,
    cut = new Uint16Array(width * height * 3);
  for (let c = 0; c < 3; c++)
    for (let j = 0; j < height; j++)
      cut.set(
        plate.data.subarray((c * plate.height + y + j) * plate.width + x, (c * plate.height + y + j) * plate.width + x + width),
        (c * height + j) * width,
      );
  return drawPlate(kernels, d, { width, height, data: cut });
};
export const file: FileLens = {
  warp: {
    planes: [
      [1.001, -0.08, 0.02, -0.004, 0.0007, -0.0004],
      [1, -0.081, 0.021, -0.003, 0.0006, -0.0005],
      [0.999, -0.082, 0.02, -0.002, 0.0005, -0.0003],
    ],
    centre: [0.51, 0.48],
  },
  vignetting: { terms: [0.4, 0.2, -0.1, 0.05, 0.01], centre: [0.49, 0.52], beforeWarp: true },
  others: [],
};
