import { Op } from 'sequelize';
import { together } from '../db/database.ts';
import { Frame } from '../db/models.ts';
import { found, ServiceError } from './errors.ts';
import { lookToWear } from './looks.ts';
import { tellNews } from './news.ts';

/** Dips of one raw in one shoot, at most. */
export const mostDips = 50;

const toldOf = (frames: readonly Frame[]): void => {
  for (const id of new Set(frames.map((f) => f.shootId))) tellNews({ kind: 'shoot', id });
};

/**
 * Dips frames again: each gets one more treatment of its raw beside it, with its groundwork and look as they stand, that goes its own way from here.
 * Returns the new frames' ids, in the order asked.
 */
export async function dipAgain(ids: readonly number[]): Promise<number[]> {
  const made = await together(async (transaction) => {
    const dips: Frame[] = [];
    for (const id of ids) {
      const frame = found(await Frame.findByPk(id, { transaction }), 'this frame'),
        kin = await Frame.findAll({ where: { shootId: frame.shootId, hash: frame.hash }, transaction, paranoid: false }),
        first = kin.reduce((a, b) => (b.id < a.id ? b : a));
      if (kin.length >= mostDips) throw new ServiceError(409, `${first.name} has ${kin.length} dips already, with those in the trash`);
      const { shootId, path, hash, light, lookId, lookRevision, groundwork } = frame;
      dips.push(
        await Frame.create(
          { shootId, name: `${first.name} dip ${kin.length + 1}`, path, hash, light, lookId, lookRevision, groundwork },
          { transaction },
        ),
      );
    }
    return dips;
  });
  toldOf(made);
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
  toldOf(dressed);
}
