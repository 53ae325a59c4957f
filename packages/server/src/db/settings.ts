import type { Groundwork, GroundworkPart } from '@dyepot/core/src/groundwork/groundwork.ts';
import { Model, type CreationOptional, type InferAttributes, type InferCreationAttributes, type Sequelize } from 'sequelize';
import { createdAt, deletedAt, id, json, plain, real, some, text, trashed, yesNo } from './columns.ts';

/** Something set once for this data folder. */
export class Setting extends Model<InferAttributes<Setting>, InferCreationAttributes<Setting>> {
  declare name: string;
  declare value: unknown;
}

export class GroundworkPreset extends Model<InferAttributes<GroundworkPreset>, InferCreationAttributes<GroundworkPreset>> {
  declare id: CreationOptional<number>;
  declare name: string;
  /** null: any camera */
  declare camera: string | null;
  declare isoFrom: number;
  declare isoTo: number;
  declare parts: GroundworkPart[];
  declare groundwork: Groundwork;
  /** given to every new frame it fits */
  declare automatic: boolean;
  declare createdAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;
}

/** Binds what is set for this data folder to its tables. */
export function bindSettings(sequelize: Sequelize): void {
  Setting.init({ name: { type: text, primaryKey: true }, value: json }, plain(sequelize, 'settings'));
  GroundworkPreset.init(
    {
      id,
      name: some(text),
      camera: text,
      isoFrom: some(real),
      isoTo: some(real),
      parts: some(json),
      groundwork: some(json),
      automatic: some(yesNo),
      createdAt,
      deletedAt,
    },
    trashed(sequelize, 'groundwork_presets'),
  );
}
