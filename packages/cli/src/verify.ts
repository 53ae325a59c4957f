import { createHash } from 'node:crypto';
import { createReadStream, existsSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { DeliveryRecord, RecordedFile } from '@dyepot/server/src/jobs/record.ts';
import { parse, textOf } from './options.ts';

type State = 'as recorded' | 'missing' | 'changed';
async function stateOf(path: string, { bytes, sha256 }: RecordedFile): Promise<State> {
  if (!existsSync(path)) return 'missing';
  const hash = createHash('sha256');
  let length = 0;
  await pipeline(
    createReadStream(path).on('data', (chunk) => {
      length += chunk.length;
    }),
    hash,
  );
  return length === bytes && hash.digest('hex') === sha256 ? 'as recorded' : 'changed';
}
function recordIn(path: string): DeliveryRecord {
  let value: Partial<DeliveryRecord>;
  try {
    value = JSON.parse(textOf(path)) as Partial<DeliveryRecord>;
  } catch (error) {
    throw new Error(error instanceof SyntaxError ? `${path} is not JSON` : String((error as Error).message));
  }
  if (value?.format !== 'dyepot-record' || !Array.isArray(value.files)) throw new Error(`${path} is not the record of a delivery`);
  if (value.version !== 1) throw new Error(`${path} is of version ${String(value.version)}; this Dyepot reads version 1`);
  const odd = value.files.find((f) => typeof f?.file !== 'string' || /[/\\]/.test(f.file) || !/^[0-9a-f]{64}$/.test(f.sha256));
  if (odd) throw new Error(`${path} names a file it cannot mean (${JSON.stringify(odd.file ?? null)})`);
  return value as DeliveryRecord;
}

/** `dyepot verify RECORD`: whether delivered files are what the record says. Ends with 1 where one is not. */
export async function verify(args: string[]): Promise<number> {
  const { values, flags, positionals } = parse(args, ['folder']),
    [path, ...more] = positionals;
  if (path === undefined || more.length > 0) throw new Error('verify needs one record: dyepot verify RECORD [--folder DIR]');
  const record = recordIn(path),
    beside = dirname(resolve(path)),
    // where they were delivered, else beside the record
    folder = values['folder'] ? resolve(values['folder']) : existsSync(record.folder) ? record.folder : beside;
  const files: { file: string; state: State }[] = [];
  for (const f of record.files)
    files.push({
      file: f.file,
      state: await stateOf(join(!values['folder'] && f.folder && existsSync(f.folder) ? f.folder : folder, f.file), f),
    });
  const wrong = files.filter((f) => f.state !== 'as recorded');
  if (flags['json']) process.stdout.write(`${JSON.stringify({ folder, files }, null, 2)}\n`);
  else {
    for (const f of wrong) process.stdout.write(`${f.state.padEnd(8)} ${f.file}\n`);
    process.stdout.write(`${files.length - wrong.length} of ${files.length} files in ${folder} are as recorded\n`);
  }
  return wrong.length > 0 ? 1 : 0;
}
