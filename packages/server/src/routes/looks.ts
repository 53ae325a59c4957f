import { Router } from 'express';
import Joi from 'joi';
import { writeLook } from '@dyepot/core/src/look/schema.ts';
import * as drafts from '../services/drafts.ts';
import * as looks from '../services/looks.ts';
import { answer, check, document, idOf } from './validate.ts';
import { draftJson, json } from './answers.ts';

const revisionQuery = Joi.object<{ revision?: number }>({ revision: Joi.number().integer().min(1).max(1e9) });
const edits = Joi.array().items(document()).max(400).required();
const draftKeys = {
  lookId: Joi.number().integer().min(1).allow(null).required(),
  revision: Joi.number().integer().min(1).allow(null).required(),
  look: document().required(),
  past: edits,
  future: edits,
};
const draftSchema = Joi.object<drafts.DraftWish>(draftKeys);
const draftSave = Joi.object<drafts.DraftWish & { version: number }>({ ...draftKeys, version: Joi.number().integer().min(1).required() });
const revisionSchema = Joi.object<{ look: unknown; from: number | null }>({
  look: document().required(),
  from: Joi.number().integer().min(1).allow(null).default(null),
});

/** The shelf of looks, their revisions, and the drafts of the bench. */
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
    answer((req) => looks.lookAt(idOf(req), check(revisionQuery, req.query).revision)),
  );
  api.get(
    '/looks/:id/revisions',
    answer((req) => looks.revisionsOf(idOf(req))),
  );
  api.post(
    '/looks/:id/revisions',
    json,
    answer((req) => {
      // a bare look is the next revision of whatever is newest
      const bare = (req.body as { format?: unknown } | undefined)?.format !== undefined,
        b = bare ? { look: req.body as unknown, from: null } : check(revisionSchema, req.body);
      return looks.saveRevision(idOf(req), b.look, b.from);
    }),
  );
  api.delete(
    '/looks/:id',
    answer((req) => looks.takeOutLook(idOf(req))),
  );
  api.get(
    '/looks/:id/file',
    answer(async (req, res) => {
      const look = await looks.lookAt(idOf(req), check(revisionQuery, req.query).revision);
      res.attachment(`${look.name}.json`).type('application/json').send(writeLook(look.document));
    }),
  );
  api.get(
    '/drafts',
    answer(() => drafts.listDrafts()),
  );
  api.post(
    '/drafts',
    draftJson,
    answer((req) => drafts.beginDraft(check(draftSchema, req.body))),
  );
  api.get(
    '/drafts/:id',
    answer((req) => drafts.draftById(idOf(req))),
  );
  api.get(
    '/looks/:id/draft',
    answer(async (req, res) => {
      res.json(await drafts.draftOfLook(idOf(req)));
    }),
  );
  api.put(
    '/drafts/:id',
    draftJson,
    answer((req) => {
      const { version, ...wish } = check(draftSave, req.body);
      return drafts.saveDraft(idOf(req), version, wish);
    }),
  );
  api.delete(
    '/drafts/:id',
    answer((req) => {
      const { done } = check(Joi.object<{ done: boolean }>({ done: Joi.boolean().default(false) }), req.query);
      return done ? drafts.endDraft(idOf(req)) : drafts.takeOutDraft(idOf(req));
    }),
  );
  return api;
}
