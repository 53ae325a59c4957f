import { EventEmitter } from 'node:events';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { basename, extname, join, resolve } from 'node:path';
import { renditionLook } from '@dyepot/core/src/look/look.ts';
import { engineVersion } from '@dyepot/core/src/render/plan.ts';
import { PlainError } from '../decode/decode.ts';
import { Frame, Job, JobItem, Shoot } from '../db/models.ts';
import { dataPath } from '../places.ts';
import { extensionOf, type FileSettings } from '../work/encodeFile.ts';
import type { RenderPool } from '../work/pool.ts';
import { found, ServiceError } from './errors.ts';
import { lookAt } from './looks.ts';
import { presetGroundwork } from './presets.ts';
import { lightName, rawExtensions } from './rawNames.ts';

/** What the pages see of a job. */
export interface JobView {
  id: number;
  kind: Job['kind'];
  shootId: number;
  state: Job['state'];
  folder: string | null;
  lookName: string | null;
  lookRevision: number | null;
  settings: FileSettings | null;
  engineVersion: number;
  total: number;
  done: number;
  failed: number;
  secondsLeft: number | null;
  createdAt: Date;
  finishedAt: Date | null;
  items: { id: number; frameId: number | null; name: string; state: JobItem['state']; message: string | null; output: string | null }[];
}
export interface Jobs {
  events: EventEmitter<{ job: [JobView] }>;
  resume(): Promise<void>;
  importFiles(shootId: number, paths: string[]): Promise<JobView>;
  importFolder(shootId: number, folder: string): Promise<JobView>;
  deliver(shootId: number, frameIds: number[] | null, file: FileSettings, folder: string | null): Promise<JobView>;
  cancel(id: number): Promise<JobView>;
  list(): Promise<JobView[]>;
  view(id: number): Promise<JobView>;
  close(): Promise<void>;
}

const parallel = 2;

/** Runs imports and deliveries, two pictures at a time, and tells `events` of every step. */
export function startJobs(pool: RenderPool): Jobs {
  const events = new EventEmitter<{ job: [JobView] }>();
  events.setMaxListeners(100);
  let closing = false,
    working: Promise<void> = Promise.resolve(),
    busy = false;

  async function view(id: number): Promise<JobView> {
    const job = found(await Job.findByPk(id), 'this job'),
      items = await JobItem.findAll({ where: { jobId: id }, order: [['id', 'ASC']] });
    const done = items.filter((i) => i.state === 'done').length,
      failed = items.filter((i) => i.state === 'failed').length,
      left = items.length - done - failed;
    const timed = items.filter((i) => i.seconds !== null),
      mean = timed.reduce((s, i) => s + i.seconds!, 0) / Math.max(1, timed.length);
    return {
      id,
      kind: job.kind,
      shootId: job.shootId,
      state: job.state,
      folder: job.settings.folder ?? null,
      lookName: job.settings.lookName ?? null,
      lookRevision: job.settings.lookRevision ?? null,
      settings: job.settings.file ?? null,
      engineVersion: job.engineVersion,
      total: items.length,
      done,
      failed,
      secondsLeft:
        timed.length > 0 && left > 0 && (job.state === 'running' || job.state === 'waiting') ? Math.ceil((left * mean) / parallel) : null,
      createdAt: job.createdAt,
      finishedAt: job.finishedAt,
      items: items.map(({ id: itemId, frameId, name, state, message, output }) => ({ id: itemId, frameId, name, state, message, output })),
    };
  }
  const tell = async (id: number): Promise<JobView> => {
    const v = await view(id);
    events.emit('job', v);
    return v;
  };

  async function runImport(job: Job, item: JobItem): Promise<void> {
    const known = await Frame.findOne({ where: { shootId: job.shootId, path: item.path } });
    if (known) {
      await item.update({ frameId: known.id });
      return;
    }
    const r = await pool.run('importRaw', { path: item.path, plates: dataPath('plates') });
    const twin = await Frame.findOne({ where: { shootId: job.shootId, hash: r.hash } });
    if (twin) throw new PlainError(`${item.name} is already in this shoot, as ${twin.name}`);
    const frame = await Frame.create({
      shootId: job.shootId,
      name: item.name.replace(/\.[^.]+$/, ''),
      path: item.path,
      hash: r.hash,
      width: r.width,
      height: r.height,
      light: lightName(r.kelvin),
      kelvin: r.kelvin,
      tintDuv: r.tintDuv,
      facts: r.facts,
      survey: r.survey,
      signature: r.signature,
      groundwork: await presetGroundwork(r.facts.camera, r.facts.exif.iso),
    });
    await item.update({ frameId: frame.id });
  }

  async function runDelivery(job: Job, item: JobItem): Promise<void> {
    const frame = found(await Frame.findByPk(item.frameId!), 'this frame'),
      { settings } = job;
    const out = item.output!;
    // a file renamed into place just before a crash is finished, though the record was not yet
    if (existsSync(out) && job.startedAt && statSync(out).mtime >= job.startedAt) return;
    if (!existsSync(frame.path)) throw new PlainError(`${frame.name} is missing: ${frame.path} is not there any more`);
    await pool.run('deliver', {
      path: frame.path,
      hash: frame.hash,
      look: settings.look ?? null,
      groundwork: frame.groundwork,
      settings: settings.file!,
      out,
    });
  }

  async function runJob(id: number): Promise<void> {
    const job = (await Job.findByPk(id))!;
    await job.update({ state: 'running', startedAt: job.startedAt ?? new Date() });
    const next = async (): Promise<void> => {
      for (;;) {
        if (closing) return;
        const item = await JobItem.findOne({ where: { jobId: id, state: 'waiting' }, order: [['id', 'ASC']] });
        if (!item || (await Job.findByPk(id))?.state !== 'running') return;
        const [taken] = await JobItem.update({ state: 'running' }, { where: { id: item.id, state: 'waiting' } });
        if (taken === 0) continue;
        const started = performance.now();
        try {
          await (job.kind === 'import' ? runImport(job, item) : runDelivery(job, item));
          await item.update({ state: 'done', seconds: (performance.now() - started) / 1000 });
        } catch (error) {
          if (closing) return;
          const plain = error instanceof PlainError || error instanceof ServiceError;
          if (!plain) console.error(error);
          await item.update({
            state: 'failed',
            message: plain ? error.message : `${item.name}: something went wrong inside Dyepot; its log says what`,
            seconds: (performance.now() - started) / 1000,
          });
        }
        await tell(id);
      }
    };
    await Promise.all(Array.from({ length: parallel }, next));
    if (closing) return;
    await job.reload();
    if (job.state === 'running') await job.update({ state: 'done', finishedAt: new Date() });
    await tell(id);
  }

  function wake(): void {
    if (busy || closing) return;
    busy = true;
    working = (async () => {
      for (
        let job = await Job.findOne({ where: { state: 'waiting' }, order: [['id', 'ASC']] });
        job && !closing;
        job = await Job.findOne({ where: { state: 'waiting' }, order: [['id', 'ASC']] })
      )
        await runJob(job.id);
    })()
      .catch((error: unknown) => console.error(error))
      .finally(() => {
        busy = false;
      });
  }

  async function importFiles(shootId: number, paths: string[]): Promise<JobView> {
    found(await Shoot.findByPk(shootId), 'this shoot');
    const job = await Job.create({
      kind: 'import',
      shootId,
      state: 'waiting',
      settings: {},
      engineVersion,
      startedAt: null,
      finishedAt: null,
    });
    await JobItem.bulkCreate(
      paths.map((path) => ({
        jobId: job.id,
        frameId: null,
        name: basename(path),
        path,
        state: 'waiting' as const,
        output: null,
        message: null,
        seconds: null,
      })),
    );
    wake();
    return tell(job.id);
  }

  return {
    events,
    importFiles,
    view,
    async resume() {
      const unfinished = await Job.findAll({ where: { state: 'running' } });
      for (const job of unfinished) {
        await JobItem.update({ state: 'waiting' }, { where: { jobId: job.id, state: 'running' } });
        await job.update({ state: 'waiting' });
      }
      wake();
    },
    async importFolder(shootId, folder) {
      const at = resolve(folder);
      if (!statSync(at, { throwIfNoEntry: false })?.isDirectory()) throw new ServiceError(400, `${at} is not a folder on this machine`);
      const files = readdirSync(at)
        .filter((f) => rawExtensions.has(extname(f).toLowerCase()))
        .sort()
        .map((f) => join(at, f));
      if (files.length === 0) throw new ServiceError(400, `there are no raw files in ${at}`);
      return importFiles(shootId, files);
    },
    async deliver(shootId, frameIds, file, folder) {
      const shoot = found(await Shoot.findByPk(shootId), 'this shoot');
      const frames = (
        await Frame.findAll({
          where: { shootId },
          order: [
            ['name', 'ASC'],
            ['id', 'ASC'],
          ],
        })
      ).filter((f) => !frameIds || frameIds.includes(f.id));
      if (frames.length === 0) throw new ServiceError(400, 'there is nothing to deliver: no frame is chosen');
      const look = shoot.lookId ? await lookAt(shoot.lookId, shoot.lookRevision ?? undefined) : null;
      const job = await Job.create({
        kind: 'delivery',
        shootId,
        state: 'waiting',
        settings: {
          file,
          look: look?.document ?? renditionLook(shoot.rendition),
          lookName: look?.name ?? (shoot.rendition === 'plain' ? 'Neutral response' : `Neutral response, ${shoot.rendition}`),
          lookRevision: look?.revision ?? null,
        },
        engineVersion,
        startedAt: null,
        finishedAt: null,
      });
      const out = folder ? resolve(folder) : dataPath('deliveries', String(job.id));
      await job.update({ settings: { ...job.settings, folder: out } });
      const taken = new Set<string>();
      await JobItem.bulkCreate(
        frames.map((f) => {
          const stem = f.name.replace(/[^\p{L}\p{N}._ -]/gu, '_');
          let name = stem;
          for (let i = 2; taken.has(name.toLowerCase()); i++) name = `${stem}-${i}`;
          taken.add(name.toLowerCase());
          return {
            jobId: job.id,
            frameId: f.id,
            name: f.name,
            path: f.path,
            state: 'waiting' as const,
            output: join(out, `${name}.${extensionOf[file.format]}`),
            message: null,
            seconds: null,
          };
        }),
      );
      wake();
      return tell(job.id);
    },
    async cancel(id) {
      const job = found(await Job.findByPk(id), 'this job');
      if (job.state === 'waiting' || job.state === 'running') await job.update({ state: 'cancelled', finishedAt: new Date() });
      return tell(id);
    },
    list: async () => Promise.all((await Job.findAll({ order: [['id', 'DESC']], limit: 60 })).map((j) => view(j.id))),
    async close() {
      closing = true;
      await Promise.race([working, new Promise((r) => setTimeout(r, 1500))]);
    },
  };
}
