import { Router } from 'express';
import Joi from 'joi';
import { renditions, type Rendition } from '@dyepot/core/src/stock/neutral.ts';
import { mostPaths, type FolderWish } from '../jobs/importing.ts';
import type { Jobs } from '../jobs/jobs.ts';
import { ServiceError } from '../services/errors.ts';
import { browse } from '../services/folders.ts';
import * as shoots from '../services/shoots.ts';
import { isUpload, keepUpload } from '../services/uploads.ts';
import { answer, check, idOf, pathWords, words } from './validate.ts';
import { json } from './answers.ts';

const nameSchema = Joi.object<{ name: string }>({ name: words(120).trim().min(1).required().label('name') });
const shootChange = Joi.object<{ name?: string; leadFrameId?: number; rendition?: Rendition }>({
  name: words(120).trim().min(1),
  leadFrameId: Joi.number().integer(),
  rendition: Joi.valid(...Object.keys(renditions)),
}).min(1);
const applySchema = Joi.object<{ lookId: number | null; revision: number | null }>({
  lookId: Joi.number().integer().allow(null).required(),
  revision: Joi.number().integer().min(1).allow(null).default(null),
});
const folderSchema = Joi.object<{ folder: string } & FolderWish>({
  folder: pathWords().required().label('folder'),
  deep: Joi.boolean().default(false),
  finished: Joi.boolean().default(false),
});
const importSchema = Joi.object<{ paths: string[] }>({
  paths: Joi.array()
    .items(pathWords())
    .min(1)
    .max(mostPaths)
    .required()
    .messages({ 'array.max': `at most ${mostPaths} files are brought in at a time` }),
});

/** Shoots, their looks, and raws that are brought in. */
export function shootRoutes(jobs: Jobs): Router {
  const api = Router();
  api.get(
    '/shoots',
    answer(() => shoots.listShoots()),
  );
  api.post(
    '/shoots',
    json,
    answer(async (req) => shoots.shootView((await shoots.createShoot(check(nameSchema, req.body).name)).id)),
  );
  api.get(
    '/shoots/:id',
    answer((req) => shoots.shootView(idOf(req))),
  );
  api.patch(
    '/shoots/:id',
    json,
    answer(async (req) => {
      await shoots.updateShoot(idOf(req), check(shootChange, req.body));
      return shoots.shootView(idOf(req));
    }),
  );
  api.delete(
    '/shoots/:id',
    answer((req) => shoots.takeOutShoot(idOf(req), jobs)),
  );
  api.post(
    '/shoots/:id/look',
    json,
    answer(async (req) => {
      const b = check(applySchema, req.body);
      await shoots.applyLook(idOf(req), b.lookId, b.revision);
      return shoots.shootView(idOf(req));
    }),
  );
  api.post(
    '/shoots/:id/folder',
    json,
    answer((req) => {
      const b = check(folderSchema, req.body);
      return jobs.importFolder(idOf(req), b.folder, b);
    }),
  );
  api.put(
    '/shoots/:id/upload',
    answer(async (req) => {
      const id = idOf(req),
        { name } = check(Joi.object<{ name: string }>({ name: words(300).min(1).required() }), req.query);
      await shoots.shootThere(id);
      return keepUpload(req, name);
    }),
  );
  api.post(
    '/shoots/:id/import',
    json,
    answer((req) => {
      // the length is looked at before each path is
      if (((req.body as { paths?: unknown[] } | undefined)?.paths?.length ?? 0) > mostPaths)
        throw new ServiceError(413, `at most ${mostPaths} files are brought in at a time`);
      const { paths } = check(importSchema, req.body);
      if (!paths.every((p) => isUpload(p) && !p.split('/').includes('..')))
        throw new ServiceError(400, 'only files that were uploaded can be brought in this way');
      return jobs.importFiles(idOf(req), paths);
    }),
  );
  api.get(
    '/folders',
    answer((req) => browse(check(Joi.object<{ folder?: string }>({ folder: pathWords() }), req.query).folder ?? null)),
  );
  return api;
}
