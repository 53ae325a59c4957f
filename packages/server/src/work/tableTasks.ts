import { readFileSync } from 'node:fs';
import { basename, dirname, extname } from 'node:path';
import { fitReport, fitTable } from '@dyepot/core/src/formats/fitTable.ts';
import { inspectTable } from '@dyepot/core/src/formats/inspectTable.ts';
import { storeTable, type StoredTable } from '@dyepot/core/src/colour/table.ts';
import type { Encoding } from '@dyepot/core/src/steps/lookup/index.ts';
import type { NamedCdl } from '@dyepot/core/src/formats/cdl.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { PlainError } from '../plainError.ts';
import { forLook, readPixels, readTableFile } from './tableFile.ts';
import { bakeFile, type BakeFormat, type Baked } from './bakeFile.ts';
import { makeFolder, writeWhole } from './files.ts';
import { kernels } from './ownKernels.ts';

/** A table file as it can stand in a look, with what there is to say of it. */
export async function readTable({
  path,
  name,
}: {
  path: string;
  name: string;
}): Promise<{ table: StoredTable; corrections: NamedCdl[]; warnings: string[] }> {
  const read = await readTableFile(readFileSync(path), name),
    small = forLook(read.table);
  return {
    table: storeTable(small.table),
    corrections: read.corrections,
    warnings: [...read.warnings, ...small.warnings, ...inspectTable(small.table).warnings],
  };
}
/** The table that takes one picture to another of the same size. */
export async function fitPair({
  before,
  after,
  size,
}: {
  before: { path: string; name: string };
  after: { path: string; name: string };
  size: number;
}): Promise<{ table: StoredTable; coverage: number; mean: number; worst: number; warnings: string[] }> {
  const [a, b] = [await readPixels(readFileSync(before.path), before.name), await readPixels(readFileSync(after.path), after.name)];
  if (a.width !== b.width || a.height !== b.height)
    throw new PlainError(
      `${before.name} is ${a.width} × ${a.height} and ${after.name} is ${b.width} × ${b.height}; the two must be the same size`,
    );
  const unit = (p: Uint8Array | Uint16Array): Float32Array => {
      const top = p.BYTES_PER_ELEMENT === 1 ? 255 : 65535;
      return Float32Array.from(p, (v) => v / top);
    },
    from = unit(a.pixels),
    to = unit(b.pixels),
    table = fitTable(from, to, size, `${basename(after.name, extname(after.name))}, recovered`),
    report = fitReport(table, from, to);
  const warnings = [
    ...(report.coverage < 0.12
      ? [
          `The pictures hold only ${(report.coverage * 100).toFixed(0)} % of the cube's colours; elsewhere the table goes on smoothly, by guess.`,
        ]
      : []),
    ...(report.mean > 3
      ? [
          `On average ${report.mean.toFixed(1)} codes are left between the table and the picture: something in it is no matter of colour alone (sharpening, masks, another crop).`,
        ]
      : []),
  ];
  return { table: storeTable(table), ...report, warnings };
}
/** A look baked to a file. */
export async function bake({
  look,
  format,
  size,
  input,
  out,
}: {
  look: Look;
  format: BakeFormat;
  size: number;
  input: Encoding;
  out: string | null;
}): Promise<Omit<Baked, 'file'>> {
  const { file, ...rest } = await bakeFile(await kernels(), look, format, size, input);
  if (out) {
    makeFolder(dirname(out));
    await writeWhole(out, file);
  }
  return rest;
}
