import { DataTypes, type QueryInterface } from 'sequelize';
import { belongsTo, createdAt, id, json, real, text, whole } from './tableColumns.ts';

/** What brings a data folder up to date, oldest first; a step that has landed is never changed. */
export const migrations: { name: string; up: (p: { context: QueryInterface }) => Promise<void> }[] = [
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
  {
    name: '005-drafts-trash-and-orders',
    async up({ context: q }) {
      for (const table of ['shoots', 'frames', 'looks', 'groundwork_presets']) await q.addColumn(table, 'deletedAt', DataTypes.DATE);
      await q.addColumn('frames', 'groundVersion', { ...whole, defaultValue: 0 });
      await q.addColumn('frames', 'doubt', DataTypes.TEXT);
      await q.createTable('frame_histories', { frameId: { ...belongsTo('frames'), primaryKey: true }, document: json });
      await q.createTable('drafts', {
        id,
        lookId: { type: DataTypes.INTEGER, references: { model: 'looks', key: 'id' }, onDelete: 'CASCADE' },
        revision: DataTypes.INTEGER,
        version: whole,
        document: json,
        past: json,
        future: json,
        changedAt: createdAt,
        createdAt,
        deletedAt: DataTypes.DATE,
      });
      await q.addColumn('jobs', 'message', DataTypes.TEXT);
      await q.addColumn('job_items', 'groundwork', DataTypes.JSON);
      await q.addColumn('job_items', 'mayReplace', { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false });
      await q.addColumn('job_items', 'written', DataTypes.JSON);
      await q.addIndex('job_items', ['output']);
      await q.addIndex('job_items', ['jobId', 'state']);
    },
  },
  {
    name: '006-raws-and-dips',
    async up({ context: q }) {
      // ended between its last step and the note that it is done, it has nothing left to do
      if (!('facts' in (await q.describeTable('frames')))) return;
      // SQLite gives a table other columns and ties by making it anew (its manual, ALTER TABLE, 7)
      const facts = ['width', 'height', 'kelvin', 'tintDuv', 'facts', 'survey', 'signature', 'doubt', 'createdAt'],
        kept = ['id', 'shootId', 'name', 'path', 'hash', 'light', 'groundwork', 'groundVersion', 'createdAt', 'deletedAt'],
        names = (columns: readonly string[]): string => columns.map((c) => `"${c}"`).join();
      await q.sequelize.query('PRAGMA foreign_keys = OFF');
      await q.sequelize.query('BEGIN IMMEDIATE');
      try {
        await q.addColumn('job_items', 'look', DataTypes.JSON);
        await q.createTable('raws', {
          hash: { ...text, primaryKey: true },
          width: whole,
          height: whole,
          kelvin: real,
          tintDuv: real,
          facts: json,
          survey: json,
          signature: json,
          doubt: DataTypes.TEXT,
          createdAt,
        });
        // of a raw that was read more than once, what was read last: SQLite takes a group's other columns from the row of its MAX
        await q.sequelize.query(
          `INSERT INTO raws (hash, ${names(facts)}) SELECT hash, ${names(facts)} FROM (SELECT *, MAX(id) FROM frames GROUP BY hash)`,
        );
        await q.createTable('frames_anew', {
          id,
          shootId: belongsTo('shoots'),
          name: text,
          path: text,
          hash: { ...text, references: { model: 'raws', key: 'hash' } },
          light: text,
          lookId: { type: DataTypes.INTEGER, references: { model: 'looks', key: 'id' }, onDelete: 'SET NULL' },
          lookRevision: DataTypes.INTEGER,
          groundwork: DataTypes.JSON,
          groundVersion: { ...whole, defaultValue: 0 },
          createdAt,
          deletedAt: DataTypes.DATE,
        });
        await q.sequelize.query(`INSERT INTO frames_anew (${names(kept)}) SELECT ${names(kept)} FROM frames`);
        await q.sequelize.query('DROP TABLE frames');
        await q.sequelize.query('ALTER TABLE frames_anew RENAME TO frames');
        await q.addIndex('frames', ['shootId']);
        await q.addIndex('frames', ['hash']);
        await q.sequelize.query('COMMIT');
      } catch (error) {
        await q.sequelize.query('ROLLBACK');
        throw error;
      } finally {
        await q.sequelize.query('PRAGMA foreign_keys = ON');
      }
    },
  },
  {
    name: '007-stocks',
    async up({ context: q }) {
      await q.createTable('stocks', { id, name: text, family: text, revision: whole, createdAt, deletedAt: DataTypes.DATE });
      await q.createTable('stock_revisions', { id, stockId: belongsTo('stocks'), revision: whole, sheet: json, createdAt });
      await q.addIndex('stock_revisions', ['stockId', 'revision'], { unique: true });
      await q.createTable('stock_drafts', {
        id,
        from: { ...text, unique: true },
        version: whole,
        sheet: json,
        past: json,
        future: json,
        createdAt,
      });
    },
  },
  {
    name: '008-how-a-stock-is-used',
    async up({ context: q }) {
      await q.addColumn('stock_drafts', 'use', { ...json, defaultValue: {} });
    },
  },
  {
    name: '009-own-steps',
    async up({ context: q }) {
      await q.addColumn('frames', 'own', DataTypes.JSON);
      await q.addColumn('frames', 'ownVersion', { ...whole, defaultValue: 0 });
      await q.addColumn('job_items', 'own', DataTypes.JSON);
    },
  },
  {
    name: '010-evenness-and-choosing',
    async up({ context: q }) {
      await q.addColumn('shoots', 'anchors', { ...json, defaultValue: {} });
      await q.addColumn('shoots', 'swatches', { ...json, defaultValue: {} });
      await q.addColumn('shoots', 'tolerance', { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 2 });
      await q.addColumn('frames', 'rating', { ...whole, defaultValue: 0 });
      await q.addColumn('frames', 'mark', { ...text, defaultValue: '' });
      await q.createTable('comparisons', { from: { ...text, primaryKey: true }, to: { ...text, primaryKey: true }, evidence: json });
      await q.createTable('light_facts', { hash: { ...text, primaryKey: true }, facts: json });
    },
  },
  {
    name: '011-repairs',
    async up({ context: q }) {
      await q.addColumn('frames', 'repairs', DataTypes.JSON);
      await q.addColumn('frames', 'repairVersion', { ...whole, defaultValue: 0 });
      await q.addColumn('job_items', 'repairs', DataTypes.JSON);
    },
  },
  {
    name: '012-shelf-and-sharing',
    async up({ context: q }) {
      await q.addColumn('looks', 'favourite', { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false });
      await q.addColumn('looks', 'lineage', { ...json, defaultValue: [] });
      await q.addColumn('looks', 'savedAt', DataTypes.DATE);
      await q.sequelize.query(
        'UPDATE looks SET savedAt = (SELECT max(createdAt) FROM look_revisions WHERE look_revisions.lookId = looks.id)',
      );
      await q.addColumn('look_revisions', 'label', { ...text, defaultValue: '' });
      await q.addColumn('look_revisions', 'colours', DataTypes.BLOB);
      await q.sequelize.query(
        `CREATE VIRTUAL TABLE look_words USING fts5(name, family, tags, notes, steps, words, tokenize = "unicode61 remove_diacritics 2", prefix = '2 3')`,
      );
      await q.sequelize.query('CREATE TRIGGER look_gone AFTER DELETE ON looks BEGIN DELETE FROM look_words WHERE rowid = old.id; END');
    },
  },
  {
    name: '013-what-a-file-says-of-its-look',
    async up({ context: q }) {
      await q.addColumn('job_items', 'lookSaid', DataTypes.JSON);
    },
  },
  {
    name: '014-watched-folders',
    async up({ context: q }) {
      await q.createTable('watches', {
        id,
        shootId: belongsTo('shoots'),
        folder: text,
        lookId: DataTypes.INTEGER,
        lookRevision: DataTypes.INTEGER,
        preset: text,
        createdAt,
      });
    },
  },
  {
    name: '015-several-files-of-a-frame',
    async up({ context: q }) {
      await q.addColumn('jobs', 'place', DataTypes.DOUBLE);
      await q.sequelize.query('UPDATE jobs SET place = id');
      await q.addColumn('job_items', 'file', DataTypes.JSON);
      await q.addColumn('job_items', 'alone', { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false });
    },
  },
  {
    name: '016-people-and-links',
    async up({ context: q }) {
      await q.createTable('people', { id, name: text, key: { ...text, unique: true }, role: text, password: text, createdAt });
      await q.createTable('sessions', {
        tokenHash: { ...text, primaryKey: true },
        personId: belongsTo('people'),
        openedAt: createdAt,
        seenAt: createdAt,
      });
      await q.createTable('links', { id, tokenHash: { ...text, unique: true }, target: json, expiresAt: createdAt, createdAt });
    },
  },
  {
    name: '017-ways-of-matching',
    async up({ context: q }) {
      await q.addColumn('shoots', 'matching', { ...json, defaultValue: { by: 'statistics', at: {} } });
      await q.createTable('readings', { key: { ...text, primaryKey: true }, value: json });
    },
  },
  {
    name: '018-colours-by-a-chart',
    async up({ context: q }) {
      await q.addColumn('shoots', 'colours', { ...json, defaultValue: {} });
    },
  },
];
