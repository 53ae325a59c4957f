import { completed, type Groundwork, type GroundworkPart } from '@dyepot/core/src/groundwork/groundwork.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import type { Rendition } from '@dyepot/core/src/stock/neutral.ts';
import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';
import type { Survey } from '@dyepot/core/src/plate/survey.ts';
import { DataTypes, Model, type CreationOptional, type InferAttributes, type InferCreationAttributes, type Sequelize } from 'sequelize';
import type { FileSettings } from '../work/encodeFile.ts';

export class Shoot extends Model<InferAttributes<Shoot>, InferCreationAttributes<Shoot>> {
  declare id: CreationOptional<number>;
  declare name: string;
  declare leadFrameId: number | null;
  declare lookId: number | null;
  declare lookRevision: number | null;
  declare rendition: CreationOptional<Rendition>;
  declare createdAt: CreationOptional<Date>;
}
export class Frame extends Model<InferAttributes<Frame>, InferCreationAttributes<Frame>> {
  declare id: CreationOptional<number>;
  declare shootId: number;
  declare name: string;
  declare path: string;
  declare hash: string;
  declare width: number;
  declare height: number;
  declare light: string;
  declare kelvin: number;
  declare tintDuv: number;
  declare facts: RawFacts;
  declare survey: Survey;
  declare signature: number[];
  /** null: nothing is done yet */
  declare groundwork: CreationOptional<Groundwork | null>;
  declare createdAt: CreationOptional<Date>;
}
export class LookRecord extends Model<InferAttributes<LookRecord>, InferCreationAttributes<LookRecord>> {
  declare id: CreationOptional<number>;
  declare name: string;
  declare family: string;
  declare revision: number;
  declare createdAt: CreationOptional<Date>;
}
export class LookRevision extends Model<InferAttributes<LookRevision>, InferCreationAttributes<LookRevision>> {
  declare id: CreationOptional<number>;
  declare lookId: number;
  declare revision: number;
  declare document: Look;
  declare strip: string[];
  declare createdAt: CreationOptional<Date>;
}
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
}
export type JobState = 'waiting' | 'running' | 'done' | 'cancelled';
export interface JobSettings {
  folder?: string;
  file?: FileSettings;
  look?: Look | null;
  lookName?: string;
  lookRevision?: number | null;
}
export class Job extends Model<InferAttributes<Job>, InferCreationAttributes<Job>> {
  declare id: CreationOptional<number>;
  declare kind: 'import' | 'delivery';
  declare shootId: number;
  declare state: JobState;
  declare settings: JobSettings;
  declare engineVersion: number;
  declare startedAt: Date | null;
  declare finishedAt: Date | null;
  declare createdAt: CreationOptional<Date>;
}
export class JobItem extends Model<InferAttributes<JobItem>, InferCreationAttributes<JobItem>> {
  declare id: CreationOptional<number>;
  declare jobId: number;
  declare frameId: number | null;
  declare name: string;
  declare path: string;
  declare state: 'waiting' | 'running' | 'done' | 'failed';
  declare output: string | null;
  declare message: string | null;
  declare seconds: number | null;
}

/** Binds the models to a database. Tables are made by the migrations, not here. */
export function bindModels(sequelize: Sequelize): void {
  const id = { type: DataTypes.INTEGER, autoIncrement: true, primaryKey: true } as const,
    text = DataTypes.TEXT,
    whole = DataTypes.INTEGER,
    real = DataTypes.DOUBLE,
    json = DataTypes.JSON;
  const some = (type: typeof text | typeof whole | typeof real | typeof json): { type: typeof type; allowNull: false } => ({
    type,
    allowNull: false,
  });
  const options = (tableName: string): { sequelize: Sequelize; tableName: string; updatedAt: false } => ({
    sequelize,
    tableName,
    updatedAt: false,
  });
  const createdAt = DataTypes.DATE;
  Shoot.init(
    {
      id,
      name: some(text),
      leadFrameId: whole,
      lookId: whole,
      lookRevision: whole,
      rendition: { type: text, allowNull: false, defaultValue: 'plain' },
      createdAt,
    },
    options('shoots'),
  );
  Frame.init(
    {
      id,
      shootId: some(whole),
      name: some(text),
      path: some(text),
      hash: some(text),
      width: some(whole),
      height: some(whole),
      light: some(text),
      kelvin: some(real),
      tintDuv: some(real),
      facts: some(json),
      survey: some(json),
      signature: some(json),
      groundwork: {
        type: json,
        get(this: Frame) {
          const kept = this.getDataValue('groundwork') as Groundwork | null | undefined;
          return kept ? completed(kept) : null;
        },
      },
      createdAt,
    },
    options('frames'),
  );
  LookRecord.init({ id, name: some(text), family: some(text), revision: some(whole), createdAt }, options('looks'));
  LookRevision.init(
    { id, lookId: some(whole), revision: some(whole), document: some(json), strip: some(json), createdAt },
    options('look_revisions'),
  );
  Setting.init({ name: { type: text, primaryKey: true }, value: json }, { sequelize, tableName: 'settings', timestamps: false });
  GroundworkPreset.init(
    {
      id,
      name: some(text),
      camera: text,
      isoFrom: some(real),
      isoTo: some(real),
      parts: some(json),
      groundwork: some(json),
      automatic: { type: DataTypes.BOOLEAN, allowNull: false },
      createdAt,
    },
    options('groundwork_presets'),
  );
  Job.init(
    {
      id,
      kind: some(text),
      shootId: some(whole),
      state: some(text),
      settings: some(json),
      engineVersion: some(whole),
      startedAt: DataTypes.DATE,
      finishedAt: DataTypes.DATE,
      createdAt,
    },
    options('jobs'),
  );
  JobItem.init(
    {
      id,
      jobId: some(whole),
      frameId: whole,
      name: some(text),
      path: some(text),
      state: some(text),
      output: text,
      message: text,
      seconds: real,
    },
    { sequelize, tableName: 'job_items', timestamps: false },
  );
}
