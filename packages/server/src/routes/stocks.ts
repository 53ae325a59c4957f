import { Router } from 'express';
import Joi from 'joi';
import { writeSheet } from '@dyepot/core/src/stock/film/sheetSchema.ts';
import * as stocks from '../services/stocks.ts';
import { answer, check, document, idOf, words } from './validate.ts';
import { json } from './answers.ts';

const revisionQuery = Joi.object<{ revision?: number }>({ revision: Joi.number().integer().min(1).max(1e9) }),
  fromQuery = Joi.object<{ from: string }>({ from: words(120).required() }),
  edits = Joi.array().items(document()).max(400).required(),
  used = Joi.number().min(-200).max(200).required(),
  draftSchema = Joi.object<stocks.DraftedSheet>({
    version: Joi.number().integer().min(0).required(),
    sheet: document().required(),
    past: edits,
    future: edits,
    use: Joi.object({ contrast: used, colour: used, rated: used, push: used, print: used }).required(),
  }),
  revisionSchema = Joi.object<{ sheet: object; from: number | null }>({
    sheet: document().required(),
    from: Joi.number().integer().min(1).allow(null).default(null),
  });

/** Film stocks of the shelf, their revisions, and what the designer has under way. */
export function stockRoutes(): Router {
  const api = Router();
  api.get(
    '/stocks',
    answer(() => stocks.listStocks()),
  );
  api.post(
    '/stocks',
    json,
    answer((req) => stocks.createStock(req.body)),
  );
  api.get(
    '/stocks/draft',
    answer(async (req, res) => {
      res.json(await stocks.draftedSheet(check(fromQuery, req.query).from));
    }),
  );
  api.put(
    '/stocks/draft',
    json,
    answer((req) => stocks.keepDraftedSheet(check(fromQuery, req.query).from, check(draftSchema, req.body))),
  );
  api.delete(
    '/stocks/draft',
    answer((req) => stocks.endDraftedSheet(check(fromQuery, req.query).from)),
  );
  api.get(
    '/stocks/:id',
    answer((req) => stocks.stockAt(idOf(req), check(revisionQuery, req.query).revision)),
  );
  api.get(
    '/stocks/:id/revisions',
    answer((req) => stocks.stockRevisions(idOf(req))),
  );
  api.post(
    '/stocks/:id/revisions',
    json,
    answer((req) => {
      const { sheet, from } = check(revisionSchema, req.body);
      return stocks.saveStock(idOf(req), sheet, from);
    }),
  );
  api.delete(
    '/stocks/:id',
    answer((req) => stocks.takeOutStock(idOf(req))),
  );
  api.get(
    '/stocks/:id/file',
    answer(async (req, res) => {
      const { sheet } = await stocks.stockAt(idOf(req), check(revisionQuery, req.query).revision);
      res.attachment(`${sheet.name}.json`).type('application/json').send(writeSheet(sheet));
    }),
  );
  return api;
}
