import { ZipArchive } from 'archiver';
import { Router } from 'express';
import Joi from 'joi';
import { JobItem } from '../db/models.ts';
import type { Order } from '../jobs/delivering.ts';
import type { Jobs } from '../jobs/jobs.ts';
import { ServiceError } from '../services/errors.ts';
import { answer, check, idOf, words } from './validate.ts';
import { json } from './answers.ts';

const mostFrames = 100_000;
const deliverySchema = Joi.object<Order>({
  shootId: Joi.number().integer().required(),
  frameIds: Joi.array().items(Joi.number().integer()).max(mostFrames).allow(null).default(null),
  folder: words(4096).trim().allow(null, '').default(null),
  file: Joi.object({
    format: Joi.valid('jpeg', 'tiff', 'png').required(),
    depth: Joi.valid(8, 16).required(),
    space: Joi.valid('srgb', 'p3').required(),
    size: Joi.number().integer().min(16).max(30000).allow(null).required(),
    quality: Joi.number().integer().min(1).max(100).required(),
  }).required(),
  conflict: Joi.valid('ask', 'rename', 'replace').default('ask'),
  doubtful: Joi.valid('ask', 'leave out', 'deliver').default('ask'),
});

/** Jobs and what they deliver. */
export function jobRoutes(jobs: Jobs): Router {
  const api = Router();
  api.get(
    '/jobs',
    answer(() => jobs.list()),
  );
  api.get(
    '/jobs/:id',
    answer(async (req) => {
      const view = await jobs.view(idOf(req)),
        items = await JobItem.findAll({
          where: { jobId: view.id },
          attributes: ['id', 'frameId', 'name', 'state', 'message', 'output'],
          order: [['id', 'ASC']],
          raw: true,
        });
      return { ...view, items };
    }),
  );
  api.post(
    '/jobs/:id/cancel',
    answer((req) => jobs.stop(idOf(req))),
  );
  api.post(
    '/jobs/:id/go-on',
    answer((req) => jobs.goOn(idOf(req))),
  );
  api.post(
    '/jobs/:id/rest',
    answer((req) => jobs.deliverRest(idOf(req))),
  );
  api.post(
    '/deliveries',
    json,
    answer((req) => {
      const b = check(deliverySchema, req.body);
      if (b.file.format === 'jpeg' && b.file.depth === 16) throw new ServiceError(400, 'a JPEG holds 8 bits; choose TIFF or PNG for 16');
      return jobs.deliver({ ...b, folder: b.folder || null });
    }),
  );
  api.get(
    '/jobs/:id/zip',
    answer(async (req, res) => {
      const id = idOf(req),
        files = await jobs.filesOf(id);
      if (files.length === 0) throw new ServiceError(404, 'this delivery has no finished files');
      res.attachment(`delivery-${id}.zip`);
      const zip = new ZipArchive({ store: true });
      zip.on('error', (error: Error) => res.destroy(error));
      zip.pipe(res);
      for (const { path, name } of files) zip.file(path, { name });
      await zip.finalize();
    }),
  );
  return api;
}
