import { join } from 'node:path';
import { DataTypes, Sequelize, type ModelAttributeColumnOptions, type QueryInterface } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { dataPath } from '../places.ts';
import { bindModels } from './models.ts';

const id = { type: DataTypes.INTEGER, autoIncrement: true, primaryKey: true };
const text = { type: DataTypes.TEXT, allowNull: false },
  whole = { type: DataTypes.INTEGER, allowNull: false },
  real = { type: DataTypes.DOUBLE, allowNull: false },
  json = { type: DataTypes.JSON, allowNull: false },
  createdAt = { type: DataTypes.DATE, allowNull: false };
const belongsTo = (model: string): ModelAttributeColumnOptions => ({ ...whole, references: { model, key: 'id' }, onDelete: 'CASCADE' });

const migrations: { name: string; up: (p: { context: QueryInterface }) => Promise<void> }[] = [
  {
    name: '001-first-tables',
    async up({ context: q }) {
      await q.createTable('shoots', {
        id,
        name: text,
        leadFrameId: DataTypes.INTEGER,
        lookId: DataTypes.INTEGER,
        lookRevision: DataTypes.INTEGER,
        createdAt,
      });
      await q.createTable('frames', {
        id,
        shootId: belongsTo('shoots'),
        name: text,
        path: text,
        hash: text,
        width: whole,
        height: whole,
        light: text,
        kelvin: real,
        tintDuv: real,
        facts: json,
        survey: json,
        signature: json,
        createdAt,
      });
      await q.addIndex('frames', ['shootId']);
      await q.createTable('looks', { id, name: text, family: text, revision: whole, createdAt });
      await q.createTable('look_revisions', { id, lookId: belongsTo('looks'), revision: whole, document: json, strip: json, createdAt });
      await q.addIndex('look_revisions', ['lookId', 'revision'], { unique: true });
      await q.createTable('jobs', {
        id,
        kind: text,
        shootId: belongsTo('shoots'),
        state: text,
        settings: json,
        engineVersion: whole,
        startedAt: DataTypes.DATE,
        finishedAt: DataTypes.DATE,
        createdAt,
      });
      await q.createTable('job_items', {
        id,
        jobId: belongsTo('jobs'),
        frameId: DataTypes.INTEGER,
        name: text,
        path: text,
        state: text,
        output: DataTypes.TEXT,
        message: DataTypes.TEXT,
        seconds: DataTypes.DOUBLE,
      });
      await q.addIndex('job_items', ['jobId']);
    },
  },
  {
    name: '002-groundwork',
    async up({ context: q }) {
      await q.addColumn('frames', 'groundwork', { type: DataTypes.JSON, allowNull: true });
    },
  },
  {
    name: '003-rendition',
    async up({ context: q }) {
      await q.addColumn('shoots', 'rendition', { type: DataTypes.TEXT, allowNull: false, defaultValue: 'plain' });
    },
  },
  {
    name: '004-settings-and-presets',
    async up({ context: q }) {
      await q.createTable('settings', { name: { type: DataTypes.TEXT, primaryKey: true }, value: json });
      await q.createTable('groundwork_presets', {
        id,
        name: text,
        camera: DataTypes.TEXT,
        isoFrom: real,
        isoTo: real,
        parts: json,
        groundwork: json,
        automatic: { type: DataTypes.BOOLEAN, allowNull: false },
        createdAt,
      });
    },
  },
];

/** Opens (and brings up to date) the database in the data folder: SQLite, write-ahead log. */
export async function openDatabase(): Promise<Sequelize> {
  const sequelize = new Sequelize({
    dialect: 'sqlite',
    storage: join(dataPath(), 'dyepot.sqlite'),
    logging: false,
    pool: { max: 1, min: 1, idle: 1e8 },
  });
  await sequelize.query('PRAGMA journal_mode = WAL');
  await sequelize.query('PRAGMA foreign_keys = ON');
  bindModels(sequelize);
  await new Umzug({
    migrations,
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize }),
    logger: undefined,
  }).up();
  return sequelize;
}
