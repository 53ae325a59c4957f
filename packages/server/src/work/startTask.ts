import { proposeStart } from '@dyepot/core/src/groundwork/start/propose.ts';
import type { Start } from '@dyepot/core/src/groundwork/start/start.ts';
import type { Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';
import { levelSize, plateLevels, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { readPlate } from './plates.ts';
import { beat } from './pulse.ts';

/** Long edges of the plates a start is judged on: its light, and its lines. */
const edges = { light: 240, lines: 1300 };
/** What groundwork is proposed for a frame whose plates are on disk. */
export async function startFrame(t: {
  folder: string;
  full: { width: number; height: number };
  facts: RawFacts;
  groundwork: Groundwork | null;
}): Promise<Start> {
  const read = async (most: number): Promise<Plate> => {
    let level = 1;
    while (level < plateLevels - 1 && Math.max(t.full.width, t.full.height) >> level > most) level++;
    return readPlate(t.folder, level, t.full, { x: 0, y: 0, ...levelSize(t.full.width, t.full.height, level) });
  };
  const light = await read(edges.light),
    lines = await read(edges.lines);
  beat();
  return proposeStart({ light, lines }, t.facts.profile, t.groundwork);
}
