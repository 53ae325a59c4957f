import { Router } from 'express';
import { writeLook } from '@dyepot/core/src/look/schema.ts';
import * as looks from '../services/looks.ts';
import { answer, idOf } from './validate.ts';
import { json } from './answers.ts';

/** The shelf of looks and their revisions. */
export function lookRoutes(): Router {
  const api = Router();
  api.get(
    '/looks',
    answer(() => looks.listLooks()),
  );
  api.post(
    '/looks',
    json,
    answer((req) => looks.createLook(req.body)),
  );
  api.get(
    '/looks/:id',
    answer((req) => looks.lookAt(idOf(req), req.query['revision'] === undefined ? undefined : Number(req.query['revision']))),
  );
  api.get(
    '/looks/:id/revisions',
    answer((req) => looks.revisionsOf(idOf(req))),
  );
  api.post(
    '/looks/:id/revisions',
    json,
    answer((req) => looks.saveRevision(idOf(req), req.body)),
  );
  api.delete(
    '/looks/:id',
    answer((req) => looks.deleteLook(idOf(req))),
  );
  api.get(
    '/looks/:id/file',
    answer(async (req, res) => {
      const look = await looks.lookAt(idOf(req));
      res.attachment(`${look.name}.json`).type('application/json').send(writeLook(look.document));
    }),
  );
  return api;
}
