import { validateLook } from '@dyepot/core/src/look/schema.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { together } from '../db/database.ts';
import { Draft, LookRecord } from '../db/models.ts';
import { found, ServiceError } from './errors.ts';
import { Overtaken } from './groundwork.ts';
import { stripOf } from './lookFaces.ts';
import { tellNews } from './news.ts';

/** Work in progress on the bench, as it is sent to be kept. */
export interface DraftWish {
  lookId: number | null;
  revision: number | null;
  look: unknown;
  past: object[];
  future: object[];
}
export interface DraftView {
  id: number;
  lookId: number | null;
  revision: number | null;
  version: number;
  look: Look;
  past: object[];
  future: object[];
  changedAt: Date;
}
/** A draft as the Shelf lists it. */
export interface DraftCard {
  id: number;
  lookId: number | null;
  revision: number | null;
  name: string;
  steps: number;
  strip: string[];
  changedAt: Date;
  broken: string | null;
}

function checkedLook(document: unknown): Look {
  const read = validateLook(document);
  if ('message' in read) throw new ServiceError(400, read.message);
  return read.look;
}
function view(d: Draft): DraftView {
  const read = validateLook(d.document);
  if ('message' in read) throw new ServiceError(409, `this draft cannot be read: ${read.message}`);
  const { id, lookId, revision, version, past, future, changedAt } = d;
  return { id, lookId, revision, version, look: read.look, past, future, changedAt };
}
const told = (): void => tellNews({ kind: 'drafts' });

/** The dye strip of each draft at its last save; the list is asked for at every save of any of them. */
const strips = new Map<number, { version: number; strip: string[] }>();
async function stripOfDraft(id: number, version: number, look: Look): Promise<string[]> {
  const known = strips.get(id);
  if (known?.version === version) return known.strip;
  const strip = await stripOf(look);
  strips.set(id, { version, strip });
  return strip;
}

/** All drafts, newest first. */
export async function listDrafts(): Promise<DraftCard[]> {
  const drafts = await Draft.findAll({ attributes: { exclude: ['past', 'future'] }, order: [['changedAt', 'DESC']] });
  return Promise.all(
    drafts.map(async ({ id, version, lookId, revision, changedAt, document }) => {
      const read = validateLook(document);
      return 'message' in read
        ? { id, lookId, revision, changedAt, name: 'A draft', steps: 0, strip: [], broken: read.message }
        : {
            id,
            lookId,
            revision,
            changedAt,
            name: read.look.name,
            steps: read.look.scene.length + read.look.print.length + 1,
            strip: await stripOfDraft(id, version, read.look),
            broken: null,
          };
    }),
  );
}
export const draftById = async (id: number): Promise<DraftView> => view(found(await Draft.findByPk(id), 'this draft'));
export async function draftOfLook(lookId: number): Promise<DraftView | null> {
  const d = await Draft.findOne({ where: { lookId } });
  return d && view(d);
}

/** Begins a draft. A look has at most one: refused with the one there is. */
export async function beginDraft(wish: DraftWish): Promise<DraftView> {
  const document = checkedLook(wish.look);
  const draft = await together(async (transaction) => {
    if (wish.lookId !== null) {
      found(await LookRecord.findByPk(wish.lookId, { transaction }), 'this look');
      const there = await Draft.findOne({ where: { lookId: wish.lookId }, transaction });
      if (there) throw new Overtaken(`${document.name} is being edited in another window`, view(there));
    }
    const { lookId, revision, past, future } = wish;
    return Draft.create({ lookId, revision, version: 1, document, past, future, changedAt: new Date() }, { transaction });
  });
  told();
  return view(draft);
}
/** Keeps a draft's next state. Refused with what stands when another window saved since `version`. */
export async function saveDraft(id: number, version: number, wish: DraftWish): Promise<{ id: number; version: number }> {
  const document = checkedLook(wish.look);
  const draft = await together(async (transaction) => {
    const d = found(await Draft.findByPk(id, { transaction }), 'this draft');
    if (d.version !== version) throw new Overtaken(`${document.name} was changed in another window`, view(d));
    const { lookId, revision, past, future } = wish;
    return d.update({ lookId, revision, document, past, future, version: version + 1, changedAt: new Date() }, { transaction });
  });
  told();
  return { id, version: draft.version };
}
/** Takes a draft out, to the trash. */
export async function takeOutDraft(id: number): Promise<void> {
  await found(await Draft.findByPk(id), 'this draft').destroy();
  told();
  tellNews({ kind: 'trash' });
}
/** Ends a draft whose work is a revision now. */
export async function endDraft(id: number): Promise<void> {
  await Draft.destroy({ where: { id }, force: true });
  told();
}
