import { Router } from 'express';
import Joi from 'joi';
import * as lenses from '../services/lenses.ts';
import * as presets from '../services/presets.ts';
import type { RenderPool } from '../work/pool.ts';
import { answer, check, idOf, pathWords, words } from './validate.ts';
import { json } from './answers.ts';

/** Lenses and presets that groundwork draws on. */
export function groundworkRoutes(pool: RenderPool): Router {
  const api = Router();
  api.get(
    '/lenses',
    answer(() => lenses.lensSource(pool)),
  );
  api.put(
    '/lenses',
    json,
    answer((req) =>
      lenses.setLensSource(
        pool,
        check(Joi.object<{ folder: string | null }>({ folder: pathWords().allow(null).required().label('folder') }), req.body).folder,
      ),
    ),
  );
  api.get(
    '/frames/:id/lenses',
    answer((req) =>
      lenses.searchLenses(
        pool,
        idOf(req),
        check(Joi.object<{ words: string }>({ words: words(200).allow('').default('') }), req.query).words,
      ),
    ),
  );
  api.get(
    '/frames/:id/lenses/:key',
    answer((req) => lenses.profileFor(pool, idOf(req), String(idOf(req, 'key')))),
  );
  api.get(
    '/groundwork-presets',
    answer(() => presets.listPresets()),
  );
  api.post(
    '/groundwork-presets',
    json,
    answer((req) => presets.createPreset(req.body)),
  );
  api.delete(
    '/groundwork-presets/:id',
    answer((req) => presets.takeOutPreset(idOf(req))),
  );
  return api;
}
