import { QueryTypes, type Transaction } from 'sequelize';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { dyeStrip } from '@dyepot/core/src/plan/dyestrip.ts';
import { lookWords } from '@dyepot/core/src/plan/lookWords.ts';
import { coloursOf } from '@dyepot/core/src/plan/nearness.ts';
import { validateLook } from '@dyepot/core/src/look/schema.ts';
import { LookRecord, LookRevision } from '../db/models.ts';
import { kernels } from '../work/ownKernels.ts';

/** What is known of a look by looking at it: its dye strip, what it makes of the compared colours, and words it is found by. */
export interface Face {
  strip: string[];
  colours: Buffer;
  found: { steps: string[]; words: string[] };
}
/** The dye strip of a look. */
export const stripOf = async (look: Look): Promise<string[]> => dyeStrip(await kernels(), look);
/** Computes a look's face. */
export async function faceOf(look: Look): Promise<Face> {
  const k = await kernels(),
    colours = coloursOf(k, look);
  return {
    strip: dyeStrip(k, look),
    colours: Buffer.from(colours.buffer, colours.byteOffset, colours.byteLength),
    found: lookWords(k, look),
  };
}
/** The compared colours of a revision; computed and kept where they are not yet. */
export async function coloursAt(r: LookRevision, look: Look): Promise<Float32Array> {
  let bytes = r.colours;
  if (!bytes) {
    bytes = (await faceOf(look)).colours;
    await r.update({ colours: bytes });
  }
  return floatsOf(bytes);
}
/** Kept colours as numbers. */
export const floatsOf = (bytes: Buffer): Float32Array => new Float32Array(Uint8Array.from(bytes).buffer);

/** Lets a look be found by its words, instead of those of its revision before. */
export async function findableBy(id: number, look: Look, { steps, words }: Face['found'], transaction?: Transaction): Promise<void> {
  const db = LookRecord.sequelize!,
    options = { ...(transaction && { transaction }) };
  await db.query('DELETE FROM look_words WHERE rowid = ?', { replacements: [id], ...options });
  await db.query('INSERT INTO look_words (rowid, name, family, tags, notes, steps, words) VALUES (?, ?, ?, ?, ?, ?, ?)', {
    replacements: [id, look.name, look.family, look.tags.join(' · '), look.notes, steps.join(' · '), words.join(' · ')],
    ...options,
  });
}
/** Lets a look be found by another family and other tags. */
export async function foundUnder(id: number, { family, tags }: Look, transaction: Transaction): Promise<void> {
  await LookRecord.sequelize!.query('UPDATE look_words SET family = ?, tags = ? WHERE rowid = ?', {
    replacements: [family, tags.join(' · '), id],
    transaction,
  });
}
/** Looks on the shelf that have all the words, or words that begin so, the likeliest first: a name counts most, then tags and family (BM25). */
export async function findLooks(words: string, most = 5000): Promise<number[]> {
  const asked = words.match(/[\p{L}\p{N}]+/gu) ?? [];
  if (asked.length === 0) return [];
  const rows = await LookRecord.sequelize!.query<{ id: number }>(
    `SELECT looks.id AS id FROM look_words JOIN looks ON looks.id = look_words.rowid
     WHERE look_words MATCH ? AND looks.deletedAt IS NULL
     ORDER BY bm25(look_words, 10, 4, 4, 2, 2, 3) LIMIT ?`,
    {
      replacements: [
        asked
          .slice(0, 20)
          .map((w) => `"${w}"*`)
          .join(' '),
        most,
      ],
      type: QueryTypes.SELECT,
    },
  );
  return rows.map((r) => r.id);
}
/** Makes looks findable that an older Dyepot put on the shelf. */
export async function findableAll(): Promise<void> {
  const missing = await LookRecord.sequelize!.query<{ id: number }>('SELECT id FROM looks WHERE id NOT IN (SELECT rowid FROM look_words)', {
    type: QueryTypes.SELECT,
  });
  for (const { id } of missing) {
    const record = await LookRecord.findByPk(id, { paranoid: false }),
      r = record && (await LookRevision.findOne({ where: { lookId: id, revision: record.revision } })),
      read = r && validateLook(r.document);
    if (!read || 'message' in read) continue;
    const { found, colours } = await faceOf(read.look);
    if (!r.colours) await r.update({ colours });
    await findableBy(id, read.look, found);
    // others first
    await new Promise((resolve) => setImmediate(resolve));
  }
}
