import sharp from 'sharp';
import type { Shot } from './sensor.ts';

/** A small JPEG for the file's own preview: balanced camera RGB, a plain power curve. */
export async function previewOf(shot: Shot, ev: number, longEdge = 480): Promise<{ width: number; height: number; jpeg: Uint8Array }> {
  const scale = Math.max(shot.width, shot.height) / longEdge,
    width = Math.round(shot.width / scale),
    height = Math.round(shot.height / scale);
  const pixels = new Uint8Array(width * height * 3);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      for (let c = 0; c < 3; c++) {
        let sum = 0;
        for (let k = 0; k < 4; k++)
          sum += shot.camera[(Math.floor((y + (k >> 1) * 0.5) * scale) * shot.width + Math.floor((x + (k & 1) * 0.5) * scale)) * 3 + c]!;
        pixels[(y * width + x) * 3 + c] = 255 * Math.pow(Math.min(1, ((sum / 4) * 2 ** (ev + 0.7)) / shot.asShotNeutral[c]!), 1 / 2.2);
      }
    }
  }
  return {
    width,
    height,
    jpeg: new Uint8Array(
      await sharp(pixels, { raw: { width, height, channels: 3 } })
        .jpeg({ quality: 80 })
        .toBuffer(),
    ),
  };
}
