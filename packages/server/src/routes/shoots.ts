import { createWriteStream } from 'node:fs';
import { rm, stat } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { randomUUID } from 'node:crypto';
import { Router } from 'express';
import Joi from 'joi';
import { renditions, type Rendition } from '@dyepot/core/src/stock/neutral.ts';
import { dataPath } from '../places.ts';
import { ServiceError } from '../services/errors.ts';
import type { Jobs } from '../services/jobs.ts';
import * as shoots from '../services/shoots.ts';
import { answer, check, idOf } from './validate.ts';
import { json } from './answers.ts';

const nameSchema = Joi.object<{ name: string }>({ name: Joi.string().trim().min(1).max(120).required().label('name') });
const shootChange = Joi.object<{ name?: string; leadFrameId?: number; rendition?: Rendition }>({
  name: Joi.string().trim().min(1).max(120),
  leadFrameId: Joi.number().integer(),
  rendition: Joi.valid(...Object.keys(renditions)),
}).min(1);
const applySchema = Joi.object<{ lookId: number | null; revision: number | null }>({
  lookId: Joi.number().integer().allow(null).required(),
  revision: Joi.number().integer().allow(null).default(null),
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
    answer((req) => shoots.deleteShoot(idOf(req))),
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
    answer((req) =>
      jobs.importFolder(
        idOf(req),
        check(Joi.object<{ folder: string }>({ folder: Joi.string().trim().min(1).required().label('folder') }), req.body).folder,
      ),
    ),
  );
  api.put(
    '/shoots/:id/upload',
    answer(async (req) => {
      const id = idOf(req),
        given = check(Joi.object<{ name: string }>({ name: Joi.string().min(1).max(300).required() }), req.query).name;
      await shoots.shootView(id);
      const name =
        basename(given.replaceAll('\\', '/'))
          .replace(/[^\p{L}\p{N}._ -]/gu, '_')
          .replace(/^\.+/, '_') || 'unnamed';
      const path = join(dataPath('uploads', randomUUID()), name);
      try {
        await pipeline(req, createWriteStream(path));
      } catch (error) {
        await rm(path, { force: true });
        throw (error as NodeJS.ErrnoException).code === 'ENOSPC'
          ? new ServiceError(507, `the disk is full: ${name} could not be kept`)
          : error;
      }
      if ((await stat(path)).size === 0) {
        await rm(path, { force: true });
        throw new ServiceError(400, `${name} is empty (0 bytes)`);
      }
      return { path };
    }),
  );
  api.post(
    '/shoots/:id/import',
    json,
    answer((req) => {
      const paths = check(Joi.object<{ paths: string[] }>({ paths: Joi.array().items(Joi.string()).min(1).required() }), req.body).paths;
      if (!paths.every((p) => p.startsWith(dataPath('uploads')) && !p.includes('..')))
        throw new ServiceError(400, 'only files that were uploaded can be brought in this way');
      return jobs.importFiles(idOf(req), paths);
    }),
  );
  return api;
}
