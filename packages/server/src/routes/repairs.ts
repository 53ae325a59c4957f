import { Router } from 'express';
import Joi from 'joi';
import type { RepairKind, Shape } from '@dyepot/core/src/repair/repairs.ts';
import { dustOn, dustPictureOf, mendDust, putRepairs, saveRepairs, sourceFor, stopRepairs } from '../services/repairs.ts';
import type { RenderPool } from '../work/pool.ts';
import { json } from './answers.ts';
import { answer, check, document, idOf } from './validate.ts';

const whole = Joi.number().integer(),
  share = Joi.number().min(0).max(1),
  someFrames = Joi.array().items(whole).min(1).max(2000).required();

/** Repairs of frames: kept, their sources found, dust looked for. */
export function repairRoutes(pool: RenderPool): Router {
  const api = Router();
  api.put(
    '/frames/:id/repairs',
    json,
    answer((req) => {
      const { repairs, version } = check(
        Joi.object<{ repairs: unknown; version: number }>({ repairs: document().allow(null).required(), version: whole.min(0).required() }),
        req.body,
      );
      return saveRepairs(pool, idOf(req), repairs, version);
    }),
  );
  api.post(
    '/frames/:id/repairs/stop',
    json,
    answer((req) => ({ stopped: stopRepairs(idOf(req)) })),
  );
  api.post(
    '/frames/:id/repair-source',
    json,
    answer((req) => {
      const { shape, kind, nth } = check(
        Joi.object<{ shape: Shape; kind: RepairKind; nth: number }>({
          shape: Joi.object().unknown().required(),
          kind: Joi.valid('heal', 'clone', 'fill').default('heal'),
          nth: whole.min(0).max(50).default(0),
        }),
        req.body,
      );
      return sourceFor(pool, idOf(req), shape, kind, nth);
    }),
  );
  api.get(
    '/frames/:id/dust',
    answer(async (req) => {
      const { least } = check(Joi.object<{ least?: number }>({ least: Joi.number().min(1).max(50) }), req.query);
      return { specks: await dustOn(pool, idOf(req), least) };
    }),
  );
  api.get(
    '/frames/:id/dust-picture',
    answer(async (req, res) => {
      const png = await dustPictureOf(pool, idOf(req));
      res.type('png').set('Cache-Control', 'private, max-age=3600').send(Buffer.from(png));
    }),
  );
  api.post(
    '/frames/mend-dust',
    json,
    answer(async (req) => {
      const { specks } = check(
        Joi.object<{ specks: { x: number; y: number; radius: number; frames: number[] }[] }>({
          specks: Joi.array()
            .items(
              Joi.object({
                x: share.required(),
                y: share.required(),
                radius: Joi.number().min(1e-5).max(0.1).required(),
                frames: someFrames,
              }),
            )
            .min(1)
            .max(1000)
            .required(),
        }),
        req.body,
      );
      return { was: await mendDust(pool, specks) };
    }),
  );
  api.put(
    '/frames/repairs',
    json,
    answer(async (req) => {
      const { frames } = check(
        Joi.object<{ frames: { id: number; repairs: unknown; version: number }[] }>({
          frames: Joi.array()
            .items(Joi.object({ id: whole.required(), repairs: document().allow(null).required(), version: whole.min(0).required() }))
            .min(1)
            .max(2000)
            .required(),
        }),
        req.body,
      );
      await putRepairs(frames);
      return {};
    }),
  );
  return api;
}
