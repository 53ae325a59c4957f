import { ZipArchive } from 'archiver';
import { Router } from 'express';
import Joi from 'joi';
import { JobItem, Shoot } from '../db/models.ts';
import { outputSpaces } from '@dyepot/core/src/colour/outputs.ts';
import type { Order } from '../jobs/ordering.ts';
import type { FarmPool } from '../farm/sending.ts';
import type { Jobs } from '../jobs/jobs.ts';
import { movedSince, orderMoved, recordOf } from '../jobs/record.ts';
import { deliveryPresets, dropDeliveryPreset, keepDeliveryPreset, type DeliveryPreset } from '../services/deliveryPresets.ts';
import { ServiceError } from '../services/errors.ts';
import { contactSheet } from '../work/contactSheet.ts';
import { settingsTrouble, type FileSettings } from '../work/encodeFile.ts';
import { answer, check, idOf, words } from './validate.ts';
import { json } from './answers.ts';

const mostFrames = 100_000;
const credited = words(200).trim().allow('').default('');
const side = Joi.number().integer().min(16).max(30000).required();
const fileSchema = Joi.object<FileSettings>({
  format: Joi.valid('jpeg', 'tiff', 'png', 'webp', 'avif').required(),
  depth: Joi.valid(8, 16).required(),
  space: Joi.valid(...outputSpaces).required(),
  size: Joi.number().min(0.05).max(30000).allow(null).required(),
  sizeBy: Joi.valid('long', 'short', 'megapixels', 'box'),
  box: Joi.array().ordered(side, side).length(2),
  quality: Joi.number().integer().min(1).max(100).required(),
  sharpen: Joi.valid('none', 'screen', 'matte', 'glossy'),
  taken: Joi.boolean().strict(),
  credit: Joi.object({ author: credited, copyright: credited, contact: credited }).allow(null),
  namesLook: Joi.boolean().strict(),
});
const answers = {
  conflict: Joi.valid('ask', 'rename', 'replace').default('ask'),
  doubtful: Joi.valid('ask', 'leave out', 'deliver').default('ask'),
  room: Joi.valid('ask', 'deliver').default('ask'),
};
const wanted = {
  name: words(80),
  folder: words(4096).trim().allow(null).empty('').default(null),
  file: fileSchema.required(),
  pattern: words(200),
};
/** How many files may be made of each frame at once. */
const mostFiles = 8;
const deliverySchema = Joi.object<Order>({
  shootId: Joi.number().integer().required(),
  frameIds: Joi.array().items(Joi.number().integer()).max(mostFrames).allow(null).default(null),
  ...wanted,
  also: Joi.array()
    .items(Joi.object(wanted))
    .max(mostFiles - 1),
  ...answers,
});
const answersSchema = Joi.object<Pick<Order, 'conflict' | 'doubtful' | 'room'>>(answers);

const presetName = words(80).trim().min(1).required(),
  presetQuery = Joi.object<{ name: string }>({ name: presetName }),
  presetSchema = Joi.object<DeliveryPreset>({
    name: presetName,
    folder: words(4096).trim().allow('').required(),
    pattern: words(200).required(),
    file: fileSchema.required(),
  });

/** Jobs, what they deliver, and who does them: workers by a queue, or (null) this process. */
export function jobRoutes(jobs: Jobs, farm: FarmPool | null): Router {
  const api = Router();
  api.get(
    '/workers',
    answer(async () => ({ farm: farm && (await farm.view()) })),
  );
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
    '/jobs/:id/pause',
    answer((req) => jobs.pause(idOf(req))),
  );
  api.post(
    '/jobs/:id/first',
    answer((req) => jobs.putFirst(idOf(req))),
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
    '/jobs/:id/again',
    answer((req) => jobs.deliverAgain(idOf(req))),
  );
  api.get(
    '/jobs/:id/moved',
    answer((req) => movedSince(idOf(req))),
  );
  api.post(
    '/jobs/:id/moved',
    json,
    answer(async (req) => jobs.deliver(await orderMoved(idOf(req), check(answersSchema, req.body)))),
  );
  api.get(
    '/jobs/:id/record',
    answer(async (req, res) => {
      const record = await recordOf(idOf(req));
      res
        .attachment(`delivery-${record.delivery}.record.json`)
        .type('application/json')
        .send(`${JSON.stringify(record, null, 2)}\n`);
    }),
  );
  api.get(
    '/jobs/:id/sheet.pdf',
    answer(async (req, res) => {
      const view = await jobs.view(idOf(req)),
        files = await jobs.filesOf(view.id);
      if (files.length === 0) throw new ServiceError(404, 'this delivery has no finished files');
      const shoot = await Shoot.findByPk(view.shootId, { attributes: ['name'], paranoid: false }),
        said = `${files.length} ${files.length === 1 ? 'file' : 'files'}, ${view.lookName ?? 'Neutral response'}${view.lookRevision ? `, revision ${view.lookRevision}` : ''}`;
      res
        .attachment(`delivery-${view.id}, contact sheet.pdf`)
        .type('pdf')
        .send(await contactSheet(shoot?.name ?? 'Delivery', said, files));
    }),
  );
  api.get(
    '/delivery-presets',
    answer(async () => ({ presets: await deliveryPresets() })),
  );
  api.put(
    '/delivery-presets',
    json,
    answer((req) => keepDeliveryPreset(check(presetSchema, req.body))),
  );
  api.delete(
    '/delivery-presets',
    answer((req) => dropDeliveryPreset(check(presetQuery, req.query).name)),
  );
  api.post(
    '/deliveries',
    json,
    answer((req) => {
      const b = check(deliverySchema, req.body);
      for (const { name, file } of [b, ...(b.also ?? [])]) {
        const trouble = settingsTrouble(file);
        if (trouble) throw new ServiceError(400, name === undefined ? trouble : `${name}: ${trouble}`);
      }
      return jobs.deliver(b);
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
