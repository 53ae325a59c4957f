import type { Sequelize } from 'sequelize';
import { bindFrames } from './frames.ts';
import { bindJobs } from './jobs.ts';
import { bindLooks } from './looks.ts';
import { bindMatching } from './matching.ts';
import { bindPeople } from './people.ts';
import { bindSettings } from './settings.ts';
import { bindStocks } from './stocks.ts';
import { bindWatches } from './watches.ts';

export * from './frames.ts';
export * from './jobs.ts';
export * from './looks.ts';
export * from './matching.ts';
export * from './people.ts';
export * from './settings.ts';
export * from './stocks.ts';

/** Binds the models to a database. Tables are made by the migrations, not here. */
export function bindModels(sequelize: Sequelize): void {
  bindFrames(sequelize);
  bindLooks(sequelize);
  bindSettings(sequelize);
  bindStocks(sequelize);
  bindMatching(sequelize);
  bindJobs(sequelize);
  bindWatches(sequelize);
  bindPeople(sequelize);
}
