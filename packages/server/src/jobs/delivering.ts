import { existsSync, statSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Op } from 'sequelize';
import { renditionLook, type Look } from '@dyepot/core/src/look/look.ts';
import { engineVersion } from '@dyepot/core/src/plan/plan.ts';
import { together } from '../db/database.ts';
import { Frame, Job, JobItem, Shoot, type Written, withRaw } from '../db/models.ts';
import { dataPath, typedPath } from '../places.ts';
import { PlainError } from '../plainError.ts';
import { found, ServiceError } from '../services/errors.ts';
import { lookAt } from '../services/looks.ts';
import { extensionOf, type FileSettings } from '../work/encodeFile.ts';
import { contentHash, madeByDyepot, makeFolder, putInPlace, waitingName } from '../work/files.ts';
import type { RenderPool } from '../work/pool.ts';
import type { Trade } from './queue.ts';

/** What a delivery is asked for. */
export interface Order {
  shootId: number;
  frameIds: number[] | null;
  /** as typed; null is Dyepot's own */
  folder: string | null;
  file: FileSettings;
  /** what happens to files of the same names that Dyepot did not make: nothing is done before this is answered */
  conflict: 'ask' | 'rename' | 'replace';
  /** what happens to frames whose raw may not be whole */
  doubtful: 'ask' | 'leave out' | 'deliver';
}
/** A question an order asks before anything is done. */
export class OrderQuestion extends ServiceError {
  readonly question: 'conflict' | 'doubtful';
  readonly names: string[];
  readonly count: number;
  constructor(question: OrderQuestion['question'], message: string, names: string[]) {
    super(409, message);
    this.question = question;
    this.names = names.slice(0, 12);
    this.count = names.length;
  }
}

const unfinished = (item: JobItem): string | null => (item.output ? waitingName(item.output, `item-${item.id}`) : null);

/** Whether a file is the one an item wrote: of its size and time, or, where the time is another, of its content. */
async function isAsWritten(path: string, { bytes, sha256, mtimeMs }: Written): Promise<boolean> {
  const now = statSync(path, { throwIfNoEntry: false });
  if (now?.size !== bytes) return false;
  return now.mtimeMs === mtimeMs || (await contentHash(path)) === sha256;
}

/** Renders frames into finished files, each as it was ordered. */
export function delivering(pool: RenderPool): Trade {
  return {
    async clear(item) {
      const waiting = unfinished(item);
      if (waiting) await rm(waiting, { force: true });
    },
    async work(job, item, signal) {
      const frame = found(
          await Frame.findByPk(item.frameId!, { attributes: ['id', 'name', 'hash', 'path'], paranoid: false }),
          'this frame',
        ),
        out = item.output!;
      // a file put in place just before a crash is finished, though the record was not yet
      if (item.written && (await isAsWritten(out, item.written))) return {};
      if (!existsSync(frame.path)) throw new PlainError(`${frame.name} is missing: ${frame.path} is not there any more`);
      const waiting = unfinished(item)!;
      const { bytes, sha256 } = await pool.run(
        'deliver',
        {
          path: frame.path,
          hash: frame.hash,
          look: item.look ?? job.settings.look ?? null,
          groundwork: item.groundwork ?? null,
          own: item.own ?? null,
          repairs: item.repairs ?? null,
          plates: dataPath('plates'),
          settings: job.settings.file!,
          waiting,
        },
        signal,
      );
      await item.update({ written: { bytes, sha256, mtimeMs: statSync(waiting).mtimeMs } });
      await putInPlace(waiting, out, item.mayReplace);
      return {};
    },
  };
}

/** Which of some paths hold files that no record of a delivery, nor the file itself, says Dyepot made. */
async function notOurs(paths: readonly string[]): Promise<Set<string>> {
  const there = paths.filter((p) => existsSync(p));
  if (there.length === 0) return new Set();
  const records = new Map<string, JobItem>();
  for (const item of await JobItem.findAll({
    where: { output: { [Op.in]: there }, state: 'done' },
    attributes: ['id', 'output', 'written'],
    order: [['id', 'ASC']],
  }))
    records.set(item.output!, item);
  const others = new Set<string>();
  for (const path of there) {
    const record = records.get(path);
    const ours = record && (record.written ? await isAsWritten(path, record.written) : await madeByDyepot(path));
    if (!ours) others.add(path);
  }
  return others;
}

/** File names for frames: what no file system refuses, each once. */
function namesFor(frames: readonly Frame[], ending: string, taken: (name: string) => boolean): string[] {
  const given = new Set<string>();
  return frames.map((f) => {
    // 200 letters of four bytes would pass the 255 bytes a name may have
    let stem = f.name.replace(/[^\p{L}\p{N}._ -]/gu, '_');
    while (Buffer.byteLength(stem) > 230) stem = stem.slice(0, -1);
    let name = `${stem}.${ending}`;
    for (let i = 2; given.has(name.toLowerCase()) || taken(name); i++) name = `${stem}-${i}.${ending}`;
    given.add(name.toLowerCase());
    return name;
  });
}

async function framesOf({ shootId, frameIds, doubtful }: Order): Promise<Frame[]> {
  const all = await Frame.findAll({
    where: { shootId, ...(frameIds ? { id: { [Op.in]: frameIds } } : {}) },
    include: { ...withRaw, attributes: ['doubt'] },
    order: [
      ['name', 'ASC'],
      ['id', 'ASC'],
    ],
  });
  if (all.length === 0) throw new ServiceError(400, 'there is nothing to deliver: no frame is chosen');
  const broken = all.find((f) => f.ground.trouble);
  const unread = all.find((f) => f.steps.trouble !== null);
  if (unread) throw new ServiceError(409, `the steps of its own that ${unread.name} has cannot be read: ${unread.steps.trouble}`);
  if (broken) throw new ServiceError(409, `the groundwork kept for ${broken.name} cannot be read: ${broken.ground.trouble}`);
  const doubted = all.filter((f) => f.raw.doubt);
  if (doubtful === 'ask' && doubted.length > 0)
    throw new OrderQuestion(
      'doubtful',
      `${doubted.length === 1 ? 'One raw' : `${doubted.length} raws`} may not be whole: ${doubted[0]!.name}: ${doubted[0]!.raw.doubt}`,
      doubted.map((f) => f.name),
    );
  const wanted = doubtful === 'leave out' ? all.filter((f) => !f.raw.doubt) : all;
  if (wanted.length === 0) throw new ServiceError(400, 'there is nothing to deliver: every frame chosen is left out');
  return wanted;
}

const ownLook = (f: Frame): string => (f.lookId === null ? '' : `${f.lookId} ${f.lookRevision}`);
/** The looks of their own that frames wear, each read once. */
async function ownLooks(frames: readonly Frame[]): Promise<Map<string, Look>> {
  const looks = new Map<string, Look>();
  for (const f of frames)
    if (f.lookId !== null && !looks.has(ownLook(f))) looks.set(ownLook(f), (await lookAt(f.lookId, f.lookRevision ?? undefined)).document);
  return looks;
}

/** Takes an order for a delivery. What is rendered is fixed here: each frame's groundwork, the look, the engine. */
export async function orderDelivery(order: Order): Promise<Job> {
  const shoot = found(await Shoot.findByPk(order.shootId), 'this shoot'),
    frames = await framesOf(order),
    look = shoot.lookId ? await lookAt(shoot.lookId, shoot.lookRevision ?? undefined) : null,
    own = await ownLooks(frames),
    ending = extensionOf[order.file.format],
    folder = order.folder ? typedPath(order.folder) : null;
  if (folder) makeFolder(folder);
  const plain = folder ? namesFor(frames, ending, () => false).map((n) => join(folder, n)) : [],
    there = new Set(plain.filter((p) => existsSync(p))),
    foreign = await notOurs([...there]);
  if (foreign.size > 0 && order.conflict === 'ask')
    throw new OrderQuestion(
      'conflict',
      `${foreign.size === 1 ? 'A file' : `${foreign.size} files`} of the same ${foreign.size === 1 ? 'name is' : 'names are'} in ${folder} that Dyepot did not make`,
      [...foreign].map((p) => p.slice(folder!.length + 1)),
    );
  const names =
    folder && order.conflict === 'rename' && foreign.size > 0
      ? namesFor(frames, ending, (name) => existsSync(join(folder, name)))
      : namesFor(frames, ending, () => false);
  return together(async (transaction) => {
    const job = await Job.create(
      {
        kind: 'delivery',
        shootId: shoot.id,
        state: 'waiting',
        settings: {
          file: order.file,
          look: look?.document ?? renditionLook(shoot.rendition),
          lookName: look?.name ?? (shoot.rendition === 'plain' ? 'Neutral response' : `Neutral response, ${shoot.rendition}`),
          lookRevision: look?.revision ?? null,
        },
        engineVersion,
        startedAt: null,
        finishedAt: null,
      },
      { transaction },
    );
    const out = folder ?? dataPath('deliveries', String(job.id));
    await job.update({ settings: { ...job.settings, folder: out } }, { transaction });
    await JobItem.bulkCreate(
      frames.map((f, i) => {
        const output = join(out, names[i]!);
        return {
          jobId: job.id,
          frameId: f.id,
          name: f.name,
          path: f.path,
          state: 'waiting' as const,
          output,
          message: null,
          seconds: null,
          groundwork: f.ground.groundwork,
          own: f.steps.own,
          repairs: f.mending.repairs.length > 0 ? f.mending.repairs : null,
          look: own.get(ownLook(f)) ?? null,
          // what was found to be Dyepot's own may go, or what a person said may; what comes later may not
          mayReplace: order.conflict === 'replace' ? there.has(output) : there.has(output) && !foreign.has(output),
        };
      }),
      { transaction },
    );
    return job;
  });
}

/** Orders anew what a delivery left undone, with its own look and groundwork, under the engine at hand. */
export async function orderRest(id: number): Promise<Job> {
  const job = found(await Job.findByPk(id), 'this delivery'),
    left = await JobItem.findAll({ where: { jobId: id, state: { [Op.ne]: 'done' } }, order: [['id', 'ASC']] });
  if (job.kind !== 'delivery' || left.length === 0) throw new ServiceError(409, 'there is nothing left of it to deliver');
  return together(async (transaction) => {
    const rest = await Job.create(
      {
        kind: 'delivery',
        shootId: job.shootId,
        state: 'waiting',
        settings: job.settings,
        engineVersion,
        startedAt: null,
        finishedAt: null,
      },
      { transaction },
    );
    await JobItem.bulkCreate(
      left.map(({ frameId, name, path, output, groundwork, own, repairs, look, mayReplace }) => ({
        jobId: rest.id,
        frameId,
        name,
        path,
        output,
        groundwork,
        own,
        repairs,
        look,
        mayReplace,
        state: 'waiting' as const,
        message: null,
        seconds: null,
      })),
      { transaction },
    );
    return rest;
  });
}
