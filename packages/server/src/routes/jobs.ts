import { basename } from 'node:path';
import { ZipArchive } from 'archiver';
import { Router } from 'express';
import Joi from 'joi';
import { ServiceError } from '../services/errors.ts';
import type { Jobs } from '../services/jobs.ts';
import type { FileSettings } from '../work/encodeFile.ts';
import { answer, check, idOf } from './validate.ts';
import { json } from './answers.ts';

const deliverySchema = Joi.object<{ shootId: number; frameIds: number[] | null; folder: string | null; file: FileSettings }>({
  shootId: Joi.number().integer().required(),
  frameIds: Joi.array().items(Joi.number().integer()).allow(null).default(null),
  folder: Joi.string().trim().allow(null, '').default(null),
  file: Joi.object({
    format: Joi.valid('jpeg', 'tiff', 'png').required(),
    depth: Joi.valid(8, 16).required(),
    space: Joi.valid('srgb', 'p3').required(),
    size: Joi.number().integer().min(16).max(30000).allow(null).required(),
    quality: Joi.number().integer().min(1).max(100).required(),
  }).required(),
});

/** Jobs and what they deliver, and news of them as it happens. */
export function jobRoutes(jobs: Jobs): Router {
  const api = Router();
  api.get(
    '/jobs',
    answer(() => jobs.list()),
  );
  api.get(
    '/jobs/:id',
    answer((req) => jobs.view(idOf(req))),
  );
  api.post(
    '/jobs/:id/cancel',
    answer((req) => jobs.cancel(idOf(req))),
  );
  api.post(
    '/deliveries',
    json,
    answer((req) => {
      const b = check(deliverySchema, req.body);
      if (b.file.format === 'jpeg' && b.file.depth === 16) throw new ServiceError(400, 'a JPEG holds 8 bits; choose TIFF or PNG for 16');
      return jobs.deliver(b.shootId, b.frameIds, b.file, b.folder || null);
    }),
  );
  api.get(
    '/jobs/:id/zip',
    answer(async (req, res) => {
      const job = await jobs.view(idOf(req)),
        done = job.items.filter((i) => i.state === 'done' && i.output);
      if (done.length === 0) throw new ServiceError(404, 'this delivery has no finished files');
      res.attachment(`delivery-${job.id}.zip`);
      const zip = new ZipArchive({ store: true });
      zip.on('error', (error: Error) => res.destroy(error));
      zip.pipe(res);
      for (const item of done) zip.file(item.output!, { name: basename(item.output!) });
      await zip.finalize();
    }),
  );
  api.get('/events', (req, res) => {
    res.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' }).flushHeaders();
    res.write(': open\n\n');
    const send = (job: object): void => {
      res.write(`event: job\ndata: ${JSON.stringify(job)}\n\n`);
    };
    jobs.events.on('job', send);
    req.on('close', () => jobs.events.off('job', send));
  });
  return api;
}
