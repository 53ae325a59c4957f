import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { madeByDyepot, putInPlace, waitingName } from '@dyepot/server/src/work/files.ts';
import { emptyLook, newStep, type LookStep } from '@dyepot/core/src/look/look.ts';
import { common, maskOf, type MaskPart } from '@dyepot/core/src/mask/mask.ts';
import { regions, type Region } from '@dyepot/core/src/render/maskPlan.ts';
import { openPool } from '@dyepot/server/src/work/pool.ts';
import { groundworkFrom, lookFrom, oneOf, ownStepsFrom, parse } from './options.ts';

/** A step that acts where a region is found, or on the thing in a box. */
const acting = (id: string, part: MaskPart): LookStep => ({ ...newStep('exposure', id), params: { shiftEv: 1 }, mask: maskOf(part) });

/** The box of `figure:x,y,w,h`, in shares of the picture's width and height; null where another thing is looked for. Throws where it is no box. */
export function boxIn(find: string): [number, number, number, number] | null {
  if (!find.startsWith('figure:')) return null;
  const box = find.slice(7).split(',').map(Number),
    [x, y, w, h] = box as [number, number, number, number];
  if (box.length !== 4 || !box.every((v) => v >= 0 && v <= 1) || w === 0 || h === 0 || x + w > 1.001 || y + h > 1.001)
    throw new Error(`--find ${find}: a box is figure:x,y,w,h in shares of the picture's width and height (0 to 1), and lies inside of it`);
  return [x, y, w, h];
}

/** `dyepot mask`: where a step acts on a frame, or where a region of it is, as a grey picture. */
export async function mask(args: string[]): Promise<number> {
  const { values, flags, positionals } = parse(args, ['look', 'step', 'find', 'out', 'groundwork', 'local']),
    [path] = positionals;
  if (positionals.length !== 1) throw new Error('mask takes one file');
  if (!values['out']) throw new Error('mask needs --out');
  if (!values['find'] && !(values['step'] && (values['look'] || values['local'])))
    throw new Error('mask needs --look and --step, --local and --step, or --find');
  const find = values['find'] ?? null,
    box = find === null ? null : boxIn(find),
    region: Region | null = find === null || box ? null : oneOf(find, 'find', regions),
    look = region
      ? { ...emptyLook('found'), scene: [acting(region, { ...common, kind: 'found', what: region })] }
      : values['look']
        ? await lookFrom(values['look'])
        : null,
    groundwork = values['groundwork'] ? groundworkFrom(values['groundwork']) : null,
    out = resolve(values['out']),
    mayReplace = existsSync(out) && (await madeByDyepot(out)),
    waiting = waitingName(out);
  if (existsSync(out) && !mayReplace) throw new Error(`${out} is there already and was not made by Dyepot`);
  const pool = openPool({ threads: 1 });
  try {
    const drawn = await pool.run('drawPlace', {
      path: resolve(path!),
      hash: null,
      repairs: null,
      plates: null,
      look,
      groundwork,
      own: box
        ? {
            scene: [acting('figure', await pool.run('cutFigureOf', { path: resolve(path!), groundwork, box }))],
            print: [],
            skeins: [],
            masks: [],
          }
        : values['local']
          ? ownStepsFrom(values['local'])
          : null,
      place: box ? 'figure' : (region ?? values['step']!),
      waiting,
    });
    await putInPlace(waiting, out, mayReplace);
    const answer = { file: path, out: values['out'], ...drawn, share: Number(drawn.share.toFixed(4)) };
    process.stdout.write(
      flags['json']
        ? `${JSON.stringify(answer, null, 2)}\n`
        : `${values['out']}  ${drawn.width} × ${drawn.height}, ${(100 * drawn.share).toFixed(1)} % of the picture\n`,
    );
  } finally {
    await pool.close();
  }
  return 0;
}
