import type { Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import type { Repair } from '@dyepot/core/src/repair/repairs.ts';
import type { OwnSteps } from '@dyepot/core/src/look/worn.ts';
import type { LookSaid } from '@dyepot/core/src/formats/xmp.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { Model, type CreationOptional, type InferAttributes, type InferCreationAttributes, type Sequelize } from 'sequelize';
import type { FileSettings } from '../work/encodeFile.ts';
import { createdAt, id, json, kept, plain, real, some, text, whole, withKept, yesNo } from './columns.ts';

export type JobState = 'waiting' | 'running' | 'paused' | 'done' | 'cancelled' | 'failed';
export interface JobSettings {
  folder?: string;
  file?: FileSettings;
  look?: Look | null;
  lookName?: string;
  lookRevision?: number | null;
  /** how files are named */
  pattern?: string;
  /** the preset its files come from */
  name?: string;
  /** more files of each frame */
  also?: { name?: string; folder: string; file: FileSettings; pattern: string }[];
  /** the watched folder that ordered it */
  watch?: number;
  /** of an import: the look of their own its frames come in with */
  wears?: { lookId: number; lookRevision: number };
}
export interface Written {
  bytes: number;
  sha256: string;
  /** when it was last written to; only where that differs is its content looked at */
  mtimeMs?: number;
}
export class Job extends Model<InferAttributes<Job>, InferCreationAttributes<Job>> {
  declare id: CreationOptional<number>;
  declare kind: 'import' | 'delivery';
  declare shootId: number;
  declare state: JobState;
  declare settings: JobSettings;
  declare engineVersion: number;
  /** where it was put among those that wait; null where it stands as it came */
  declare place: CreationOptional<number | null>;
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
  /** the frame's own steps then */
  declare own: CreationOptional<OwnSteps | null>;
  /** the repairs of its plate then */
  declare repairs: CreationOptional<readonly Repair[] | null>;
  /** the look of its own it was ordered with; null: the job's */
  declare look: CreationOptional<Look | null>;
  /** the name and revision of that look of its own */
  declare lookSaid: CreationOptional<LookSaid | null>;
  /** how its file is made, where that is not as the job's first */
  declare file: CreationOptional<FileSettings | null>;
  /** it is made by itself, since its frame's files could not be made together */
  declare alone: CreationOptional<boolean>;
  /** whether a file of its name may be replaced */
  declare mayReplace: CreationOptional<boolean>;
  /** the finished file as it was written */
  declare written: CreationOptional<Written | null>;
}

/** Binds jobs and their items to their tables. */
export function bindJobs(sequelize: Sequelize): void {
  Job.init(
    {
      id,
      kind: some(text),
      shootId: some(whole),
      state: some(text),
      settings: some(json),
      engineVersion: some(whole),
      place: real,
      message: text,
      startedAt: createdAt,
      finishedAt: createdAt,
      createdAt,
    },
    kept(sequelize, 'jobs'),
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
      own: withKept('own'),
      repairs: json,
      look: withKept('look'),
      lookSaid: json,
      file: json,
      alone: { type: yesNo, allowNull: false, defaultValue: false },
      mayReplace: { type: yesNo, allowNull: false, defaultValue: false },
      written: json,
    },
    plain(sequelize, 'job_items'),
  );
}
