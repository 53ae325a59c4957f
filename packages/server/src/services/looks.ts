import { Op, literal } from 'sequelize';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { validateLook } from '@dyepot/core/src/look/schema.ts';
import { together } from '../db/database.ts';
import { Draft, LookRecord, LookRevision, Shoot } from '../db/models.ts';
import { found, ServiceError } from './errors.ts';
import { faceOf, findableBy, foundUnder } from './lookFaces.ts';
import { tellNews } from './news.ts';

/** A look with its document, at one revision. */
export interface ShelfLook {
  id: number;
  name: string;
  family: string;
  /** of this document */
  revision: number;
  /** the newest there is */
  newest: number;
  strip: string[];
  document: Look;
}
/** A look as a card shows it. */
export interface LookCard {
  id: number;
  name: string;
  family: string;
  revision: number;
  strip: string[];
  notes: string;
  tags: string[];
  favourite: boolean;
  savedAt: Date | null;
  /** why it cannot be read; null when it can */
  broken: string | null;
}

function checked(document: unknown): Look {
  const read = validateLook(document);
  if ('message' in read) throw new ServiceError(400, read.message);
  return read.look;
}
/** What is read of a revision; revisions never change, so each is checked once. */
const readRevisions = new Map<number, { look: Look } | { message: string }>();
export function readRevision(r: LookRevision): { look: Look } | { message: string } {
  const known = readRevisions.get(r.id);
  if (known) return known;
  const read = validateLook(r.document);
  if (readRevisions.size > 2000) readRevisions.clear();
  readRevisions.set(r.id, read);
  return read;
}

/** All looks at their newest revisions, by name, in two questions. One that cannot be read says why and hides no other. */
export async function listLooks(): Promise<LookCard[]> {
  const records = await LookRecord.findAll({ order: [['name', 'ASC']] });
  const newest = await LookRevision.findAll({
    where: {
      lookId: { [Op.in]: records.map((r) => r.id) },
      revision: { [Op.eq]: literal('(SELECT revision FROM looks WHERE looks.id = lookId)') },
    },
  });
  const revisions = new Map(newest.map((r) => [r.lookId, r]));
  return records.map((record) => {
    const { id, name, family, revision, favourite, savedAt } = record,
      r = revisions.get(id),
      read = r ? readRevision(r) : { message: `revision ${revision} is not there` };
    return 'message' in read
      ? { id, name, family, revision, favourite, savedAt, strip: [], notes: '', tags: [], broken: read.message }
      : { id, name, family, revision, favourite, savedAt, strip: r!.strip, notes: read.look.notes, tags: read.look.tags, broken: null };
  });
}

/** A look at a revision (its newest when none is given); one in the trash is still had by those who wear it. */
export async function lookAt(id: number, revision?: number): Promise<ShelfLook> {
  const record = found(await LookRecord.findByPk(id, { paranoid: false }), 'this look');
  const r = found(await LookRevision.findOne({ where: { lookId: id, revision: revision ?? record.revision } }), 'this revision');
  const read = readRevision(r);
  if ('message' in read) throw new ServiceError(409, `revision ${r.revision} of ${record.name} cannot be read: ${read.message}`);
  return {
    id,
    name: read.look.name,
    family: read.look.family,
    revision: r.revision,
    newest: record.revision,
    strip: r.strip,
    document: read.look,
  };
}

/** A look that may be put on: of the shelf, not of the trash. */
export async function lookToWear(id: number, revision: number | null): Promise<ShelfLook> {
  const look = await lookAt(id, revision ?? undefined);
  if (!(await LookRecord.findByPk(id, { attributes: ['id'] })))
    throw new ServiceError(409, `${look.name} is in the trash: put it back on the shelf first`);
  return look;
}

/** Puts a new look on the shelf as revision 1; `lineage` is what it said elsewhere. */
export async function createLook(document: unknown, lineage: string[] = []): Promise<ShelfLook> {
  const look = checked(document),
    { strip, colours, found: words } = await faceOf(look);
  const record = await together(async (transaction) => {
    const r = await LookRecord.create({ name: look.name, family: look.family, revision: 1, lineage, savedAt: new Date() }, { transaction });
    await LookRevision.create({ lookId: r.id, revision: 1, document: look, strip, colours }, { transaction });
    await findableBy(r.id, look, words, transaction);
    return r;
  });
  tellNews({ kind: 'looks' });
  return { id: record.id, name: look.name, family: look.family, revision: 1, newest: 1, strip, document: look };
}

/** Saves the next revision of a look; earlier ones stay. Refused when it was made `from` a revision that is not the newest. */
export async function saveRevision(id: number, document: unknown, from: number | null): Promise<ShelfLook> {
  const look = checked(document),
    { strip, colours, found: words } = await faceOf(look);
  const record = await together(async (transaction) => {
    const r = found(await LookRecord.findByPk(id, { transaction }), 'this look');
    if (from !== null && from !== r.revision)
      throw new ServiceError(409, `${r.name} is at revision ${r.revision}, and this was made from revision ${from}`);
    await r.update({ name: look.name, family: look.family, revision: r.revision + 1, savedAt: new Date() }, { transaction });
    await LookRevision.create({ lookId: id, revision: r.revision, document: look, strip, colours }, { transaction });
    await findableBy(id, look, words, transaction);
    return r;
  });
  tellNews({ kind: 'looks' });
  return { id, name: look.name, family: look.family, revision: record.revision, newest: record.revision, strip, document: look };
}

/** Saves the next revision of a look of which only its family and tags are others: what it does, and how it looks, is as before. False where they are the same. */
export const saveSayings = (id: number, change: (look: Look) => Pick<Look, 'family' | 'tags'>): Promise<boolean> =>
  together(async (transaction) => {
    const record = found(await LookRecord.findByPk(id, { transaction }), 'this look'),
      before = found(await LookRevision.findOne({ where: { lookId: id, revision: record.revision }, transaction }), 'this revision'),
      read = readRevision(before),
      { strip, colours } = before;
    if ('message' in read) throw new ServiceError(409, `${record.name} cannot be read: ${read.message}`);
    const look = checked({ ...read.look, ...change(read.look) });
    if (look.family === read.look.family && look.tags.join('\n') === read.look.tags.join('\n')) return false;
    await record.update({ family: look.family, revision: record.revision + 1, savedAt: new Date() }, { transaction });
    await LookRevision.create({ lookId: id, revision: record.revision, document: look, strip, colours }, { transaction });
    await foundUnder(id, look, transaction);
    return true;
  });

/** Takes a look off the shelf, to the trash, with its draft; refused while a shoot wears it. */
export async function takeOutLook(id: number): Promise<void> {
  await together(async (transaction) => {
    const record = found(await LookRecord.findByPk(id, { transaction }), 'this look'),
      worn = await Shoot.findOne({ where: { lookId: id }, transaction });
    if (worn) throw new ServiceError(409, `${record.name} is worn by the shoot “${worn.name}”; give that another look first`);
    await record.destroy({ transaction });
    await Draft.destroy({ where: { lookId: id }, transaction });
  });
  tellNews({ kind: 'looks' });
  tellNews({ kind: 'drafts' });
  tellNews({ kind: 'trash' });
}
