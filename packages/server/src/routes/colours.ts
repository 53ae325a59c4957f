import { Router } from 'express';
import Joi from 'joi';
import type { ColourCorrection } from '@dyepot/core/src/groundwork/colours.ts';
import { validateGroundwork } from '@dyepot/core/src/groundwork/schema.ts';
import { coloursOf, keepColours } from '../services/colours.ts';
import { ServiceError } from '../services/errors.ts';
import type { Was } from '../services/evenness.ts';
import { lightPicture, lightProposals, takeLights, type LightWish } from '../services/lightToLight.ts';
import type { RenderPool } from '../work/pool.ts';
import { json, sendPicture } from './answers.ts';
import { answer, check, document, idOf, words } from './validate.ts';

const yesNo = Joi.boolean().required();
const whole = Joi.number().integer();
/** A correction as groundwork has it, by groundwork's own check. */
function correctionOf(value: unknown): ColourCorrection | null {
  const read = validateGroundwork({ format: 'dyepot-groundwork', version: 2, colours: value });
  if ('message' in read) throw new ServiceError(400, read.message);
  return read.groundwork.colours;
}

/** What charts say of a shoot's cameras, and what of it is kept; lights brought to one another. */
export function colourRoutes(pool: RenderPool): Router {
  const api = Router();
  api.get(
    '/shoots/:id/colours',
    answer((req) => coloursOf(idOf(req))),
  );
  api.put(
    '/shoots/:id/colours',
    json,
    answer((req) => {
      const b = check(
        Joi.object<{ camera: string; correction: unknown; frames?: Was[] }>({
          camera: words(200).allow('').required(),
          correction: document().allow(null).required(),
          frames: Joi.array()
            .items(Joi.object({ id: whole.required(), groundwork: document().allow(null).required(), version: whole.min(0) }))
            .max(20_000),
        }),
        req.body,
      );
      return keepColours(idOf(req), { ...b, correction: correctionOf(b.correction) });
    }),
  );
  api.get(
    '/shoots/:id/light-to-light',
    answer((req) => {
      const { to, ...wish } = check(
        Joi.object<LightWish & { to: string }>({ to: words(60).required(), exposure: yesNo, balance: yesNo }),
        req.query,
      );
      return lightProposals(pool, idOf(req), to, wish);
    }),
  );
  api.get(
    '/shoots/:id/light-to-light/picture',
    answer(async (req, res) => {
      const { v, ...q } = check(
        Joi.object<LightWish & { to: string; light: string; v?: string }>({
          to: words(60).required(),
          light: words(60).required(),
          exposure: yesNo,
          balance: yesNo,
          v: Joi.string().max(120),
        }),
        req.query,
      );
      await sendPicture(res, await lightPicture(pool, idOf(req), q), v !== undefined);
    }),
  );
  api.post(
    '/shoots/:id/light-to-light',
    json,
    answer(async (req) => ({
      was: await takeLights(
        pool,
        idOf(req),
        check(
          Joi.object<LightWish & { to: string; lights: string[] }>({
            to: words(60).required(),
            lights: Joi.array().items(words(60)).min(1).max(200).required(),
            exposure: yesNo,
            balance: yesNo,
          }),
          req.body,
        ),
      ),
    })),
  );
  return api;
}
