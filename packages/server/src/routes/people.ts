import express, { Router } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import Joi from 'joi';
import type { Role } from '../db/models.ts';
import { askingOf, cookieManner, cookieName, tokenOf } from '../people/door.ts';
import * as people from '../people/people.ts';
import { endSession, openSession, whoAsks } from '../people/sessions.ts';
import { ServiceError } from '../services/errors.ts';
import { json } from './answers.ts';
import { answer, check, idOf, words } from './validate.ts';

const named = words(80).trim().min(1).required().label('name'),
  secret = words(1000).required().label('password'),
  may = Joi.valid('look', 'change').required().label('role');
const logIn = Joi.object<{ name: string; password: string }>({ name: named, password: secret });
const newPerson = Joi.object<{ name: string; password: string; role: Role }>({ name: named, password: secret, role: may });
const change = Joi.object<{ role?: Role; password?: string }>({
  role: Joi.valid('look', 'change'),
  password: words(1000).label('password'),
}).xor('role', 'password');
const ownPassword = Joi.object<{ old: string; password: string }>({ old: secret.label('old password'), password: secret });

/** Reads what someone sends who is not known yet: a name and a password are not long. */
const small = express.json({ limit: '8kb' });
const quarter = 15 * 60_000;
/** Tries at logging in that were wrong: of one place ten, at one name twenty, in a quarter of an hour. */
const slowed = (limit: number, keyGenerator: (req: { ip?: string; body: unknown }) => string): ReturnType<typeof rateLimit> =>
  rateLimit({
    windowMs: quarter,
    limit,
    keyGenerator,
    skipSuccessfulRequests: true,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    handler: (_req, _res, next) => next(new ServiceError(429, 'too many tries; wait a quarter of an hour')),
  });

/** Who is here, and who may come. `away`: the server is met from other machines, so people log in. */
export function peopleRoutes(away: boolean): Router {
  const api = Router();
  api.get(
    '/session',
    answer(async (req) => {
      const who = away ? await whoAsks(tokenOf(req), false) : null;
      return { away, person: who && { id: who.id, name: who.name, role: who.role } };
    }),
  );
  // on this machine alone nobody logs in
  if (!away) return api;
  api.post(
    '/session',
    slowed(10, (req) => ipKeyGenerator(req.ip ?? '')),
    small,
    slowed(20, (req) => people.keyOf(String((req.body as { name?: unknown } | undefined)?.name)).slice(0, 80)),
    answer(async (req, res) => {
      const { name, password } = check(logIn, req.body),
        who = await people.whoHas(name, password);
      console.log(`${new Date().toISOString()} ${req.ip ?? ''} ${who ? 'logged in' : 'was refused'}: ${JSON.stringify(name)}`);
      if (!who) throw new ServiceError(401, 'this name and password do not belong together');
      res.cookie(cookieName, await openSession(who.id), cookieManner);
      return { away, person: { id: who.id, name: who.name, role: who.role } };
    }),
  );
  api.delete(
    '/session',
    answer(async (req, res) => {
      const who = await whoAsks(tokenOf(req), false);
      if (who) await endSession(who.tokenHash);
      // what the browser kept of the pictures goes too (W3C Clear Site Data)
      res.set('Clear-Site-Data', '"cache"').clearCookie(cookieName, cookieManner);
    }),
  );
  api.put(
    '/session/password',
    slowed(10, (req) => ipKeyGenerator(req.ip ?? '')),
    small,
    answer((req) => {
      const { old, password } = check(ownPassword, req.body),
        who = askingOf(req);
      return people.changeOwnPassword(who.id, old, password, who.tokenHash);
    }),
  );
  api.get(
    '/people',
    answer(() => people.listPeople()),
  );
  api.post(
    '/people',
    json,
    answer((req) => people.addPerson(check(newPerson, req.body))),
  );
  api.patch(
    '/people/:id',
    json,
    answer((req) => {
      const { role, password } = check(change, req.body);
      return role ? people.setRole(idOf(req), role) : people.setPassword(idOf(req), password!, askingOf(req).tokenHash);
    }),
  );
  api.delete(
    '/people/:id',
    answer((req) => people.removePerson(idOf(req))),
  );
  return api;
}
