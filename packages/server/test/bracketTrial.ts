import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { writeDng } from '@dyepot/camera/src/dng.ts';
import { expose } from '@dyepot/camera/src/sensor.ts';
import { makePlate, plateOffset, plateScale, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { decodeRaw } from '../src/decode/decode.ts';
import { root } from '../src/places.ts';
import { kernels } from '../src/work/ownKernels.ts';

/** The exposures of the trial's bracket, EV. */
export const evs = [-2.5, 0, 2.5];
/** Camera light of a place of a plate, 1 where its sensor clips. */
export const lightOf = (p: Plate, i: number, c: number): number => (p.data[c * p.width * p.height + i]! - plateOffset) / plateScale;
/** Its light as the bracket sees it: right of this share of the width so many times as bright. */
export const bright = { from: 0.6, times: 6 };
/** Takes the light of a demo frame anew at three exposures, a second apart, as B0.dng to B2.dng of a new folder. */
export async function takeBracket(folder: string): Promise<Plate> {
  const { facts, raw } = await decodeRaw(join(root, 'packages/camera/frames/TR-0412.dng')),
    seen = makePlate(await kernels(), raw, facts),
    n = seen.width * seen.height,
    camera = new Float32Array(n * 3);
  for (let i = 0; i < n; i++)
    for (let c = 0; c < 3; c++)
      camera[i * 3 + c] = Math.max(0, lightOf(seen, i, c)) * (i % seen.width > seen.width * bright.from ? bright.times : 1);
  mkdirSync(folder);
  for (const [k, ev] of evs.entries()) {
    const e = { ev, iso: 100, seed: 30 + k, bits: 14 as const, black: 512, pattern: 'RGGB' as const, believedKelvin: 5000 };
    writeFileSync(
      join(folder, `B${k}.dng`),
      writeDng(expose(camera, seen.width, seen.height, e), e, {
        compression: 'lossless',
        layout: 'strips',
        preview: { width: 16, height: 16, jpeg: new Uint8Array([255, 216, 255, 217]) },
        exif: { iso: 100, shutterSeconds: 0.02 * 2 ** ev, aperture: 4, focalMm: 40, time: `2026:10:12 09:30:0${k}` },
        baselineExposureEv: 0,
      }),
    );
  }
  return seen;
}
