import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { mergeRaws } from '@dyepot/server/src/work/bracketTask.ts';
import { parse } from './options.ts';

/** `dyepot merge`: exposures of one view into one linear DNG. */
export async function merge(args: string[]): Promise<number> {
  const { values, flags, positionals } = parse(args, ['out'], ['json', 'replace']),
    out = values['out'];
  if (positionals.length < 2 || !out) throw new Error('merge needs at least two files and --out FILE.dng');
  if (!/\.dng$/i.test(out)) throw new Error('--out is a .dng file');
  if (existsSync(out) && !flags['replace']) throw new Error(`${out} is there already; --replace writes over it`);
  if (positionals.some((file) => resolve(file) === resolve(out))) throw new Error(`${out} is itself one of the exposures`);
  const { moved, left } = await mergeRaws({ paths: positionals, out, mayReplace: flags['replace'] === true }),
    answers = positionals.map((file, i) => ({ file, movedPx: Number(moved[i]!.toFixed(2)), leftOut: Number(left[i]!.toFixed(4)) }));
  process.stdout.write(
    flags['json']
      ? `${JSON.stringify({ out, exposures: answers }, null, 2)}\n`
      : `${answers.map((a) => `${a.file}  laid on by ${a.movedPx} px, ${(100 * a.leftOut).toFixed(1)} % left out\n`).join('')}${out}\n`,
  );
  return 0;
}
