import { Router } from 'express';
import Joi from 'joi';
import { evennessOf, evennessReport, measureEvenness, putGroundworks, setAnchor, takeProposals } from '../services/evenness.ts';
import { marks, proposedLights, sayOfFrames, type Said } from '../services/lights.ts';
import type { RenderPool } from '../work/pool.ts';
import { json } from './answers.ts';
import { answer, check, document, idOf, words } from './validate.ts';

const under = Joi.object<{ under: 'look' | 'none' }>({ under: Joi.valid('look', 'none').default('look') }),
  whole = Joi.number().integer(),
  most = 20_000;

/** Evenness of a shoot: measured, proposed, taken; and what is said of frames. */
export function evennessRoutes(pool: RenderPool): Router {
  const api = Router();
  api.get(
    '/shoots/:id/evenness',
    answer((req) => evennessOf(idOf(req), check(under, req.query).under)),
  );
  api.post(
    '/shoots/:id/evenness',
    answer((req) => measureEvenness(pool, idOf(req))),
  );
  api.get(
    '/shoots/:id/evenness.pdf',
    answer(async (req, res) => {
      const { name, pdf } = await evennessReport(idOf(req), check(under, req.query).under);
      res.attachment(`${name}, evenness.pdf`).type('application/pdf').send(pdf);
    }),
  );
  api.put(
    '/shoots/:id/anchor',
    json,
    answer((req) => {
      const { light, frameId } = check(
        Joi.object<{ light: string; frameId: number | null }>({ light: words(60).required(), frameId: whole.allow(null).required() }),
        req.body,
      );
      return setAnchor(idOf(req), light, frameId);
    }),
  );
  api.post(
    '/shoots/:id/match',
    json,
    answer(async (req) => {
      const { ids, share, exposure, balance } = check(
        Joi.object<{ ids: number[]; share: number; exposure: boolean; balance: boolean }>({
          ids: Joi.array().items(whole).min(1).max(most).required(),
          share: Joi.number().min(0).max(1).default(1),
          exposure: Joi.boolean().default(true),
          balance: Joi.boolean().default(true),
        }),
        req.body,
      );
      return { was: await takeProposals(idOf(req), ids, share, { exposure, balance }) };
    }),
  );
  api.put(
    '/shoots/:id/groundworks',
    json,
    answer(async (req) => {
      const { frames } = check(
        Joi.object<{ frames: { id: number; groundwork: unknown }[] }>({
          frames: Joi.array()
            .items(Joi.object({ id: whole.required(), groundwork: document().allow(null).required() }))
            .min(1)
            .max(most)
            .required(),
        }),
        req.body,
      );
      return { was: await putGroundworks(idOf(req), frames) };
    }),
  );
  api.get(
    '/shoots/:id/lights',
    answer((req) => proposedLights(pool, idOf(req))),
  );
  api.post(
    '/frames/say',
    json,
    answer(async (req) => {
      const { frames } = check(
        Joi.object<{ frames: Said[] }>({
          frames: Joi.array()
            .items(
              Joi.object({
                id: whole.required(),
                light: words(60).trim().min(1),
                rating: whole.min(-1).max(5),
                mark: Joi.valid(...marks),
              }),
            )
            .min(1)
            .max(most)
            .required(),
        }),
        req.body,
      );
      return { was: await sayOfFrames(frames) };
    }),
  );
  return api;
}
