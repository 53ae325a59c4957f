import type { ColourCorrection } from '@dyepot/core/src/groundwork/colours.ts';
import { plainGroundwork, type Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { chartUnder, coloursByCharts, type ChartColours, type Charted } from '@dyepot/core/src/match/correction.ts';
import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';
import { Frame, Shoot, withRaw } from '../db/models.ts';
import { found, ServiceError } from './errors.ts';
import { tellNews } from './news.ts';
import { Readings } from './readings.ts';
import { putGroundworks, type Was } from './evenness.ts';

/** What charts of a camera say of its colours; `others`: how the shoot's other charts of that camera are off in the mean, without and with each correction. */
export interface SaidByCharts {
  camera: string;
  /** the frame whose chart it is; null: all charts of that camera together */
  frameId: number | null;
  count: number;
  before: number;
  corrections: (ChartColours['corrections'][number] & { others: { before: number; after: number } | null })[];
}
const mean = (values: readonly number[]): number => values.reduce((a, v) => a + v, 0) / values.length,
  two = (v: number): number => Math.round(v * 100) / 100;

const fits = new Map<string, ChartColours | null>();
/** A fit is made once for the same raws. */
function fittedOnce(some: readonly { frame: Frame; charted: Charted }[], from: string): ChartColours | null {
  const key = [from, ...some.map((o) => o.frame.hash)].join(' ');
  if (!fits.has(key)) {
    if (fits.size > 500) fits.clear();
    fits.set(
      key,
      coloursByCharts(
        some.map((o) => o.charted),
        from,
      ),
    );
  }
  return fits.get(key)!;
}

/** What the charts that were read in a shoot say of its cameras, each by itself and all together, and what is kept. */
export async function coloursOf(shootId: number): Promise<{ kept: Record<string, ColourCorrection>; said: SaidByCharts[] }> {
  const shoot = found(await Shoot.findByPk(shootId), 'this shoot'),
    frames = (await Frame.findAll({ where: { shootId }, include: withRaw, order: ['name', 'id'] })).filter((f) => !f.raw.facts.finished),
    read = await Readings.of(frames.map((frame) => ({ kind: 'chart', frame }))),
    cameras = new Map<string, { frame: Frame; charted: Charted }[]>();
  for (const frame of frames) {
    const chart = read.chart(frame),
      { camera, profile } = frame.raw.facts,
      own = cameras.get(camera) ?? [];
    // a raw that stands there twice is one chart
    if (chart && !own.some((o) => o.frame.hash === frame.hash)) cameras.set(camera, [...own, { frame, charted: { chart, profile } }]);
  }
  const said = [...cameras].flatMap(([camera, own]) =>
    [...own.map((o) => [o]), ...(own.length > 1 ? [own] : [])].flatMap((some): SaidByCharts[] => {
      const one = some.length === 1 ? some[0]!.frame : null,
        told = fittedOnce(some, one?.name ?? `${some.length} charts`),
        others = own.filter((o) => !some.includes(o)),
        under = (k: ColourCorrection | null): number => two(mean(others.map((o) => chartUnder(o.charted, k) ?? 0)));
      if (!told) return [];
      return [
        {
          camera,
          frameId: one?.id ?? null,
          count: some.length,
          before: two(told.before),
          corrections: told.corrections.map((c) => ({
            ...c,
            unseen: two(c.unseen),
            others: others.length > 0 ? { before: under(null), after: under(c.correction) } : null,
          })),
        },
      ];
    }),
  );
  return { kept: shoot.colours, said };
}

/** A frame's groundwork with a correction; with none left of it where nothing else is done. */
const withColours = (ground: Groundwork | null, colours: ColourCorrection | null): Groundwork | null =>
  ground || colours ? { ...(ground ?? plainGroundwork), colours } : null;

/**
 * Keeps a correction (null: none) as a shoot's profile of one of its cameras: every frame of that camera has it, and those that are brought
 * in later get it. `given`: groundwork to be given back instead, where it is undone; frames that came meanwhile get the correction.
 * @returns what stood before
 */
export async function keepColours(
  shootId: number,
  { camera, correction, frames: given = [] }: { camera: string; correction: ColourCorrection | null; frames?: readonly Was[] | undefined },
): Promise<{ was: Was[]; before: ColourCorrection | null }> {
  const shoot = found(await Shoot.findByPk(shootId), 'this shoot'),
    // a finished picture's colours are no camera's any more; groundwork that cannot be read is not written over
    frames = (await Frame.findAll({ where: { shootId }, include: withRaw })).filter(
      ({ raw: { facts }, ground }) => facts.camera === camera && !facts.finished && ground.trouble === null,
    );
  if (frames.length === 0) throw new ServiceError(400, `no frame of this shoot was taken with “${camera}”`);
  const back = new Set(given.map(({ id }) => id)),
    wanted = frames
      .filter(({ id }) => !back.has(id))
      .map((f) => ({ id: f.id, groundwork: withColours(f.ground.groundwork, correction), version: f.groundVersion }));
  let before: ColourCorrection | null = null;
  const was = await putGroundworks(shootId, [...given, ...wanted], async (transaction) => {
    const { [camera]: own, ...others } = (await shoot.reload({ transaction })).colours;
    before = own ?? null;
    await shoot.update({ colours: correction ? { ...others, [camera]: correction } : others }, { transaction });
  });
  tellNews({ kind: 'shoot', id: shootId });
  return { was, before };
}
/** Groundwork of a new frame, with what its shoot has kept of the camera's colours. */
export async function withShootColours(
  shootId: number,
  { camera, finished }: Pick<RawFacts, 'camera' | 'finished'>,
  ground: Groundwork | null,
): Promise<Groundwork | null> {
  if (finished) return ground;
  const kept = (await Shoot.findByPk(shootId, { attributes: ['colours'] }))?.colours[camera] ?? null;
  return kept ? withColours(ground, kept) : ground;
}
