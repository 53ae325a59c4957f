import { existsSync } from 'node:fs';
import { readFile, stat } from 'node:fs/promises';
import { basename, dirname, extname, join } from 'node:path';
import { marks } from '@dyepot/core/src/match/marks.ts';
import { readSidecar, writeSidecar } from '@dyepot/core/src/formats/sidecar.ts';
import { Op } from 'sequelize';
import { Frame } from '../db/models.ts';
import { isUpload } from './uploads.ts';
import { writeWhole } from '../work/files.ts';
import type { Said } from './lights.ts';

/** The largest sidecar that is read, in bytes. */
const largest = 20e6;
/** The sidecar of a raw: its name with .xmp after it or in the place of its ending, whichever is there; the latter for a new one. */
function sidecarOf(raw: string): string {
  const long = `${raw}.xmp`;
  return existsSync(long) ? long : join(dirname(raw), `${basename(raw, extname(raw))}.xmp`);
}
/** What was done, and what could not be, frame by frame. */
export interface Sidecars {
  /** frames whose sidecar was written, or says something else than the frame does */
  done: number;
  troubles: string[];
}
/** The frames whose raws lie where the photographer put them, one of each raw; the rest with the reason. */
async function framesBesideRaws(ids: readonly number[]): Promise<{ frames: Frame[]; troubles: string[] }> {
  const all = await Frame.findAll({ where: { id: { [Op.in]: [...ids] } }, order: [['id', 'ASC']] }),
    troubles: string[] = [],
    frames: Frame[] = [],
    seen = new Set<string>();
  for (const f of all) {
    if (isUpload(f.path)) troubles.push(`${f.name} was uploaded: beside it is Dyepot’s own folder`);
    else if (seen.has(sidecarOf(f.path)))
      troubles.push(`${f.name} is another dip of the same raw, or a file of the same name, which has one sidecar`);
    else {
      seen.add(sidecarOf(f.path));
      frames.push(f);
    }
  }
  return { frames, troubles };
}
/** A sidecar's bytes and text. What is too large or not in UTF-8 is refused: written again it would be another. */
async function readText(file: string): Promise<{ bytes: Buffer; text: string }> {
  if ((await stat(file)).size > largest) throw new Error('it is larger than a sidecar is');
  const bytes = await readFile(file);
  try {
    return { bytes, text: new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes) };
  } catch {
    throw new Error('it is not in UTF-8; it was left as it is');
  }
}
const reason = (error: unknown): string => (error instanceof Error ? error.message : String(error));

/** Writes ratings and marks beside the raws. What else a sidecar says stays as it is. */
export async function writeSidecars(ids: readonly number[]): Promise<Sidecars> {
  const { frames, troubles } = await framesBesideRaws(ids);
  let done = 0;
  for (const f of frames) {
    const file = sidecarOf(f.path);
    try {
      if (!existsSync(dirname(file))) throw new Error(`the folder ${dirname(file)} is not there`);
      const before = existsSync(file) ? (await readText(file)).text : null,
        label = marks.find((m) => m.mark === f.mark)?.words ?? '',
        made = writeSidecar(before, { rating: f.rating, label });
      if ('message' in made) troubles.push(`${basename(file)}: ${made.message}; it was left as it is`);
      else {
        if (made.text !== before) await writeWhole(file, Buffer.from(made.text, 'utf8'));
        done++;
      }
    } catch (error) {
      troubles.push(`${basename(file)}: ${reason(error)}`);
    }
  }
  return { done, troubles };
}

/** What sidecars say of frames otherwise than the frames themselves. Labels that are none of Dyepot's marks are told, and left. */
export async function readSidecars(ids: readonly number[]): Promise<Sidecars & { said: Said[] }> {
  const { frames, troubles } = await framesBesideRaws(ids),
    said: Said[] = [];
  let there = 0;
  for (const f of frames) {
    const file = sidecarOf(f.path);
    if (!existsSync(file)) continue;
    there++;
    try {
      const says = readSidecar((await readText(file)).bytes);
      if ('message' in says) throw new Error(says.message);
      const { rating, label } = says,
        mark = label === null ? '' : marks.find((m) => [m.mark, m.words].some((w) => w.toLowerCase() === label.toLowerCase()))?.mark,
        change = {
          ...(rating !== null && rating !== f.rating ? { rating } : {}),
          ...(mark !== undefined && label !== null && mark !== f.mark ? { mark } : {}),
        };
      if (mark === undefined) troubles.push(`${f.name}: its label “${label!.slice(0, 80)}” is none of the marks here`);
      if (Object.keys(change).length > 0) said.push({ id: f.id, ...change });
    } catch (error) {
      troubles.push(`${basename(file)}: ${reason(error)}`);
    }
  }
  if (there === 0 && troubles.length === 0) troubles.push('there is no sidecar beside these raws');
  return { done: said.length, troubles, said };
}
