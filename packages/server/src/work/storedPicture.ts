import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import sharp from 'sharp';
import { largestPicture, type StoredPicture } from '@dyepot/core/src/formats/storedPicture.ts';
import { PlainError } from '../plainError.ts';

/** Sides and pixels of a file that is still read. */
const mostSide = 20_000,
  mostPixels = 120e6;

/** Reads a picture file as one that can stand in a look: upright, sRGB, 8 bits, as small as is kept. */
export async function readPicture({ path, name }: { path: string; name: string }): Promise<StoredPicture> {
  const size = await sharp(path)
    .metadata()
    .catch(() => {
      throw new PlainError(`${name} is not a picture that can be read: a JPEG, PNG, WebP or TIFF can`);
    });
  if (size.width > mostSide || size.height > mostSide || size.width * size.height > mostPixels)
    throw new PlainError(`${name} is ${size.width} × ${size.height} pixels; up to ${mostSide} a side and 120 million in all can be read`);
  try {
    const { data, info } = await sharp(path, { limitInputPixels: mostPixels, failOn: 'error' })
        .rotate()
        .flatten({ background: '#000' })
        .toColourspace('srgb')
        .resize(largestPicture, largestPicture, { fit: 'inside', withoutEnlargement: true })
        .removeAlpha()
        .raw()
        .toBuffer({ resolveWithObject: true }),
      rgb =
        info.channels === 3
          ? data
          : Buffer.from(Uint8Array.from({ length: info.width * info.height * 3 }, (_, i) => data[Math.floor(i / 3) * info.channels]!)),
      hash = createHash('sha256');
    await pipeline(createReadStream(path), hash);
    return {
      format: 'dyepot-picture',
      version: 1,
      name: name.slice(0, 200),
      hash: hash.digest('hex').slice(0, 32),
      width: info.width,
      height: info.height,
      data: rgb.toString('base64'),
    };
  } catch (error) {
    throw new PlainError(`${name} cannot be read to its end: ${error instanceof Error ? error.message.split('\n')[0] : 'it is damaged'}`);
  }
}
