import type { Look } from '@dyepot/core/src/look/look.ts';
import { Model, type CreationOptional, type InferAttributes, type InferCreationAttributes, type Sequelize } from 'sequelize';
import { bytes, createdAt, deletedAt, id, json, kept, some, text, trashed, whole, withKept, yesNo } from './columns.ts';

export class LookRecord extends Model<InferAttributes<LookRecord>, InferCreationAttributes<LookRecord>> {
  declare id: CreationOptional<number>;
  declare name: string;
  declare family: string;
  declare revision: number;
  declare favourite: CreationOptional<boolean>;
  /** SHA-256 of what it said before it came to this shelf, oldest first */
  declare lineage: CreationOptional<string[]>;
  /** when its newest revision was */
  declare savedAt: CreationOptional<Date | null>;
  declare createdAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;
}

export class LookRevision extends Model<InferAttributes<LookRevision>, InferCreationAttributes<LookRevision>> {
  declare id: CreationOptional<number>;
  declare lookId: number;
  declare revision: number;
  declare document: Look;
  declare strip: string[];
  /** a name of its own, or empty */
  declare label: CreationOptional<string>;
  /** what it makes of the compared colours: L*a*b* in 32-bit floats; null until it is asked for */
  declare colours: CreationOptional<Buffer | null>;
  declare createdAt: CreationOptional<Date>;
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

/** Binds looks, their revisions and drafts to their tables. */
export function bindLooks(sequelize: Sequelize): void {
  LookRecord.init(
    {
      id,
      name: some(text),
      family: some(text),
      revision: some(whole),
      favourite: { ...some(yesNo), defaultValue: false },
      lineage: { ...some(json), defaultValue: [] },
      savedAt: createdAt,
      createdAt,
      deletedAt,
    },
    trashed(sequelize, 'looks'),
  );
  LookRevision.init(
    {
      id,
      lookId: some(whole),
      revision: some(whole),
      document: { ...withKept('document'), allowNull: false },
      strip: some(json),
      label: { ...some(text), defaultValue: '' },
      colours: bytes,
      createdAt,
    },
    kept(sequelize, 'look_revisions'),
  );
  Draft.init(
    {
      id,
      lookId: whole,
      revision: whole,
      version: some(whole),
      document: { ...withKept('document'), allowNull: false },
      past: { ...withKept('past'), allowNull: false },
      future: { ...withKept('future'), allowNull: false },
      changedAt: some(createdAt),
      createdAt,
      deletedAt,
    },
    trashed(sequelize, 'drafts'),
  );
}
