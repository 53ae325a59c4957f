import { Router } from 'express';
import Joi from 'joi';
import { changeSettings, settings, settingsSchema } from '../services/settings.ts';
import * as trash from '../services/trash.ts';
import { answer, check, idOf } from './validate.ts';
import { json } from './answers.ts';

const kinds: trash.TrashKind[] = ['shoot', 'frame', 'look', 'draft', 'preset', 'stock'];
const kindSchema = Joi.object<{ kind: trash.TrashKind; id: string }>({ kind: Joi.valid(...kinds).required(), id: Joi.string().required() });

/** Settings, and the trash. */
export function houseRoutes(): Router {
  const api = Router();
  api.get(
    '/settings',
    answer(() => settings()),
  );
  api.patch(
    '/settings',
    json,
    answer((req) => changeSettings(check(settingsSchema, req.body))),
  );
  api.get(
    '/trash',
    answer(() => trash.listTrash()),
  );
  api.delete(
    '/trash',
    answer(async () => ({ gone: await trash.emptyTrash(new Date()) })),
  );
  api.post(
    '/trash/:kind/:id/restore',
    answer((req) => trash.restore(check(kindSchema, req.params).kind, idOf(req))),
  );
  api.delete(
    '/trash/:kind/:id',
    answer((req) => trash.letGo(check(kindSchema, req.params).kind, idOf(req))),
  );
  return api;
}
