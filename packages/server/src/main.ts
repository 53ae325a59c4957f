import { existsSync } from 'node:fs';
import { createServer as createPlain, type Server } from 'node:http';
import { createServer as createSecure } from 'node:https';
import type { AddressInfo } from 'node:net';
import express from 'express';
import expressStaticGzip from 'express-static-gzip';
import { openDatabase } from './db/database.ts';
import { pageLinks } from './pageFiles.ts';
import { distFile } from './places.ts';
import { PlainError } from './plainError.ts';
import { apiRoutes } from './routes/api.ts';
import { failures } from './routes/failures.ts';
import { awayPolicy, compressed, localOnly, ownPagesOnly, policy } from './routes/manners.ts';
import { startJobs } from './jobs/jobs.ts';
import { openLookFolder } from './services/lookFolder.ts';
import { findableAll } from './services/lookFaces.ts';
import { expectSheet, looksWorn } from './services/shoots.ts';
import { lockDataFolder } from './services/lock.ts';
import { sweep } from './services/sweep.ts';
import { emptyOldTrash } from './services/trash.ts';
import { startWatching } from './services/watching.ts';
import { writingError } from './work/files.ts';
import { keepFilms } from './work/keptFilms.ts';
import { dataFolder } from './places.ts';
import { anybody } from './people/people.ts';
import { openPool } from './work/pool.ts';

const day = 86_400_000;

/** How the server is met from other machines: where it listens, and who does its TLS: itself, with PEM texts, or a proxy before it. */
export interface Away {
  listen: string;
  tls: { cert: Buffer; key: Buffer } | 'proxy';
}

/** Starts the server: on 127.0.0.1, or so that other machines meet it and people log in. Port 0 takes a free one. Throws PlainError when the folder or the port is taken, or nobody could log in. */
export async function startServer({
  port,
  away,
  queue,
}: {
  port: number;
  away?: Away;
  /** the address of a Redis by which workers do the frames of jobs; else this process does */
  queue?: string;
}): Promise<{ port: number; close(): Promise<void> }> {
  const lock = await lockDataFolder();
  const database = await openDatabase().catch(async (error: unknown) => {
    await lock.release();
    throw writingError(error, `${dataFolder()}/dyepot.sqlite`);
  });
  const letGo = async (error: unknown): Promise<never> => {
    await database.close();
    await lock.release();
    throw error;
  };
  if (away && !(await anybody()))
    await letGo(new PlainError('nobody could log in yet: give someone a password first, with “dyepot people add NAME”'));
  keepFilms();
  const here = openPool({ expected: await looksWorn(3).catch(() => []) }),
    farm = queue === undefined ? null : await import('./farm/sending.ts').then((m) => m.openFarm(queue, here)).catch(letGo),
    pool = farm ?? here,
    jobs = startJobs(pool),
    watching = startWatching(jobs),
    lookFolder = openLookFolder();
  const app = express();
  app.disable('x-powered-by');
  // of a proxy's words about who asks only the last are believed: it wrote them itself
  app.set('trust proxy', away?.tls === 'proxy' ? 1 : false);
  app.use(away ? [ownPagesOnly, awayPolicy] : [localOnly, policy]);
  app.use('/api', compressed, apiRoutes(pool, jobs, { watching, lookFolder }, { away: away !== undefined, farm }));
  const web = distFile('web');
  if (existsSync(web)) {
    // names of these files change with what is in them
    app.use(
      '/assets',
      expressStaticGzip(`${web}/assets`, {
        enableBrotli: true,
        orderPreference: ['br', 'gz'],
        serveStatic: { immutable: true, maxAge: '365d' },
      }),
    );
    app.use(express.static(web, { index: false, maxAge: '1h' }));
    const links = pageLinks(web);
    for (const name of ['bench', 'ground', 'shelf'] as const)
      app.get(`/${name}`, (_req, res, next) => {
        if (links[name]) res.set('Link', links[name]);
        next();
      });
    app.get('/shoots/:id', (req, res, next) => {
      const id = Number(req.params.id);
      if (away || !Number.isSafeInteger(id)) return next();
      // what the page will ask for first is on its way while its script starts
      res.set('Link', [`</api/shoots/${id}>; rel=preload; as=fetch; crossorigin`, links.shoot].filter(Boolean).join(', '));
      expectSheet(pool, id).catch(() => {});
      next();
    });
    app.get(/^\/(?!api\/|assets\/)/, (_req, res) => res.set('Cache-Control', 'no-store').sendFile('index.html', { root: web }));
  }
  app.use(failures);
  const where = away?.listen ?? '127.0.0.1';
  const server = await new Promise<Server>((resolve, reject) => {
    const s = away && away.tls !== 'proxy' ? createSecure({ ...away.tls, minVersion: 'TLSv1.2' }, app) : createPlain(app);
    // a proxy, and whoever else keeps connections, lets go of them first
    s.keepAliveTimeout = 75_000;
    s.once('error', reject).listen(port, where, () => resolve(s));
  }).catch(async (error: unknown) => {
    await pool.close();
    return letGo(listeningError(error as NodeJS.ErrnoException, where, port));
  });
  const at = (server.address() as AddressInfo).port;
  lock.note(away ? `${away.listen}, port ${at}` : `http://127.0.0.1:${at}`);
  await jobs.resume();
  await watching.begin();
  await lookFolder.begin();
  let tidying: Promise<unknown> = findableAll().catch((error: unknown) => console.error(error));
  const tidy = (): void => {
    tidying = tidying
      .then(emptyOldTrash)
      .then(sweep)
      .catch((error: unknown) => console.error(error));
  };
  // whoever opens the first page goes first
  const soon = setTimeout(tidy, Number(process.env['DYEPOT_TIDY_MS'] ?? 15_000));
  const daily = setInterval(tidy, day);
  return {
    port: at,
    async close() {
      clearTimeout(soon);
      clearInterval(daily);
      lookFolder.close();
      await watching.close();
      await jobs.close();
      await tidying;
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await pool.close();
      await database.close();
      await lock.release();
    },
  };
}

/** Why the server cannot listen, in words. */
function listeningError(error: NodeJS.ErrnoException, where: string, port: number): Error {
  if (error.code === 'EADDRINUSE') return new PlainError(`port ${port} is taken; choose another with --port`);
  if (error.code === 'EACCES') return new PlainError(`port ${port} may not be used by whoever runs Dyepot; choose another with --port`);
  if (['EADDRNOTAVAIL', 'ENOTFOUND', 'EINVAL'].includes(error.code ?? '')) return new PlainError(`this machine has no address “${where}”`);
  if (/PEM|SSL|OSSL/i.test(`${error.code} ${error.message}`)) return new PlainError('the certificate and its key cannot be used together');
  return error;
}
