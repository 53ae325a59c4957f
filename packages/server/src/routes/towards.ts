import { Router } from 'express';
import Joi from 'joi';
import { asShown, shownName } from '../services/asShown.ts';
import { ServiceError } from '../services/errors.ts';
import { towardsPicture } from '../services/towards.ts';
import type { RenderPool } from '../work/pool.ts';
import { json, lookOf } from './answers.ts';
import { answer, check, document, idOf } from './validate.ts';

/** A frame beside finished pictures: the one its camera made, and steps towards one. */
export function towardsRoutes(pool: RenderPool): Router {
  const api = Router();
  api.get(
    '/frames/:id/as-shown',
    answer(async (req) => ({ name: await shownName(idOf(req)) })),
  );
  api.get('/frames/:id/as-shown.jpg', (req, res, next) => {
    asShown(idOf(req)).then((file) => res.set('Cache-Control', 'private, max-age=0').type('jpeg').send(file), next);
  });
  api.post(
    '/frames/:id/towards',
    json,
    answer((req) => {
      const b = check(
          Joi.object<{ look: unknown; picture: string | null }>({
            look: document().required(),
            picture: Joi.string().max(64).allow(null).required(),
          }),
          req.body,
        ),
        look = lookOf(b.look);
      if (!look) throw new ServiceError(400, 'there is no look to go on from');
      return towardsPicture(pool, idOf(req), look, b.picture);
    }),
  );
  return api;
}
