import type { StockSheet } from '@dyepot/core/src/stock/film/sheet.ts';
import { Model, type CreationOptional, type InferAttributes, type InferCreationAttributes, type Sequelize } from 'sequelize';
import { createdAt, deletedAt, id, json, kept, some, text, trashed, whole } from './columns.ts';

export class StockRecord extends Model<InferAttributes<StockRecord>, InferCreationAttributes<StockRecord>> {
  declare id: CreationOptional<number>;
  declare name: string;
  declare family: string;
  declare revision: number;
  declare createdAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;
}
export class StockRevision extends Model<InferAttributes<StockRevision>, InferCreationAttributes<StockRevision>> {
  declare id: CreationOptional<number>;
  declare stockId: number;
  declare revision: number;
  declare sheet: StockSheet;
  declare createdAt: CreationOptional<Date>;
}
/** A sheet under way in the designer: one for each thing it was opened from. */
export class StockDraft extends Model<InferAttributes<StockDraft>, InferCreationAttributes<StockDraft>> {
  declare id: CreationOptional<number>;
  /** what it was opened from: a stock of the shelf, one that comes with Dyepot, or a look */
  declare from: string;
  /** counts its saves, so that two windows do not write over each other */
  declare version: number;
  declare sheet: StockSheet;
  declare past: object[];
  declare future: object[];
  /** how it is used in the picture beside it */
  declare use: object;
  declare createdAt: CreationOptional<Date>;
}

/** Binds stocks, their revisions and drafts to their tables. */
export function bindStocks(sequelize: Sequelize): void {
  StockRecord.init({ id, name: some(text), family: some(text), revision: some(whole), createdAt, deletedAt }, trashed(sequelize, 'stocks'));
  StockRevision.init({ id, stockId: some(whole), revision: some(whole), sheet: some(json), createdAt }, kept(sequelize, 'stock_revisions'));
  StockDraft.init(
    { id, from: some(text), version: some(whole), sheet: some(json), past: some(json), future: some(json), use: some(json), createdAt },
    kept(sequelize, 'stock_drafts'),
  );
}
