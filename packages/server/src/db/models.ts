import type { Groundwork, GroundworkPart } from '@dyepot/core/src/groundwork/groundwork.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import type { Rendition } from '@dyepot/core/src/stock/neutral.ts';
import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';
import type { Survey } from '@dyepot/core/src/plate/survey.ts';
import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type NonAttribute,
  type Sequelize,
} from 'sequelize';
import type { FileSettings } from '../work/encodeFile.ts';
import { checkedGround } from './checkedGround.ts';

export class Shoot extends Model<InferAttributes<Shoot>, InferCreationAttributes<Shoot>> {
  declare id: CreationOptional<number>;
  declare name: string;
  declare leadFrameId: number | null;
  declare lookId: number | null;
  declare lookRevision: number | null;
  declare rendition: CreationOptional<Rendition>;
  declare createdAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;
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
  /** counts the changes of the groundwork, so that two windows do not write over each other */
  declare groundVersion: CreationOptional<number>;
  /** why the raw may not be whole; null where nothing speaks against it */
  declare doubt: CreationOptional<string | null>;
  declare createdAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;

  /** The groundwork kept for this frame, checked; `trouble` says what is wrong with it. */
  get ground(): NonAttribute<{ groundwork: Groundwork | null; trouble: string | null }> {
    return checkedGround(this.groundwork);
  }
}
/** What was done to a frame's groundwork, in order, its snapshots and probes; as the Ground keeps them. */
export class FrameHistory extends Model<InferAttributes<FrameHistory>, InferCreationAttributes<FrameHistory>> {
  declare frameId: number;
  declare document: object;
}
export class LookRecord extends Model<InferAttributes<LookRecord>, InferCreationAttributes<LookRecord>> {
  declare id: CreationOptional<number>;
  declare name: string;
  declare family: string;
  declare revision: number;
  declare createdAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;
}
/** Work in progress on the bench: one for each look, and any number of looks not on the shelf yet. */
export class Draft extends Model<InferAttributes<Draft>, InferCreationAttributes<Draft>> {
  declare id: CreationOptional<number>;
  /** the look it changes, and the revision it came from; null for a new look */
  declare lookId: number | null;
  declare revision: number | null;
  /** counts its saves, so that two windows do not write over each other */
  declare version: number;
  declare document: Look;
  /** what can be undone and redone, as the bench keeps it */
  declare past: object[];
  declare future: object[];
  declare changedAt: Date;
  declare createdAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;
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
  declare deletedAt: CreationOptional<Date | null>;
}
export type JobState = 'waiting' | 'running' | 'done' | 'cancelled' | 'failed';
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
  /** why it ended, where that was not its own end */
  declare message: CreationOptional<string | null>;
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
  /** the groundwork it was ordered with */
  declare groundwork: CreationOptional<Groundwork | null>;
  /** whether a file of its name may be replaced */
  declare mayReplace: CreationOptional<boolean>;
  /** the finished file as it was written */
  declare written: CreationOptional<Written | null>;
}
export interface Written {
  bytes: number;
  sha256: string;
  /** when it was last written to; only where that differs is its content looked at */
  mtimeMs?: number;
}

/** Binds the models to a database. Tables are made by the migrations, not here. */
export function bindModels(sequelize: Sequelize): void {
  const id = { type: DataTypes.INTEGER, autoIncrement: true, primaryKey: true } as const,
    text = DataTypes.TEXT,
    whole = DataTypes.INTEGER,
    real = DataTypes.DOUBLE,
    json = DataTypes.JSON,
    createdAt = DataTypes.DATE,
    deletedAt = DataTypes.DATE;
  const some = <T extends typeof text | typeof whole | typeof real | typeof json>(type: T): { type: T; allowNull: false } => ({
    type,
    allowNull: false,
  });
  const kept = (tableName: string): { sequelize: Sequelize; tableName: string; updatedAt: false } => ({
    sequelize,
    tableName,
    updatedAt: false,
  });
  /** what goes to the trash first */
  const trashed = (tableName: string): ReturnType<typeof kept> & { paranoid: true; deletedAt: 'deletedAt' } => ({
    ...kept(tableName),
    paranoid: true,
    deletedAt: 'deletedAt',
  });
  const plain = (tableName: string): { sequelize: Sequelize; tableName: string; timestamps: false } => ({
    sequelize,
    tableName,
    timestamps: false,
  });
  Shoot.init(
    {
      id,
      name: some(text),
      leadFrameId: whole,
      lookId: whole,
      lookRevision: whole,
      rendition: { type: text, allowNull: false, defaultValue: 'plain' },
      createdAt,
      deletedAt,
    },
    trashed('shoots'),
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
      groundwork: json,
      groundVersion: { type: whole, allowNull: false, defaultValue: 0 },
      doubt: text,
      createdAt,
      deletedAt,
    },
    trashed('frames'),
  );
  FrameHistory.init({ frameId: { type: whole, primaryKey: true }, document: some(json) }, plain('frame_histories'));
  LookRecord.init({ id, name: some(text), family: some(text), revision: some(whole), createdAt, deletedAt }, trashed('looks'));
  LookRevision.init(
    { id, lookId: some(whole), revision: some(whole), document: some(json), strip: some(json), createdAt },
    kept('look_revisions'),
  );
  Draft.init(
    {
      id,
      lookId: whole,
      revision: whole,
      version: some(whole),
      document: some(json),
      past: some(json),
      future: some(json),
      changedAt: { type: DataTypes.DATE, allowNull: false },
      createdAt,
      deletedAt,
    },
    trashed('drafts'),
  );
  Setting.init({ name: { type: text, primaryKey: true }, value: json }, plain('settings'));
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
      deletedAt,
    },
    trashed('groundwork_presets'),
  );
  Job.init(
    {
      id,
      kind: some(text),
      shootId: some(whole),
      state: some(text),
      settings: some(json),
      engineVersion: some(whole),
      message: text,
      startedAt: DataTypes.DATE,
      finishedAt: DataTypes.DATE,
      createdAt,
    },
    kept('jobs'),
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
      groundwork: json,
      mayReplace: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      written: json,
    },
    plain('job_items'),
  );
}
