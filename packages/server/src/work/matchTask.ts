import { autoBalance } from '@dyepot/core/src/groundwork/balance.ts';
import { findChart, type Chart } from '@dyepot/core/src/match/chart.ts';
import { spotAgain, spotAt, type Spot } from '@dyepot/core/src/match/spot.ts';
import { tonesOf, type Tones } from '@dyepot/core/src/match/tones.ts';
import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';
import { levelSize, plateLevels, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { sampleLevel, type PlatedRaw } from './compareTask.ts';
import { readPlate } from './plates.ts';

/** The light that makes a frame's near greys neutral. */
export type GreyLight = ReturnType<typeof autoBalance>;

function smallPlate({ folder, full }: PlatedRaw, smaller = 0): Promise<Plate> {
  const level = Math.min(plateLevels - 1, sampleLevel(full) + smaller);
  return readPlate(folder, level, full, { x: 0, y: 0, ...levelSize(full.width, full.height, level) });
}
/** The chart of 24 patches in a frame; null where it shows none. */
export const readChart = async (frame: PlatedRaw): Promise<Chart | null> => findChart(await smallPlate(frame));
/** The light of a frame's near greys; null where nothing in it looks grey. */
export const readGreys = async ({ facts, ...frame }: PlatedRaw & { facts: RawFacts }): Promise<GreyLight> =>
  autoBalance(await smallPlate(frame, 1), facts.profile);
/** How the tones of a frame lie. */
export const readTones = async ({ facts, ...frame }: PlatedRaw & { facts: RawFacts }): Promise<Tones> =>
  tonesOf(await smallPlate(frame, 1), facts.profile);
/** The colour of a place of a frame, in shares of its plate; null where it clips or is lost in the dark. */
export const readSpot = async ({ at, ...frame }: PlatedRaw & { at: readonly [number, number] }): Promise<Spot | null> =>
  spotAt(await smallPlate(frame), at[0], at[1]);
/** The spot of an anchor again in a frame; null where it is not found. */
export async function findSpot({
  spot,
  anchorChart,
  chart,
  ...frame
}: PlatedRaw & { spot: Spot; anchorChart: Chart | null; chart: Chart | null }): Promise<Spot | null> {
  return spotAgain(spot, { chart: anchorChart }, { plate: await smallPlate(frame), chart });
}
