import { existsSync, statfsSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { Op } from 'sequelize';
import { nameFrom, patternTrouble, plainPattern, type NameFacts } from '@dyepot/core/src/formats/fileNames.ts';
import { renditionLook } from '@dyepot/core/src/look/look.ts';
import type { LookSaid } from '@dyepot/core/src/formats/xmp.ts';
import { engineVersion } from '@dyepot/core/src/plan/plan.ts';
import { together } from '../db/database.ts';
import { Frame, Job, JobItem, Shoot, withRaw } from '../db/models.ts';
import { dataFolder, dataPath, typedPath } from '../places.ts';
import { found, ServiceError } from '../services/errors.ts';
import { lookAt, type ShelfLook } from '../services/looks.ts';
import { extensionOf, likelyBytes, type FileSettings } from '../work/encodeFile.ts';
import { makeFolder } from '../work/files.ts';
import { notOurs, sourcesIn, type Maker } from './ours.ts';

/** One file that is made of each frame. */
export interface Wanted {
  /** the preset it comes from, if it does */
  name?: string;
  /** as typed; null is Dyepot's own */
  folder: string | null;
  file: FileSettings;
  /** how files are named; by their frame where it is not said */
  pattern?: string;
}
/** What a delivery is asked for. */
export interface Order extends Wanted {
  shootId: number;
  frameIds: number[] | null;
  /** more files of each frame, made from the same decoded raw */
  also?: Wanted[];
  /** the watched folder that orders it */
  watch?: number;
  /** names that frames' files had before, by the frame and which of its files it is: they keep them */
  names?: ReadonlyMap<string, string>;
  /** what happens to files of the same names that Dyepot did not make: nothing is done before this is answered */
  conflict: 'ask' | 'rename' | 'replace';
  /** what happens to frames whose raw may not be whole */
  doubtful: 'ask' | 'leave out' | 'deliver';
  /** whether it is ordered though its folder's disk may not have the room */
  room: 'ask' | 'deliver';
}
/** A question an order asks before anything is done. */
export class OrderQuestion extends ServiceError {
  readonly question: 'conflict' | 'doubtful' | 'room';
  readonly names: string[];
  readonly count: number;
  constructor(question: OrderQuestion['question'], message: string, names: string[]) {
    super(409, message);
    this.question = question;
    this.names = names.slice(0, 12);
    this.count = names.length;
  }
}

/** File names for frames by a pattern, each once among those `given` in the folder. */
function namesFor(
  { pattern, file }: Wanted,
  frames: readonly Frame[],
  said: (f: Frame) => Omit<NameFacts, 'counter' | 'count'>,
  taken: (name: string) => boolean,
  given: Set<string>,
  before: (f: Frame) => string | undefined,
): string[] {
  const ending = extensionOf[file.format];
  return frames.map((f, i) => {
    const known = before(f);
    if (known !== undefined && !taken(known)) return known;
    const stem = nameFrom(pattern ?? plainPattern, { ...said(f), counter: i + 1, count: frames.length });
    let name = `${stem}.${ending}`;
    for (let k = 2; given.has(name.toLowerCase()) || taken(name); k++) name = `${stem}-${k}.${ending}`;
    given.add(name.toLowerCase());
    return name;
  });
}
/** From this size on a delivery looks at the disk first; what is kept free beside it. */
const largeBytes = 500e6,
  spareBytes = 200e6;
/** What a delivery would likely take of the disks it is written to that do not have so much; in words, null where all do. */
export function lacking(
  wanted: readonly { file: FileSettings; folder: string }[],
  frames: readonly { raw: Pick<Frame['raw'], 'width' | 'height'> }[],
  freeIn: (folder: string) => number = (folder) => {
    const { bavail, bsize } = statfsSync(folder);
    return bavail * bsize;
  },
): string | null {
  const needs = new Map<string, number>();
  for (const { file, folder } of wanted)
    needs.set(folder, (needs.get(folder) ?? 0) + frames.reduce((sum, f) => sum + likelyBytes(f.raw.width, f.raw.height, file), 0));
  for (const [folder, bytes] of needs) {
    if (bytes < largeBytes) continue;
    const free = freeIn(folder);
    if (free < bytes + spareBytes)
      return `It would take about ${(bytes / 1e9).toFixed(1)} GB in ${folder}, and ${(free / 1e9).toFixed(1)} GB are free there`;
  }
  return null;
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
    worn = await ownLooks(frames),
    // a dip is counted among all of its raw, also those that are not delivered
    dips = await Frame.findAll({ where: { shootId: shoot.id }, attributes: ['id', 'hash'] }),
    wanted = [order, ...(order.also ?? [])].map((w) => ({ ...w, folder: w.folder ? typedPath(w.folder) : null }));
  for (const { pattern, folder } of wanted) {
    const trouble = patternTrouble(pattern ?? plainPattern);
    if (trouble) throw new ServiceError(400, trouble);
    if (folder) makeFolder(folder);
  }
  const lookName = look?.name ?? (shoot.rendition === 'plain' ? 'Neutral response' : `Neutral response, ${shoot.rendition}`),
    lookSaid = (f: Frame): LookSaid => {
      const its = worn.get(ownLook(f)) ?? look;
      return { name: its?.name ?? lookName, revision: its?.revision ?? null };
    };
  const said = (f: Frame): Omit<NameFacts, 'counter' | 'count'> => ({
    frame: f.name,
    shoot: shoot.name,
    look: lookSaid(f).name,
    revision: lookSaid(f).revision,
    date: (f.raw.facts.exif.takenAt ?? new Date().toISOString()).slice(0, 10),
    dip: dips.filter((o) => o.hash === f.hash && o.id <= f.id).length,
  });
  // files of one folder have names of their own, whichever preset they come from
  const named = (taken: (folder: string | null, name: string) => boolean): string[][] => {
    const given = new Map<string | null, Set<string>>();
    return wanted.map((w, k) => {
      const own = given.get(w.folder) ?? new Set<string>();
      given.set(w.folder, own);
      return namesFor(
        w,
        frames,
        said,
        (name) => taken(w.folder, name),
        own,
        (f) => order.names?.get(`${f.id} ${k}`),
      );
    });
  };
  // what stands in a shoot is never written over, whatever is answered: its own name stays its
  const sources = await sourcesIn(wanted.flatMap((w) => w.folder ?? [])),
    aSource = (folder: string | null, name: string): boolean => folder !== null && sources.has(join(folder, name));
  const plain = named(aSource).flatMap((names, k) =>
      names.flatMap((name, i): [string, Maker][] => (wanted[k]!.folder ? [[join(wanted[k]!.folder, name), makerOf(frames[i]!)]] : [])),
    ),
    there = new Set(plain.map(([p]) => p).filter((p) => existsSync(p))),
    foreign = await notOurs(new Map(plain));
  if (foreign.size > 0 && order.conflict === 'ask') {
    const folders = [...new Set([...foreign.keys()].map((p) => dirname(p)))].join(' and ');
    throw new OrderQuestion(
      'conflict',
      `${foreign.size === 1 ? 'A file' : `${foreign.size} files`} of the same ${foreign.size === 1 ? 'name is' : 'names are'} in ${folders} that ${[...foreign.values()].includes('foreign') ? 'Dyepot did not make' : `${foreign.size === 1 ? 'is' : 'are'} made of other frames`}`,
      [...foreign.keys()].map((p) => basename(p)),
    );
  }
  const short =
    order.room === 'ask'
      ? lacking(
          wanted.map((w) => ({ ...w, folder: w.folder ?? dataFolder() })),
          frames,
        )
      : null;
  if (short) throw new OrderQuestion('room', short, []);
  const names =
    order.conflict === 'rename' && foreign.size > 0
      ? named((folder, name) => folder !== null && existsSync(join(folder, name)))
      : named(aSource);
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
          ...(order.name !== undefined && { name: order.name }),
          lookRevision: look?.revision ?? null,
        },
        engineVersion,
        startedAt: null,
        finishedAt: null,
      },
      { transaction },
    );
    const own = dataPath('deliveries', String(job.id)),
      also = wanted.slice(1).map(({ name, folder, file, pattern }) => ({
        ...(name !== undefined && { name }),
        folder: folder ?? own,
        file,
        pattern: pattern ?? plainPattern,
      }));
    await job.update(
      { settings: { ...job.settings, folder: wanted[0]!.folder ?? own, ...(also.length > 0 && { also }) } },
      { transaction },
    );
    const each = frames.flatMap((f, i) => wanted.map((w, k) => ({ f, w, k, output: join(w.folder ?? own, names[k]![i]!) })));
    await JobItem.bulkCreate(
      each.map(({ f, k, w, output }) => {
        return {
          file: k === 0 ? null : w.file,
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
          look: worn.get(ownLook(f))?.document ?? null,
          lookSaid: worn.has(ownLook(f)) ? lookSaid(f) : null,
          // what was found to be Dyepot's own may go, or what a person said may; what comes later may not
          mayReplace: order.conflict === 'replace' ? there.has(output) : there.has(output) && !foreign.has(output),
        };
      }),
      { transaction },
    );
    return job;
  });
}
