import { Op } from 'sequelize';
import type { Chart } from '@dyepot/core/src/match/chart.ts';
import type { Tones } from '@dyepot/core/src/match/tones.ts';
import type { Spot } from '@dyepot/core/src/match/spot.ts';
import { Reading, type Frame } from '../db/models.ts';
import type { GreyLight } from '../work/matchTask.ts';
import type { RenderPool } from '../work/pool.ts';
import { plated } from './comparing.ts';

/** Counts changes of how frames are read for matching: what was kept before is read anew. */
const version = 2;
type Place = readonly [number, number];
/** What can be read of a frame: its chart, its near greys, how its tones lie, a place of it, or where a place of its anchor is again. */
export type Wanted =
  | { kind: 'chart' | 'greys' | 'tones'; frame: Frame }
  | { kind: 'place'; frame: Frame; at: Place }
  | { kind: 'spot'; frame: Frame; anchor: Frame; at: Place };

const keyOf = (w: Wanted): string =>
  [w.kind, version, w.frame.hash, ...('at' in w ? w.at.map((v) => v.toFixed(4)) : []), ...(w.kind === 'spot' ? [w.anchor.hash] : [])].join(
    ' ',
  );

/** What is kept of readings; those that are not are to be made. */
export class Readings {
  private readonly kept = new Map<string, unknown>();
  /** what was asked for and is not there yet */
  readonly missing: Wanted[] = [];
  static async of(wanted: readonly Wanted[]): Promise<Readings> {
    const own = new Readings(),
      keys = [...new Set(wanted.map(keyOf))];
    for (let i = 0; i < keys.length; i += 500)
      for (const r of await Reading.findAll({ where: { key: { [Op.in]: keys.slice(i, i + 500) } } })) own.kept.set(r.key, r.value.found);
    const asked = new Set<string>();
    for (const w of wanted) {
      const key = keyOf(w);
      if (own.kept.has(key) || asked.has(key)) continue;
      asked.add(key);
      own.missing.push(w);
    }
    return own;
  }
  private of<T>(w: Wanted): T | null {
    return (this.kept.get(keyOf(w)) ?? null) as T | null;
  }
  chart(frame: Frame): Chart | null {
    return this.of({ kind: 'chart', frame });
  }
  greys(frame: Frame): GreyLight {
    return this.of({ kind: 'greys', frame });
  }
  tones(frame: Frame): Tones | null {
    return this.of({ kind: 'tones', frame });
  }
  place(frame: Frame, at: Place): Spot | null {
    return this.of({ kind: 'place', frame, at });
  }
  spot(frame: Frame, anchor: Frame, at: Place): Spot | null {
    return this.of({ kind: 'spot', frame, anchor, at });
  }
}

/** Reads something of a frame where it is not kept, and keeps it. */
export async function readOf<T>(pool: RenderPool, w: Wanted): Promise<T | null> {
  const key = keyOf(w),
    known = await Reading.findByPk(key);
  if (known) return known.value.found as T | null;
  const found = await made(pool, w);
  await Reading.upsert({ key, value: { found } });
  return found as T | null;
}
async function made(pool: RenderPool, w: Wanted): Promise<unknown> {
  const frame = await plated(pool, w.frame);
  switch (w.kind) {
    case 'chart':
      return pool.run('readChart', frame);
    case 'greys':
      return pool.run('readGreys', { ...frame, facts: w.frame.raw.facts });
    case 'tones':
      return pool.run('readTones', { ...frame, facts: w.frame.raw.facts });
    case 'place':
      return pool.run('readSpot', { ...frame, at: w.at });
    case 'spot': {
      const spot = await readOf<Spot>(pool, { kind: 'place', frame: w.anchor, at: w.at }),
        [anchorChart, chart] = [
          await readOf<Chart>(pool, { kind: 'chart', frame: w.anchor }),
          await readOf<Chart>(pool, { kind: 'chart', frame: w.frame }),
        ];
      return spot && pool.run('findSpot', { ...frame, spot, anchorChart, chart });
    }
  }
}
