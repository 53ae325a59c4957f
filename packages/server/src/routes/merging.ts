import { Router } from 'express';
import Joi from 'joi';
import type { Jobs } from '../jobs/jobs.ts';
import { bracketsOf, mergeFrames, mostExposures } from '../services/merging.ts';
import type { RenderPool } from '../work/pool.ts';
import { json } from './answers.ts';
import { answer, check, idOf } from './validate.ts';

/** Brackets of a shoot: found, and merged. */
export function mergingRoutes(pool: RenderPool, jobs: Jobs): Router {
  const api = Router();
  api.get(
    '/shoots/:id/brackets',
    answer((req) => bracketsOf(pool, idOf(req))),
  );
  api.post(
    '/shoots/:id/merge',
    json,
    answer((req, res) => {
      const { ids } = check(
          Joi.object<{ ids: number[] }>({
            ids: Joi.array()
              .items(Joi.number().integer())
              .min(2)
              .max(mostExposures)
              .unique()
              .required()
              .messages({
                'array.min': 'at least two exposures are merged',
                'array.max': `at most ${mostExposures} exposures are merged into one`,
              }),
          }),
          req.body,
        ),
        stop = new AbortController();
      // whoever asked may have gone
      res.on('close', () => stop.abort());
      return mergeFrames(pool, jobs, idOf(req), ids, stop.signal);
    }),
  );
  return api;
}
