import sharp from 'sharp';
import type { Finding } from '@dyepot/core/src/plan/check/finding.ts';
import { Frame, Shoot } from '../db/models.ts';
import type { RenderPool } from '../work/pool.ts';
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
async function framesOfLights(shoot: Shoot): Promise<Frame[]> {
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
