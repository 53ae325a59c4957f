import { Router } from 'express';
import Joi from 'joi';
import { keptDocument } from '../db/keptDocuments.ts';
import { found } from '../services/errors.ts';
import * as tables from '../services/tables.ts';
import type { RenderPool } from '../work/pool.ts';
import type { BakeFormat } from '../work/bakeFile.ts';
import type { Encoding } from '@dyepot/core/src/steps/lookup/index.ts';
import { answer, check, words } from './validate.ts';
import { json, lookOf } from './answers.ts';

/** Lookup tables: read, found from a pair, baked. */
export function tableRoutes(pool: RenderPool): Router {
  const api = Router();
  const named = Joi.object<{ name: string }>({ name: words(300).min(1).required() });
  api.post(
    '/tables/read',
    answer((req) => tables.readTable(pool, req, check(named, req.query).name)),
  );
  api.post(
    '/pictures/read',
    answer((req) => tables.readPicture(pool, req, check(named, req.query).name)),
  );
  api.get(
    '/documents/:hash',
    answer((req, res) => {
      const document = found(keptDocument(String(req.params['hash'])), 'this picture or table');
      res.set('Cache-Control', 'private, max-age=31536000, immutable').json(document);
    }),
  );
  api.post(
    '/tables/picture',
    answer((req) => tables.takePicture(req, check(named, req.query).name)),
  );
  api.post(
    '/tables/fit',
    json,
    answer((req) => {
      const b = check(
        Joi.object<{ before: string; after: string; size: number }>({
          before: Joi.string().required(),
          after: Joi.string().required(),
          size: Joi.number().valid(9, 17, 33).default(17),
        }),
        req.body,
      );
      return tables.fitPair(pool, b.before, b.after, b.size);
    }),
  );
  const bakeSchema = Joi.object<{ look: unknown; format: BakeFormat; size: number; input: Encoding }>({
    look: Joi.object().unknown().required(),
    format: Joi.valid('cube', 'png', 'tif', 'clf', 'cc', 'ccc', 'cdl').required(),
    size: Joi.number().integer().min(2).max(129).required(),
    input: Joi.valid('srgb', 'linear', 'acescct').required(),
  });
  api.post(
    '/tables/bake-report',
    json,
    answer((req) => {
      const b = check(bakeSchema, req.body);
      return tables.bakeReport(pool, lookOf(b.look)!, b.format, b.size, b.input);
    }),
  );
  api.post(
    '/tables/bake',
    json,
    answer(async (req, res) => {
      const b = check(bakeSchema, req.body),
        look = lookOf(b.look)!,
        file = await tables.bakeFile(pool, look, b.format, b.size, b.input);
      res.attachment(`${look.name}.${b.format}`).type('application/octet-stream').send(file);
    }),
  );
  return api;
}
