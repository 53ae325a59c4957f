import { existsSync } from 'node:fs';
import { usualLeast, type Speck } from '@dyepot/core/src/repair/dust.ts';
import { noRepairs, straightFrom, type Repair, type RepairKind, type Shape } from '@dyepot/core/src/repair/repairs.ts';
import { validateRepairs } from '@dyepot/core/src/repair/schema.ts';
import { together } from '../db/database.ts';
import { Frame, withRaw } from '../db/models.ts';
import { patchesOf, type Patch } from '../work/mending.ts';
import type { RenderPool } from '../work/pool.ts';
import { found, ServiceError } from './errors.ts';
import { ensureLevel, frameById, plateFolder } from './frames.ts';
import { frameViewNow, tellFrames } from './frameView.ts';
import { Overtaken } from './groundwork.ts';
import { tellNews } from './news.ts';

const fullOf = (frame: Frame): { width: number; height: number } => ({ width: frame.raw.width, height: frame.raw.height });
/** The repairs of a frame as they are kept on disk; those that are not there yet are done. */
export async function mendedPatches(pool: RenderPool, frame: Frame, signal?: AbortSignal): Promise<Patch[]> {
  const { repairs } = frame.mending;
  if (repairs.length === 0) return [];
  const folder = plateFolder(frame.hash),
    known = lately.get(repairs),
    patches = known?.folder === folder ? known.patches : patchesOf(folder, fullOf(frame), repairs);
  lately.set(repairs, { folder, patches });
  if (patches.every((p) => existsSync(p.file))) return patches;
  // two that ask for the same at once wait for one
  const key = `${frame.hash} ${patches.map((p) => p.file).join()}`,
    work =
      underWay.get(key) ??
      (async () => {
        await ensureLevel(pool, frame, 0);
        await pool.run('mendFrame', { folder, full: fullOf(frame), repairs }, signal);
      })().finally(() => underWay.delete(key));
  underWay.set(key, work);
  await work;
  return patches;
}
const underWay = new Map<string, Promise<void>>(),
  /** where the repairs of a list are kept: every piece of a picture asks for it */
  lately = new WeakMap<readonly Repair[], { folder: string; patches: Patch[] }>();

/** Saves whose repairs are being done, by frame. */
const saving = new Map<number, AbortController>();
/** Ends what a save of a frame's repairs is doing; that save is refused then. @returns whether there was one */
export function stopRepairs(id: number): boolean {
  const under = saving.get(id);
  under?.abort();
  return under !== undefined;
}
/** Keeps a frame's repairs, and does them. Refused with what stands when they were changed elsewhere since `version`. */
export async function saveRepairs(pool: RenderPool, id: number, document: unknown, version: number): Promise<object> {
  const read = document === null ? { repairs: noRepairs } : validateRepairs(document);
  if ('message' in read) throw new ServiceError(400, read.message);
  const kept = read.repairs.repairs.length > 0 ? read.repairs : null;
  const before = await frameById(id);
  const stop = new AbortController();
  saving.set(id, stop);
  try {
    // done before it is said: a page that hears of it finds it there
    await mendedPatches(pool, Object.assign(Frame.build({ ...before.get(), repairs: kept }), { raw: before.raw }), stop.signal);
  } finally {
    if (saving.get(id) === stop) saving.delete(id);
  }
  if (stop.signal.aborted) throw new ServiceError(409, 'stopped');
  const frame = await together(async (transaction) => {
    const f = found(await Frame.findByPk(id, { include: withRaw, transaction }), 'this frame');
    if (version !== f.repairVersion) throw new Overtaken(`the repairs of ${f.name} were changed in another window`, await frameViewNow(f));
    await f.update({ repairs: kept, repairVersion: f.repairVersion + 1 }, { transaction });
    return f;
  });
  const view = await frameViewNow(frame);
  tellNews({ kind: 'frame', shootId: frame.shootId, frame: view });
  return view;
}

/** Where something could be taken from that covers a shape of a frame; `nth` counts from 0: the next best. */
export async function sourceFor(
  pool: RenderPool,
  id: number,
  shape: Shape,
  kind: RepairKind,
  nth: number,
): Promise<{ dx: number; dy: number }> {
  const frame = await frameById(id),
    read = validateRepairs({
      ...noRepairs,
      repairs: [{ id: 'sought', kind, shape, ...(kind === 'fill' ? {} : { source: straightFrom(0, 0) }) }],
    });
  if ('message' in read) throw new ServiceError(400, read.message.replace(/^repair 1: /, ''));
  const patches = await mendedPatches(pool, frame),
    at = await pool.run('seekSource', {
      folder: await ensureLevel(pool, frame, 0),
      full: fullOf(frame),
      shape: read.repairs.repairs[0]!.shape,
      kind,
      nth,
      patches,
    });
  if (!at) throw new ServiceError(422, 'nothing near it could cover this place; fill it, or place the source by hand');
  if (nth > 0) return at;
  // a first source is most likely kept: the repair is done while that is on its way
  const wanted = { ...noRepairs, repairs: [...frame.mending.repairs, { ...read.repairs.repairs[0]!, source: straightFrom(at.dx, at.dy) }] };
  mendedPatches(pool, Object.assign(Frame.build({ ...frame.get(), repairs: wanted }), { raw: frame.raw })).catch(() => {});
  return at;
}

const dustOf = async (pool: RenderPool, frame: Frame, least: number): Promise<Speck[]> =>
  pool.run('seekDust', { folder: await ensureLevel(pool, frame, 1), full: fullOf(frame), least });
/** Specks of dust in a frame, as they are proposed. */
export const dustOn = async (pool: RenderPool, id: number, least = usualLeast): Promise<Speck[]> =>
  dustOf(pool, await frameById(id), least);

/** A frame as it lies, made to show dust: a grey PNG. */
export async function dustPictureOf(pool: RenderPool, id: number): Promise<Uint8Array> {
  const frame = await frameById(id),
    patches = await mendedPatches(pool, frame);
  return pool.run('drawDust', { folder: await ensureLevel(pool, frame, 1), full: fullOf(frame), patches });
}

/** A repair of each speck, its source found for itself; those with none near are left. */
async function healing(pool: RenderPool, frame: Frame, specks: readonly Pick<Speck, 'x' | 'y' | 'radius'>[]): Promise<Repair[]> {
  const out: Repair[] = [],
    folder = await ensureLevel(pool, frame, 0),
    patches = await mendedPatches(pool, frame);
  for (const [i, s] of specks.entries()) {
    const shape: Shape = { kind: 'spot', x: s.x, y: s.y, radius: Math.min(0.25, s.radius * 1.25), feather: 0.35 },
      at = await pool.run('seekSource', { folder, full: fullOf(frame), shape, kind: 'heal', nth: 0, patches });
    if (at)
      out.push({
        id: `dust-${Math.round(s.x * 1e5)}-${Math.round(s.y * 1e5)}-${i}`,
        kind: 'heal',
        on: true,
        shape,
        source: straightFrom(at.dx, at.dy),
      });
  }
  return out;
}

/** Repairs each of some specks in the frames that show it. @returns what stood before, for all to be taken back */
export async function mendDust(
  pool: RenderPool,
  specks: readonly { x: number; y: number; radius: number; frames: readonly number[] }[],
): Promise<{ id: number; repairs: unknown; version: number }[]> {
  const ids = [...new Set(specks.flatMap((s) => s.frames))],
    was: { id: number; repairs: unknown; version: number }[] = [],
    done: Frame[] = [];
  for (const id of ids) {
    const frame = await frameById(id),
      // one that is mended already is left alone
      mine = specks.filter(
        (s) =>
          s.frames.includes(id) &&
          !frame.mending.repairs.some((r) => r.shape.kind === 'spot' && Math.hypot(r.shape.x - s.x, r.shape.y - s.y) < s.radius * 0.7),
      );
    if (mine.length === 0) continue;
    const made = await healing(pool, frame, mine);
    const next = { ...noRepairs, repairs: [...frame.mending.repairs, ...made] };
    await mendedPatches(pool, Object.assign(Frame.build({ ...frame.get(), repairs: next }), { raw: frame.raw }));
    await together(async (transaction) => {
      const now = found(await Frame.findByPk(id, { include: withRaw, transaction }), 'one of these frames');
      if (now.repairVersion !== frame.repairVersion)
        throw new ServiceError(409, `the repairs of ${frame.name} were changed meanwhile; it is left as it is`);
      await now.update({ repairs: next, repairVersion: now.repairVersion + 1 }, { transaction });
      done.push(now);
    });
    was.push({ id, repairs: frame.repairs, version: frame.repairVersion + 1 });
  }
  await tellFrames(done);
  return was;
}
/** Keeps repairs of several frames at once, or of none: refused where any of them was changed meanwhile. */
export async function putRepairs(wanted: readonly { id: number; repairs: unknown; version: number }[]): Promise<void> {
  const frames = await together(async (transaction) => {
    const rows: Frame[] = [];
    for (const { id, repairs, version } of wanted) {
      const read = repairs === null ? null : validateRepairs(repairs);
      if (read && 'message' in read) throw new ServiceError(400, read.message);
      const f = found(await Frame.findByPk(id, { include: withRaw, transaction }), 'one of these frames');
      if (f.repairVersion !== version)
        throw new ServiceError(409, `the repairs of ${f.name} were changed meanwhile; nothing is taken back`);
      await f.update({ repairs: read && read.repairs, repairVersion: f.repairVersion + 1 }, { transaction });
      rows.push(f);
    }
    return rows;
  });
  await tellFrames(frames);
}
