import { Router } from 'express';
import Joi from 'joi';
import type { Watching, WatchWish } from '../services/watching.ts';
import { json } from './answers.ts';
import { answer, check, idOf, pathWords, words } from './validate.ts';

const id = Joi.number().integer().min(1);
const wishSchema = Joi.object<WatchWish>({
  shootId: id.required(),
  folder: pathWords().required(),
  lookId: id.allow(null).default(null),
  lookRevision: id.allow(null).default(null),
  preset: words(80).allow('').default(''),
});

/** Folders whose new raws come into a shoot by themselves. */
export function watchRoutes(watching: Watching): Router {
  const api = Router();
  api.get(
    '/watches',
    answer(async () => ({ watches: await watching.list() })),
  );
  api.post(
    '/watches',
    json,
    answer((req) => watching.add(check(wishSchema, req.body))),
  );
  api.delete(
    '/watches/:id',
    answer((req) => watching.remove(idOf(req))),
  );
  return api;
}
