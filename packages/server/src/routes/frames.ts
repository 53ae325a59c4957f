import { Router } from 'express';
import Joi from 'joi';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { automaticBalance, balanceAt, startOf } from '../services/beginning.ts';
import { dipAgain, dressFrames } from '../services/dips.ts';
import { exactOf } from '../services/exact.ts';
import * as frames from '../services/frames.ts';
import type { RenderPool } from '../work/pool.ts';
import { frameViewNow } from '../services/frameView.ts';
import { figureOn, foundOn } from '../services/found.ts';
import { saveManyOwnSteps, saveOwnSteps, type Owned } from '../services/ownSteps.ts';
import { historyOf, saveGroundwork, saveHistory, type GroundSave } from '../services/groundwork.ts';
import { takeOutFrames } from '../services/shoots.ts';
import { ServiceError } from '../services/errors.ts';
import { answer, areaSchema, check, document, idOf, pathWords, words } from './validate.ts';
import { json, lookOf, sendPicture, sendPlanes } from './answers.ts';

const thumbQuery = Joi.object<{ look?: number; revision?: number; edge: number; v?: string; r?: string }>({
  look: Joi.number().integer(),
  revision: Joi.number().integer(),
  edge: Joi.number().integer().valid(360, 720, 1080).default(720),
  v: Joi.string().max(64),
  r: Joi.string().max(64),
});

const someFrames = Joi.array().items(Joi.number().integer()).min(1).max(20000).required();
const groundSave = Joi.object<GroundSave>({
  groundwork: document().allow(null).required(),
  version: Joi.number().integer().min(0),
  history: document(),
});

const tryQuery = Joi.object<{ look: unknown; edge: 360 | 720 | 1080 }>({
  look: document().required(),
  edge: Joi.valid(360, 720, 1080).default(720),
});

/** Frames: their groundwork, plates and pictures. */
export function frameRoutes(pool: RenderPool): Router {
  const api = Router();
  api.get(
    '/frames/:id',
    answer(async (req) => frameViewNow(await frames.frameById(idOf(req)))),
  );
  api.delete(
    '/frames/:id',
    answer((req) => takeOutFrames([idOf(req)])),
  );
  api.post(
    '/frames/:id/find',
    json,
    answer(async (req) =>
      frameViewNow(
        await frames.findAgain(
          idOf(req),
          check(Joi.object<{ path: string }>({ path: pathWords().required().label('path') }), req.body).path,
        ),
      ),
    ),
  );
  api.put(
    '/frames/:id/groundwork',
    json,
    answer((req) => saveGroundwork(idOf(req), check(groundSave, req.body))),
  );
  api.put(
    '/frames/:id/steps',
    json,
    answer((req) => {
      const { steps, version } = check(
        Joi.object<{ steps: unknown; version: number }>({
          steps: document().allow(null).required(),
          version: Joi.number().integer().min(0).required(),
        }),
        req.body,
      );
      return saveOwnSteps(idOf(req), steps, version);
    }),
  );
  api.put(
    '/frames/steps',
    json,
    answer(async (req) => {
      const { frames: wanted } = check(
        Joi.object<{ frames: Owned[] }>({
          frames: Joi.array()
            .items(
              Joi.object({
                id: Joi.number().integer().required(),
                steps: document().allow(null).required(),
                version: Joi.number().integer().min(0).required(),
              }),
            )
            .min(1)
            .max(20000)
            .unique('id')
            .required(),
        }),
        req.body,
      );
      return { was: await saveManyOwnSteps(wanted) };
    }),
  );
  api.get(
    '/frames/:id/start',
    answer((req) => startOf(pool, idOf(req))),
  );
  api.get(
    '/frames/:id/found',
    answer((req) => foundOn(pool, idOf(req))),
  );
  api.post(
    '/frames/:id/figure',
    json,
    answer((req, res) => {
      const share = Joi.number().min(0).max(1).required(),
        { box } = check(
          Joi.object<{ box: [number, number, number, number] }>({
            box: Joi.array().ordered(share, share, share, share).length(4).required(),
          }),
          req.body,
        ),
        away = new AbortController();
      res.on('close', () => away.abort());
      return figureOn(pool, idOf(req), box, away.signal);
    }),
  );
  api.post(
    '/frames/:id/light',
    json,
    answer((req) => {
      const share = Joi.number().min(0).max(1).required(),
        b = check(
          Joi.object<{ look: unknown; steps: unknown; of: string; at: { x: number; y: number } }>({
            look: document().allow(null).required(),
            steps: document().allow(null).required(),
            of: words(64).required(),
            at: Joi.object({ x: share, y: share }).required(),
          }),
          req.body,
        );
      return frames.lightAt(pool, idOf(req), { ...b, look: lookOf(b.look) });
    }),
  );
  api.get(
    '/frames/:id/history',
    answer(async (req, res) => {
      res.json(await historyOf(idOf(req)));
    }),
  );
  api.put(
    '/frames/:id/history',
    json,
    answer((req) => saveHistory(idOf(req), check(Joi.object<{ history: object }>({ history: document().required() }), req.body).history)),
  );
  api.post(
    '/frames/take-out',
    json,
    answer((req) => takeOutFrames(check(Joi.object<{ ids: number[] }>({ ids: someFrames }), req.body).ids)),
  );
  api.post(
    '/frames/dip',
    json,
    answer(async (req) => ({ ids: await dipAgain(check(Joi.object<{ ids: number[] }>({ ids: someFrames }), req.body).ids) })),
  );
  api.post(
    '/frames/look',
    json,
    answer((req) => {
      const { ids, lookId, revision } = check(
        Joi.object<{ ids: number[]; lookId: number | null; revision: number | null }>({
          ids: someFrames,
          lookId: Joi.number().integer().allow(null).required(),
          revision: Joi.number().integer().min(1).allow(null).default(null),
        }),
        req.body,
      );
      return dressFrames(ids, lookId, revision);
    }),
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
      return b.at ? balanceAt(pool, idOf(req), b.at, b.groundwork) : automaticBalance(pool, idOf(req));
    }),
  );
  api.get(
    '/frames/:id/plate/:level',
    answer(async (req, res) => {
      const { mended, ...q } = check(areaSchema, req.query),
        plate = await frames.plateOf(pool, idOf(req), idOf(req, 'level'), q.x === undefined ? null : (q as frames.Area), mended !== 'no');
      sendPlanes(res, plate.width, plate.height, new Uint8Array(plate.data.buffer));
    }),
  );
  api.post(
    '/frames/:id/region/:level',
    json,
    answer(async (req, res) => {
      const b = check(
        Joi.object<{ area: frames.Area | null; look: Look | null; steps?: unknown }>({
          steps: Joi.object().unknown().allow(null),
          area: areaSchema.allow(null).default(null),
          look: Joi.object().unknown().allow(null).default(null),
        }),
        req.body,
      );
      const look = lookOf(b.look);
      const { rgba, width, height } = await frames.regionOf(pool, idOf(req), idOf(req, 'level'), b.area, look, b.steps);
      sendPlanes(res, width, height, rgba);
    }),
  );
  api.post(
    '/frames/:id/exact',
    json,
    answer(async (req, res) => {
      const b = check(
        Joi.object<{ width: number; height: number; look: unknown; groundwork: unknown; steps?: unknown }>({
          steps: Joi.object().unknown().allow(null),
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
      sendPlanes(
        res,
        b.width,
        b.height,
        await exactOf(pool, idOf(req), { look: lookOf(b.look), groundwork: b.groundwork, steps: b.steps }, b, () => gone),
      );
    }),
  );
  api.get(
    '/frames/:id/picture',
    answer(async (req, res) => {
      const q = check(thumbQuery, req.query),
        file = await frames.thumbOf(pool, idOf(req), q.look ?? null, q.revision ?? null, q.edge);
      await sendPicture(res, file, q.v !== undefined);
    }),
  );
  // of a look that is not on the shelf
  api.post(
    '/frames/:id/picture',
    json,
    answer(async (req, res) => {
      const b = check(tryQuery, req.body),
        look = lookOf(b.look);
      if (!look) throw new ServiceError(400, 'there is no look to be tried');
      res
        .type('jpeg')
        .set('Cache-Control', 'no-store')
        .send(await frames.thumbUnder(pool, idOf(req), look, b.edge));
    }),
  );
  return api;
}
