import compression from 'compression';
import type { RequestHandler } from 'express';
import helmet from 'helmet';
import { ServiceError } from '../services/errors.ts';

/** Only pages served from this machine may talk to the server: the Host must be local, and so must any Origin. */
export const localOnly: RequestHandler = (req, _res, next) => {
  const local = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;
  const { host, origin } = req.headers;
  if (!host || !local.test(host)) return next(new ServiceError(403, 'this address is not answered'));
  if (origin && origin !== `http://${host}`) return next(new ServiceError(403, 'requests from other pages are not answered'));
  next();
};
/** Met from other machines: only over TLS, and what changes something only from Dyepot's own pages (Fetch metadata, and Origin where it is sent). */
export const ownPagesOnly: RequestHandler = (req, _res, next) => {
  if (!req.secure) return next(new ServiceError(403, 'only https is answered here'));
  const { origin, host } = req.headers,
    site = req.headers['sec-fetch-site'],
    foreign = (origin !== undefined && origin !== `https://${host}`) || (site !== undefined && site !== 'same-origin' && site !== 'none');
  // a link from elsewhere may open a page; it may not ask anything of the server
  if (foreign && !(req.method === 'GET' && req.headers['sec-fetch-mode'] === 'navigate' && !req.path.startsWith('/api')))
    return next(new ServiceError(403, 'requests from other pages are not answered'));
  next();
};

const policyOf = (strictTransportSecurity: boolean): RequestHandler =>
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        workerSrc: ["'self'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        baseUri: ["'none'"],
        formAction: ["'none'"],
        frameAncestors: ["'none'"],
      },
    },
    strictTransportSecurity,
    crossOriginOpenerPolicy: { policy: 'same-origin' },
    crossOriginResourcePolicy: { policy: 'same-origin' },
  });
/** What a browser may do with these pages; on this machine, and from others. */
export const policy = policyOf(false),
  awayPolicy = policyOf(true);

/** Lists are sent small; pixels and pictures are not worth it, and news must not be held back. */
export const compressed: RequestHandler = compression({
  filter: (_req, res) => String(res.getHeader('Content-Type')).startsWith('application/json'),
});
