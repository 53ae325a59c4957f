import { Op, literal } from 'sequelize';
import { stocks as shipped } from '@dyepot/core/src/stock/film/stocks.ts';
import { validateSheet } from '@dyepot/core/src/stock/film/sheetSchema.ts';
import type { StockSheet } from '@dyepot/core/src/stock/film/sheet.ts';
import { together } from '../db/database.ts';
import { StockDraft, StockRecord, StockRevision } from '../db/models.ts';
import { found, ServiceError } from './errors.ts';
import { tellNews } from './news.ts';

/** A stock of the shelf at one revision. */
export interface ShelfStock {
  id: number;
  revision: number;
  newest: number;
  sheet: StockSheet;
}
/** A stock as a card shows it; those that come with Dyepot have no number. */
export interface StockCard {
  id: number | null;
  name: string;
  revision: number;
  sheet: StockSheet | null;
  /** why it cannot be read; null when it can */
  broken: string | null;
}

function checked(value: unknown, underWay = false): StockSheet {
  const read = validateSheet(value, underWay);
  if ('message' in read) throw new ServiceError(400, read.message);
  return read.sheet;
}

/** All stocks: those of the shelf by name, then those that come with Dyepot. One that cannot be read says why and hides no other. */
export async function listStocks(): Promise<StockCard[]> {
  const records = await StockRecord.findAll({ order: [['name', 'ASC']] }),
    newest = await StockRevision.findAll({
      where: {
        stockId: { [Op.in]: records.map((r) => r.id) },
        revision: { [Op.eq]: literal('(SELECT revision FROM stocks WHERE stocks.id = stockId)') },
      },
    }),
    revisions = new Map(newest.map((r) => [r.stockId, r]));
  const own = records.map(({ id, name, revision }): StockCard => {
    const read = validateSheet(revisions.get(id)?.sheet);
    return 'message' in read
      ? { id, name, revision, sheet: null, broken: read.message }
      : { id, name, revision, sheet: read.sheet, broken: null };
  });
  return [...own, ...shipped.map((sheet) => ({ id: null, name: sheet.name, revision: 0, sheet, broken: null }))];
}

/** A stock at a revision, its newest when none is given. */
export async function stockAt(id: number, revision?: number): Promise<ShelfStock> {
  const record = found(await StockRecord.findByPk(id), 'this stock'),
    r = found(await StockRevision.findOne({ where: { stockId: id, revision: revision ?? record.revision } }), 'this revision'),
    read = validateSheet(r.sheet);
  if ('message' in read) throw new ServiceError(409, `revision ${r.revision} of ${record.name} cannot be read: ${read.message}`);
  return { id, revision: r.revision, newest: record.revision, sheet: read.sheet };
}

export async function createStock(value: unknown): Promise<ShelfStock> {
  const sheet = checked(value),
    record = await together(async (transaction) => {
      const r = await StockRecord.create({ name: sheet.name, family: sheet.family, revision: 1 }, { transaction });
      await StockRevision.create({ stockId: r.id, revision: 1, sheet }, { transaction });
      return r;
    });
  tellNews({ kind: 'stocks' });
  return { id: record.id, revision: 1, newest: 1, sheet };
}

/** Saves the next revision; earlier ones stay. Refused when it was made `from` a revision that is not the newest. */
export async function saveStock(id: number, value: unknown, from: number | null): Promise<ShelfStock> {
  const sheet = checked(value),
    record = await together(async (transaction) => {
      const r = found(await StockRecord.findByPk(id, { transaction }), 'this stock');
      if (from !== null && from !== r.revision)
        throw new ServiceError(409, `${r.name} is at revision ${r.revision}, and this was made from revision ${from}`);
      await r.update({ name: sheet.name, family: sheet.family, revision: r.revision + 1 }, { transaction });
      await StockRevision.create({ stockId: id, revision: r.revision, sheet }, { transaction });
      return r;
    });
  tellNews({ kind: 'stocks' });
  return { id, revision: record.revision, newest: record.revision, sheet };
}

export async function stockRevisions(id: number): Promise<{ revision: number; createdAt: Date }[]> {
  found(await StockRecord.findByPk(id, { attributes: ['id'] }), 'this stock');
  return (
    await StockRevision.findAll({ where: { stockId: id }, attributes: ['revision', 'createdAt'], order: [['revision', 'DESC']] })
  ).map(({ revision, createdAt }) => ({ revision, createdAt }));
}

/** Takes a stock off the shelf, to the trash. Looks carry their own sheets and lose nothing. */
export async function takeOutStock(id: number): Promise<void> {
  await found(await StockRecord.findByPk(id), 'this stock').destroy();
  tellNews({ kind: 'stocks' });
  tellNews({ kind: 'trash' });
}

/** What the designer has under way. */
export interface DraftedSheet {
  version: number;
  sheet: StockSheet;
  past: object[];
  future: object[];
  /** contrast, colour, rating, push and print of the picture beside it */
  use: object;
}
export async function draftedSheet(from: string): Promise<DraftedSheet | null> {
  const draft = await StockDraft.findOne({ where: { from } }),
    read = draft && validateSheet(draft.sheet, true);
  return draft && read && 'sheet' in read
    ? { version: draft.version, sheet: read.sheet, past: draft.past, future: draft.future, use: draft.use }
    : null;
}
/** Keeps what is under way; refused where another window has kept something since. */
export async function keepDraftedSheet(from: string, wish: Omit<DraftedSheet, 'sheet'> & { sheet: unknown }): Promise<{ version: number }> {
  const sheet = checked(wish.sheet, true);
  return together(async (transaction) => {
    const draft = await StockDraft.findOne({ where: { from }, transaction });
    if ((draft?.version ?? 0) !== wish.version) throw new ServiceError(409, 'this sheet was changed in another window');
    const version = wish.version + 1,
      values = { from, version, sheet, past: wish.past, future: wish.future, use: wish.use };
    if (draft) await draft.update(values, { transaction });
    else await StockDraft.create(values, { transaction });
    return { version };
  });
}
export async function endDraftedSheet(from: string): Promise<void> {
  await StockDraft.destroy({ where: { from } });
}
