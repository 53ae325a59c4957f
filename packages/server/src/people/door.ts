import { parse } from 'cookie';
import type { CookieOptions, Request, RequestHandler } from 'express';
import { ServiceError } from '../services/errors.ts';
import { whoAsks, type Asking } from './sessions.ts';

/** Of the host alone, over TLS alone (RFC 6265bis, the __Host- prefix). */
export const cookieName = '__Host-dyepot';
export const cookieManner: CookieOptions = { httpOnly: true, secure: true, sameSite: 'strict', path: '/' };
export const tokenOf = (req: Request): string | undefined => parse(req.headers.cookie ?? '')[cookieName];

const asking = new WeakMap<Request, Asking>();
/** Who asks, once the door has let them in. */
export const askingOf = (req: Request): Asking => {
  const who = asking.get(req);
  if (!who) throw new ServiceError(401, 'log in first');
  return who;
};

const reading = new Set(['GET', 'HEAD']);
/** What is open to everyone: logging in, asking who one is, and what is behind a link. */
const open = [/^(GET|HEAD|POST|DELETE) \/session$/, /^(GET|HEAD) \/links\/[^/]+\/(shown|page\.pdf|pictures\/\d+\/\d+)$/];
/** Questions that are asked by POST since they are long; they change nothing. */
const questions = [/^\/frames\/\d+\/(region\/\d+|exact|picture|light|balance|repair-source)$/, /^\/tables\/bake-report$/];
/** What tells about this machine, or about who may come in. */
const inner = [/^\/folders/, /^\/people/, /^\/links$/, /^\/jobs\/\d+\/record$/];
/** An address as the router takes it: capitals and slashes at the end make no other one. */
const routed = (path: string): string => path.toLowerCase().replace(/\/+$/, '');

/** Whether someone who may look may ask for this. */
const mayLookAt = (method: string, path: string): boolean =>
  reading.has(method) ? !inner.some((p) => p.test(path)) : method === 'POST' && questions.some((p) => p.test(path));
/** What someone does with their own session and password, whatever they may do else. */
const own = (method: string, path: string): boolean => path === '/session/password' && method === 'PUT';

/** Lets in who has logged in, and those who may only look where there is nothing to change. */
export const door: RequestHandler = (req, res, next) => {
  res.set('Cache-Control', 'private, no-store');
  const path = routed(req.path);
  if (open.some((p) => p.test(`${req.method} ${path}`))) return next();
  whoAsks(tokenOf(req), path !== '/events')
    .then((who) => {
      if (!who) throw new ServiceError(401, 'log in first');
      if (who.role === 'look' && !mayLookAt(req.method, path) && !own(req.method, path))
        throw new ServiceError(403, 'you may look here, and not change anything');
      asking.set(req, who);
      next();
    })
    .catch(next);
};
