import { Op } from 'sequelize';
import { exposures } from '@dyepot/core/src/match/statistics.ts';
import { pairsToCompare } from '@dyepot/core/src/match/set.ts';
import type { Evidence } from '@dyepot/core/src/match/pair.ts';
import type { Tie } from '@dyepot/core/src/match/settle.ts';
import { Comparison, Frame, withRaw, type KeptEvidence } from '../db/models.ts';
import { comparing, sampleLevel, type PlatedRaw } from '../work/compareTask.ts';
import type { RenderPool } from '../work/pool.ts';
import { ensureLevel } from './frames.ts';
import { tellNews } from './news.ts';

/** A frame as far as comparing it goes. */
type Compared = Pick<Frame, 'id' | 'hash'>;
const keyOf = (from: string, to: string): string => `${from} ${to}`;
const read = ({ score, ratios, deviation, agreeing }: KeptEvidence): Evidence => ({
  score: Float64Array.from(score, (v) => v / 100),
  ratios,
  deviation,
  agreeing,
});
/** A raw is like itself. */
const same: Evidence = {
  score: Float64Array.from({ length: exposures.count }, (_, i) => (i * exposures.step === exposures.reach ? 1000 : 0)),
  ratios: [0, 0],
  deviation: 1e-3,
  agreeing: 1000,
};

/** What is known of the pairs of a group, and those that are still to be compared. */
export async function tiesOf(
  group: readonly Compared[],
  anchor: number,
): Promise<{ ties: Tie[]; missing: { from: number; to: number }[] }> {
  const kept = await Comparison.findAll({ where: { from: { [Op.in]: group.map((f) => f.hash) } }, raw: true }),
    known = new Map(
      kept.map((c) => [keyOf(c.from, c.to), (typeof c.evidence === 'string' ? JSON.parse(c.evidence) : c.evidence) as KeptEvidence]),
    ),
    ties: Tie[] = [],
    missing: { from: number; to: number }[] = [];
  for (const { from, to } of pairsToCompare(group.length, anchor)) {
    const [a, b] = [group[from]!.hash, group[to]!.hash],
      there = known.get(keyOf(a, b)),
      back = known.get(keyOf(b, a));
    if (a === b) ties.push({ from, to, evidence: same });
    else if (there?.version === comparing) ties.push({ from, to, evidence: read(there) });
    else if (back?.version === comparing) ties.push({ from: to, to: from, evidence: read(back) });
    else missing.push({ from, to });
  }
  return { ties, missing };
}

const underWay = new Map<number, { done: number; total: number }>();
/** How far comparing of a shoot is; null where none is under way. */
export const comparingNow = (shootId: number): { done: number; total: number } | null => underWay.get(shootId) ?? null;

/** Does what is still to be done for a shoot's evenness, two at a time, and tells how far it is. It is begun once. */
export function workThrough(shootId: number, works: readonly (() => Promise<unknown>)[]): void {
  if (underWay.has(shootId) || works.length === 0) return;
  const now = { done: 0, total: works.length };
  underWay.set(shootId, now);
  const tell = (message: string | null): void => tellNews({ kind: 'evenness', shootId, ...now, message });
  void (async () => {
    const waiting = [...works];
    let trouble: string | null = null;
    const work = async (): Promise<void> => {
      for (let next = waiting.shift(); next; next = waiting.shift()) {
        try {
          await next();
        } catch (error) {
          trouble = error instanceof Error ? error.message : String(error);
        }
        now.done++;
        if (now.done < now.total) tell(null);
      }
    };
    await Promise.all([work(), work()]);
    underWay.delete(shootId);
    tell(trouble);
  })();
}
/** Comparing of pairs, one work for each frame. */
export function comparisons(pool: RenderPool, pairs: readonly { from: number; to: number }[]): (() => Promise<void>)[] {
  const of = new Map<number, number[]>();
  for (const { from, to } of pairs) of.set(from, [...(of.get(from) ?? []), to]);
  return [...of].map(
    ([from, to]) =>
      () =>
        compareOne(pool, from, to),
  );
}
/** A frame's plates, as a task reads them small. */
export async function plated(pool: RenderPool, f: Frame): Promise<PlatedRaw> {
  const full = { width: f.raw.width, height: f.raw.height };
  return { folder: await ensureLevel(pool, f, sampleLevel(full)), hash: f.hash, full };
}
async function compareOne(pool: RenderPool, id: number, others: readonly number[]): Promise<void> {
  const frames = new Map((await Frame.findAll({ where: { id: { [Op.in]: [id, ...others] } }, include: withRaw })).map((f) => [f.id, f])),
    frame = frames.get(id);
  // taken out meanwhile
  if (!frame) return;
  const there = others.flatMap((o) => frames.get(o) ?? []),
    evidence = await pool.run('compareFrames', {
      frame: await plated(pool, frame),
      others: await Promise.all(there.map((f) => plated(pool, f))),
    });
  await Comparison.bulkCreate(
    there.map((o, i) => ({ from: frame.hash, to: o.hash, evidence: evidence[i]! })),
    { updateOnDuplicate: ['evidence'] },
  );
}
