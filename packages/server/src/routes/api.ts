import { Router } from 'express';
import { door } from '../people/door.ts';
import { ServiceError } from '../services/errors.ts';
import type { FarmPool } from '../farm/sending.ts';
import type { Jobs } from '../jobs/jobs.ts';
import type { LookFolder } from '../services/lookFolder.ts';
import type { Watching } from '../services/watching.ts';
import type { RenderPool } from '../work/pool.ts';
import { colourRoutes } from './colours.ts';
import { evennessRoutes } from './evenness.ts';
import { eventRoutes } from './events.ts';
import { frameRoutes } from './frames.ts';
import { groundworkRoutes } from './groundwork.ts';
import { houseRoutes } from './house.ts';
import { jobRoutes } from './jobs.ts';
import { linkRoutes } from './links.ts';
import { lookRoutes } from './looks.ts';
import { mergingRoutes } from './merging.ts';
import { parcelRoutes } from './parcels.ts';
import { peopleRoutes } from './people.ts';
import { repairRoutes } from './repairs.ts';
import { stockRoutes } from './stocks.ts';
import { shootRoutes } from './shoots.ts';
import { tableRoutes } from './tables.ts';
import { towardsRoutes } from './towards.ts';
import { watchRoutes } from './watches.ts';

/** Everything under /api. `away`: it is met from other machines, and people log in; `farm`: workers on other machines do the frames of jobs. */
export function apiRoutes(
  pool: RenderPool,
  jobs: Jobs,
  { watching, lookFolder }: { watching: Watching; lookFolder: LookFolder },
  { away, farm }: { away: boolean; farm: FarmPool | null },
): Router {
  const api = Router();
  if (away) api.use(door);
  api.use(
    shootRoutes(jobs),
    evennessRoutes(pool),
    colourRoutes(pool),
    frameRoutes(pool),
    towardsRoutes(pool),
    mergingRoutes(pool, jobs),
    repairRoutes(pool),
    groundworkRoutes(pool),
    parcelRoutes(pool),
    lookRoutes(),
    stockRoutes(),
    tableRoutes(pool),
    jobRoutes(jobs, farm),
    watchRoutes(watching),
    houseRoutes(away, lookFolder),
    peopleRoutes(away),
    ...(away ? [linkRoutes(pool)] : []),
    eventRoutes(away),
  );
  api.use((_req, _res, next) => next(new ServiceError(404, 'there is nothing at this address')));
  return api;
}
