import { mkdirSync, writeFileSync } from 'node:fs';
import { basename, extname, join } from 'node:path';
import { dustEdge, sharedLeast, sharedSpecks, specksIn, usualLeast, type Speck } from '@dyepot/core/src/repair/dust.ts';
import { noRepairs, straightFrom, type Repair, type Shape } from '@dyepot/core/src/repair/repairs.ts';
import { findSource, soughtIn, soughtRadius } from '@dyepot/core/src/repair/source.ts';
import { pieceOf } from '@dyepot/core/src/repair/mend.ts';
import { halvePlate, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { decodePlate } from '@dyepot/server/src/work/frameAsDrawn.ts';
import { kernels } from '@dyepot/server/src/work/ownKernels.ts';
import { parse } from './options.ts';

type Place = Pick<Speck, 'x' | 'y' | 'radius'>;
/** A repair of each speck, its source found for itself on levels of the plate. */
function healing(levels: readonly Plate[], specks: readonly Place[]): Repair[] {
  const full = levels[0]!;
  return specks.flatMap((s, i): Repair[] => {
    const shape: Shape = { kind: 'spot', x: s.x, y: s.y, radius: Math.min(0.25, s.radius * 1.25), feather: 0.35 };
    let level = 0;
    while (level < levels.length - 1 && (shape.radius * Math.max(full.width, full.height)) / 2 ** (level + 1) >= soughtRadius * 0.75)
      level++;
    const plate = levels[level]!,
      area = soughtIn(shape, plate),
      at = area && findSource(pieceOf(plate, area), plate, shape, 'heal');
    return at ? [{ id: `dust-${i + 1}`, kind: 'heal', on: true, shape, source: straightFrom(at.dx, at.dy) }] : [];
  });
}

/** `dyepot dust`: finds specks of dust; of several files those that show at one place of the sensor. */
export async function dust(args: string[]): Promise<number> {
  const { values, flags, positionals } = parse(args, ['least', 'write']);
  if (positionals.length === 0) throw new Error('dust needs at least one file');
  const several = positionals.length > 1,
    least = values['least'] ? Number(values['least']) : several ? sharedLeast : usualLeast;
  if (!(least >= 1 && least <= 50)) throw new Error(`--least takes a number from 1 to 50, not “${values['least']}”`);
  const k = await kernels(),
    frames: { file: string; levels: Plate[]; specks: Speck[]; kept: Place[] }[] = [];
  for (const file of positionals) {
    const levels = [(await decodePlate(file, false)).plate];
    while (levels.length < 4) levels.push(halvePlate(k, levels[levels.length - 1]!));
    const looked = levels.find((l) => Math.max(l.width, l.height) <= dustEdge) ?? levels[levels.length - 1]!,
      specks = specksIn(looked, least);
    frames.push({ file, levels: values['write'] ? levels : levels.slice(0, 1), specks, kept: specks });
  }
  const { width, height } = frames[0]!.levels[0]!;
  if (several) {
    const alike = frames.filter((f) => f.levels[0]!.width === width && f.levels[0]!.height === height);
    if (alike.length < frames.length) process.stderr.write('dyepot: only frames as large as the first are compared\n');
    const shared = sharedSpecks(
      alike.map((f) => f.specks),
      { width, height },
    );
    for (const f of frames) f.kept = shared.filter((s) => s.frames.includes(alike.indexOf(f)));
  }
  const answers = frames.map(({ file, levels, kept }) => {
    let out: string | undefined;
    if (values['write']) {
      mkdirSync(values['write'], { recursive: true });
      out = join(values['write'], `${basename(file, extname(file))}.repairs.json`);
      writeFileSync(out, `${JSON.stringify({ ...noRepairs, repairs: healing(levels, kept) }, null, 2)}\n`);
    }
    const tidy = (v: number): number => Number(v.toFixed(6));
    return { file, spots: kept.map(({ x, y, radius }) => ({ x: tidy(x), y: tidy(y), radius: tidy(radius) })), ...(out ? { out } : {}) };
  });
  if (flags['json']) process.stdout.write(`${JSON.stringify(answers, null, 2)}\n`);
  else
    for (const a of answers)
      process.stdout.write(`${a.file}  ${a.spots.length} ${a.spots.length === 1 ? 'speck' : 'specks'}${a.out ? `  ${a.out}` : ''}\n`);
  return 0;
}
