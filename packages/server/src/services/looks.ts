import { readFileSync } from 'node:fs';
import { dyeStrip } from '@dyepot/core/src/look/dyestrip.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { validateLook } from '@dyepot/core/src/look/schema.ts';
import { loadKernels, type Kernels } from '@dyepot/core/src/render/kernels.ts';
import { LookRecord, LookRevision, Shoot } from '../db/models.ts';
import { kernelsFile } from '../places.ts';
import { found, ServiceError } from './errors.ts';

let kernels: Promise<Kernels> | null = null;

export interface LookSummary {
  id: number;
  name: string;
  family: string;
  revision: number;
  strip: string[];
  document: Look;
}

function checked(document: unknown): Look {
  const read = validateLook(document);
  if ('message' in read) throw new ServiceError(400, read.message);
  return read.look;
}

async function store(record: LookRecord, look: Look): Promise<LookSummary> {
  const strip = dyeStrip(await (kernels ??= loadKernels(readFileSync(kernelsFile))), look);
  await LookRevision.create({ lookId: record.id, revision: record.revision, document: look, strip });
  return { id: record.id, name: record.name, family: record.family, revision: record.revision, strip, document: look };
}

/** All looks at their newest revisions, by name. */
export async function listLooks(): Promise<LookSummary[]> {
  const records = await LookRecord.findAll({ order: [['name', 'ASC']] });
  return Promise.all(records.map((r) => lookAt(r.id, r.revision)));
}

/** A look at a revision (its newest when none is given). */
export async function lookAt(id: number, revision?: number): Promise<LookSummary> {
  const record = found(await LookRecord.findByPk(id), 'this look');
  const r = found(await LookRevision.findOne({ where: { lookId: id, revision: revision ?? record.revision } }), 'this revision');
  return { id, name: r.document.name, family: r.document.family, revision: r.revision, strip: r.strip, document: r.document };
}

/** Puts a new look on the shelf as revision 1. */
export async function createLook(document: unknown): Promise<LookSummary> {
  const look = checked(document);
  return store(await LookRecord.create({ name: look.name, family: look.family, revision: 1 }), look);
}

/** Saves the next revision of a look; earlier ones stay. */
export async function saveRevision(id: number, document: unknown): Promise<LookSummary> {
  const look = checked(document),
    record = found(await LookRecord.findByPk(id), 'this look');
  await record.update({ name: look.name, family: look.family, revision: record.revision + 1 });
  return store(record, look);
}

export async function revisionsOf(id: number): Promise<{ revision: number; createdAt: Date; strip: string[] }[]> {
  return (await LookRevision.findAll({ where: { lookId: id }, order: [['revision', 'DESC']] })).map((r) => ({
    revision: r.revision,
    createdAt: r.createdAt,
    strip: r.strip,
  }));
}

/** Takes a look off the shelf; refused while a shoot wears it. */
export async function deleteLook(id: number): Promise<void> {
  const record = found(await LookRecord.findByPk(id), 'this look');
  const worn = await Shoot.findOne({ where: { lookId: id } });
  if (worn) throw new ServiceError(409, `${record.name} is worn by the shoot “${worn.name}”; give that another look first`);
  await record.destroy();
}
