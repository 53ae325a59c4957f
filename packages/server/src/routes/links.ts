import { Router } from 'express';
import Joi from 'joi';
import * as links from '../people/links.ts';
import type { RenderPool } from '../work/pool.ts';
import { json, sendPicture } from './answers.ts';
import { answer, check, idOf } from './validate.ts';

const whole = Joi.number().integer().min(1);
const days = Joi.number().integer().min(1).max(365).required();
const wish = Joi.object<{ kind: 'look' | 'swatches'; lookId?: number; shootId?: number; frames?: number[]; days: number }>({
  kind: Joi.valid('look', 'swatches').required(),
  lookId: Joi.when('kind', { is: 'look', then: whole.required(), otherwise: Joi.forbidden() }),
  frames: Joi.when('kind', { is: 'look', then: Joi.array().items(whole).min(1).max(6).unique(), otherwise: Joi.forbidden() }),
  shootId: Joi.when('kind', { is: 'swatches', then: whole.required(), otherwise: Joi.forbidden() }),
  days,
});

/** Links to one look or one swatch card, and what is behind them. */
export function linkRoutes(pool: RenderPool): Router {
  const api = Router();
  api.get(
    '/links',
    answer(() => links.listLinks()),
  );
  api.post(
    '/links',
    json,
    answer((req) => {
      const { days: lasting, ...asked } = check(wish, req.body);
      return links.makeLink(asked as links.LinkWish, lasting);
    }),
  );
  api.delete(
    '/links/:id',
    answer((req) => links.takeBackLink(idOf(req))),
  );
  api.get(
    '/links/:token/shown',
    answer((req) => links.behindLink(String(req.params['token']))),
  );
  api.get(
    '/links/:token/pictures/:frame/:look',
    answer(async (req, res) =>
      sendPicture(res, await links.pictureBehindLink(pool, String(req.params['token']), idOf(req, 'frame'), idOf(req, 'look')), false),
    ),
  );
  api.get(
    '/links/:token/page.pdf',
    answer(async (req, res) => {
      const { name, file } = await links.pageBehindLink(pool, String(req.params['token']));
      res.attachment(name).type('pdf').send(file);
    }),
  );
  return api;
}
