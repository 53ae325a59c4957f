import { writeFileSync } from 'node:fs';
import { extname, resolve } from 'node:path';
import { emptyLook, stepsOf, type Look } from '@dyepot/core/src/look/look.ts';
import { bakeFile, holdsCdl, type BakeFormat } from '@dyepot/server/src/work/bakeFile.ts';
import { kernels } from '@dyepot/server/src/work/ownKernels.ts';
import { lookFrom, oneOf, parse, whole } from './options.ts';

const formats: Record<string, BakeFormat> = {
  '.cube': 'cube',
  '.png': 'png',
  '.tif': 'tif',
  '.tiff': 'tif',
  '.clf': 'clf',
  '.cc': 'cc',
  '.ccc': 'ccc',
  '.cdl': 'cdl',
};

/** `dyepot bake`: a look (or some of its steps) as a lookup table. */
export async function bake(args: string[]): Promise<number> {
  const { values, flags, positionals } = parse(args, ['out', 'size', 'input', 'steps']),
    [path] = positionals,
    out = values['out'],
    format = out ? formats[extname(out).toLowerCase()] : undefined;
  if (!path || !out) throw new Error('bake needs a look and --out FILE');
  if (!format) throw new Error(`--out ends in ${Object.keys(formats).join(', ')}, not “${extname(out)}”`);
  const whole_ = (await lookFrom(path)) ?? emptyLook('none'),
    chosen = values['steps']?.split(',').map((s) => s.trim()),
    unknown = chosen?.find((c) => !stepsOf(whole_).some((s) => s.id === c || s.name === c || s.kind === c));
  if (unknown !== undefined)
    throw new Error(
      `there is no step “${unknown}” in ${path}; it has ${stepsOf(whole_)
        .map((s) => s.id)
        .join(', ')}`,
    );
  const only = <T extends Look['stock']>(s: T): T =>
      !chosen || chosen.includes(s.id) || chosen.includes(s.name) || chosen.includes(s.kind) ? s : { ...s, on: false },
    look: Look = { ...whole_, scene: whole_.scene.map(only), stock: only(whole_.stock), print: whole_.print.map(only) };
  const image = format === 'png' || format === 'tif',
    size = whole(values['size'] ?? (image ? '64' : '33'), 'size', 2, image ? 256 : 129),
    input = oneOf(values['input'] ?? 'srgb', 'input', ['srgb', 'linear', 'acescct'] as const);
  const { file, leftOut, error, suggestedSize } = await bakeFile(await kernels(), look, format, size, input);
  writeFileSync(resolve(out), file);
  if (flags['json'])
    process.stdout.write(
      `${JSON.stringify({ out, size: holdsCdl(format) ? null : size, input, leftOut, meanCiede2000: error.mean, worstCiede2000: error.worst, suggestedSize: holdsCdl(format) ? null : suggestedSize }, null, 2)}\n`,
    );
  else {
    for (const l of leftOut) process.stdout.write(`left out: ${l.name}, since ${l.reason}\n`);
    process.stdout.write(
      `${out}  ${holdsCdl(format) ? 'the nearest CDL' : `${size} a side`}, from ${input}: CIEDE2000 mean ${error.mean.toFixed(2)}, worst ${error.worst.toFixed(2)}${holdsCdl(format) || suggestedSize === size ? '' : `; ${suggestedSize} would do`}\n`,
    );
  }
  return 0;
}
