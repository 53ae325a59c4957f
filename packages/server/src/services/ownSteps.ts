import { validateOwnSteps } from '@dyepot/core/src/look/schema.ts';
import type { OwnSteps } from '@dyepot/core/src/look/worn.ts';
import { Op } from 'sequelize';
import { together } from '../db/database.ts';
import { Frame, withRaw } from '../db/models.ts';
import { found, ServiceError } from './errors.ts';
import { frameViewNow, tellFrames } from './frameView.ts';
import { Overtaken } from './groundwork.ts';
import { tellNews } from './news.ts';

const readOwn = (steps: unknown): OwnSteps | null => {
  const read = steps === null ? { own: null } : validateOwnSteps(steps);
  if ('message' in read) throw new ServiceError(400, read.message);
  return read.own;
};
const written = (own: OwnSteps | null): object | null => own && { format: 'dyepot-local', version: 1, ...own };

/** Keeps a frame's own steps; null takes them all off. Refused with what stands when they were changed elsewhere since `version`. */
export async function saveOwnSteps(id: number, steps: unknown, version: number): Promise<object> {
  const own = readOwn(steps);
  const frame = await together(async (transaction) => {
    const f = found(await Frame.findByPk(id, { include: withRaw, transaction }), 'this frame');
    if (version !== f.ownVersion) throw new Overtaken(`the steps of ${f.name} were changed in another window`, await frameViewNow(f));
    await f.update({ own: written(own), ownVersion: f.ownVersion + 1 }, { transaction });
    return f;
  });
  const view = await frameViewNow(frame);
  tellNews({ kind: 'frame', shootId: frame.shootId, frame: view });
  return view;
}

/** A frame's own steps, and how often they were changed. */
export interface Owned {
  id: number;
  steps: unknown;
  version: number;
}
/** Keeps own steps of many frames at once, or of none: refused where any of them was changed meanwhile. @returns what stood before, with the versions that took its place */
export async function saveManyOwnSteps(wanted: readonly Owned[]): Promise<Owned[]> {
  const read = wanted.map(({ id, steps, version }) => ({ id, own: readOwn(steps), version }));
  const { was, frames } = await together(async (transaction) => {
    const rows = new Map(
        (await Frame.findAll({ where: { id: { [Op.in]: read.map((r) => r.id) } }, include: withRaw, transaction })).map((f) => [f.id, f]),
      ),
      before: Owned[] = [];
    for (const { id, own, version } of read) {
      const f = found(rows.get(id) ?? null, 'one of these frames');
      if (version !== f.ownVersion) throw new ServiceError(409, `the steps of ${f.name} were changed in another window; nothing was kept`);
      before.push({ id, steps: f.own, version: f.ownVersion + 1 });
      await f.update({ own: written(own), ownVersion: f.ownVersion + 1 }, { transaction });
    }
    return { was: before, frames: [...rows.values()] };
  });
  await tellFrames(frames);
  return was;
}
