import { literal, Op } from 'sequelize';
import { differences } from '@dyepot/core/src/look/differences.ts';
import { apart, sameLook } from '@dyepot/core/src/plan/nearness.ts';
import { checkLook } from '@dyepot/core/src/plan/check/check.ts';
import type { Finding } from '@dyepot/core/src/plan/check/finding.ts';
import { LookRecord, LookRevision } from '../db/models.ts';
import { kernels } from '../work/ownKernels.ts';
import { found, ServiceError } from './errors.ts';
import { coloursAt, floatsOf } from './lookFaces.ts';
import { lookAt, readRevision, saveSayings } from './looks.ts';
import { tellNews } from './news.ts';

export interface RevisionLine {
  revision: number;
  createdAt: Date;
  strip: string[];
  label: string;
  /** what it changed, in sentences; null for the first */
  changes: string[] | null;
}
/** A look's revisions, newest first, each with what it changed. */
export async function revisionsOf(id: number): Promise<RevisionLine[]> {
  found(await LookRecord.findByPk(id, { paranoid: false, attributes: ['id'] }), 'this look');
  const rows = await LookRevision.findAll({ where: { lookId: id }, attributes: { exclude: ['colours'] }, order: [['revision', 'ASC']] });
  return rows
    .map((r, i) => {
      const [own, before] = [readRevision(r), i > 0 ? readRevision(rows[i - 1]!) : null];
      const changes = before && 'look' in own && 'look' in before ? differences(before.look, own.look) : null;
      return { revision: r.revision, createdAt: r.createdAt, strip: r.strip, label: r.label, changes };
    })
    .reverse();
}
/** Gives a revision a name of its own; an empty one takes it away. */
export async function labelRevision(id: number, revision: number, label: string): Promise<void> {
  const r = found(await LookRevision.findOne({ where: { lookId: id, revision } }), 'this revision');
  await r.update({ label });
  tellNews({ kind: 'looks' });
}
/** What makes one look of another, each at a revision. */
export async function differencesBetween(a: { id: number; revision?: number }, b: { id: number; revision?: number }): Promise<string[]> {
  const [from, to] = await Promise.all([lookAt(a.id, a.revision), lookAt(b.id, b.revision)]);
  return differences(from.document, to.document);
}

export interface NearLook {
  id: number;
  name: string;
  revision: number;
  strip: string[];
  /** mean CIEDE2000 of the compared colours */
  distance: number;
  same: boolean;
}
/** The looks on the shelf nearest to one. */
export async function nearLooks(id: number, most = 12): Promise<NearLook[]> {
  const records = new Map((await LookRecord.findAll()).map((r) => [r.id, r])),
    own = await lookAt(id),
    ownRow = found(await LookRevision.findOne({ where: { lookId: id, revision: own.revision } }), 'this revision'),
    colours = await coloursAt(ownRow, own.document);
  const rows = await LookRevision.findAll({
    where: {
      lookId: { [Op.in]: [...records.keys()], [Op.ne]: id },
      revision: { [Op.eq]: literal('(SELECT revision FROM looks WHERE looks.id = lookId)') },
    },
    attributes: ['id', 'lookId', 'revision', 'strip', 'colours'],
  });
  const out: NearLook[] = [];
  for (const r of rows) {
    const theirs = r.colours
      ? floatsOf(r.colours)
      : await lookAt(r.lookId).then(
          ({ document }) => coloursAt(r, document),
          () => null,
        );
    if (!theirs) continue;
    const distance = apart(colours, theirs);
    out.push({
      id: r.lookId,
      name: records.get(r.lookId)!.name,
      revision: r.revision,
      strip: r.strip,
      distance,
      same: distance < sameLook,
    });
  }
  return out.sort((p, q) => p.distance - q.distance).slice(0, most);
}

/** What is weak in a look. */
export async function checkOf(id: number, revision?: number): Promise<Finding[]> {
  return checkLook(await kernels(), (await lookAt(id, revision)).document);
}

/** Marks looks as favourites, or gives them a family or tags: the latter as revisions of theirs. Returns how many were changed. */
export async function editLooks(
  ids: readonly number[],
  change: { favourite?: boolean; family?: string; addTags?: string[]; dropTags?: string[] },
): Promise<number> {
  const records = await LookRecord.findAll({ where: { id: [...ids] } });
  if (records.length < new Set(ids).size) throw new ServiceError(404, 'one of these looks is not on the shelf');
  if (change.favourite !== undefined) {
    await LookRecord.update({ favourite: change.favourite }, { where: { id: [...ids] } });
  }
  let changed = 0;
  for (const { id } of records) {
    const other = await saveSayings(id, ({ family, tags }) => ({
      family: change.family ?? family,
      tags: [...new Set([...tags.filter((t) => !change.dropTags?.includes(t)), ...(change.addTags ?? [])])],
    }));
    if (other || change.favourite !== undefined) changed++;
  }
  if (changed > 0) tellNews({ kind: 'looks' });
  return changed;
}
