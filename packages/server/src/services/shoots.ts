import { Op, fn, col } from 'sequelize';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { mostDifferent } from '@dyepot/core/src/plate/survey.ts';
import type { Rendition } from '@dyepot/core/src/stock/neutral.ts';
import { filled } from '../db/keptDocuments.ts';
import { together } from '../db/database.ts';
import { Frame, Job, LookRecord, Shoot, withRaw } from '../db/models.ts';
import type { Jobs } from '../jobs/jobs.ts';
import type { RenderPool } from '../work/pool.ts';
import { found, ServiceError } from './errors.ts';
import { thumbOf } from './frames.ts';
import { frameView, isThere, type FrameRow } from './frameView.ts';
import { lookAt, lookToWear } from './looks.ts';
import { tellNews } from './news.ts';

/** Lists shoots with what their cards show. */
export async function listShoots(): Promise<object[]> {
  const shoots = await Shoot.findAll({ order: [['createdAt', 'DESC']] });
  const lights = (await Frame.findAll({
    attributes: ['shootId', 'light', [fn('COUNT', col('id')), 'n'], [fn('MIN', col('id')), 'first'], [fn('MIN', col('name')), 'name']],
    group: ['shootId', 'light'],
    order: [[col('name'), 'ASC']],
    raw: true,
  })) as unknown as { shootId: number; light: string; n: number; first: number }[];
  return shoots.map((s) => {
    const own = lights.filter((l) => l.shootId === s.id);
    return {
      id: s.id,
      name: s.name,
      lookId: s.lookId,
      lookRevision: s.lookRevision,
      createdAt: s.createdAt,
      frameCount: own.reduce((n, l) => n + l.n, 0),
      lights: own.map((l) => l.light),
      cover: own.slice(0, 4).map((l) => l.first),
    };
  });
}

const byName: [string, string][] = [
  ['name', 'ASC'],
  ['id', 'ASC'],
];

/** A shoot's frames by name, read as they are stored: a thousand are a matter of milliseconds so. */
async function rowsOf(shootId: number): Promise<(FrameRow & { signature: number[] })[]> {
  const rows = (await Frame.findAll({
    where: { shootId },
    include: { ...withRaw, attributes: { exclude: ['survey'] } },
    order: byName,
    raw: true,
    nest: true,
  })) as unknown as Record<'groundwork' | 'own' | 'repairs' | 'raw', Record<string, unknown>>[];
  const read = (v: unknown): unknown => (typeof v === 'string' ? JSON.parse(v) : v);
  return rows.map((r) => ({
    ...(r as unknown as FrameRow),
    groundwork: read(r.groundwork) as FrameRow['groundwork'],
    own: filled(read(r.own)) as FrameRow['own'],
    repairs: read(r.repairs) as FrameRow['repairs'],
    signature: read(r.raw['signature']) as number[],
    raw: { ...(r.raw as unknown as FrameRow['raw']), facts: read(r.raw['facts']) as FrameRow['raw']['facts'] },
  }));
}
/** What many frames have in common (their camera's colour) is sent once; each frame says which, and its neutral besides. */
function shared(frames: ReturnType<typeof frameView>[]): { views: object[]; profiles: object[] } {
  const places = new Map<string, number>(),
    profiles: object[] = [];
  const views = frames.map((f) => {
    const common = { ...f.profile, asShotNeutral: undefined },
      text = JSON.stringify(common);
    let at = places.get(text);
    if (at === undefined) {
      at = profiles.push(common) - 1;
      places.set(text, at);
    }
    // there may be thousands of repairs: they come with the frame alone, the list says how many
    return { ...f, profile: at, repairs: [] };
  });
  return { views, profiles };
}

/** A shoot with its frames, look and delivered count. A frame's `profile` is its place among `profiles`. */
export async function shootView(id: number): Promise<object> {
  const shoot = found(await Shoot.findByPk(id), 'this shoot');
  const frames = await rowsOf(id),
    missing = await Promise.all(frames.map(async (f) => !(await isThere(f.path)))),
    { views, profiles } = shared(frames.map((f, i) => frameView(f, missing[i]!)));
  const deliveries = await Job.count({ where: { shootId: id, kind: 'delivery', state: 'done' } });
  const lead = frames.find((f) => f.id === shoot.leadFrameId) ?? frames[0];
  return {
    id,
    name: shoot.name,
    rendition: shoot.rendition,
    leadFrameId: lead?.id ?? null,
    frames: views,
    profiles,
    deliveries,
    look: await wornBy(shoot),
    witnessIds: lead
      ? mostDifferent(
          lead,
          frames.filter((f) => f.id !== lead.id),
          4,
        ).map((f) => f.id)
      : [],
  };
}
/** Begins the first picture of a shoot's sheet, whose page is on its way; what it lacks is met when it is asked for. */
export async function expectSheet(pool: RenderPool, shootId: number): Promise<void> {
  const shoot = await Shoot.findByPk(shootId),
    first = await Frame.findAll({ where: { shootId }, attributes: ['id'], order: byName, limit: 1 });
  for (const { id } of first) await thumbOf(pool, id, shoot?.lookId ?? null, shoot?.lookRevision ?? null, 360).catch(() => {});
}

/** The looks worn by the shoots made last, newest first: what is likely to be rendered with next. */
export async function looksWorn(most: number): Promise<Look[]> {
  const shoots = await Shoot.findAll({ where: { lookId: { [Op.ne]: null } }, order: [['id', 'DESC']], limit: most }),
    looks = await Promise.all(shoots.map((s) => lookAt(s.lookId!, s.lookRevision ?? undefined).catch(() => null)));
  return looks.flatMap((l) => l?.document ?? []);
}

/** The look a shoot wears, and whether there is a newer revision of it; null for none. */
async function wornBy(shoot: Shoot): Promise<object | null> {
  if (!shoot.lookId) return null;
  try {
    const { id, name, revision, newest, strip } = await lookAt(shoot.lookId, shoot.lookRevision ?? undefined);
    return { id, name, revision, newest, strip, broken: null };
  } catch (error) {
    const record = await LookRecord.findByPk(shoot.lookId, { paranoid: false });
    return {
      id: shoot.lookId,
      name: record?.name ?? 'a look that is gone',
      revision: shoot.lookRevision,
      newest: record?.revision ?? shoot.lookRevision,
      strip: [],
      broken: error instanceof Error ? error.message : '',
    };
  }
}

export async function createShoot(name: string): Promise<Shoot> {
  const shoot = await Shoot.create({ name, leadFrameId: null, lookId: null, lookRevision: null });
  tellNews({ kind: 'shoots' });
  return shoot;
}

export async function updateShoot(id: number, change: { name?: string; leadFrameId?: number; rendition?: Rendition }): Promise<void> {
  const shoot = found(await Shoot.findByPk(id), 'this shoot');
  if (change.leadFrameId !== undefined && !(await Frame.findOne({ where: { id: change.leadFrameId, shootId: id }, attributes: ['id'] })))
    throw new ServiceError(400, 'that frame is not in this shoot');
  await shoot.update(change);
  tellNews({ kind: 'shoot', id });
}

/** The whole shoot wears a look at a revision (null takes it off). */
export async function applyLook(id: number, lookId: number | null, revision: number | null): Promise<void> {
  const shoot = found(await Shoot.findByPk(id), 'this shoot');
  const look = lookId === null ? null : await lookToWear(lookId, revision);
  await shoot.update({ lookId: look?.id ?? null, lookRevision: look?.revision ?? null });
  tellNews({ kind: 'shoot', id });
}

/** Takes a shoot out, to the trash, with all that was done to its frames; what runs for it is stopped. Raw files stay. */
export async function takeOutShoot(id: number, jobs: Jobs): Promise<void> {
  const shoot = found(await Shoot.findByPk(id), 'this shoot');
  await jobs.stopAllOf(id);
  await shoot.destroy();
  tellNews({ kind: 'shoots' });
  tellNews({ kind: 'trash' });
}

/** Takes frames out of their shoot, to the trash, with their groundwork. */
export async function takeOutFrames(ids: readonly number[]): Promise<void> {
  const shoots = await together(async (transaction) => {
    const frames = await Frame.findAll({ where: { id: { [Op.in]: [...ids] } }, attributes: ['id', 'shootId'], transaction });
    if (frames.length === 0) found(null, 'this frame');
    await Frame.destroy({ where: { id: { [Op.in]: frames.map((f) => f.id) } }, transaction });
    return new Set(frames.map((f) => f.shootId));
  });
  for (const id of shoots) tellNews({ kind: 'shoot', id });
  tellNews({ kind: 'trash' });
}

/** That a shoot is there; a 404 otherwise. */
export async function shootThere(id: number): Promise<void> {
  found(await Shoot.findByPk(id, { attributes: ['id'] }), 'this shoot');
}
