import { join } from 'node:path';
import { Sequelize, Transaction } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { dataPath } from '../places.ts';
import { migrations } from './migrations.ts';
import { bindModels, Shoot } from './models.ts';

/** Opens (and brings up to date) the database in the data folder: SQLite, write-ahead log. */
export async function openDatabase(): Promise<Sequelize> {
  const sequelize = new Sequelize({
    dialect: 'sqlite',
    storage: join(dataPath(), 'dyepot.sqlite'),
    logging: false,
    pool: { max: 1, min: 1, idle: 1e8 },
  });
  try {
    await sequelize.query('PRAGMA journal_mode = WAL');
    await sequelize.query('PRAGMA busy_timeout = 5000');
    await sequelize.query('PRAGMA foreign_keys = ON');
    bindModels(sequelize);
    await new Umzug({
      migrations,
      context: sequelize.getQueryInterface(),
      storage: new SequelizeStorage({ sequelize }),
      logger: undefined,
    }).up();
    return sequelize;
  } catch (error) {
    await sequelize.close().catch(() => {});
    throw error;
  }
}

let turn: Promise<unknown> = Promise.resolve();
/**
 * Writes what belongs together: all of it or none. One at a time, since SQLite has one writer, and as the writer from the start,
 * so that what it reads first is not written by another meanwhile.
 */
export function together<T>(write: (transaction: Transaction) => Promise<T>): Promise<T> {
  const done = turn.then(() => Shoot.sequelize!.transaction({ type: Transaction.TYPES.IMMEDIATE }, write));
  turn = done.catch(() => {});
  return done;
}
