import type { Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import type { ColourCorrection } from '@dyepot/core/src/groundwork/colours.ts';
import type { OwnSteps } from '@dyepot/core/src/look/worn.ts';
import type { Wish } from '@dyepot/core/src/match/card.ts';
import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';
import type { Repair } from '@dyepot/core/src/repair/repairs.ts';
import type { Survey } from '@dyepot/core/src/plate/survey.ts';
import type { Rendition } from '@dyepot/core/src/stock/neutral.ts';
import {
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type NonAttribute,
  type Sequelize,
} from 'sequelize';
import { checkedGround } from './checkedGround.ts';
import { checkedOwn } from './checkedOwn.ts';
import { checkedRepairs } from './checkedRepairs.ts';
import { createdAt, deletedAt, id, json, kept, plain, real, some, text, trashed, whole, withKept } from './columns.ts';

/** Frames across, looks down (0: the neutral response), and what was said of cells, by “frame look”. */
export interface SwatchCard {
  frames: number[];
  looks: number[];
  said: Record<string, 'best' | 'out'>;
}

/** How frames are matched: by what both show, by near greys, by a patch pointed at (shares of the plate, by the frame's id), by the chart. */
export const matchWays = ['statistics', 'neutral', 'patch', 'chart'] as const;
export interface Matching {
  by: (typeof matchWays)[number];
  /** which parts are proposed; the usual ones where not said */
  parts?: Wish;
  at: Record<string, readonly [number, number]>;
}

export class Shoot extends Model<InferAttributes<Shoot>, InferCreationAttributes<Shoot>> {
  declare id: CreationOptional<number>;
  declare name: string;
  declare leadFrameId: number | null;
  declare lookId: number | null;
  declare lookRevision: number | null;
  declare rendition: CreationOptional<Rendition>;
  /** the frame others of its light are matched to, by the light's name; where none is named the most typical serves */
  declare anchors: CreationOptional<Record<string, number>>;
  declare matching: CreationOptional<Matching>;
  /** what charts say of its cameras' colours, by the camera's name: every frame of that camera has it */
  declare colours: CreationOptional<Record<string, ColourCorrection>>;
  /** its swatch card, as it was left */
  declare swatches: CreationOptional<Partial<SwatchCard>>;
  /** CIEDE2000 up to which a frame is even with its anchor */
  declare tolerance: CreationOptional<number>;
  declare createdAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;
}

/** What a raw file is, by its content: the same in every shoot, wherever the file lies. */
export class Raw extends Model<InferAttributes<Raw>, InferCreationAttributes<Raw>> {
  declare hash: string;
  declare width: number;
  declare height: number;
  declare kelvin: number;
  declare tintDuv: number;
  declare facts: RawFacts;
  declare survey: Survey;
  declare signature: number[];
  /** why it may not be whole; null where nothing speaks against it */
  declare doubt: CreationOptional<string | null>;
  declare createdAt: CreationOptional<Date>;
}

/** One treatment of a raw in a shoot. The same raw may stand there more than once: its dips. */
export class Frame extends Model<InferAttributes<Frame>, InferCreationAttributes<Frame>> {
  declare id: CreationOptional<number>;
  declare shootId: number;
  declare name: string;
  declare path: string;
  /** of its raw */
  declare hash: string;
  declare light: string;
  /** 0 none, 1–5, −1 rejected */
  declare rating: CreationOptional<number>;
  /** one of `marks`; empty for none */
  declare mark: CreationOptional<string>;
  /** a look of its own, at a revision; null where it wears the shoot's */
  declare lookId: CreationOptional<number | null>;
  declare lookRevision: CreationOptional<number | null>;
  /** null: nothing is done yet */
  declare groundwork: CreationOptional<Groundwork | null>;
  /** steps of its own, on top of the look, and how often they were changed */
  declare own: CreationOptional<object | null>;
  declare ownVersion: CreationOptional<number>;
  /** repairs of its plate, and how often they were changed */
  declare repairs: CreationOptional<object | null>;
  declare repairVersion: CreationOptional<number>;
  /** counts the changes of the groundwork, so that two windows do not write over each other */
  declare groundVersion: CreationOptional<number>;
  declare createdAt: CreationOptional<Date>;
  declare deletedAt: CreationOptional<Date | null>;
  /** there where it was asked for: `withRaw` */
  declare raw: NonAttribute<Raw>;

  /** The groundwork kept for this frame, checked; `trouble` says what is wrong with it. */
  get steps(): NonAttribute<{ own: OwnSteps | null; trouble: string | null }> {
    return checkedOwn(this.own);
  }
  get mending(): NonAttribute<{ repairs: readonly Repair[]; trouble: string | null }> {
    return checkedRepairs(this.repairs);
  }
  get ground(): NonAttribute<{ groundwork: Groundwork | null; trouble: string | null }> {
    return checkedGround(this.groundwork);
  }
}

/** Reads a frame's raw with it, but for its survey and signature, which only the choice of witnesses reads. */
export const withRaw = { association: 'raw', attributes: { exclude: ['survey', 'signature'] } };

/** What was done to a frame's groundwork, in order, its snapshots and probes; as the Ground keeps them. */
export class FrameHistory extends Model<InferAttributes<FrameHistory>, InferCreationAttributes<FrameHistory>> {
  declare frameId: number;
  declare document: object;
}

/** Binds shoots, raws and frames to their tables. */
export function bindFrames(sequelize: Sequelize): void {
  Shoot.init(
    {
      id,
      name: some(text),
      leadFrameId: whole,
      lookId: whole,
      lookRevision: whole,
      rendition: { type: text, allowNull: false, defaultValue: 'plain' },
      anchors: { ...some(json), defaultValue: {} },
      matching: { ...some(json), defaultValue: { by: 'statistics', at: {} } },
      colours: { ...some(json), defaultValue: {} },
      swatches: { ...some(json), defaultValue: {} },
      tolerance: { ...some(real), defaultValue: 2 },
      createdAt,
      deletedAt,
    },
    trashed(sequelize, 'shoots'),
  );
  Raw.init(
    {
      hash: { type: text, primaryKey: true },
      width: some(whole),
      height: some(whole),
      kelvin: some(real),
      tintDuv: some(real),
      facts: some(json),
      survey: some(json),
      signature: some(json),
      doubt: text,
      createdAt,
    },
    kept(sequelize, 'raws'),
  );
  Frame.init(
    {
      id,
      shootId: some(whole),
      name: some(text),
      path: some(text),
      hash: some(text),
      light: some(text),
      rating: { ...some(whole), defaultValue: 0 },
      mark: { ...some(text), defaultValue: '' },
      lookId: whole,
      lookRevision: whole,
      groundwork: json,
      own: withKept('own'),
      ownVersion: { ...some(whole), defaultValue: 0 },
      repairs: json,
      repairVersion: { ...some(whole), defaultValue: 0 },
      groundVersion: { type: whole, allowNull: false, defaultValue: 0 },
      createdAt,
      deletedAt,
    },
    trashed(sequelize, 'frames'),
  );
  FrameHistory.init(
    { frameId: { type: whole, primaryKey: true }, document: { ...withKept('document'), allowNull: false } },
    plain(sequelize, 'frame_histories'),
  );
  Frame.belongsTo(Raw, { as: 'raw', foreignKey: 'hash' });
}
