import { Router } from 'express';
import Joi from 'joi';
import { writeLook } from '@dyepot/core/src/look/schema.ts';
import * as drafts from '../services/drafts.ts';
import * as history from '../services/lookHistory.ts';
import { findLooks } from '../services/lookFaces.ts';
import * as looks from '../services/looks.ts';
import { answer, check, document, idOf, words } from './validate.ts';
import { draftJson, json } from './answers.ts';

const revisionQuery = Joi.object<{ revision?: number }>({ revision: Joi.number().integer().min(1).max(1e9) });
const edits = Joi.array().items(document()).max(400).required();
const revisionNumber = Joi.number().integer().min(1).max(1e9);
const foundQuery = Joi.object<{ words: string }>({ words: words(200).allow('').required() });
const differencesQuery = Joi.object<{ from?: number; to?: number; with?: number }>({
  from: revisionNumber,
  to: revisionNumber,
  with: revisionNumber,
});
const labelSchema = Joi.object<{ label: string }>({ label: words(80).trim().allow('').required() });
const tags = Joi.array().items(words(40).trim().min(1)).max(24);
const editSchema = Joi.object<{ ids: number[]; favourite?: boolean; family?: string; addTags?: string[]; dropTags?: string[] }>({
  ids: Joi.array().items(Joi.number().integer().min(1)).min(1).max(5000).required(),
  favourite: Joi.boolean().strict(),
  family: words(60).trim().allow(''),
  addTags: tags,
  dropTags: tags,
}).or('favourite', 'family', 'addTags', 'dropTags');
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
    '/looks/found',
    answer(async (req) => ({ ids: await findLooks(check(foundQuery, req.query).words) })),
  );
  api.patch(
    '/looks',
    json,
    answer(async (req) => {
      const { ids, ...change } = check(editSchema, req.body);
      return { changed: await history.editLooks(ids, change) };
    }),
  );
  api.get(
    '/looks/:id',
    answer((req) => looks.lookAt(idOf(req), check(revisionQuery, req.query).revision)),
  );
  api.get(
    '/looks/:id/revisions',
    answer((req) => history.revisionsOf(idOf(req))),
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
  api.patch(
    '/looks/:id/revisions/:revision',
    json,
    answer(async (req) => history.labelRevision(idOf(req), idOf(req, 'revision'), check(labelSchema, req.body).label)),
  );
  api.get(
    '/looks/:id/differences',
    answer(async (req) => {
      const { from, to, with: other } = check(differencesQuery, req.query),
        id = idOf(req);
      return {
        differences: await history.differencesBetween(
          { id, ...(from && { revision: from }) },
          { id: other ?? id, ...(to && { revision: to }) },
        ),
      };
    }),
  );
  api.get(
    '/looks/:id/near',
    answer(async (req) => ({ looks: await history.nearLooks(idOf(req)) })),
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
