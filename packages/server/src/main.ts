import { existsSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import express, { type ErrorRequestHandler, type RequestHandler } from 'express';
import helmet from 'helmet';
import { openDatabase } from './db/database.ts';
import { PlainError } from './decode/decode.ts';
import { distFile } from './places.ts';
import { apiRoutes } from './routes/api.ts';
import { ServiceError } from './services/errors.ts';
import { startJobs } from './services/jobs.ts';
import { openPool } from './work/pool.ts';

/** Only pages served from this machine may talk to the server: the Host must be local, and so must any Origin. */
const localOnly: RequestHandler = (req, _res, next) => {
  const local = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;
  const { host, origin } = req.headers;
  if (!host || !local.test(host)) return next(new ServiceError(403, 'this address is not answered'));
  if (origin && origin !== `http://${host}`) return next(new ServiceError(403, 'requests from other pages are not answered'));
  next();
};

const policy = helmet({
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
  strictTransportSecurity: false,
  crossOriginOpenerPolicy: { policy: 'same-origin' },
  crossOriginResourcePolicy: { policy: 'same-origin' },
});

const failures: ErrorRequestHandler = (error: unknown, _req, res, next) => {
  if (res.headersSent) return next(error);
  const parser = error as { type?: string; status?: number };
  if (error instanceof ServiceError) res.status(error.status).json({ message: error.message });
  else if (error instanceof PlainError) res.status(422).json({ message: error.message });
  else if (parser.type === 'entity.parse.failed') res.status(400).json({ message: 'what was sent is not JSON' });
  else if (parser.type === 'entity.too.large') res.status(413).json({ message: 'what was sent is too large' });
  else {
    console.error(error);
    res.status(500).json({ message: 'something went wrong inside Dyepot; its log says what' });
  }
};

/** Starts the server on 127.0.0.1. Port 0 takes a free one. */
export async function startServer({ port }: { port: number }): Promise<{ port: number; close(): Promise<void> }> {
  const database = await openDatabase(),
    pool = openPool(),
    jobs = startJobs(pool);
  const app = express();
  app.disable('x-powered-by');
  app.use(localOnly, policy);
  app.use('/api', apiRoutes(pool, jobs));
  const web = distFile('web');
  if (existsSync(web)) {
    app.use(express.static(web, { index: false, maxAge: '1h' }));
    app.get(/.*/, (_req, res) => res.set('Cache-Control', 'no-store').sendFile('index.html', { root: web }));
  }
  app.use(failures);
  const server = await new Promise<ReturnType<typeof app.listen>>((resolve, reject) => {
    const s = app.listen(port, '127.0.0.1', () => resolve(s));
    s.once('error', (error: NodeJS.ErrnoException) =>
      reject(error.code === 'EADDRINUSE' ? new Error(`port ${port} is taken; choose another with --port`) : error),
    );
  });
  await jobs.resume();
  return {
    port: (server.address() as AddressInfo).port,
    async close() {
      await jobs.close();
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await pool.close();
      await database.close();
    },
  };
}
