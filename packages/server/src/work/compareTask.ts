import { sampleEdge, sampleOf, type Sample } from '@dyepot/core/src/match/likeness.ts';
import { compare } from '@dyepot/core/src/match/pair.ts';
import type { LightFacts } from '@dyepot/core/src/match/lights.ts';
import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';
import { levelSize, plateLevels } from '@dyepot/core/src/plate/plate.ts';
import type { KeptEvidence } from '../db/matching.ts';
import { lightFacts } from './matching.ts';
import { readPlate } from './plates.ts';
import { beat } from './pulse.ts';

/** Counts changes of how frames are compared: what was kept before is compared anew. */
export const comparing = 2;

/** A raw whose plates are on disk. */
export interface PlatedRaw {
  folder: string;
  hash: string;
  full: { width: number; height: number };
}
/** The level frames are compared at. */
export function sampleLevel({ width, height }: PlatedRaw['full']): number {
  let level = 0;
  while (level < plateLevels - 1 && Math.max(width, height) >> level > sampleEdge) level++;
  return level;
}
// samples are large; those of frames that stand side by side are wanted again at once
const lately = new Map<string, Sample>(),
  mostKept = 10;
async function sampleFor({ folder, hash, full }: PlatedRaw): Promise<Sample> {
  const known = lately.get(hash);
  if (known) return known;
  const level = sampleLevel(full),
    size = levelSize(full.width, full.height, level),
    sample = sampleOf(await readPlate(folder, level, full, { x: 0, y: 0, ...size }));
  beat();
  if (lately.size >= mostKept) lately.delete(lately.keys().next().value!);
  lately.set(hash, sample);
  return sample;
}

/** Compares a frame with others of its light. */
export async function compareFrames({ frame, others }: { frame: PlatedRaw; others: readonly PlatedRaw[] }): Promise<KeptEvidence[]> {
  const out: KeptEvidence[] = [];
  for (const other of others) {
    const { score, ratios, deviation, agreeing } = compare(await sampleFor(frame), await sampleFor(other));
    beat();
    out.push({ version: comparing, score: [...score].map((v) => Math.round(100 * v)), ratios: [...ratios], deviation, agreeing });
  }
  return out;
}
/** What tells the light of a raw. */
export async function readLightFacts({ folder, full, facts }: Omit<PlatedRaw, 'hash'> & { facts: RawFacts }): Promise<LightFacts> {
  const level = plateLevels - 1,
    size = levelSize(full.width, full.height, level);
  return lightFacts(facts, await readPlate(folder, level, full, { x: 0, y: 0, ...size }));
}
