import express, { Router } from 'express';
import Joi from 'joi';
import { checkOnFrames, lookSheet } from '../services/checking.ts';
import * as parcels from '../services/parcels.ts';
import { mostParcel } from '../work/parcel.ts';
import type { RenderPool } from '../work/pool.ts';
import { PlainError } from '../plainError.ts';
import { ServiceError } from '../services/errors.ts';
import { answer, check, idOf, words } from './validate.ts';

/** Which looks go into a file: some, a family, or (nothing named) the whole shelf. */
const whichQuery = Joi.object<{ ids?: string; family?: string }>({
  ids: Joi.string()
    .pattern(/^\d{1,15}(,\d{1,15})*$/)
    .max(100_000),
  family: words(60).min(1),
}).oxor('ids', 'family');
const takeQuery = Joi.object<{ own?: string; revision?: string }>({
  own: Joi.string().pattern(/^\d{1,5}(,\d{1,5})*$/),
  revision: Joi.string().pattern(/^\d{1,5}(,\d{1,5})*$/),
}).or('own', 'revision');
const checkQuery = Joi.object<{ revision?: number; shoot?: number }>({
  revision: Joi.number().integer().min(1).max(1e9),
  shoot: Joi.number().integer().min(1),
});
const sheetQuery = Joi.object<{ revision?: number; frames?: string }>({
  revision: Joi.number().integer().min(1).max(1e9),
  frames: Joi.string().pattern(/^\d{1,15}(,\d{1,15}){0,5}$/),
});
const archive = express.raw({ type: 'application/octet-stream', limit: mostParcel });
const numbers = (text: string | undefined): number[] => (text === undefined ? [] : text.split(',').map(Number));
/** Bytes of a file of looks; what is wrong with it is said as with any request. */
async function reading<T>(body: unknown, read: (data: Buffer) => Promise<T>): Promise<T> {
  if (!Buffer.isBuffer(body) || body.length === 0) throw new ServiceError(400, 'a .dyelook is sent as application/octet-stream');
  return read(body).catch((error: unknown) => {
    throw error instanceof PlainError ? new ServiceError(400, error.message) : error;
  });
}

/** Looks on their way out and in, and what is weak in them before they go. */
export function parcelRoutes(pool: RenderPool): Router {
  const api = Router();
  api.get(
    '/looks/parcel',
    answer(async (req, res) => {
      const { ids, family } = check(whichQuery, req.query),
        { name, data } = await (ids === undefined ? parcels.parcelOfAll(family ?? null) : parcels.parcelOf(numbers(ids)));
      res.attachment(`${name}.dyelook`).type('application/octet-stream').send(data);
    }),
  );
  api.post(
    '/parcels',
    archive,
    answer(async (req) => ({ looks: await reading(req.body, parcels.openParcel) })),
  );
  api.post(
    '/parcels/taken',
    archive,
    answer(async (req) => {
      const q = check(takeQuery, req.query),
        choices = [
          ...numbers(q.own).map((at) => ({ at, how: 'own' as const })),
          ...numbers(q.revision).map((at) => ({ at, how: 'revision' as const })),
        ];
      return {
        looks: (await reading(req.body, (data) => parcels.takeIn(data, choices))).map(({ id, name, revision }) => ({ id, name, revision })),
      };
    }),
  );
  for (const kind of ['png', 'pdf'] as const)
    api.get(
      `/looks/:id/sheet.${kind}`,
      answer(async (req, res) => {
        const q = check(sheetQuery, req.query),
          { name, file } = await lookSheet(pool, idOf(req), {
            ...(q.revision && { revision: q.revision }),
            frameIds: numbers(q.frames),
            kind,
          });
        res.attachment(name).type(kind).send(file);
      }),
    );
  api.get(
    '/looks/:id/check',
    answer((req) => {
      const q = check(checkQuery, req.query);
      return checkOnFrames(pool, idOf(req), q.revision, q.shoot ?? null);
    }),
  );
  return api;
}
