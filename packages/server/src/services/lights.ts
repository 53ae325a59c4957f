import { groupsOfLight } from '@dyepot/core/src/match/lights.ts';
import { plateLevels } from '@dyepot/core/src/plate/plate.ts';
import { Op } from 'sequelize';
import { together } from '../db/database.ts';
import { Frame, LightRecord, Shoot, withRaw } from '../db/models.ts';
import { takenAt } from '../work/matching.ts';
import type { RenderPool } from '../work/pool.ts';
import { found, ServiceError } from './errors.ts';
import { ensureLevel } from './frames.ts';
import { tellFrames } from './frameView.ts';
import { tellNews } from './news.ts';
import { lightName } from './rawNames.ts';

/** Frames that are grouped at once, at most: each is compared with each. */
const mostGrouped = 1500;
/** What is said of frames, one by one. */
export interface Said {
  id: number;
  light?: string;
  rating?: number;
  mark?: string;
}

/** Says something of many frames at once. @returns what was said before */
export async function sayOfFrames(said: readonly Said[]): Promise<Said[]> {
  const { was, frames } = await together(async (transaction) => {
    const rows = new Map(
        (await Frame.findAll({ where: { id: { [Op.in]: said.map((s) => s.id) } }, include: withRaw, transaction })).map((f) => [f.id, f]),
      ),
      before: Said[] = [];
    for (const { id, ...change } of said) {
      const f = found(rows.get(id) ?? null, 'one of these frames');
      before.push({ id, ...(Object.fromEntries(Object.keys(change).map((k) => [k, f[k as keyof typeof change]])) as Omit<Said, 'id'>) });
      await f.update(change, { transaction });
    }
    return { was: before, frames: [...rows.values()] };
  });
  await tellFrames(frames);
  return was;
}

const clock = (time: number): string => new Date(time).toISOString().slice(11, 16);
/** Groups of light as they are proposed: by time, balance, brightness and colour. Names that most of a group bear stay. */
export async function proposedLights(pool: RenderPool, shootId: number): Promise<{ light: string; ids: number[] }[]> {
  found(await Shoot.findByPk(shootId, { attributes: ['id'] }), 'this shoot');
  const frames = await Frame.findAll({ where: { shootId }, include: withRaw, order: [['name', 'ASC']] });
  if (frames.length > mostGrouped)
    throw new ServiceError(409, `groups are proposed for up to ${mostGrouped} frames; this shoot has ${frames.length}`);
  if (frames.length === 0) throw new ServiceError(409, 'there are no frames yet');
  const known = new Map(
    (await LightRecord.findAll({ where: { hash: { [Op.in]: frames.map((f) => f.hash) } } })).map((r) => [r.hash, r.facts]),
  );
  for (const f of frames) {
    if (known.has(f.hash)) continue;
    const facts = await pool.run('readLightFacts', {
      folder: await ensureLevel(pool, f, plateLevels - 1),
      full: { width: f.raw.width, height: f.raw.height },
      facts: f.raw.facts,
    });
    known.set(f.hash, facts);
    await LightRecord.upsert({ hash: f.hash, facts });
  }
  const group = groupsOfLight(frames.map((f) => known.get(f.hash)!)),
    taken = new Set<string>();
  return [...new Set(group)].map((g) => {
    const own = frames.filter((_, i) => group[i] === g),
      names = new Map<string, number>();
    for (const f of own) names.set(f.light, (names.get(f.light) ?? 0) + 1);
    const [most, count] = [...names].sort((a, b) => b[1] - a[1])[0]!,
      times = own.flatMap((f) => takenAt(f.raw.facts.exif) ?? []).sort((a, b) => a - b),
      when = times.length > 0 ? `, ${clock(times[0]!)} to ${clock(times[times.length - 1]!)}` : '';
    const plain = count > own.length / 2 ? most : lightName(own[0]!.raw.kelvin);
    let name = taken.has(plain) ? `${plain}${when}` : plain;
    for (let i = 2; taken.has(name); i++) name = `${plain}${when} ${i}`;
    taken.add(name);
    return { light: name.slice(0, 60), ids: own.map((f) => f.id) };
  });
}
/** Groups a shoot's frames by their light where nobody has named a light of it yet. */
export async function groupNewLights(pool: RenderPool, shootId: number): Promise<void> {
  const frames = await Frame.findAll({ where: { shootId }, include: withRaw });
  if (frames.length < 3 || frames.some((f) => f.light !== lightName(f.raw.kelvin))) return;
  const groups = await proposedLights(pool, shootId),
    known = new Map(frames.map((f) => [f.id, f.light]));
  await together(async (transaction) => {
    for (const { light, ids } of groups)
      for (const id of ids) {
        const was = known.get(id);
        // one that somebody has named meanwhile keeps its name
        if (was !== undefined && was !== light) await Frame.update({ light }, { where: { id, light: was }, transaction });
      }
  });
  tellNews({ kind: 'shoot', id: shootId });
}
