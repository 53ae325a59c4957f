import { createWriteStream } from 'node:fs';
import { rm, stat } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { randomUUID } from 'node:crypto';
import { ZipArchive } from 'archiver';
import express, { Router } from 'express';
import Joi from 'joi';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { validateLook, writeLook } from '@dyepot/core/src/look/schema.ts';
import { renditions, type Rendition } from '@dyepot/core/src/stock/neutral.ts';
import { Frame } from '../db/models.ts';
import { dataPath } from '../places.ts';
import { ServiceError } from '../services/errors.ts';
import * as frames from '../services/frames.ts';
import type { Jobs } from '../services/jobs.ts';
import * as lenses from '../services/lenses.ts';
import * as looks from '../services/looks.ts';
import * as presets from '../services/presets.ts';
import * as shoots from '../services/shoots.ts';
import * as tables from '../services/tables.ts';
import type { FileSettings } from '../work/encodeFile.ts';
import type { RenderPool } from '../work/pool.ts';
import type { BakeFormat } from '../work/tableFile.ts';
import type { Encoding } from '@dyepot/core/src/steps/lookup/index.ts';
import { answer, areaSchema, check, idOf } from './validate.ts';

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
const thumbQuery = Joi.object<{ look?: number; revision?: number; edge: number; v?: string; r?: string }>({
  look: Joi.number().integer(),
  revision: Joi.number().integer(),
  edge: Joi.number().integer().valid(360, 720, 1080).default(720),
  v: Joi.string(),
  r: Joi.string(),
});

function sendPlanes(res: express.Response, width: number, height: number, data: Uint8Array): void {
  res
    .set({
      'Content-Type': 'application/octet-stream',
      'X-Width': String(width),
      'X-Height': String(height),
      'Cache-Control': 'private, max-age=86400',
    })
    .send(Buffer.from(data.buffer, data.byteOffset, data.byteLength));
}

/** A look in a request, checked; null is none. */
function lookOf(value: unknown): Look | null {
  if (value === null || value === undefined) return null;
  const read = validateLook(value);
  if ('message' in read) throw new ServiceError(400, read.message);
  return read.look;
}

/** Everything under /api. */
export function apiRoutes(pool: RenderPool, jobs: Jobs): Router {
  const api = Router(),
    json = express.json({ limit: '24mb' });

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

  api.get(
    '/frames/:id',
    answer(async (req) => frames.frameView(await frames.frameById(idOf(req)))),
  );
  api.patch(
    '/frames/:id',
    json,
    answer(async (req) => {
      const change = check(
        Joi.object<{ light: string }>({ light: Joi.string().trim().min(1).max(60).required().label('light') }),
        req.body,
      );
      await Frame.update(change, { where: { id: idOf(req) } });
      return frames.frameView(await frames.frameById(idOf(req)));
    }),
  );
  api.delete(
    '/frames/:id',
    answer((req) => frames.removeFrame(idOf(req))),
  );
  api.post(
    '/frames/:id/find',
    json,
    answer(async (req) =>
      frames.frameView(
        await frames.findAgain(
          idOf(req),
          check(Joi.object<{ path: string }>({ path: Joi.string().trim().min(1).required().label('path') }), req.body).path,
        ),
      ),
    ),
  );
  api.put(
    '/frames/:id/groundwork',
    json,
    answer(async (req) =>
      frames.frameView(await frames.saveGroundwork(idOf(req), (req.body as { groundwork?: unknown }).groundwork ?? null)),
    ),
  );
  api.post(
    '/frames/:id/balance',
    json,
    answer((req) => {
      const b = check(
        Joi.object<{ at: { x: number; y: number; size: number } | null; groundwork: unknown }>({
          at: Joi.object({
            x: Joi.number().min(0).max(1).required(),
            y: Joi.number().min(0).max(1).required(),
            size: Joi.number().min(1).max(1000).required(),
          })
            .allow(null)
            .default(null),
          groundwork: Joi.object().unknown().allow(null).default(null),
        }),
        req.body,
      );
      return b.at ? frames.balanceAt(pool, idOf(req), b.at, b.groundwork) : frames.automaticBalance(pool, idOf(req));
    }),
  );
  api.get(
    '/frames/:id/plate/:level',
    answer(async (req, res) => {
      const q = check(areaSchema, req.query),
        plate = await frames.plateOf(pool, idOf(req), idOf(req, 'level'), q.x === undefined ? null : (q as frames.Area));
      sendPlanes(res, plate.width, plate.height, new Uint8Array(plate.data.buffer));
    }),
  );
  api.post(
    '/frames/:id/region/:level',
    json,
    answer(async (req, res) => {
      const b = check(
        Joi.object<{ area: frames.Area | null; look: Look | null }>({
          area: areaSchema.allow(null).default(null),
          look: Joi.object().unknown().allow(null).default(null),
        }),
        req.body,
      );
      const look = lookOf(b.look);
      const { rgba, width, height } = await frames.regionOf(pool, idOf(req), idOf(req, 'level'), b.area, look);
      sendPlanes(res, width, height, rgba);
    }),
  );
  api.post(
    '/frames/:id/exact',
    json,
    answer(async (req, res) => {
      const b = check(
        Joi.object<{ width: number; height: number; look: unknown; groundwork: unknown }>({
          width: Joi.number().integer().min(1).max(4096).required(),
          height: Joi.number().integer().min(1).max(4096).required(),
          look: Joi.object().unknown().allow(null).default(null),
          groundwork: Joi.object().unknown().allow(null).default(null),
        }),
        req.body,
      );
      let gone = false;
      res.once('close', () => {
        gone = true;
      });
      sendPlanes(res, b.width, b.height, await frames.exactOf(pool, idOf(req), lookOf(b.look), b.groundwork, b, () => gone));
    }),
  );
  api.get(
    '/frames/:id/picture',
    answer(async (req, res) => {
      const q = check(thumbQuery, req.query),
        file = await frames.thumbOf(pool, idOf(req), q.look ?? null, q.revision ?? null, q.edge);
      await new Promise<void>((resolve, reject) =>
        res.sendFile(file, { maxAge: q.v ? '1d' : 0, dotfiles: 'allow' }, (error) =>
          error && (error as NodeJS.ErrnoException).code !== 'ECONNABORTED' ? reject(error) : resolve(),
        ),
      );
    }),
  );

  api.get(
    '/lenses',
    answer(() => lenses.lensSource(pool)),
  );
  api.put(
    '/lenses',
    json,
    answer((req) =>
      lenses.setLensSource(
        pool,
        check(
          Joi.object<{ folder: string | null }>({ folder: Joi.string().trim().min(1).allow(null).required().label('folder') }),
          req.body,
        ).folder,
      ),
    ),
  );
  api.get(
    '/frames/:id/lenses',
    answer((req) =>
      lenses.searchLenses(
        pool,
        idOf(req),
        check(Joi.object<{ words: string }>({ words: Joi.string().max(200).allow('').default('') }), req.query).words,
      ),
    ),
  );
  api.get(
    '/frames/:id/lenses/:key',
    answer((req) => lenses.profileFor(pool, idOf(req), String(idOf(req, 'key')))),
  );
  api.get(
    '/groundwork-presets',
    answer(() => presets.listPresets()),
  );
  api.post(
    '/groundwork-presets',
    json,
    answer((req) => presets.createPreset(req.body)),
  );
  api.delete(
    '/groundwork-presets/:id',
    answer((req) => presets.deletePreset(idOf(req))),
  );

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

  const named = Joi.object<{ name: string }>({ name: Joi.string().min(1).max(300).required() });
  api.post(
    '/tables/read',
    answer((req) => tables.readTable(pool, req, check(named, req.query).name)),
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
  api.use((_req, _res, next) => next(new ServiceError(404, 'there is nothing at this address')));
  return api;
}
