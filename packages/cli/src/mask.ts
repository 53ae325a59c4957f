import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { madeByDyepot, putInPlace, waitingName } from '@dyepot/server/src/work/files.ts';
import { emptyLook, newStep, type Look } from '@dyepot/core/src/look/look.ts';
import { common, maskOf } from '@dyepot/core/src/mask/mask.ts';
import { regions, type Region } from '@dyepot/core/src/render/maskPlan.ts';
import { openPool } from '@dyepot/server/src/work/pool.ts';
import { groundworkFrom, lookFrom, oneOf, ownStepsFrom, parse } from './options.ts';

/** A look with a step that acts where a region is found. */
function finding(what: Region): Look {
  const step = newStep('exposure', what);
  return { ...emptyLook('found'), scene: [{ ...step, params: { shiftEv: 1 }, mask: maskOf({ ...common, kind: 'found', what }) }] };
}

/** `dyepot mask`: where a step acts on a frame, or where a region of it is, as a grey picture. */
export async function mask(args: string[]): Promise<number> {
  const { values, flags, positionals } = parse(args, ['look', 'step', 'find', 'out', 'groundwork', 'local']),
    [path] = positionals;
  if (positionals.length !== 1) throw new Error('mask takes one file');
  if (!values['out']) throw new Error('mask needs --out');
  if (!values['find'] && !(values['step'] && (values['look'] || values['local'])))
    throw new Error('mask needs --look and --step, --local and --step, or --find');
  const find = values['find'] ? oneOf(values['find'], 'find', regions) : null,
    look = find ? finding(find) : values['look'] ? await lookFrom(values['look']) : null,
    out = resolve(values['out']),
    mayReplace = existsSync(out) && (await madeByDyepot(out)),
    waiting = waitingName(out);
  if (existsSync(out) && !mayReplace) throw new Error(`${out} is there already and was not made by Dyepot`);
  const pool = openPool({ threads: 1 });
  try {
    const drawn = await pool.run('drawPlace', {
      path: resolve(path!),
      hash: null,
      look,
      groundwork: values['groundwork'] ? groundworkFrom(values['groundwork']) : null,
      own: values['local'] ? ownStepsFrom(values['local']) : null,
      place: find ?? values['step']!,
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
