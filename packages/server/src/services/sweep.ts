import { readdir, rm, rmdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { literal, Op, QueryTypes } from 'sequelize';
import { dropDocument, keptBefore } from '../db/keptDocuments.ts';
import { Frame, Job, JobItem, Raw, withRaw } from '../db/models.ts';
import { dataPath } from '../places.ts';
import { filmsFolder } from '../work/keptFilms.ts';
import { patchesOf } from '../work/mending.ts';

const listed = (folder: string): Promise<string[]> => readdir(folder).catch(() => []);
/** Just the names that Dyepot itself gives to what is being written: it sweeps in people's own folders too. */
const id = '[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}',
  unfinished = new RegExp(`^\\.writing-(item-\\d+(-${id}(-\\d+)?)?(-level-\\d(\\.p\\d+)?\\.u16)?|${id})$|\\.writing-${id}$`);
/** What may still be at work is left alone: a file being written, plates whose frame is to come, uploads whose import is not ordered yet. In milliseconds. */
const fresh = 60_000,
  freshPlates = 3_600_000,
  freshUploads = 86_400_000,
  unusedFilms = 7 * 86_400_000,
  /** what an earlier run of the server was writing nobody writes any more: the folder has one server */
  began = Date.now();

/** Takes away what a write left that did not come to its end. */
async function sweepUnfinished(folder: string): Promise<number> {
  let gone = 0;
  for (const name of (await listed(folder)).filter((f) => unfinished.test(f))) {
    const path = join(folder, name),
      s = await stat(path).catch(() => null);
    if (!s?.isFile() || (s.mtimeMs >= began && Date.now() - s.mtimeMs < fresh)) continue;
    await rm(path, { force: true });
    gone++;
  }
  return gone;
}

/** Takes away repairs done on a plate that no frame of it has had for a day: what is undone is not made anew at once. */
async function sweepPatches(folder: string, hash: string): Promise<number> {
  const kept = (await listed(folder)).filter((f) => /^mend-[0-9a-f]{24}\.u16$/.test(f));
  if (kept.length === 0) return 0;
  const frames = await Frame.findAll({ where: { hash }, include: withRaw, paranoid: false }),
    wanted = new Set(
      frames.flatMap((f) => patchesOf(folder, { width: f.raw.width, height: f.raw.height }, f.mending.repairs).map((p) => p.file)),
    );
  let gone = 0;
  for (const name of kept) {
    const path = join(folder, name),
      s = await stat(path).catch(() => null);
    if (!s || wanted.has(path) || Date.now() - s.mtimeMs < freshUploads) continue;
    await rm(path, { force: true });
    gone++;
  }
  return gone;
}

/** Takes away uploads and plates that no frame, kept or in the trash, and no waiting import speaks of. */
async function sweepOrphans(): Promise<number> {
  const frames = await Frame.findAll({ attributes: ['hash', 'path'], paranoid: false, raw: true }),
    waiting = await JobItem.findAll({
      where: { state: { [Op.in]: ['waiting', 'running'] }, output: null },
      attributes: ['path'],
      raw: true,
    }),
    paths = new Set([...frames, ...waiting].map((f) => f.path)),
    hashes = new Set(frames.map((f) => f.hash));
  let gone = 0;
  await Raw.destroy({ where: literal('hash NOT IN (SELECT hash FROM frames)') });
  const plates = dataPath('plates');
  for (const hash of await listed(plates)) {
    if (hashes.has(hash)) {
      gone += (await sweepUnfinished(join(plates, hash))) + (await sweepPatches(join(plates, hash), hash));
      continue;
    }
    const made = await stat(join(plates, hash)).catch(() => null);
    // an import writes its plates before its frame
    if (!made || Date.now() - made.mtimeMs < freshPlates) continue;
    await rm(join(plates, hash), { recursive: true, force: true });
    gone++;
  }
  const uploads = dataPath('uploads');
  for (const id of await listed(uploads)) {
    const folder = join(uploads, id),
      made = await stat(folder).catch(() => null),
      files = await listed(folder);
    if (!made?.isDirectory() || Date.now() - made.mtimeMs < freshUploads) continue;
    for (const file of files.filter((f) => !paths.has(join(folder, f)))) {
      await rm(join(folder, file), { recursive: true, force: true });
      gone++;
    }
    await rmdir(folder).catch(() => {});
  }
  return gone;
}

/** Pictures of looks that were only tried, left by a server that ended while it sent them. */
async function sweepTried(): Promise<number> {
  const folder = dataPath('thumbs', 'tried');
  let gone = 0;
  for (const name of await listed(folder)) {
    const made = await stat(join(folder, name)).catch(() => null);
    if (!made || Date.now() - made.mtimeMs < 60_000) continue;
    await rm(join(folder, name), { force: true });
    gone++;
  }
  return gone;
}

/** Films' tables that were not used for a week: they are made again when they are wanted. */
async function sweepFilms(): Promise<number> {
  const folder = filmsFolder();
  let gone = await sweepUnfinished(folder);
  for (const name of await listed(folder)) {
    const used = await stat(join(folder, name)).catch(() => null);
    if (!used || Date.now() - used.mtimeMs < unusedFilms) continue;
    await rm(join(folder, name), { force: true });
    gone++;
  }
  return gone;
}

/** Where looks and steps stand that may say kept pictures and tables. */
const saidIn = [
  ['look_revisions', 'document'],
  ['drafts', 'document'],
  ['drafts', 'past'],
  ['drafts', 'future'],
  ['frames', 'own'],
  ['frame_histories', 'document'],
  ['job_items', 'look'],
  ['job_items', 'own'],
] as const;
/** Takes away pictures and tables that nothing kept or in the trash has used for a day. */
async function sweepDocuments(): Promise<number> {
  let gone = 0;
  for (const hash of keptBefore(Date.now() - freshUploads)) {
    const said = saidIn.map(([table, column]) => `EXISTS (SELECT 1 FROM ${table} WHERE instr("${column}", $hash))`).join(' OR '),
      [row] = await Frame.sequelize!.query<{ used: number }>(`SELECT ${said} AS used`, { bind: { hash }, type: QueryTypes.SELECT });
    if (row!.used) continue;
    dropDocument(hash);
    gone++;
  }
  return gone;
}

/** Takes away everything nobody speaks of any more: half-written files, empty folders, plates and uploads of what is gone. Returns how many files went. */
export async function sweep(): Promise<number> {
  let gone = await sweepOrphans();
  gone += (await sweepTried()) + (await sweepFilms());
  gone += (await sweepDocuments()) + (await sweepUnfinished(dataPath('documents')));
  for (const shelf of await listed(dataPath('thumbs'))) gone += await sweepUnfinished(join(dataPath('thumbs'), shelf));
  for (const { settings } of await Job.findAll({
    where: { kind: 'delivery' },
    attributes: ['settings'],
    order: [['id', 'DESC']],
    limit: 100,
  }))
    if (settings.folder) gone += await sweepUnfinished(settings.folder);
  return gone;
}
