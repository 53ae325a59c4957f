import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { throughGlass, wideZoom } from '@dyepot/camera/src/glass.ts';
import { writeDng } from '@dyepot/camera/src/dng.ts';
import { expose } from '@dyepot/camera/src/sensor.ts';
import { drawingOf, drawPlate } from '@dyepot/core/src/plan/draw.ts';
import { usualNoise } from '@dyepot/core/src/groundwork/noise.ts';
import { makePlate, plateOffset, plateScale, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { loadKernels } from '@dyepot/core/src/kernels/kernels.ts';
import { plan } from '@dyepot/core/src/plan/plan.ts';
import { developPlanes } from '@dyepot/core/src/render/render.ts';
import { decodeRaw } from '../src/decode/decode.ts';
import { kernelsFile } from '../src/places.ts';

const kernels = await loadKernels(readFileSync(kernelsFile));
/** A DNG of a soft grid of lines, white on grey, photographed through glass or not. */
async function photographed(glass: boolean): Promise<{ file: string }> {
  const width = 720,
    height = 480,
    line = (v: number): number => Math.exp(-(((((v % 60) + 60) % 60) - 30) ** 2) / 8),
    light = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) for (let c = 0; c < 3; c++) light[(y * width + x) * 3 + c] = 0.1 + 0.5 * Math.max(line(x), line(y));
  const e = { ev: 0, iso: 100, seed: 4, bits: 14 as const, black: 512, pattern: 'RGGB' as const, believedKelvin: 5000 },
    shot = expose(glass ? throughGlass(light, width, height, wideZoom) : light, width, height, e),
    file = join(mkdtempSync(join(tmpdir(), 'dyepot-glass-')), 'grid.dng');
  writeFileSync(
    file,
    writeDng(shot, e, {
      compression: 'lossless',
      layout: 'strips',
      preview: { width: 16, height: 16, jpeg: new Uint8Array([255, 216, 255, 217]) },
      exif: { iso: 100, shutterSeconds: 0.01, aperture: 4, focalMm: 24, time: '2026:10:12 09:30:00' },
      baselineExposureEv: 0,
      ...(glass ? { lens: wideZoom } : {}),
    }),
  );
  return { file };
}
const green = (p: Plate, x: number, y: number, c = 1): number => (p.data[(c * p.height + y) * p.width + x]! - plateOffset) / plateScale;
/** Middle of the bright line nearest to a column, along a row, by the weight of its light. */
const lineNear = (p: Plate, column: number, row: number, c = 1): number => {
  let sum = 0,
    at = 0,
    best = column;
  for (let x = column - 14; x <= column + 14; x++) if (green(p, x, row) > green(p, best, row)) best = x;
  for (let x = best - 7; x <= best + 7; x++) {
    const v = Math.max(0, green(p, x, row, c) - 0.16);
    sum += v;
    at += v * x;
  }
  return at / sum;
};

describe('a raw from a faulty lens whose file says how to undo it', () => {
  it('comes out straight to 0.15 px, its colours together and its corners as bright as its middle', async () => {
    const { facts, raw } = await decodeRaw((await photographed(true)).file),
      plate = makePlate(kernels, raw, facts),
      frame = { width: plate.width, height: plate.height, noise: usualNoise(100), fileLens: facts.fileLens ?? null };
    expect(facts.fileLens!.warp!.planes.length).toBe(3);
    const straight = drawPlate(kernels, drawingOf(null, frame, 0, null), plate),
      rows = [60, 120, 180, 240, 300, 360, 420];
    const spread = (p: Plate, from: number): number => {
      const found = rows.map((y) => lineNear(p, from, y));
      return Math.max(...found) - Math.min(...found);
    };
    // an upright line near the left border of each
    const columnOf = (p: Plate): number => {
        let column = 25;
        for (let x = 25; x < 85; x++) if (green(p, x, 240) > green(p, column, 240)) column = x;
        return column;
      },
      column = columnOf(straight),
      bent = columnOf(plate);
    expect(spread(plate, bent)).toBeGreaterThan(2.5);
    expect(spread(straight, column)).toBeLessThan(0.15);
    for (const c of [0, 2]) {
      expect(Math.abs(lineNear(straight, column, 240, c) - lineNear(straight, column, 240, 1))).toBeLessThan(0.08);
      expect(Math.abs(lineNear(plate, bent, 240, c) - lineNear(plate, bent, 240, 1))).toBeGreaterThan(0.15);
    }
    const p = plan(null, { profile: facts.profile, seed: 1, picture: frame }, 'srgb'),
      planes = developPlanes(kernels, p, straight, 1),
      flat = (x0: number, y0: number): number => {
        let least = 9;
        for (let y = y0; y < y0 + 64; y++)
          for (let x = x0; x < x0 + 64; x++) {
            let sum = 0;
            for (let j = 0; j < 5; j++)
              for (let i = 0; i < 5; i++) sum += planes[plate.width * plate.height + (y + j) * plate.width + x + i]! / 25;
            least = Math.min(least, sum);
          }
        return least;
      };
    expect(flat(2, 2) / flat(330, 210)).toBeGreaterThan(0.95);
    expect(flat(2, 2) / flat(330, 210)).toBeLessThan(1.05);
  });
});
