import { Op } from 'sequelize';
import { validateLook } from '@dyepot/core/src/look/schema.ts';
import { together } from '../db/database.ts';
import { Draft, Frame, GroundworkPreset, LookRecord, Shoot, StockRecord } from '../db/models.ts';
import { found, ServiceError } from './errors.ts';
import { tellNews } from './news.ts';
import { sweep } from './sweep.ts';
import { isUpload } from './uploads.ts';

/** How long what was taken out is kept, in days. */
export const keptDays = 30;
const day = 86_400_000;

export type TrashKind = 'shoot' | 'frame' | 'look' | 'draft' | 'preset' | 'stock';
export interface TrashItem {
  kind: TrashKind;
  id: number;
  name: string;
  /** what there is to say of it: where it was, and what becomes of files */
  words: string;
  takenOutAt: Date;
  goesAt: Date;
}
const tables = { shoot: Shoot, frame: Frame, look: LookRecord, draft: Draft, preset: GroundworkPreset, stock: StockRecord } as const;
const out = { where: { deletedAt: { [Op.ne]: null } }, paranoid: false } as const;

/** Everything that was taken out and is still kept, the newest first. */
export async function listTrash(): Promise<TrashItem[]> {
  const item = (kind: TrashKind, id: number, name: string, words: string, at: Date): TrashItem => ({
    kind,
    id,
    name,
    words,
    takenOutAt: at,
    goesAt: new Date(at.getTime() + keptDays * day),
  });
  const [shoots, frames, looks, drafts, presets, stocks] = await Promise.all([
    Shoot.findAll(out),
    Frame.findAll({ ...out, attributes: ['id', 'name', 'shootId', 'path', 'deletedAt'] }),
    LookRecord.findAll(out),
    Draft.findAll({ ...out, attributes: ['id', 'document', 'deletedAt'] }),
    GroundworkPreset.findAll(out),
    StockRecord.findAll(out),
  ]);
  const homes = new Map((await Shoot.findAll({ paranoid: false, attributes: ['id', 'name'] })).map((s) => [s.id, s.name]));
  const counts = new Map<number, number>();
  if (shoots.length > 0)
    for (const f of await Frame.findAll({ where: { shootId: { [Op.in]: shoots.map((s) => s.id) } }, attributes: ['shootId'] }))
      counts.set(f.shootId, (counts.get(f.shootId) ?? 0) + 1);
  return [
    ...shoots.map((s) => item('shoot', s.id, s.name, `a shoot of ${counts.get(s.id) ?? 0} frames, with their groundwork`, s.deletedAt!)),
    ...frames.map((f) =>
      item(
        'frame',
        f.id,
        f.name,
        `a frame of ${homes.get(f.shootId) ?? 'a shoot'}, with its groundwork; ${isUpload(f.path) ? 'Dyepot’s copy of the raw is kept with it' : `the raw stays at ${f.path}`}`,
        f.deletedAt!,
      ),
    ),
    ...looks.map((l) => item('look', l.id, l.name, `a look of ${l.revision} ${l.revision === 1 ? 'revision' : 'revisions'}`, l.deletedAt!)),
    ...drafts.map((d) => {
      const read = validateLook(d.document);
      return item('draft', d.id, 'look' in read ? read.look.name : 'A draft', 'a draft of a look', d.deletedAt!);
    }),
    ...presets.map((p) => item('preset', p.id, p.name, 'a groundwork preset', p.deletedAt!)),
    ...stocks.map((s) =>
      item('stock', s.id, s.name, `a film stock of ${s.revision} ${s.revision === 1 ? 'revision' : 'revisions'}`, s.deletedAt!),
    ),
  ].sort((a, b) => b.takenOutAt.getTime() - a.takenOutAt.getTime());
}

function told(): void {
  for (const kind of ['trash', 'shoots', 'looks', 'drafts', 'presets', 'stocks'] as const) tellNews({ kind });
}

/** Puts something back where it was. */
export async function restore(kind: TrashKind, id: number): Promise<void> {
  await together(async (transaction) => {
    const record = found(await (tables[kind] as typeof Shoot).findByPk(id, { paranoid: false, transaction }), 'this');
    if (!record.deletedAt) return;
    if (kind === 'frame') {
      const frame = record as unknown as Frame,
        home = await Shoot.findByPk(frame.shootId, { paranoid: false, transaction });
      if (home?.deletedAt) throw new ServiceError(409, `its shoot, ${home.name}, is in the trash too: put that back first`);
      // a dip stands beside its kin; the same raw brought in again meanwhile has its name
      const twin = await Frame.findOne({ where: { shootId: frame.shootId, hash: frame.hash, name: frame.name }, transaction });
      if (twin) throw new ServiceError(409, `${frame.name} has been brought in again meanwhile, as ${twin.name}`);
    }
    if (kind === 'draft') {
      const { lookId } = record as unknown as Draft;
      if (lookId !== null && (await Draft.findOne({ where: { lookId }, transaction })))
        throw new ServiceError(409, 'its look has another draft meanwhile');
      const look = lookId === null ? null : await LookRecord.findByPk(lookId, { paranoid: false, transaction });
      if (look?.deletedAt) throw new ServiceError(409, `its look, ${look.name}, is in the trash too: put that back first`);
    }
    await record.restore({ transaction });
    // a draft goes and comes back with its look
    if (kind === 'look') {
      const draft = await Draft.findOne({ where: { lookId: id }, order: [['deletedAt', 'DESC']], paranoid: false, transaction });
      await draft?.restore({ transaction });
    }
  });
  if (kind === 'frame') {
    const frame = await Frame.findByPk(id, { attributes: ['shootId'] });
    if (frame) tellNews({ kind: 'shoot', id: frame.shootId });
  }
  told();
}
/** Lets something go for good. Raw files that lie elsewhere are not touched. */
export async function letGo(kind: TrashKind, id: number): Promise<void> {
  const record = found(await (tables[kind] as typeof Shoot).findByPk(id, { paranoid: false }), 'this');
  if (!record.deletedAt) throw new ServiceError(409, 'it is not in the trash');
  await record.destroy({ force: true });
  await sweep();
  told();
}
/** Lets everything go for good that was taken out before a time. Returns how many went. */
export async function emptyTrash(before: Date): Promise<number> {
  let gone = 0;
  for (const table of Object.values(tables) as (typeof Shoot)[])
    gone += await table.destroy({ where: { deletedAt: { [Op.ne]: null, [Op.lte]: before } }, force: true });
  if (gone > 0) {
    await sweep();
    told();
  }
  return gone;
}
/** Lets go what was kept its time. */
export const emptyOldTrash = (): Promise<number> => emptyTrash(new Date(Date.now() - keptDays * day));
