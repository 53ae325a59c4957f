import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { writeDng } from '@dyepot/camera/src/dng.ts';
import { motes, underDust, type Mote } from '@dyepot/camera/src/dust.ts';
import { expose } from '@dyepot/camera/src/sensor.ts';

const [width, height] = [960, 640];
/** Raws of five skies, all but the third through a sensor with the same specks on it. Returns the specks. */
export function writeDustyRaws(folder: string): Mote[] {
  const dust = motes(9, 7);
  for (let k = 0; k < 5; k++) {
    const light = new Float32Array(width * height * 3);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        for (let c = 0; c < 3; c++)
          light[(y * width + x) * 3 + c] = 0.2 + 0.3 * (y / height) + 0.05 * Math.sin((x + 170 * k) / (150 + 20 * k)) + 0.04 * c;
    const e = { ev: 0, iso: 100, seed: 4 + k, bits: 14 as const, black: 512, pattern: 'RGGB' as const, believedKelvin: 5500 },
      shot = expose(k === 2 ? light : underDust(light, width, height, dust), width, height, e);
    writeFileSync(
      join(folder, `SKY-${k + 1}.dng`),
      writeDng(shot, e, {
        compression: 'lossless',
        layout: 'strips',
        preview: { width: 16, height: 16, jpeg: new Uint8Array([255, 216, 255, 217]) },
        exif: { iso: 100, shutterSeconds: 0.01, aperture: 11, focalMm: 40, time: `2026:10:17 09:0${k}:00` },
        baselineExposureEv: 0,
      }),
    );
  }
  return dust;
}
