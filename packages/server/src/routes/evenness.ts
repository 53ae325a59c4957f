import { Router } from 'express';
import Joi from 'joi';
import {
  evenMarks,
  evennessOf,
  evennessReport,
  measureEvenness,
  proposedPicture,
  putGroundworks,
  setAnchor,
  setMatching,
  takeProposals,
} from '../services/evenness.ts';
import type { Wish } from '@dyepot/core/src/match/card.ts';
import { marks } from '@dyepot/core/src/match/marks.ts';
import { readSidecars, writeSidecars } from '../services/sidecars.ts';
import { proposedLights, sayOfFrames, type Said } from '../services/lights.ts';
import { mostSwatches, saveSwatches, swatchesOf, swatchFile } from '../services/swatches.ts';
import { matchWays, type Matching, type SwatchCard } from '../db/models.ts';
import type { RenderPool } from '../work/pool.ts';
import { json, sendPicture } from './answers.ts';
import { answer, check, document, idOf, words } from './validate.ts';

const under = Joi.object<{ under: 'look' | 'none'; v?: string }>({
    under: Joi.valid('look', 'none').default('look'),
    v: Joi.string().max(120),
  }),
  whole = Joi.number().integer(),
  yesNo = Joi.boolean().strict().required(),
  cardSchema = Joi.object<SwatchCard>({
    frames: Joi.array().items(Joi.number().integer()).max(mostSwatches.frames).required(),
    looks: Joi.array().items(Joi.number().integer()).max(mostSwatches.looks).required(),
    said: Joi.object()
      .pattern(/^\d{1,15} \d{1,15}$/, Joi.valid('best', 'out'))
      .max(400)
      .required(),
  }),
  most = 20_000;

/** Evenness of a shoot: measured, proposed, taken; and what is said of frames. */
export function evennessRoutes(pool: RenderPool): Router {
  const api = Router();
  api.get(
    '/shoots/:id/evenness',
    answer((req) => evennessOf(idOf(req), check(under, req.query).under)),
  );
  api.get(
    '/shoots/:id/even',
    answer((req) => evenMarks(idOf(req))),
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
  api.get(
    '/shoots/:id/proposed/:frame',
    answer(async (req, res) => {
      const q = check(under, req.query);
      await sendPicture(res, await proposedPicture(pool, idOf(req), idOf(req, 'frame'), q.under), q.v !== undefined);
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
  api.put(
    '/shoots/:id/matching',
    json,
    answer((req) =>
      setMatching(
        idOf(req),
        check(
          Joi.object<{ by?: Matching['by']; parts?: Wish; frameId?: number; at?: [number, number] | null }>({
            by: Joi.valid(...matchWays),
            parts: Joi.object({ exposure: yesNo, balance: yesNo, ends: yesNo, contrast: yesNo }),
            frameId: whole,
            at: Joi.array().items(Joi.number().min(0).max(1)).length(2).allow(null),
          }).and('frameId', 'at'),
          req.body,
        ),
      ),
    ),
  );
  api.post(
    '/shoots/:id/match',
    json,
    answer(async (req) => {
      const { ids, share, ...parts } = check(
        Joi.object<{ ids: number[]; share: number } & Partial<Wish>>({
          ids: Joi.array().items(whole).min(1).max(most).required(),
          share: Joi.number().min(0).max(1).default(1),
          exposure: Joi.boolean(),
          balance: Joi.boolean(),
          ends: Joi.boolean(),
          contrast: Joi.boolean(),
        }),
        req.body,
      );
      return { was: await takeProposals(idOf(req), ids, share, parts) };
    }),
  );
  api.put(
    '/shoots/:id/groundworks',
    json,
    answer(async (req) => {
      const { frames } = check(
        Joi.object<{ frames: { id: number; groundwork: unknown; version?: number }[] }>({
          frames: Joi.array()
            .items(Joi.object({ id: whole.required(), groundwork: document().allow(null).required(), version: whole.min(0) }))
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
    '/shoots/:id/swatches',
    answer((req) => swatchesOf(idOf(req))),
  );
  api.put(
    '/shoots/:id/swatches',
    json,
    answer((req) => saveSwatches(idOf(req), check(cardSchema, req.body))),
  );
  for (const kind of ['png', 'pdf'] as const)
    api.get(
      `/shoots/:id/swatches.${kind}`,
      answer(async (req, res) => {
        const { name, file } = await swatchFile(pool, idOf(req), kind);
        res.attachment(name).send(file);
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
                mark: Joi.valid('', ...marks.map((m) => m.mark)),
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
  for (const [way, run] of [
    ['read', readSidecars],
    ['write', writeSidecars],
  ] as const)
    api.post(
      `/frames/sidecars/${way}`,
      json,
      answer((req) =>
        run(check(Joi.object<{ ids: number[] }>({ ids: Joi.array().items(whole).min(1).max(most).required() }), req.body).ids),
      ),
    );
  return api;
}
