import { Model, type CreationOptional, type InferAttributes, type InferCreationAttributes, type Sequelize } from 'sequelize';
import { createdAt, id, kept, some, text, whole } from './columns.ts';

/** A folder whose new raws come into a shoot by themselves. */
export class Watch extends Model<InferAttributes<Watch>, InferCreationAttributes<Watch>> {
  declare id: CreationOptional<number>;
  declare shootId: number;
  declare folder: string;
  /** worn by what arrives; null: the shoot's own */
  declare lookId: number | null;
  declare lookRevision: number | null;
  /** the name of the delivery preset that arrivals are delivered by; empty: they are not */
  declare preset: string;
  declare createdAt: CreationOptional<Date>;
}

/** Binds watched folders to their table. */
export function bindWatches(sequelize: Sequelize): void {
  Watch.init(
    { id, shootId: some(whole), folder: some(text), lookId: whole, lookRevision: whole, preset: some(text), createdAt },
    kept(sequelize, 'watches'),
  );
}
