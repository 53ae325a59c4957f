import { mostDifferent } from '@dyepot/core/src/plate/survey.ts';
import type { Rendition } from '@dyepot/core/src/stock/neutral.ts';
import { Frame, Job, Shoot } from '../db/models.ts';
import { found, ServiceError } from './errors.ts';
import { frameView } from './frames.ts';
import { lookAt } from './looks.ts';

/** Lists shoots with what their cards show. */
export async function listShoots(): Promise<object[]> {
  const shoots = await Shoot.findAll({ order: [['createdAt', 'DESC']] });
  return Promise.all(
    shoots.map(async (s) => {
      const frames = await Frame.findAll({ where: { shootId: s.id }, attributes: ['id', 'light'], order: [['name', 'ASC']] });
      const lights = [...new Set(frames.map((f) => f.light))];
      return {
        id: s.id,
        name: s.name,
        lookId: s.lookId,
        lookRevision: s.lookRevision,
        createdAt: s.createdAt,
        frameCount: frames.length,
        lights,
        cover: lights.slice(0, 4).map((l) => frames.find((f) => f.light === l)!.id),
      };
    }),
  );
}

/** A shoot with its frames, look and delivered count. */
export async function shootView(id: number): Promise<object> {
  const shoot = found(await Shoot.findByPk(id), 'this shoot');
  const frames = await Frame.findAll({
    where: { shootId: id },
    order: [
      ['name', 'ASC'],
      ['id', 'ASC'],
    ],
  });
  const deliveries = await Job.count({ where: { shootId: id, kind: 'delivery', state: 'done' } });
  const lead = frames.find((f) => f.id === shoot.leadFrameId) ?? frames[0];
  const look = shoot.lookId ? await lookAt(shoot.lookId, shoot.lookRevision ?? undefined).catch(() => null) : null;
  return {
    id,
    name: shoot.name,
    rendition: shoot.rendition,
    leadFrameId: lead?.id ?? null,
    frames: frames.map(frameView),
    deliveries,
    look: look && { id: look.id, name: look.name, revision: look.revision, strip: look.strip },
    witnessIds: lead
      ? mostDifferent(
          lead,
          frames.filter((f) => f.id !== lead.id),
          4,
        ).map((f) => f.id)
      : [],
  };
}

export async function createShoot(name: string): Promise<Shoot> {
  return Shoot.create({ name, leadFrameId: null, lookId: null, lookRevision: null });
}

export async function updateShoot(id: number, change: { name?: string; leadFrameId?: number; rendition?: Rendition }): Promise<void> {
  const shoot = found(await Shoot.findByPk(id), 'this shoot');
  if (change.leadFrameId !== undefined && !(await Frame.findOne({ where: { id: change.leadFrameId, shootId: id } })))
    throw new ServiceError(400, 'that frame is not in this shoot');
  await shoot.update(change);
}

/** The whole shoot wears a look at a revision (null takes it off). */
export async function applyLook(id: number, lookId: number | null, revision: number | null): Promise<void> {
  const shoot = found(await Shoot.findByPk(id), 'this shoot');
  const look = lookId === null ? null : await lookAt(lookId, revision ?? undefined);
  await shoot.update({ lookId: look?.id ?? null, lookRevision: look?.revision ?? null });
}

/** Removes a shoot and what Dyepot knows of its frames; raw files stay. */
export async function deleteShoot(id: number): Promise<void> {
  await found(await Shoot.findByPk(id), 'this shoot').destroy();
}
