import { Op } from 'sequelize';
import { together } from '../db/database.ts';
import { Frame } from '../db/models.ts';
import { found, ServiceError } from './errors.ts';
import { lookToWear } from './looks.ts';
import { tellNews } from './news.ts';

/** Dips of one raw in one shoot, at most. */
export const mostDips = 50;

function tellShootsOf(frames: readonly Frame[]): void {
  for (const id of new Set(frames.map((f) => f.shootId))) tellNews({ kind: 'shoot', id });
}
const kinOf = (f: Frame): string => `${f.shootId} ${f.hash}`;
/** The name of the next dip: of the first, with a number that none has or had. */
function nextName(kin: readonly Frame[]): string {
  const first = kin.reduce((a, b) => (b.id < a.id ? b : a)),
    numbers = kin.map((f) => Number(/ dip (\d+)$/.exec(f.name)?.[1] ?? 1));
  return `${first.name.replace(/ dip \d+$/, '')} dip ${Math.max(...numbers) + 1}`;
}

/**
 * Dips frames again: each gets one more treatment of its raw beside it, with its groundwork and look as they stand, that goes its own way from here.
 * Returns the new frames' ids, in the order asked.
 */
export async function dipAgain(ids: readonly number[]): Promise<number[]> {
  const made = await together(async (transaction) => {
    const frames = new Map((await Frame.findAll({ where: { id: { [Op.in]: [...ids] } }, transaction })).map((f) => [f.id, f])),
      asked = ids.map((id) => found(frames.get(id) ?? null, 'one of these frames')),
      kin = new Map<string, Frame[]>();
    for (const f of await Frame.findAll({
      where: { shootId: { [Op.in]: asked.map((a) => a.shootId) }, hash: { [Op.in]: asked.map((a) => a.hash) } },
      attributes: ['id', 'shootId', 'hash', 'name'],
      paranoid: false,
      transaction,
    }))
      kin.set(kinOf(f), [...(kin.get(kinOf(f)) ?? []), f]);
    const dips = asked.map((frame) => {
      const own = kin.get(kinOf(frame))!;
      if (own.length >= mostDips) throw new ServiceError(409, `${own[0]!.name} has ${own.length} dips already, with those in the trash`);
      const { shootId, path, hash, light, lookId, lookRevision, groundwork, own: steps, repairs } = frame,
        dip = { shootId, name: nextName(own), path, hash, light, lookId, lookRevision, groundwork, own: steps, repairs };
      own.push(Frame.build({ ...dip, id: Number.MAX_SAFE_INTEGER }));
      return dip;
    });
    const created: Frame[] = [];
    for (const dip of dips) created.push(await Frame.create(dip, { transaction }));
    return created;
  });
  tellShootsOf(made);
  return made.map((f) => f.id);
}

/** Frames wear a look of their own at a revision; null gives them back to the shoot's. */
export async function dressFrames(ids: readonly number[], lookId: number | null, revision: number | null): Promise<void> {
  const look = lookId === null ? null : await lookToWear(lookId, revision);
  const dressed = await together(async (transaction) => {
    const frames = await Frame.findAll({ where: { id: { [Op.in]: [...ids] } }, attributes: ['id', 'shootId'], transaction });
    if (frames.length < new Set(ids).size) found(null, 'one of these frames');
    await Frame.update(
      { lookId: look?.id ?? null, lookRevision: look?.revision ?? null },
      { where: { id: { [Op.in]: [...ids] } }, transaction },
    );
    return frames;
  });
  tellShootsOf(dressed);
}
