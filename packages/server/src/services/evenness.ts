import { Op, type Transaction } from 'sequelize';
import { apart, brought, type Apart, type Wish } from '@dyepot/core/src/match/card.ts';
import { spreadOf, whyOut } from '@dyepot/core/src/match/evenness.ts';
import { chartErrorBetween } from '@dyepot/core/src/match/chart.ts';
import { validateGroundwork } from '@dyepot/core/src/groundwork/schema.ts';
import type { Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { together } from '../db/database.ts';
import { Comparison, Frame, Reading, Shoot, withRaw, type Matching } from '../db/models.ts';
import { evennessPdf } from '../work/evennessReport.ts';
import { kernels } from '../work/ownKernels.ts';
import type { RenderPool } from '../work/pool.ts';
import { comparingNow, comparisons, workThrough } from './comparing.ts';
import { found, ServiceError } from './errors.ts';
import { thumbOf } from './frames.ts';
import { tellFrames } from './frameView.ts';
import { groupsOf, subjectOf, wishOf, type Group } from './groups.ts';
import { lookAt } from './looks.ts';
import { tellNews } from './news.ts';
import { readOf } from './readings.ts';

/** The groundwork that brings a frame to its anchor; a frame whose exposure cannot be told keeps it. */
const bringing = (group: Group, i: number, wish: Wish, share = 1): Groundwork => {
  const [way, goal] = [group.ways![i]!, group.ways![group.anchor]!],
    tones = way.tones && goal.tones ? { frame: way.tones, anchor: goal.tones } : null;
  return brought(
    subjectOf(group.frames[i]!),
    subjectOf(group.frames[group.anchor]!),
    way,
    { ...wish, exposure: wish.exposure && way.sure },
    share,
    tones,
  );
};
const shootOf = async (id: number): Promise<Shoot> => found(await Shoot.findByPk(id), 'this shoot');

async function wornLook(shoot: Shoot): Promise<{ name: string; look: Look | null }> {
  if (!shoot.lookId) return { name: '', look: null };
  const { name, document } = await lookAt(shoot.lookId, shoot.lookRevision ?? undefined);
  return { name, look: document };
}
const rounded = (a: Apart): Apart => ({
  ev: Math.round(a.ev * 1e3) / 1e3,
  mired: Math.round(a.mired * 100) / 100,
  duv: Math.round(a.duv * 1e5) / 1e5,
  difference: Math.round(a.difference * 100) / 100,
  grey: [Math.round(a.grey[0] * 100) / 100, Math.round(a.grey[1] * 100) / 100],
});

/** Said of a frame whose exposure cannot be told. */
const tooLittle = 'too little in common with its light for its exposure to be told; only its balance is proposed';

/** How even a shoot is: each frame beside the anchor of its light, as it is and as it is proposed; seen through the shoot's look, or before it. */
export async function evennessOf(id: number, under: 'look' | 'none'): Promise<object> {
  const shoot = await shootOf(id),
    { name, look } = under === 'look' ? await wornLook(shoot) : { name: '', look: null },
    groups = await groupsOf(shoot),
    k = await kernels();
  return {
    look: name,
    tolerance: shoot.tolerance,
    by: shoot.matching.by,
    comparing: comparingNow(id),
    missing: groups.reduce((n, g) => n + new Set(g.missing.map((m) => m.from)).size + g.unread.length, 0),
    parts: wishOf(shoot.matching),
    groups: groups.map((group) => {
      const { light, frames, anchor, named, ways } = group,
        to = subjectOf(frames[anchor]!),
        seen = ways && frames.map(told);
      function told(
        f: Frame,
        i: number,
      ): { now: Apart; proposed: Apart; groundwork: Groundwork | null; patches: { now: number; proposed: number } | null } {
        const frame = subjectOf(f),
          isAnchor = i === anchor,
          shift = ways![i]!,
          groundwork = isAnchor ? frame.groundwork : bringing(group, i, wishOf(shoot.matching)),
          goal = ways![anchor]!.chart,
          patches = (g: Groundwork | null): number =>
            Math.round(100 * chartErrorBetween(shift.chart!, goal!, { ...frame, groundwork: g }, to)) / 100;
        return {
          now: rounded(apart(k, frame, to, shift, look)),
          proposed: rounded(apart(k, { ...frame, groundwork }, to, shift, look)),
          groundwork,
          patches: shift.chart && goal && !isAnchor ? { now: patches(frame.groundwork), proposed: patches(groundwork) } : null,
        };
      }
      return {
        light,
        anchorId: frames[anchor]!.id,
        named,
        spread: seen && { now: spreadOf(seen.map((s) => s.now)), proposed: spreadOf(seen.map((s) => s.proposed)) },
        frames: frames.map((f, i) => ({
          id: f.id,
          name: f.name,
          ...(seen
            ? {
                now: seen[i]!.now,
                proposed: seen[i]!.proposed,
                exposureEv: (seen[i]!.groundwork?.exposureEv ?? 0) - (f.ground.groundwork?.exposureEv ?? 0),
                groundwork: i === anchor ? null : seen[i]!.groundwork,
                why: whyOut(seen[i]!.now, shoot.tolerance) && (ways![i]!.sure ? whyOut(seen[i]!.now, shoot.tolerance) : tooLittle),
                note: ways![i]!.note,
                spot: ways![i]!.spot ?? null,
                patches: seen[i]!.patches,
              }
            : { now: null, proposed: null, exposureEv: 0, groundwork: null, why: null, note: null, spot: null, patches: null }),
        })),
      };
    }),
  };
}

/** How far frames are off their anchors under the look the shoot wears, as far as that is known; kept until something of it changes. */
const marked = new Map<number, { key: string; marks: EvenMarks }>();
export interface EvenMarks {
  tolerance: number;
  off: Record<number, number>;
}
export async function evenMarks(id: number): Promise<EvenMarks> {
  const shoot = await shootOf(id),
    frames = await Frame.findAll({ where: { shootId: id }, attributes: ['id', 'groundVersion', 'light', 'hash'], raw: true }),
    // what is compared and read comes by and by
    [compared, read] = [await Comparison.count(), await Reading.count()],
    key = JSON.stringify([shoot, compared, read, frames.map((f) => [f.id, f.groundVersion, f.light, f.hash])]),
    known = marked.get(id);
  if (known?.key === key) return known.marks;
  const { look } = await wornLook(shoot),
    k = await kernels(),
    marks: EvenMarks = { tolerance: shoot.tolerance, off: {} };
  for (const { frames: own, anchor, ways } of await groupsOf(shoot))
    if (ways)
      own.forEach((f, i) => (marks.off[f.id] = rounded(apart(k, subjectOf(f), subjectOf(own[anchor]!), ways[i]!, look)).difference));
  marked.set(id, { key, marks });
  return marks;
}

/** Compares and reads what is still to be of a shoot. */
export async function measureEvenness(pool: RenderPool, id: number): Promise<object> {
  const groups = await groupsOf(await shootOf(id));
  workThrough(id, [
    ...comparisons(
      pool,
      groups.flatMap((g) => g.missing),
    ),
    ...groups.flatMap((g) => g.unread.map((w) => () => readOf(pool, w))),
  ]);
  return { comparing: comparingNow(id) };
}

/** Names the anchor of the frame's light; null lets the most typical serve again. */
export async function setAnchor(id: number, light: string, frameId: number | null): Promise<void> {
  const shoot = await shootOf(id);
  if (frameId !== null && !(await Frame.findOne({ where: { id: frameId, shootId: id, light } })))
    throw new ServiceError(400, 'that frame does not stand in this light');
  const anchors = { ...shoot.anchors };
  if (frameId === null) delete anchors[light];
  else anchors[light] = frameId;
  await shoot.update({ anchors });
  tellNews({ kind: 'shoot', id });
}

/** How a shoot's frames are matched from now on, and in which parts; a place of a frame where a patch is pointed at, or no longer (null). Nothing is changed by it but what is proposed. */
export async function setMatching(
  id: number,
  { by, parts, frameId, at }: { by?: Matching['by']; parts?: Wish; frameId?: number; at?: readonly [number, number] | null },
): Promise<void> {
  const shoot = await shootOf(id),
    places = { ...shoot.matching.at };
  if (frameId !== undefined && at !== undefined) {
    found(await Frame.findOne({ where: { id: frameId, shootId: id }, attributes: ['id'] }), 'this frame');
    if (at) places[frameId] = at;
    else delete places[frameId];
  }
  await shoot.update({ matching: { ...shoot.matching, by: by ?? shoot.matching.by, ...(parts && { parts }), at: places } });
  tellNews({ kind: 'shoot', id });
}

/** A frame's groundwork as it was, so that all can be given back at once. */
export interface Was {
  id: number;
  groundwork: Groundwork | null;
  /** the version that took its place */
  version: number;
}
/** Writes groundwork of many frames at once, or of none; `also`: what is written with it, or not at all. */
export async function putGroundworks(
  shootId: number,
  wanted: readonly { id: number; groundwork: unknown; version?: number }[],
  also?: (transaction: Transaction) => Promise<unknown>,
): Promise<Was[]> {
  const read = wanted.map(({ id, groundwork, version }) => {
    const g = groundwork === null ? { groundwork: null } : validateGroundwork(groundwork);
    if ('message' in g) throw new ServiceError(400, g.message);
    return { id, groundwork: g.groundwork, version };
  });
  const { was, frames } = await together(async (transaction) => {
    const rows = new Map(
        (await Frame.findAll({ where: { shootId, id: { [Op.in]: read.map((r) => r.id) } }, include: withRaw, transaction })).map((f) => [
          f.id,
          f,
        ]),
      ),
      before: Was[] = [];
    for (const { id, groundwork, version } of read) {
      const f = found(rows.get(id) ?? null, 'one of these frames');
      if (version !== undefined && version !== f.groundVersion)
        throw new ServiceError(409, `the groundwork of ${f.name} was changed meanwhile; nothing is taken back`);
      before.push({ id, groundwork: f.groundwork, version: f.groundVersion + 1 });
      await f.update({ groundwork, groundVersion: f.groundVersion + 1 }, { transaction });
    }
    await also?.(transaction);
    return { was: before, frames: [...rows.values()] };
  });
  await tellFrames(frames);
  return was;
}
/** Brings frames to their anchors, all the way or part of it. @returns what stood before */
export async function takeProposals(shootId: number, ids: readonly number[], share: number, wish: Partial<Wish>): Promise<Was[]> {
  const shoot = await shootOf(shootId),
    asked = new Set(ids),
    parts = { ...wishOf(shoot.matching), ...wish },
    wanted = (await groupsOf(shoot)).flatMap((g) =>
      g.frames.flatMap((f, i) =>
        i !== g.anchor && g.ways && asked.has(f.id) ? [{ id: f.id, groundwork: bringing(g, i, parts, share) }] : [],
      ),
    );
  if (wanted.length === 0) throw new ServiceError(409, 'there is nothing to take: these frames are anchors, or not compared yet');
  return putGroundworks(shootId, wanted);
}

/** The file of a small picture of a frame as it is proposed, under the look it wears or none. */
export async function proposedPicture(pool: RenderPool, shootId: number, frameId: number, under: 'look' | 'none'): Promise<string> {
  const shoot = await shootOf(shootId),
    { light } = found(await Frame.findOne({ where: { id: frameId, shootId }, attributes: ['light'] }), 'this frame'),
    [group] = await groupsOf(shoot, light),
    at = group?.frames.findIndex((f) => f.id === frameId) ?? -1,
    frame = found(group?.frames[at] ?? null, 'this frame'),
    groundwork = group!.ways && at !== group!.anchor ? bringing(group!, at, wishOf(shoot.matching)) : frame.ground.groundwork,
    worn = under === 'none' ? null : frame.lookId ? frame : shoot;
  return thumbOf(pool, frameId, worn?.lookId ?? null, worn?.lookRevision ?? null, 720, groundwork);
}

/** The report of a shoot's evenness, as a PDF. */
export async function evennessReport(id: number, under: 'look' | 'none'): Promise<{ name: string; pdf: Buffer }> {
  const shoot = await shootOf(id),
    { name, look } = under === 'look' ? await wornLook(shoot) : { name: '', look: null },
    groups = await groupsOf(shoot),
    k = await kernels();
  if (groups.some((g) => !g.ways)) throw new ServiceError(409, 'not all frames are compared yet');
  const pdf = await evennessPdf({
    title: shoot.name,
    look: name,
    tolerance: shoot.tolerance,
    groups: groups.map(({ light, frames, anchor, ways }) => ({
      name: light,
      anchor: frames[anchor]!.name,
      frames: frames.map((f, i) => ({ name: f.name, apart: apart(k, subjectOf(f), subjectOf(frames[anchor]!), ways![i]!, look) })),
    })),
  });
  return { name: shoot.name, pdf };
}
