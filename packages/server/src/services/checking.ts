import sharp from 'sharp';
import { stepsInWords } from '@dyepot/core/src/look/inWords.ts';
import type { Finding } from '@dyepot/core/src/plan/check/finding.ts';
import { Frame, Shoot } from '../db/models.ts';
import type { RenderPool } from '../work/pool.ts';
import { lookPdf, lookPng } from '../work/lookPage.ts';
import { ServiceError } from './errors.ts';
import { thumbOf } from './frames.ts';
import { checkOf } from './lookHistory.ts';
import { lookAt } from './looks.ts';

/** What a look does at the ends of a frame's picture, in shares of its pixels: with the look, and without one. */
export interface OnFrame {
  id: number;
  name: string;
  light: string;
  whites: number;
  blacks: number;
  whitesBefore: number;
  blacksBefore: number;
}
/** A frame of each light, at most so many. */
const mostFrames = 8;

/** What is weak in a look, and what it clips on a frame of each light of a shoot: the newest when none is named. */
export async function checkOnFrames(
  pool: RenderPool,
  id: number,
  revision: number | undefined,
  shootId: number | null,
): Promise<{ revision: number; findings: Finding[]; frames: OnFrame[] }> {
  const look = await lookAt(id, revision),
    findings = await checkOf(id, look.revision),
    shoot = shootId === null ? await Shoot.findOne({ order: [['id', 'DESC']] }) : await Shoot.findByPk(shootId);
  const frames: OnFrame[] = [];
  for (const f of shoot ? await framesOfLights(shoot) : []) {
    const [after, before] = [
      await endsOf(await thumbOf(pool, f.id, id, look.revision, 360)),
      await endsOf(await thumbOf(pool, f.id, null, null, 360)),
    ];
    frames.push({ id: f.id, name: f.name, light: f.light, ...after, whitesBefore: before.whites, blacksBefore: before.blacks });
  }
  return { revision: look.revision, findings, frames };
}
/** A frame of each light of a shoot, its lead frame first of its own; the newest shoot's where none is named. */
export async function framesOfLights(shoot: Shoot): Promise<Frame[]> {
  const lights = new Map<string, Frame>();
  for (const f of await Frame.findAll({ where: { shootId: shoot.id }, attributes: ['id', 'name', 'light'], order: [['name', 'ASC']] }))
    if (!lights.has(f.light) || f.id === shoot.leadFrameId) lights.set(f.light, f);
  return [...lights.values()].slice(0, mostFrames);
}
/** Shares of pixels of which a channel is at its upper end, or all are at their lower. */
async function endsOf(file: string): Promise<{ whites: number; blacks: number }> {
  const { data, info } = await sharp(file).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  let whites = 0,
    blacks = 0;
  for (let i = 0; i < data.length; i += info.channels) {
    const [r, g, b] = [data[i]!, data[i + 1]!, data[i + 2]!];
    if (Math.max(r, g, b) >= 254) whites++;
    if (Math.max(r, g, b) <= 2) blacks++;
  }
  const n = info.width * info.height;
  return { whites: whites / n, blacks: blacks / n };
}

/** The look sheet for a client: on frames that are named, or on one of each light of the newest shoot. */
export async function lookSheet(
  pool: RenderPool,
  id: number,
  { revision, frameIds, kind }: { revision?: number; frameIds: readonly number[]; kind: 'png' | 'pdf' },
): Promise<{ name: string; file: Buffer }> {
  const look = await lookAt(id, revision),
    newest = frameIds.length > 0 ? null : await Shoot.findOne({ order: [['id', 'DESC']] }),
    frames = newest ? await framesOfLights(newest) : await Frame.findAll({ where: { id: [...frameIds] }, attributes: ['id', 'name'] });
  if (frames.length < frameIds.length) throw new ServiceError(404, 'one of these frames is not there');
  const shown = [];
  for (const f of frames.slice(0, 6))
    shown.push({
      name: f.name,
      before: await thumbOf(pool, f.id, null, null, 720),
      after: await thumbOf(pool, f.id, id, look.revision, 720),
    });
  const { name, family, tags, notes } = look.document,
    page = {
      name,
      said: [family, `revision ${look.revision}`, ...tags].filter(Boolean).join(' · '),
      strip: look.strip,
      notes,
      frames: shown,
      steps: stepsInWords(look.document),
    };
  return { name: `${name}, look sheet.${kind}`, file: await (kind === 'png' ? lookPng(page) : lookPdf(page)) };
}
