import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { bytes, long, rational, short, signedRational, text, writeTiff } from '@dyepot/core/src/formats/tiff.ts';
import { makePlate, plateOffset, plateScale } from '@dyepot/core/src/plate/plate.ts';
import { loadKernels } from '@dyepot/core/src/kernels/kernels.ts';
import { decodeRaw } from '../src/decode/decode.ts';
import { kernelsFile } from '../src/places.ts';

describe('pictures without a Bayer mosaic', () => {
  it('a linear DNG comes through LibRaw as linear camera RGB (DNG 1.4, PhotometricInterpretation 34892)', async () => {
    const width = 96,
      height = 64,
      pixels = new Uint16Array(width * height * 3),
      value = (x: number, y: number, c: number): number => 3000 + 400 * x + 100 * y + 3000 * c;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) for (let c = 0; c < 3; c++) pixels[(y * width + x) * 3 + c] = value(x, y, c);
    const path = join(mkdtempSync(join(tmpdir(), 'dyepot-linear-')), 'linear.dng');
    writeFileSync(
      path,
      writeTiff({
        tags: [
          long(254, 0),
          long(256, width),
          long(257, height),
          short(258, 16, 16, 16),
          short(259, 1),
          short(262, 34892),
          text(271, 'Hollin'),
          text(272, 'Linear'),
          short(274, 1),
          short(277, 3),
          long(278, height),
          short(284, 1),
          bytes(50706, [1, 4, 0, 0]),
          bytes(50707, [1, 1, 0, 0]),
          text(50708, 'Hollin Linear'),
          long(50717, 65535, 65535, 65535),
          signedRational(50721, [0.85, -0.1, -0.11, -0.44, 1.25, 0.16, -0.08, 0.14, 0.56]),
          rational(50728, [0.6, 1, 0.7], 1000),
          short(50778, 21),
        ],
        data: { offsetsTag: 273, countsTag: 279, parts: [new Uint8Array(pixels.buffer)] },
      }),
    );
    const { facts, raw } = await decodeRaw(path),
      plate = makePlate(await loadKernels(readFileSync(kernelsFile)), raw, facts),
      n = width * height;
    expect([facts.mosaic, plate.width, plate.height]).toEqual(['three colours at each place', width, height]);
    let worst = 0;
    for (const [x, y] of [
      [10, 10],
      [50, 20],
      [90, 60],
      [3, 40],
    ] as const)
      for (let c = 0; c < 3; c++)
        worst = Math.max(worst, Math.abs((plate.data[c * n + y * width + x]! - plateOffset) / plateScale - value(x, y, c) / 65535));
    expect(worst).toBeLessThan(0.003);
  });
});
