import { noShift, usualWish, type Shift, type Subject, type Wish } from '@dyepot/core/src/match/card.ts';
import type { Chart } from '@dyepot/core/src/match/chart.ts';
import { settle, type Settled } from '@dyepot/core/src/match/settle.ts';
import type { Tones } from '@dyepot/core/src/match/tones.ts';
import { shiftBetween, shiftByChart, shiftByNeutrals, typical } from '@dyepot/core/src/match/set.ts';
import { Frame, withRaw, type Matching, type Shoot } from '../db/models.ts';
import { takenAt } from '../work/matching.ts';
import { tiesOf } from './comparing.ts';
import { Readings, type Wanted } from './readings.ts';

/** What brings a frame to its anchor; what it could not be told by, in words; where a patch lies in it, and its chart. */
export interface Way extends Shift {
  sure: boolean;
  note: string | null;
  spot?: readonly [number, number] | null;
  chart?: Chart | null;
  tones?: Tones | null;
}
/** A shoot's frames of one light, in the order they were taken. */
export interface Group {
  light: string;
  frames: Frame[];
  anchor: number;
  /** somebody named it */
  named: boolean;
  /** null until all is compared and read */
  ways: Way[] | null;
  /** pairs still to be compared, and what is still to be read */
  missing: { from: number; to: number }[];
  unread: readonly Wanted[];
}
/** Which parts a shoot's proposals bring. */
export const wishOf = ({ parts }: Matching): Wish => parts ?? usualWish;
const needsTones = ({ ends, contrast }: Wish): boolean => ends || contrast;
export const subjectOf = (f: Frame): Subject => ({ profile: f.raw.facts.profile, groundwork: f.ground.groundwork });

/** A shoot's frames light by light, or those of one light, and what brings each to its anchor as far as that is known. */
export async function groupsOf(shoot: Shoot, light?: string): Promise<Group[]> {
  const frames = await Frame.findAll({
      where: { shootId: shoot.id, ...(light !== undefined && { light }) },
      include: withRaw,
      order: [
        ['name', 'ASC'],
        ['id', 'ASC'],
      ],
    }),
    time = new Map(frames.map((f) => [f.id, takenAt(f.raw.facts.exif) ?? 0])),
    lights = new Map<string, Frame[]>();
  for (const f of frames) lights.set(f.light, [...(lights.get(f.light) ?? []), f]);
  return Promise.all(
    [...lights].map(([light, own]) => {
      own.sort((a, b) => time.get(a.id)! - time.get(b.id)!);
      return groupOf(light, own, shoot.anchors[light], shoot.matching);
    }),
  );
}
async function groupOf(light: string, frames: Frame[], anchorId: number | undefined, matching: Matching): Promise<Group> {
  const wanted = frames.findIndex((f) => f.id === anchorId),
    first = Math.max(0, wanted),
    named = wanted >= 0,
    { ties, missing } = await tiesOf(frames, first),
    ids = missing.map(({ from, to }) => ({ from: frames[from]!.id, to: frames[to]!.id })),
    charts = matching.by === 'chart' ? await Readings.of(frames.map((frame) => ({ kind: 'chart', frame }))) : null,
    tones = needsTones(wishOf(matching)) ? await Readings.of(frames.map((frame) => ({ kind: 'tones', frame }))) : null,
    unread = [...(charts?.missing ?? []), ...(tones?.missing ?? [])],
    waiting = (still: readonly Wanted[]): Group => ({ light, frames, anchor: first, named, ways: null, missing: ids, unread: still });
  if (missing.length > 0 || unread.length > 0) return waiting(unread);
  const toFirst = settle(frames.length, first, ties),
    anchor = named ? wanted : anchorAmong(frames, toFirst, charts),
    settled = anchor === first ? toFirst : settle(frames.length, anchor, ties),
    asked = wantedOf(frames, anchor, matching),
    read = charts ?? (await Readings.of(asked));
  if (read.missing.length > 0) return { ...waiting(read.missing), anchor };
  return {
    light,
    frames,
    anchor,
    named,
    ways: settled.map((s, i) => {
      const way = { ...wayOf(frames, anchor, i, s, matching, read), tones: tones?.tones(frames[i]!) ?? null };
      return i === anchor ? { ...way, ...noShift, sure: true } : way;
    }),
    missing: [],
    unread: [],
  };
}
/** The most typical frame; where charts are asked for, of those that show one. */
function anchorAmong(frames: readonly Frame[], shifts: readonly Settled[], charts: Readings | null): number {
  const shown = frames.flatMap((f, i) => (charts?.chart(f) ? [i] : []));
  return shown.length > 0
    ? shown[
        typical(
          shown.length,
          shown.map((i) => shifts[i]!),
        )
      ]!
    : typical(frames.length, shifts);
}
/** What has to be read of a group's frames. */
function wantedOf(frames: readonly Frame[], anchor: number, { by, at }: Matching): Wanted[] {
  const own = frames[anchor]!,
    place = at[own.id];
  if (by === 'neutral') return frames.map((frame) => ({ kind: 'greys', frame }));
  if (by !== 'patch' || !place) return [];
  return frames.map((frame): Wanted => {
    const pointed = at[frame.id];
    return pointed ? { kind: 'place', frame, at: pointed } : { kind: 'spot', frame, anchor: own, at: place };
  });
}
/** What brings one frame to the anchor the way it is asked for; where that cannot be told, by what both show. */
function wayOf(
  frames: readonly Frame[],
  anchor: number,
  i: number,
  { ev, ratios, sure }: Settled,
  { by, at }: Matching,
  read: Readings,
): Way {
  const [own, to] = [frames[i]!, frames[anchor]!],
    plain: Way = { ev, ratios, sure, note: null },
    without = (note: string): Way => ({ ...plain, note: `${note}: matched by what both show` });
  if (by === 'neutral') {
    const shift = shiftByNeutrals(
      { profile: own.raw.facts.profile, light: read.greys(own) },
      { profile: to.raw.facts.profile, light: read.greys(to) },
      ev,
    );
    return shift ? { ...plain, ...shift } : without(`nothing in ${read.greys(to) ? 'it' : to.name} looks grey`);
  }
  if (by === 'chart') {
    const [chart, goal] = [read.chart(own), read.chart(to)];
    if (!chart || !goal) return { ...without(`no chart of 24 patches in ${goal ? 'it' : to.name}`), chart };
    return { ...shiftByChart(chart, goal), sure: true, note: null, chart };
  }
  if (by === 'patch') {
    const place = at[to.id];
    if (!place) return without(`no patch is pointed at in ${to.name}`);
    const goal = read.place(to, place),
      pointed = at[own.id],
      spot = pointed ? read.place(own, pointed) : read.spot(own, to, place);
    if (!goal) return without(`the patch of ${to.name} clips, or is too dark`);
    if (!spot)
      return { ...without(pointed ? 'the patch clips here, or is too dark' : 'the patch is not found again in it'), spot: pointed ?? null };
    return { ...shiftBetween(spot.camera, goal.camera), sure: true, note: null, spot: [spot.x, spot.y] };
  }
  return plain;
}
