import { Op } from 'sequelize';
import { LookRecord, LookRevision } from '../db/models.ts';
import { pack, sayingOf, unpack, type ParcelLook, type Unpacked } from '../work/parcel.ts';
import { found, ServiceError } from './errors.ts';
import { stripOf } from './lookFaces.ts';
import { createLook, readRevision, saveRevision, type ShelfLook } from './looks.ts';

const mostAtOnce = 5000,
  mostFaces = 200;

/** Looks as one file. */
export async function parcelOf(ids: readonly number[]): Promise<{ name: string; data: Buffer }> {
  if (ids.length === 0 || ids.length > mostAtOnce) throw new ServiceError(400, `1 to ${mostAtOnce} looks go into a file`);
  const looks: ParcelLook[] = [];
  for (const id of new Set(ids)) looks.push(await sent(id));
  return { name: looks.length === 1 ? looks[0]!.look.name : `${looks.length} looks`, data: await pack(looks) };
}
/** A family, or the whole shelf, as one file; what cannot be read stays here. */
export async function parcelOfAll(family: string | null): Promise<{ name: string; data: Buffer }> {
  const looks: ParcelLook[] = [];
  for (const { id } of await LookRecord.findAll({ where: family === null ? {} : { family }, attributes: ['id'], order: [['id', 'ASC']] })) {
    const look = await sent(id).catch((error: unknown) => {
      if (error instanceof ServiceError) return null;
      throw error;
    });
    if (look) looks.push(look);
    if (looks.length > mostAtOnce) throw new ServiceError(400, `1 to ${mostAtOnce} looks go into a file; choose some of them`);
  }
  if (looks.length === 0) throw new ServiceError(404, family === null ? 'the shelf is empty' : `no look is of the family “${family}”`);
  return { name: family ?? 'Shelf', data: await pack(looks) };
}
async function sent(id: number): Promise<ParcelLook> {
  const record = found(await LookRecord.findByPk(id), 'this look'),
    rows = await LookRevision.findAll({ where: { lookId: id }, attributes: { exclude: ['colours'] }, order: [['revision', 'ASC']] }),
    newest = found(rows.at(-1) ?? null, 'this look'),
    read = readRevision(newest);
  if ('message' in read) throw new ServiceError(409, `${record.name} cannot be read: ${read.message}`);
  const own = rows.flatMap((r) => {
    const look = readRevision(r);
    return 'look' in look ? [sayingOf(look.look)] : [];
  });
  return { look: read.look, history: [...new Set([...record.lineage, ...own])], strip: newest.strip };
}
/** How a look of a parcel stands to those on the shelf. */
export type Standing =
  | { kind: 'new' }
  /** the shelf's look says the same, now or at an earlier revision */
  | { kind: 'same' | 'older'; id: number; name: string; revision: number }
  /** it was made from what the shelf's look says now */
  | { kind: 'newer'; id: number; name: string; revision: number };
export interface Arrival {
  look: Unpacked['look'];
  strip: string[];
  standing: Standing;
}
/** What is in a parcel, and how it stands to the shelf; nothing is taken in. */
export async function openParcel(data: Buffer): Promise<Arrival[]> {
  const looks = await unpack(data),
    shelf = await shelfSayings();
  const out: Arrival[] = [];
  for (const [i, { look, history }] of looks.entries()) {
    // others first; of very many the faces are not all drawn
    await new Promise((resolve) => setImmediate(resolve));
    out.push({ look, strip: i < mostFaces ? await stripOf(look) : [], standing: standingOf(shelf, sayingOf(look), history) });
  }
  return out;
}
interface OnShelf {
  id: number;
  name: string;
  newest: number;
  /** saying → revision; what came before this shelf is revision 0 */
  revisions: Map<string, number>;
  now: string;
}
/** What the looks of the shelf say, or of those in the trash. */
async function shelfSayings(takenOut = false): Promise<OnShelf[]> {
  const records = await LookRecord.findAll(takenOut ? { where: { deletedAt: { [Op.ne]: null } }, paranoid: false } : {}),
    rows = await LookRevision.findAll({
      where: { lookId: { [Op.in]: records.map((r) => r.id) } },
      attributes: { exclude: ['colours'] },
      order: [['revision', 'ASC']],
    });
  const shelf = new Map(
    records.map(({ id, name, revision, lineage }) => [
      id,
      { id, name, newest: revision, revisions: new Map(lineage.map((s) => [s, 0])), now: '' },
    ]),
  );
  for (const r of rows) {
    const read = readRevision(r),
      look = shelf.get(r.lookId)!;
    if ('message' in read) continue;
    const saying = sayingOf(read.look);
    look.revisions.set(saying, r.revision);
    if (r.revision === look.newest) look.now = saying;
  }
  return [...shelf.values()];
}
function standingOf(shelf: readonly OnShelf[], saying: string, history: readonly string[]): Standing {
  const like = shelf.find((l) => l.now === saying);
  if (like) return { kind: 'same', id: like.id, name: like.name, revision: like.newest };
  const ahead = shelf.find((l) => l.revisions.has(saying));
  if (ahead) return { kind: 'older', id: ahead.id, name: ahead.name, revision: ahead.revisions.get(saying)! };
  const behind = shelf.find((l) => l.now !== '' && history.includes(l.now));
  if (behind) return { kind: 'newer', id: behind.id, name: behind.name, revision: behind.newest };
  return { kind: 'new' };
}

/** What is done with a look of a parcel: put on the shelf as a look of its own, or as the next revision of the one it continues. */
export interface Choice {
  at: number;
  how: 'own' | 'revision';
}
/** Takes looks of a parcel in. Nothing on the shelf is written over. */
export async function takeIn(data: Buffer, choices: readonly Choice[]): Promise<ShelfLook[]> {
  return takeLooks(await unpack(data), await shelfSayings(), choices);
}
async function takeLooks(looks: readonly Unpacked[], shelf: readonly OnShelf[], choices: readonly Choice[]): Promise<ShelfLook[]> {
  if (choices.some((c) => c.at >= looks.length)) throw new ServiceError(400, `there are ${looks.length} looks in it`);
  const wanted = choices.map(({ at, how }) => {
    const { look, history } = looks[at]!,
      standing = standingOf(shelf, sayingOf(look), history);
    // before anything is taken in
    if (how === 'revision' && standing.kind !== 'newer')
      throw new ServiceError(409, `${look.name} is not a newer revision of a look on the shelf`);
    return { look, history, onto: how === 'revision' && standing.kind === 'newer' ? standing : null };
  });
  const taken: ShelfLook[] = [];
  for (const { look, history, onto } of wanted) taken.push(onto ? await goesOn(onto, look, history) : await createLook(look, [...history]));
  return taken;
}
/** Takes in what of some looks the shelf does not have: as looks of their own, or as the next revisions of those they go on from. What was taken out here does not come back. */
export async function takeArrived(arrived: readonly Unpacked[]): Promise<void> {
  const sayings = arrived.map((a) => sayingOf(a.look)),
    // of one look that came at several revisions the last is taken, with what went before in its history
    looks = arrived.filter(
      (_, i) =>
        sayings.indexOf(sayings[i]!) === i && !arrived.some((other, k) => sayings[k] !== sayings[i] && other.history.includes(sayings[i]!)),
    );
  const shelf = await shelfSayings(),
    out = await shelfSayings(true),
    choices = looks.flatMap(({ look, history }, at): Choice[] => {
      const saying = sayingOf(look),
        { kind } = standingOf(shelf, saying, history);
      if (kind === 'same' || kind === 'older' || out.some((l) => l.revisions.has(saying))) return [];
      return [{ at, how: kind === 'newer' ? 'revision' : 'own' }];
    });
  if (choices.length > 0) await takeLooks(looks, shelf, choices);
}
/** What a look says now, and all it has said; null where it cannot be read. */
export async function sayingsOf(id: number): Promise<{ now: string; all: string[] } | null> {
  const { look, history } = await sent(id).catch(() => ({ look: null, history: [] }));
  return look && { now: sayingOf(look), all: history };
}
/** Saves a look of a parcel as the next revision of the one it goes on from. */
async function goesOn(onto: { id: number; revision: number }, look: Unpacked['look'], history: readonly string[]): Promise<ShelfLook> {
  const saved = await saveRevision(onto.id, look, onto.revision),
    record = found(await LookRecord.findByPk(onto.id), 'this look');
  await record.update({ lineage: [...new Set([...record.lineage, ...history])] });
  return saved;
}
