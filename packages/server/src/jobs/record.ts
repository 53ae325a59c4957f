import { createHash } from 'node:crypto';
import { basename, dirname } from 'node:path';
import { Op } from 'sequelize';
import { renditionLook, type Look } from '@dyepot/core/src/look/look.ts';
import { engineVersion } from '@dyepot/core/src/plan/plan.ts';
import { writeLook } from '@dyepot/core/src/look/schema.ts';
import { Frame, Job, JobItem, Shoot, withRaw } from '../db/models.ts';
import { found, ServiceError } from '../services/errors.ts';
import { lookAt } from '../services/looks.ts';
import type { FileSettings } from '../work/encodeFile.ts';
import type { Order } from './ordering.ts';

/** What made which file: enough to check each, and to make it again. */
export interface DeliveryRecord {
  format: 'dyepot-record';
  version: 1;
  delivery: number;
  shoot: string;
  look: string;
  lookRevision: number | null;
  /** SHA-256 of the look as it is written */
  lookSha256: string;
  engineVersion: number;
  orderedAt: string;
  finishedAt: string | null;
  settings: FileSettings;
  folder: string;
  files: RecordedFile[];
}
export interface RecordedFile {
  file: string;
  /** where it lies and how it is made, where that is not as the record says of all */
  folder?: string;
  settings?: FileSettings;
  frame: string;
  raw: string;
  /** SHA-256 of the raw's content, shortened as Dyepot keeps it */
  rawHash: string | null;
  /** of groundwork, own steps and repairs together */
  frameSha256: string;
  bytes: number;
  sha256: string;
}
const sha256 = (value: unknown): string =>
  createHash('sha256')
    .update(JSON.stringify(value) ?? '')
    .digest('hex');

async function itemsOf(id: number, state?: JobItem['state']): Promise<{ job: Job; items: JobItem[] }> {
  const job = found(await Job.findByPk(id), 'this delivery');
  if (job.kind !== 'delivery') throw new ServiceError(409, 'this is an import, which delivers nothing');
  return { job, items: await JobItem.findAll({ where: { jobId: id, ...(state && { state }) }, order: [['id', 'ASC']] }) };
}

/** The record of a delivery's finished files. */
export async function recordOf(id: number): Promise<DeliveryRecord> {
  const { job, items } = await itemsOf(id, 'done'),
    { settings } = job,
    shoot = await Shoot.findByPk(job.shootId, { paranoid: false }),
    hashes = new Map(
      (await Frame.findAll({ where: { id: items.map((i) => i.frameId!) }, attributes: ['id', 'hash'], paranoid: false })).map((f) => [
        f.id,
        f.hash,
      ]),
    );
  return {
    format: 'dyepot-record',
    version: 1,
    delivery: id,
    shoot: shoot?.name ?? '',
    look: settings.lookName ?? '',
    lookRevision: settings.lookRevision ?? null,
    lookSha256: settings.look ? createHash('sha256').update(writeLook(settings.look)).digest('hex') : '',
    engineVersion: job.engineVersion,
    orderedAt: job.createdAt.toISOString(),
    finishedAt: job.finishedAt?.toISOString() ?? null,
    settings: settings.file!,
    folder: settings.folder ?? '',
    files: items.flatMap((i) =>
      i.written && i.output
        ? [
            {
              file: basename(i.output),
              ...(dirname(i.output) !== settings.folder && { folder: dirname(i.output) }),
              ...(i.file && { settings: i.file }),
              frame: i.name,
              raw: i.path,
              rawHash: hashes.get(i.frameId!) ?? null,
              frameSha256: sha256([i.groundwork ?? null, i.own ?? null, i.repairs ?? null, i.look ?? null]),
              bytes: i.written.bytes,
              sha256: i.written.sha256,
            },
          ]
        : [],
    ),
  };
}

/** A frame that would be delivered otherwise now, and why. */
export interface Moved {
  frameId: number;
  name: string;
  why: string[];
}
/** What has moved since a delivery was ordered: frames whose look, groundwork, trims or repairs are others now. */
export async function movedSince(id: number): Promise<{ moved: Moved[]; gone: string[]; engine: boolean }> {
  const { job, items } = await itemsOf(id),
    shoot = await Shoot.findByPk(job.shootId),
    frames = new Map(
      (
        await Frame.findAll({ where: { id: { [Op.in]: items.map((i) => i.frameId!) } }, include: { ...withRaw, attributes: ['doubt'] } })
      ).map((f) => [f.id, f]),
    );
  const worn = shoot?.lookId
      ? (await lookAt(shoot.lookId, shoot.lookRevision ?? undefined)).document
      : renditionLook(shoot?.rendition ?? 'plain'),
    own = new Map<string, Look>();
  const moved: Moved[] = [];
  for (const i of onceEach(items)) {
    const f = frames.get(i.frameId!);
    if (!f) continue;
    const key = `${f.lookId} ${f.lookRevision}`;
    if (f.lookId !== null && !own.has(key)) own.set(key, (await lookAt(f.lookId, f.lookRevision ?? undefined)).document);
    const why = [
      differ(f.lookId === null ? worn : own.get(key)!, i.look ?? job.settings.look ?? null) && 'its look',
      differ(f.ground.groundwork, i.groundwork ?? null) && 'its groundwork',
      differ(f.steps.own, i.own ?? null) && 'its trim or its own steps',
      differ(f.mending.repairs, i.repairs ?? []) && 'its repairs',
    ].filter((w) => w !== false);
    if (why.length > 0) moved.push({ frameId: f.id, name: f.name, why });
  }
  return {
    moved,
    gone: onceEach(items)
      .filter((i) => !frames.has(i.frameId!))
      .map((i) => i.name),
    engine: job.engineVersion !== engineVersion,
  };
}
/** One item of each frame: its files are made of the same. */
const onceEach = (items: readonly JobItem[]): JobItem[] => [...new Map(items.map((i) => [i.frameId, i])).values()];
const differ = (p: unknown, q: unknown): boolean => JSON.stringify(p) !== JSON.stringify(q);

/** The names of frames' files, by the frame and which of its files it is. */
function namesOf(items: readonly JobItem[]): Map<string, string> {
  const counts = new Map<number, number>();
  return new Map(
    items.map((i) => {
      const k = counts.get(i.frameId!) ?? 0;
      counts.set(i.frameId!, k + 1);
      return [`${i.frameId!} ${k}`, basename(i.output!)];
    }),
  );
}
/** An order for what has moved since a delivery: into its folder, under the names the files had. */
export async function orderMoved(id: number, answers: Pick<Order, 'conflict' | 'doubtful' | 'room'>): Promise<Order> {
  const { job, items } = await itemsOf(id),
    { moved } = await movedSince(id);
  if (moved.length === 0) throw new ServiceError(409, 'nothing of it has moved since');
  return {
    shootId: job.shootId,
    frameIds: moved.map((m) => m.frameId),
    folder: job.settings.folder ?? null,
    file: job.settings.file!,
    ...(job.settings.pattern && { pattern: job.settings.pattern }),
    ...(job.settings.also && { also: job.settings.also }),
    names: namesOf(items),
    ...answers,
  };
}
