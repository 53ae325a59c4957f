import { existsSync, statSync } from 'node:fs';
import { extname, sep } from 'node:path';
import { watch as follow, type FSWatcher } from 'chokidar';
import { Op } from 'sequelize';
import { Frame, Job, JobItem, Shoot } from '../db/models.ts';
import { Watch } from '../db/watches.ts';
import type { Jobs } from '../jobs/jobs.ts';
import { typedPath } from '../places.ts';
import { deliveryPresets } from './deliveryPresets.ts';
import { found, ServiceError } from './errors.ts';
import { lookToWear } from './looks.ts';
import { tellNews } from './news.ts';
import { rawExtensions } from './rawNames.ts';

export interface WatchWish {
  shootId: number;
  folder: string;
  lookId: number | null;
  lookRevision: number | null;
  preset: string;
}
/** A watched folder as pages see it. */
export interface WatchView extends WatchWish {
  id: number;
  /** what keeps it from watching, in a sentence; null where nothing does */
  trouble: string | null;
}
export interface Watching {
  begin(): Promise<void>;
  list(): Promise<WatchView[]>;
  add(wish: WatchWish): Promise<WatchView>;
  remove(id: number): Promise<void>;
  close(): Promise<void>;
}
/** A file is whole when its size has not changed for so long; what comes together is brought in together. */
const settledMs = 1500,
  gatherMs = 400;
const mostWatches = 40;

/** Watches folders: raws that arrive come into their shoot, wear a look, and are delivered, with nobody touching anything. */
export function startWatching(jobs: Jobs): Watching {
  const open = new Map<number, { watcher: FSWatcher; close: () => void }>(),
    troubles = new Map<number, string>();
  let closing = false;

  const view = ({ id, shootId, folder, lookId, lookRevision, preset }: Watch): WatchView => ({
    id,
    shootId,
    folder,
    lookId,
    lookRevision,
    preset,
    trouble: troubles.get(id) ?? (existsSync(folder) ? null : `${folder} is not there; it is watched again when it is`),
  });
  const trouble = (id: number, error: unknown): void => {
    troubles.set(id, error instanceof Error ? error.message : String(error));
    tellNews({ kind: 'watches' });
  };

  /** Waits until nothing is being brought into a shoot, also what an earlier run of the server left. */
  async function importsEnded(shootId: number): Promise<void> {
    const alive = { shootId, kind: 'import', state: { [Op.in]: ['waiting', 'running'] } };
    while (!closing && (await Job.count({ where: alive })) > 0) await new Promise((r) => setTimeout(r, 250));
  }
  /** Brings in what has arrived and is not in the shoot yet, and delivers what of it was not delivered. */
  async function take(watch: Watch, arrived: readonly string[]): Promise<void> {
    const known = new Set(
        (
          await Frame.findAll({ where: { shootId: watch.shootId, path: { [Op.in]: [...arrived] } }, attributes: ['path'], paranoid: false })
        ).map((f) => f.path),
      ),
      fresh = arrived.filter((p) => !known.has(p));
    if (fresh.length > 0) {
      const look = watch.lookId === null ? null : await lookToWear(watch.lookId, watch.lookRevision);
      await jobs.importFiles(watch.shootId, fresh, look ? { lookId: look.id, lookRevision: look.revision } : undefined);
    }
    await importsEnded(watch.shootId);
    if (closing) return;
    await deliverNew(watch);
    if (troubles.delete(watch.id)) tellNews({ kind: 'watches' });
  }
  /** Delivers frames that came since the watch began and no delivery of it has: also those a server that was killed left behind. */
  async function deliverNew(watch: Watch): Promise<void> {
    if (watch.preset === '') return;
    const preset = (await deliveryPresets()).find((p) => p.name === watch.preset);
    if (!preset) throw new ServiceError(409, `there is no delivery preset called “${watch.preset}” any more`);
    const came = await Frame.findAll({
        where: { shootId: watch.shootId, path: { [Op.startsWith]: `${watch.folder}${sep}` }, createdAt: { [Op.gte]: watch.createdAt } },
        attributes: ['id', 'path'],
      }),
      own = (await Job.findAll({ where: { shootId: watch.shootId, kind: 'delivery' }, attributes: ['id', 'settings'] })).filter(
        (j) => j.settings.watch === watch.id,
      );
    const had = new Set((await JobItem.findAll({ where: { jobId: own.map((j) => j.id) }, attributes: ['frameId'] })).map((i) => i.frameId)),
      // the database takes an underline in a path for any letter
      inside = came.filter((f) => f.path.startsWith(`${watch.folder}${sep}`)),
      frameIds = inside.map((f) => f.id).filter((id) => !had.has(id));
    if (frameIds.length === 0) return;
    await jobs.deliver({
      shootId: watch.shootId,
      frameIds,
      folder: preset.folder || null,
      file: preset.file,
      pattern: preset.pattern,
      conflict: 'rename',
      doubtful: 'leave out',
      room: 'deliver',
      watch: watch.id,
    });
  }

  function start(watch: Watch): void {
    const arrived = new Set<string>();
    let timer: NodeJS.Timeout | undefined,
      turn: Promise<void> = Promise.resolve(),
      stopped = false;
    const gather = (): void => {
      // while more and more comes, what has come goes on
      timer ??= setTimeout(() => {
        timer = undefined;
        const paths = [...arrived].sort();
        arrived.clear();
        turn = turn
          .then(() => (stopped || closing ? undefined : take(watch, paths)))
          .catch((error: unknown) => {
            if (!closing) trouble(watch.id, error);
          });
      }, gatherMs);
    };
    const watcher = follow(watch.folder, {
      depth: 8,
      ignored: (path, stats) => stats?.isFile() === true && !rawExtensions.has(extname(path).toLowerCase()),
      awaitWriteFinish: { stabilityThreshold: settledMs, pollInterval: 200 },
    });
    const came = (path: string): void => {
      arrived.add(path);
      gather();
    };
    watcher.on('add', came);
    // a file that was thought whole and went on growing could not be read: now it may be
    watcher.on('change', came);
    watcher.on('error', (error) => trouble(watch.id, error));
    // what was brought in but not delivered when the server ended
    watcher.on('ready', gather);
    open.set(watch.id, {
      watcher,
      close: () => {
        stopped = true;
        clearTimeout(timer);
        void watcher.close();
      },
    });
  }

  return {
    async begin() {
      for (const w of await Watch.findAll()) start(w);
    },
    async list() {
      const shoots = new Set((await Shoot.findAll({ attributes: ['id'] })).map((s) => s.id));
      return (await Watch.findAll({ order: [['id', 'ASC']] })).filter((w) => shoots.has(w.shootId)).map(view);
    },
    async add(wish) {
      found(await Shoot.findByPk(wish.shootId, { attributes: ['id'] }), 'this shoot');
      const folder = typedPath(wish.folder);
      if (!statSync(folder, { throwIfNoEntry: false })?.isDirectory())
        throw new ServiceError(400, `${folder} is not a folder on this machine`);
      if (wish.lookId !== null) await lookToWear(wish.lookId, wish.lookRevision);
      const preset = (await deliveryPresets()).find((p) => p.name === wish.preset);
      if (wish.preset !== '' && !preset) throw new ServiceError(400, `there is no delivery preset called “${wish.preset}”`);
      if ((await Watch.count()) >= mostWatches) throw new ServiceError(409, `${mostWatches} folders are watched already`);
      if (await Watch.findOne({ where: { shootId: wish.shootId, folder } }))
        throw new ServiceError(409, `${folder} is watched for this shoot already`);
      const w = await Watch.create({ ...wish, folder });
      start(w);
      tellNews({ kind: 'watches' });
      return view(w);
    },
    async remove(id) {
      const w = found(await Watch.findByPk(id), 'this watched folder');
      open.get(id)?.close();
      open.delete(id);
      troubles.delete(id);
      await w.destroy();
      tellNews({ kind: 'watches' });
    },
    async close() {
      closing = true;
      for (const { close } of open.values()) close();
      await Promise.resolve();
    },
  };
}
