import { existsSync, statSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { Op } from 'sequelize';
import { nameFrom, patternTrouble, plainPattern, type NameFacts } from '@dyepot/core/src/formats/fileNames.ts';
import { renditionLook } from '@dyepot/core/src/look/look.ts';
import type { LookSaid } from '@dyepot/core/src/formats/xmp.ts';
import { engineVersion } from '@dyepot/core/src/plan/plan.ts';
import { together } from '../db/database.ts';
import { Frame, Job, JobItem, Shoot, withRaw } from '../db/models.ts';
import { dataPath, typedPath } from '../places.ts';
import { PlainError } from '../plainError.ts';
import { found, ServiceError } from '../services/errors.ts';
import { lookAt, type ShelfLook } from '../services/looks.ts';
import { extensionOf, type FileSettings } from '../work/encodeFile.ts';
import { makeFolder, putInPlace, waitingName } from '../work/files.ts';
import type { RenderPool } from '../work/pool.ts';
import { isAsWritten, notOurs, type Maker } from './ours.ts';
import type { Trade } from './queue.ts';

/** What a delivery is asked for. */
export interface Order {
  shootId: number;
  frameIds: number[] | null;
  /** as typed; null is Dyepot's own */
  folder: string | null;
  file: FileSettings;
  /** how files are named; by their frame where it is not said */
  pattern?: string;
  /** the watched folder that orders it */
  watch?: number;
  /** names that frames' files had before, by the frame: they keep them */
  names?: ReadonlyMap<number, string>;
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
          lookSaid: item.lookSaid ?? { name: job.settings.lookName ?? '', revision: job.settings.lookRevision ?? null },
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

/** File names for frames by a pattern, each once. */
function namesFor(
  order: Order,
  frames: readonly Frame[],
  said: (f: Frame) => Omit<NameFacts, 'counter' | 'count'>,
  taken: (name: string) => boolean,
): string[] {
  const given = new Set<string>(),
    ending = extensionOf[order.file.format];
  return frames.map((f, i) => {
    const before = order.names?.get(f.id);
    if (before !== undefined && !taken(before)) return before;
    const stem = nameFrom(order.pattern ?? plainPattern, { ...said(f), counter: i + 1, count: frames.length });
    let name = `${stem}.${ending}`;
    for (let k = 2; given.has(name.toLowerCase()) || taken(name); k++) name = `${stem}-${k}.${ending}`;
    given.add(name.toLowerCase());
    return name;
  });
}

async function framesOf({ shootId, frameIds, doubtful }: Order): Promise<Frame[]> {
  const all = await Frame.findAll({
    where: { shootId, ...(frameIds ? { id: { [Op.in]: frameIds } } : {}) },
    include: { ...withRaw, attributes: ['doubt', 'facts'] },
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
async function ownLooks(frames: readonly Frame[]): Promise<Map<string, ShelfLook>> {
  const looks = new Map<string, ShelfLook>();
  for (const f of frames)
    if (f.lookId !== null && !looks.has(ownLook(f))) looks.set(ownLook(f), await lookAt(f.lookId, f.lookRevision ?? undefined));
  return looks;
}

const makerOf = ({ id, name, path }: Frame): Maker => ({ frameId: id, name, path });

/** Takes an order for a delivery. What is rendered is fixed here: each frame's groundwork, the look, the engine. */
export async function orderDelivery(order: Order): Promise<Job> {
  const shoot = found(await Shoot.findByPk(order.shootId), 'this shoot'),
    frames = await framesOf(order),
    look = shoot.lookId ? await lookAt(shoot.lookId, shoot.lookRevision ?? undefined) : null,
    own = await ownLooks(frames),
    // a dip is counted among all of its raw, also those that are not delivered
    dips = await Frame.findAll({ where: { shootId: shoot.id }, attributes: ['id', 'hash'] }),
    folder = order.folder ? typedPath(order.folder) : null;
  const trouble = patternTrouble(order.pattern ?? plainPattern);
  if (trouble) throw new ServiceError(400, trouble);
  if (folder) makeFolder(folder);
  const lookName = look?.name ?? (shoot.rendition === 'plain' ? 'Neutral response' : `Neutral response, ${shoot.rendition}`),
    lookSaid = (f: Frame): LookSaid => {
      const worn = own.get(ownLook(f)) ?? look;
      return { name: worn?.name ?? lookName, revision: worn?.revision ?? null };
    };
  const said = (f: Frame): Omit<NameFacts, 'counter' | 'count'> => ({
    frame: f.name,
    shoot: shoot.name,
    look: lookSaid(f).name,
    revision: lookSaid(f).revision,
    date: (f.raw.facts.exif.takenAt ?? new Date().toISOString()).slice(0, 10),
    dip: dips.filter((o) => o.hash === f.hash && o.id <= f.id).length,
  });
  const named = (taken: (name: string) => boolean): string[] => namesFor(order, frames, said, taken);
  const plain = folder ? named(() => false).map((n) => join(folder, n)) : [],
    there = new Set(plain.filter((p) => existsSync(p))),
    foreign = await notOurs(new Map(plain.map((p, i) => [p, makerOf(frames[i]!)])));
  if (foreign.size > 0 && order.conflict === 'ask')
    throw new OrderQuestion(
      'conflict',
      `${foreign.size === 1 ? 'A file' : `${foreign.size} files`} of the same ${foreign.size === 1 ? 'name is' : 'names are'} in ${folder} that ${[...foreign.values()].includes('foreign') ? 'Dyepot did not make' : `${foreign.size === 1 ? 'is' : 'are'} made of other frames`}`,
      [...foreign.keys()].map((p) => p.slice(folder!.length + 1)),
    );
  const names =
    folder && order.conflict === 'rename' && foreign.size > 0 ? named((name) => existsSync(join(folder, name))) : named(() => false);
  return together(async (transaction) => {
    const job = await Job.create(
      {
        kind: 'delivery',
        shootId: shoot.id,
        state: 'waiting',
        settings: {
          file: order.file,
          look: look?.document ?? renditionLook(shoot.rendition),
          lookName,
          pattern: order.pattern ?? plainPattern,
          ...(order.watch !== undefined && { watch: order.watch }),
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
          look: own.get(ownLook(f))?.document ?? null,
          lookSaid: own.has(ownLook(f)) ? lookSaid(f) : null,
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
  const left = await JobItem.findAll({ where: { jobId: id, state: { [Op.ne]: 'done' } }, order: [['id', 'ASC']] });
  if (left.length === 0) throw new ServiceError(409, 'there is nothing left of it to deliver');
  return orderedLike(id, left, (i) => i.mayReplace);
}
/** Orders a whole delivery once more as it was ordered: under the same engine the files are the same, byte for byte. */
export async function orderAgain(id: number): Promise<Job> {
  const job = found(await Job.findByPk(id), 'this delivery');
  if (job.engineVersion !== engineVersion)
    throw new ServiceError(
      409,
      `it was rendered by engine ${job.engineVersion}, and this is engine ${engineVersion}, which renders differently`,
    );
  const items = await JobItem.findAll({ where: { jobId: id }, order: [['id', 'ASC']] }),
    foreign = await notOurs(new Map(items.map((i) => [i.output!, i])));
  if (foreign.size > 0)
    throw new ServiceError(
      409,
      `${basename([...foreign.keys()][0]!)}${foreign.size > 1 ? ` and ${foreign.size - 1} more` : ''} in its folder is not what it wrote there: move it away first`,
    );
  return orderedLike(id, items, (i) => existsSync(i.output!));
}
async function orderedLike(id: number, items: readonly JobItem[], mayReplace: (item: JobItem) => boolean): Promise<Job> {
  const job = found(await Job.findByPk(id), 'this delivery');
  if (job.kind !== 'delivery') throw new ServiceError(409, 'this is an import, which delivers nothing');
  return together(async (transaction) => {
    const { shootId, settings } = job,
      next = await Job.create(
        { kind: 'delivery', shootId, state: 'waiting', settings, engineVersion, startedAt: null, finishedAt: null },
        { transaction },
      );
    await JobItem.bulkCreate(
      items.map((item) => {
        const { frameId, name, path, output, groundwork, own, repairs, look, lookSaid } = item;
        return {
          jobId: next.id,
          frameId,
          name,
          path,
          output,
          groundwork,
          own,
          repairs,
          look,
          lookSaid,
          mayReplace: mayReplace(item),
          state: 'waiting' as const,
          message: null,
          seconds: null,
        };
      }),
      { transaction },
    );
    return next;
  });
}
