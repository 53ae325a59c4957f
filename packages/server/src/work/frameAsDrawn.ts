import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';
import { makePlate, type Plate } from '@dyepot/core/src/plate/plate.ts';
import type { DrawnFrame } from '@dyepot/core/src/plan/draw.ts';
import { opticsOf } from '@dyepot/core/src/groundwork/detail/optics.ts';
import { estimateNoise, usualNoise } from '@dyepot/core/src/groundwork/noise.ts';
import { decodeRaw, type Decoded } from '../decode/decode.ts';
import { kernels } from './ownKernels.ts';
import { beat } from './pulse.ts';
import { spareData } from './sparePlate.ts';

export const seedOf = (hash: string): number => Number.parseInt(hash.slice(0, 7), 16);

/** Decodes a raw; its noise is measured where it is asked for. */
export async function decodePlate(path: string, noisy: boolean): Promise<{ facts: RawFacts; plate: Plate }> {
  return plateOf(await decodeRaw(path), noisy);
}
/** The same with the content hash, which is taken where it is not known. */
export async function decodeHashed(
  path: string,
  noisy: boolean,
  known: string | null = null,
): Promise<{ facts: RawFacts; plate: Plate; hash: string }> {
  const decoded = await decodeRaw(path, known === null);
  return { ...(await plateOf(decoded, noisy)), hash: known ?? decoded.hash! };
}
async function plateOf({ facts, raw }: Decoded, noisy: boolean): Promise<{ facts: RawFacts; plate: Plate }> {
  beat();
  return {
    facts: noisy ? { ...facts, noise: estimateNoise(raw, facts) } : facts,
    plate: makePlate(await kernels(), raw, facts, spareData()),
  };
}

/** A frame as its drawings need it. */
export const drawn = (size: { width: number; height: number }, facts: RawFacts): DrawnFrame => ({
  width: size.width,
  height: size.height,
  noise: facts.noise ?? usualNoise(facts.exif.iso),
  neutral: facts.profile.asShotNeutral,
  fileLens: facts.fileLens ?? null,
  optics: opticsOf(facts.exif, size),
});
