import type { LightFacts } from '@dyepot/core/src/match/lights.ts';
import { Model, type InferAttributes, type InferCreationAttributes, type Sequelize } from 'sequelize';
import { json, plain, some, text } from './columns.ts';

/** What two raws say of each other, as it is kept: `score` in hundredths. */
export interface KeptEvidence {
  version: number;
  score: number[];
  ratios: [number, number];
  deviation: number;
  agreeing: number;
}
/** Two raws, by content, compared once. */
export class Comparison extends Model<InferAttributes<Comparison>, InferCreationAttributes<Comparison>> {
  declare from: string;
  declare to: string;
  declare evidence: KeptEvidence;
}
/** What tells the light of a raw. */
export class LightRecord extends Model<InferAttributes<LightRecord>, InferCreationAttributes<LightRecord>> {
  declare hash: string;
  declare facts: LightFacts;
}
/** What was read of a raw for matching, once: by what it is, its version, the raw's content, and where. */
export class Reading extends Model<InferAttributes<Reading>, InferCreationAttributes<Reading>> {
  declare key: string;
  declare value: { found: unknown };
}

export function bindMatching(sequelize: Sequelize): void {
  // each its own: Sequelize writes into what it is given
  const key = () => ({ type: text, primaryKey: true }) as const;
  Comparison.init({ from: key(), to: key(), evidence: some(json) }, plain(sequelize, 'comparisons'));
  LightRecord.init({ hash: key(), facts: some(json) }, plain(sequelize, 'light_facts'));
  Reading.init({ key: key(), value: some(json) }, plain(sequelize, 'readings'));
}
