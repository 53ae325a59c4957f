import { Router, type Request } from 'express';
import Joi from 'joi';
import { askingOf } from '../people/door.ts';
import { changeSettings, settings, settingsSchema, type Settings } from '../services/settings.ts';
import * as trash from '../services/trash.ts';
import type { LookFolder } from '../services/lookFolder.ts';
import { answer, check, idOf, pathWords } from './validate.ts';
import { json } from './answers.ts';

const kinds: trash.TrashKind[] = ['shoot', 'frame', 'look', 'draft', 'preset', 'stock'];
const kindSchema = Joi.object<{ kind: trash.TrashKind; id: string }>({ kind: Joi.valid(...kinds).required(), id: Joi.string().required() });

const folderSchema = Joi.object<{ folder: string | null }>({ folder: pathWords().allow(null).required() });
/** Settings, the folder of looks, and the trash. */
export function houseRoutes(away: boolean, lookFolder: LookFolder): Router {
  const api = Router();
  /** What is set, with who asks. */
  const facts = async (req: Request, set: Settings): Promise<object> => {
    const who = away ? askingOf(req) : null;
    return { ...set, away, person: who && { id: who.id, name: who.name, role: who.role } };
  };
  api.get(
    '/settings',
    answer(async (req) => facts(req, await settings())),
  );
  api.patch(
    '/settings',
    json,
    answer(async (req) => facts(req, await changeSettings(check(settingsSchema, req.body)))),
  );
  api.get(
    '/look-folder',
    answer(() => lookFolder.view()),
  );
  api.put(
    '/look-folder',
    json,
    answer((req) => lookFolder.set(check(folderSchema, req.body).folder)),
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
