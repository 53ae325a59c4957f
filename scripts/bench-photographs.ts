import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync } from 'node:fs';
import { basename, join } from 'node:path';
import sharp from 'sharp';
import { decodeSrgb } from '@dyepot/core/src/colour/transfer.ts';

/** Linear RGB, interleaved, 1 where the picture is white. */
export interface Picture {
  name: string;
  width: number;
  height: number;
  rgb: Float64Array;
}

/** Photographs that Debian's packages carry. */
const packages = ['python3-skimage', 'python3-sklearn'],
  photographs = [
    'skimage/data/coffee.png',
    'skimage/data/astronaut.png',
    'skimage/data/chelsea.png',
    'skimage/data/motorcycle_left.png',
    'skimage/data/rocket.jpg',
    'sklearn/datasets/images/china.jpg',
    'sklearn/datasets/images/flower.jpg',
  ];
/** Fetches and reads them, once for a folder. */
export async function photographsOf(folder: string): Promise<Picture[]> {
  if (!existsSync(folder)) {
    mkdirSync(folder, { recursive: true });
    execFileSync('apt-get', ['download', '-q', ...packages], { cwd: folder, stdio: 'ignore' });
    for (const file of readdirSync(folder).filter((f) => f.endsWith('.deb'))) execFileSync('dpkg-deb', ['-x', join(folder, file), folder]);
  }
  return Promise.all(
    photographs.map(async (file) => {
      const { data, info } = await sharp(join(folder, 'usr/lib/python3/dist-packages', file))
          .removeAlpha()
          .raw()
          .toBuffer({ resolveWithObject: true }),
        width = info.width & ~1,
        height = info.height & ~1,
        rgb = new Float64Array(width * height * 3);
      for (let y = 0; y < height; y++)
        for (let i = 0; i < width * 3; i++) rgb[y * width * 3 + i] = decodeSrgb(data[y * info.width * 3 + i]! / 255);
      return { name: basename(file), width, height, rgb };
    }),
  );
}
