import { outputSpaces } from '@dyepot/core/src/colour/outputs.ts';
import { existsSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { basename, extname, join, resolve } from 'node:path';
import { extensionOf, settingsTrouble, type FileSettings } from '@dyepot/server/src/work/encodeFile.ts';
import { madeByDyepot, putInPlace, waitingName } from '@dyepot/server/src/work/files.ts';
import { keepFilms } from '@dyepot/server/src/work/keptFilms.ts';
import { openPool } from '@dyepot/server/src/work/pool.ts';
import { groundworkIn, lookFrom, oneOf, ownStepsFrom, parse, repairsIn, whole } from './options.ts';

/** `dyepot render`: raws through a look into files, two at a time. */
export async function render(args: string[]): Promise<number> {
  const { values, flags, positionals } = parse(
    args,
    ['look', 'out', 'format', 'depth', 'space', 'size', 'quality', 'groundwork', 'local', 'repairs'],
    ['json', 'replace', 'doubtful'],
  );
  if (positionals.length === 0) throw new Error('render needs at least one file');
  if (!values['look'] || !values['out']) throw new Error('render needs --look and --out');
  const look = await lookFrom(values['look']),
    out = resolve(values['out']),
    own = values['local'] ? ownStepsFrom(values['local']) : null;
  const format = oneOf(values['format'] ?? 'jpeg', 'format', ['jpeg', 'tiff', 'png', 'webp', 'avif'] as const),
    depth = oneOf(values['depth'] ?? (format === 'tiff' ? '16' : '8'), 'depth', ['8', '16'] as const) === '16' ? 16 : 8;
  const settings: FileSettings = {
    format,
    depth,
    space: oneOf(values['space'] ?? 'srgb', 'space', outputSpaces),
    size: values['size'] ? whole(values['size'], 'size', 16, 30000) : null,
    quality: whole(values['quality'] ?? '92', 'quality', 1, 100),
  };
  const trouble = settingsTrouble(settings);
  if (trouble) throw new Error(trouble);
  const taken = new Set<string>();
  const jobs = positionals.map((file) => {
    const stem = basename(file, extname(file));
    let name = stem;
    for (let i = 2; taken.has(name); i++) name = `${stem}-${i}`;
    taken.add(name);
    return {
      file,
      out: join(out, `${name}.${extensionOf[format]}`),
      repairs: values['repairs'] ? repairsIn(values['repairs'], file) : null,
      groundwork: values['groundwork'] ? groundworkIn(values['groundwork'], file) : null,
    };
  });
  const sources = new Set(jobs.map((j) => resolve(j.file)));
  keepFilms();
  const pool = openPool({ threads: Math.min(2, jobs.length) });
  let failed = 0,
    doubtful = 0;
  const answers = await Promise.all(
    jobs.map(async (job) => {
      const started = performance.now();
      try {
        if (sources.has(resolve(job.out)))
          throw new Error(`${job.out} is itself one of the pictures to be rendered; --out takes another folder`);
        const mayReplace = flags['replace'] === true || (existsSync(job.out) && (await madeByDyepot(job.out)));
        if (existsSync(job.out) && !mayReplace)
          throw new Error(`${job.out} is there already and was not made by Dyepot; --replace writes over it`);
        const waiting = waitingName(job.out),
          rendered = await pool.run('deliver', {
            path: resolve(job.file),
            hash: null,
            look,
            groundwork: job.groundwork,
            own,
            repairs: job.repairs,
            plates: null,
            files: [{ settings, waiting }],
          });
        const { doubt } = rendered,
          { width, height, bytes } = rendered.files[0]!,
          done = { width, height, bytes };
        if (doubt && !flags['doubtful']) {
          await rm(waiting, { force: true });
          throw new Error(`${basename(job.file)} may not be whole: ${doubt}; --doubtful renders it all the same`);
        }
        if (doubt) {
          doubtful++;
          process.stderr.write(`dyepot: ${basename(job.file)} may not be whole: ${doubt}\n`);
        }
        await putInPlace(waiting, job.out, mayReplace);
        if (!flags['json']) process.stdout.write(`${job.out}  ${done.width} × ${done.height}\n`);
        return {
          file: job.file,
          out: job.out,
          ...done,
          ...(doubt ? { doubt } : {}),
          milliseconds: Math.round(performance.now() - started),
        };
      } catch (error) {
        failed++;
        const message = error instanceof Error ? error.message : String(error);
        process.stderr.write(`dyepot: ${message}\n`);
        return { file: job.file, error: message };
      }
    }),
  );
  await pool.close();
  if (flags['json']) process.stdout.write(`${JSON.stringify(answers, null, 2)}\n`);
  return failed > 0 ? 1 : doubtful > 0 ? 3 : 0;
}
