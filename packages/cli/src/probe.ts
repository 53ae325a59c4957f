import type { Vector3 } from '@dyepot/core/src/colour/matrix.ts';
import { emptyLook } from '@dyepot/core/src/look/look.ts';
import { probeLook } from '@dyepot/core/src/plan/dyestrip.ts';
import { kernels } from '@dyepot/server/src/work/ownKernels.ts';
import { isTable, lookFrom, parse, tableFrom } from './options.ts';

/** `dyepot probe`: what each step of a look makes of one linear Rec.2020 colour; or what a table makes of three values as given. */
export async function probe(args: string[]): Promise<number> {
  const { flags, positionals } = parse(args, []);
  const [path, ...numbers] = positionals;
  const colour = numbers.map((t) => Number(t.trim()));
  if (path === undefined || colour.length !== 3 || !colour.every(Number.isFinite))
    throw new Error('probe needs a look or a table and three numbers: dyepot probe LOOK R G B');
  if (isTable(path)) {
    const out = (await tableFrom(path)).apply(colour as unknown as Vector3);
    process.stdout.write(
      flags['json'] ? `${JSON.stringify({ in: colour, out })}\n` : `${out.map((v) => Number(v.toPrecision(9))).join(' ')}\n`,
    );
    return 0;
  }
  const steps = probeLook(await kernels(), (await lookFrom(path)) ?? emptyLook('none'), colour as unknown as Vector3);
  const out = [{ step: 'in', kind: '', rgb: colour }, ...steps];
  if (flags['json']) process.stdout.write(`${JSON.stringify(out, null, 2)}\n`);
  else for (const s of out) process.stdout.write(`${s.step.padEnd(24)} ${s.rgb.map((v) => v.toFixed(6).padStart(10)).join(' ')}\n`);
  return 0;
}
