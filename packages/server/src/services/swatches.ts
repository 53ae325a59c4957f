import { Frame, LookRecord, Shoot, type SwatchCard } from '../db/models.ts';
import type { RenderPool } from '../work/pool.ts';
import { swatchPdf, swatchPng, type SwatchPage } from '../work/swatchPage.ts';
import { found, ServiceError } from './errors.ts';
import { thumbOf } from './frames.ts';
import { lookAt } from './looks.ts';

/** Cells of a card, at most. */
export const mostSwatches = { frames: 12, looks: 24 } as const;

const shootOf = async (id: number): Promise<Shoot> => found(await Shoot.findByPk(id), 'this shoot');
/** A shoot's swatch card as it was left; where nothing was chosen yet, nothing is. */
export async function swatchesOf(id: number): Promise<SwatchCard> {
  const { swatches } = await shootOf(id);
  return { frames: [], looks: [], said: {}, ...swatches };
}
export async function saveSwatches(id: number, card: SwatchCard): Promise<SwatchCard> {
  const shoot = await shootOf(id);
  await shoot.update({ swatches: card });
  return card;
}

/** A card as it is laid out: frames across, and a row for each look that still is. */
export interface LaidCard {
  title: string;
  across: { id: number; name: string }[];
  /** a look of 0 is none */
  rows: { lookId: number; revision: number | null; name: string; strip: readonly string[]; said: ('best' | 'out' | null)[] }[];
}
/** Throws ServiceError where nothing was chosen for it yet. */
export async function laidCard(id: number): Promise<LaidCard> {
  const shoot = await shootOf(id),
    card = await swatchesOf(id),
    frames = (await Frame.findAll({ where: { shootId: id }, attributes: ['id', 'name'] })).filter((f) => card.frames.includes(f.id)),
    across = card.frames.flatMap((f) => frames.find((own) => own.id === f) ?? []);
  if (across.length === 0 || card.looks.length === 0)
    throw new ServiceError(409, 'the swatch card is empty: choose frames and looks first');
  const rows: LaidCard['rows'] = [];
  for (const lookId of card.looks) {
    const look = lookId === 0 ? neutral : await cardLook(lookId);
    if (look)
      rows.push({
        lookId,
        revision: look.revision,
        name: look.name,
        strip: look.strip,
        said: across.map((f) => card.said[`${f.id} ${lookId}`] ?? null),
      });
  }
  return { title: shoot.name, across: across.map(({ id: frameId, name }) => ({ id: frameId, name })), rows };
}
const neutral = { revision: null, name: 'Neutral response', strip: [] };
/** A look as a card has it; null where it is in the trash or cannot be read. */
async function cardLook(id: number): Promise<{ revision: number; name: string; strip: readonly string[] } | null> {
  if (!(await LookRecord.findByPk(id, { attributes: ['id'] }))) return null;
  return lookAt(id).catch((error: unknown) => {
    if (error instanceof ServiceError) return null;
    throw error;
  });
}

/** The card as a file that can be sent. */
export async function swatchFile(pool: RenderPool, id: number, kind: 'png' | 'pdf'): Promise<{ name: string; file: Buffer }> {
  const { title, across, rows } = await laidCard(id),
    looks: SwatchPage['looks'][number][] = [];
  for (const { lookId, revision, name, strip, said } of rows) {
    const cells = [];
    for (const [c, f] of across.entries()) cells.push({ file: await thumbOf(pool, f.id, lookId || null, revision, 360), said: said[c]! });
    looks.push({ name, strip, cells });
  }
  const page: SwatchPage = { title, frames: across.map((f) => f.name), looks };
  return { name: `${title}, swatch card.${kind}`, file: await (kind === 'png' ? swatchPng(page) : swatchPdf(page)) };
}
