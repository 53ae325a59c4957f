import { DataTypes, type Model, type Sequelize } from 'sequelize';
import { filled, leanly } from './keptDocuments.ts';

export const id = { type: DataTypes.INTEGER, autoIncrement: true, primaryKey: true } as const,
  text = DataTypes.TEXT,
  whole = DataTypes.INTEGER,
  real = DataTypes.DOUBLE,
  json = DataTypes.JSON,
  bytes = DataTypes.BLOB,
  yesNo = DataTypes.BOOLEAN,
  createdAt = DataTypes.DATE,
  deletedAt = DataTypes.DATE;
/** A column that is never empty. */
export const some = <T>(type: T): { type: T; allowNull: false } => ({ type, allowNull: false });

/** A JSON column whose pictures and tables are kept by themselves, and are there again when it is read. */
export const withKept = (name: string): { type: typeof json; get(this: Model): unknown; set(this: Model, value: unknown): void } => ({
  type: json,
  get() {
    return filled(this.getDataValue(name));
  },
  set(value) {
    this.setDataValue(name, leanly(value));
  },
});

type Table = { sequelize: Sequelize; tableName: string };
/** Rows that know when they were made. */
export const kept = (sequelize: Sequelize, tableName: string): Table & { updatedAt: false } => ({ sequelize, tableName, updatedAt: false });
/** Rows that go to the trash first. */
export const trashed = (sequelize: Sequelize, tableName: string): ReturnType<typeof kept> & { paranoid: true; deletedAt: 'deletedAt' } => ({
  ...kept(sequelize, tableName),
  paranoid: true,
  deletedAt: 'deletedAt',
});
/** Rows without times. */
export const plain = (sequelize: Sequelize, tableName: string): Table & { timestamps: false } => ({
  sequelize,
  tableName,
  timestamps: false,
});
