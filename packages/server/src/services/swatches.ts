import { Frame, Shoot, type SwatchCard } from '../db/models.ts';
import type { RenderPool } from '../work/pool.ts';
import { swatchPdf, swatchPng, type SwatchPage } from '../work/swatchPage.ts';
import { found, ServiceError } from './errors.ts';
import { thumbOf } from './frames.ts';
import { listLooks } from './looks.ts';

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

/** The card as a file that can be sent. */
export async function swatchFile(pool: RenderPool, id: number, kind: 'png' | 'pdf'): Promise<{ name: string; file: Buffer }> {
  const shoot = await shootOf(id),
    card = await swatchesOf(id),
    looks = (await listLooks()).filter((l) => !l.broken),
    frames = (await Frame.findAll({ where: { shootId: id } })).filter((f) => card.frames.includes(f.id)),
    across = card.frames.flatMap((f) => frames.find((own) => own.id === f) ?? []);
  if (across.length === 0 || card.looks.length === 0)
    throw new ServiceError(409, 'the swatch card is empty: choose frames and looks first');
  const rows: SwatchPage['looks'][number][] = [];
  for (const lookId of card.looks) {
    const look = looks.find((l) => l.id === lookId);
    if (lookId !== 0 && !look) continue;
    const cells: SwatchPage['looks'][number]['cells'][number][] = [];
    for (const f of across)
      cells.push({
        file: await thumbOf(pool, f.id, look?.id ?? null, look?.revision ?? null, 360),
        said: card.said[`${f.id} ${lookId}`] ?? null,
      });
    rows.push({ name: look?.name ?? 'Neutral response', strip: look?.strip ?? [], cells });
  }
  const page: SwatchPage = { title: shoot.name, frames: across.map((f) => f.name), looks: rows };
  return { name: `${shoot.name}, swatch card.${kind}`, file: await (kind === 'png' ? swatchPng(page) : swatchPdf(page)) };
}
