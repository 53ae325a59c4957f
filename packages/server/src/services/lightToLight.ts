import type { Chart } from '@dyepot/core/src/match/chart.ts';
import type { Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { lightMove, movedWith, type LightMove } from '@dyepot/core/src/match/lightToLight.ts';
import type { Shift } from '@dyepot/core/src/match/card.ts';
import { shiftBetween, shiftByChart, shiftByNeutrals } from '@dyepot/core/src/match/set.ts';
import type { Spot } from '@dyepot/core/src/match/spot.ts';
import type { Tones } from '@dyepot/core/src/match/tones.ts';
import { Frame, Shoot, type Matching } from '../db/models.ts';
import type { GreyLight } from '../work/matchTask.ts';
import type { RenderPool } from '../work/pool.ts';
import { found, ServiceError } from './errors.ts';
import { thumbOf } from './frames.ts';
import { putGroundworks, type Was } from './evenness.ts';
import { groupsOf, subjectOf, type Group } from './groups.ts';
import { readOf } from './readings.ts';

/** Which parts of one light are brought to another: how bright it is, and the light's colour. */
export interface LightWish {
  exposure: boolean;
  balance: boolean;
}
/** How a light would be moved to come to another, and what tells so. */
export interface LightProposal {
  light: string;
  count: number;
  anchorId: number;
  anchor: string;
  move: LightMove;
  by: string;
  /** the anchor's, as it would be */
  groundwork: Groundwork;
}

/** What brings one light's anchor to another's: a chart or a patch where both show it; else the middle of their tones, and their near greys. */
async function shiftOf(
  pool: RenderPool,
  from: Frame,
  to: Frame,
  { by, at }: Matching,
): Promise<{ shift: Shift; by: string; greys: boolean }> {
  if (by === 'chart') {
    const [a, b] = [await readOf<Chart>(pool, { kind: 'chart', frame: from }), await readOf<Chart>(pool, { kind: 'chart', frame: to })];
    if (a && b) return { shift: shiftByChart(a, b), by: 'the chart', greys: true };
  }
  const [here, there] = [at[from.id], at[to.id]];
  if (by === 'patch' && here && there) {
    const [a, b] = [
      await readOf<Spot>(pool, { kind: 'place', frame: from, at: here }),
      await readOf<Spot>(pool, { kind: 'place', frame: to, at: there }),
    ];
    if (a && b) return { shift: shiftBetween(a.camera, b.camera), by: 'the patch', greys: true };
  }
  const tones = async (frame: Frame): Promise<number> => (await readOf<Tones>(pool, { kind: 'tones', frame }))?.middle ?? 0,
    greys = async (frame: Frame): Promise<{ profile: Frame['raw']['facts']['profile']; light: GreyLight }> => ({
      profile: frame.raw.facts.profile,
      light: await readOf<NonNullable<GreyLight>>(pool, { kind: 'greys', frame }),
    }),
    ev = (await tones(to)) - (await tones(from)),
    shift = shiftByNeutrals(await greys(from), await greys(to), ev);
  return shift
    ? { shift, by: 'the middle of their tones, and near greys', greys: true }
    : {
        shift: { ev, ratios: [0, 0] },
        by: 'the middle of their tones; one of them shows nothing grey, so the colour of its light is kept',
        greys: false,
      };
}

/** How each other light of a shoot (or `only` one) would come to one of them. Nothing is changed. */
export async function lightProposals(
  pool: RenderPool,
  shootId: number,
  to: string,
  wish: LightWish,
  only: string | null = null,
): Promise<LightProposal[]> {
  const shoot = found(await Shoot.findByPk(shootId), 'this shoot'),
    groups = only === null ? await groupsOf(shoot) : (await Promise.all([to, only].map((light) => groupsOf(shoot, light)))).flat(),
    goal = found(groups.find((g) => g.light === to) ?? null, 'that light'),
    anchorOf = (g: Group): Frame => g.frames[g.anchor]!,
    out: LightProposal[] = [];
  for (const g of groups.filter((other) => other.light !== to)) {
    const anchor = anchorOf(g),
      { shift, by, greys } = await shiftOf(pool, anchor, anchorOf(goal), shoot.matching),
      move = lightMove(subjectOf(anchor), subjectOf(anchorOf(goal)), shift, { ...wish, balance: wish.balance && greys });
    out.push({
      light: g.light,
      count: g.frames.length,
      anchorId: anchor.id,
      anchor: anchor.name,
      move,
      by,
      groundwork: movedWith(subjectOf(anchor), move),
    });
  }
  return out;
}
/** The file of a small picture of a light's anchor as it would be, under the shoot's look or its own. */
export async function lightPicture(
  pool: RenderPool,
  shootId: number,
  { to, light, ...wish }: LightWish & { to: string; light: string },
): Promise<string> {
  const shoot = found(await Shoot.findByPk(shootId), 'this shoot'),
    [proposal] = await lightProposals(pool, shootId, to, wish, light),
    { anchorId, groundwork } = found(proposal ?? null, 'that light'),
    frame = found(await Frame.findByPk(anchorId), 'this frame'),
    worn = frame.lookId ? frame : shoot;
  return thumbOf(pool, anchorId, worn.lookId ?? null, worn.lookRevision ?? null, 360, groundwork);
}
/** Moves all frames of some lights, each light by one amount, so that they come to another light. @returns what stood before */
export async function takeLights(
  pool: RenderPool,
  shootId: number,
  { to, lights, ...wish }: LightWish & { to: string; lights: readonly string[] },
): Promise<Was[]> {
  const moves = new Map((await lightProposals(pool, shootId, to, wish)).map((p) => [p.light, p.move])),
    groups = await groupsOf(found(await Shoot.findByPk(shootId), 'this shoot')),
    wanted = groups
      .filter((g) => lights.includes(g.light) && moves.has(g.light))
      .flatMap((g) =>
        g.frames
          .filter((f) => f.ground.trouble === null)
          .map((f) => ({ id: f.id, groundwork: movedWith(subjectOf(f), moves.get(g.light)!) })),
      );
  if (wanted.length === 0) throw new ServiceError(409, 'there is no other light to be moved');
  return putGroundworks(shootId, wanted);
}
