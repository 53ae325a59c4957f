import { existsSync, readFileSync } from 'node:fs';
import { basename, extname, resolve } from 'node:path';
import { apart, noShift, type Shift } from '@dyepot/core/src/match/card.ts';
import { spreadOf, usualTolerance, whyOut } from '@dyepot/core/src/match/evenness.ts';
import { sampleOf } from '@dyepot/core/src/match/likeness.ts';
import { groupsOfLight } from '@dyepot/core/src/match/lights.ts';
import { compare } from '@dyepot/core/src/match/pair.ts';
import { pairsToCompare, typical } from '@dyepot/core/src/match/set.ts';
import { settle } from '@dyepot/core/src/match/settle.ts';
import { evennessPdf, type ReportGroup } from '@dyepot/server/src/work/evennessReport.ts';
import { writeWhole } from '@dyepot/server/src/work/files.ts';
import { kernels } from '@dyepot/server/src/work/ownKernels.ts';
import { lightFacts, smallRaw, type SmallRaw } from '@dyepot/server/src/work/matching.ts';
import { groundworkIn, lookFrom, parse } from './options.ts';

/** What brings each frame of a group to its most typical one. */
function toTypical(raws: readonly SmallRaw[]): { anchor: number; shifts: Shift[] } {
  const samples = raws.map((r) => sampleOf(r.plate)),
    ties = pairsToCompare(raws.length, 0).map(({ from, to }) => ({ from, to, evidence: compare(samples[from]!, samples[to]!) })),
    first = settle(raws.length, 0, ties),
    anchor = typical(raws.length, first),
    shifts = anchor === 0 ? first : settle(raws.length, anchor, ties);
  return { anchor, shifts: shifts.map((s, i) => (i === anchor ? noShift : s)) };
}

/** `dyepot evenness`: how alike frames are, light by light. */
export async function evenness(args: string[]): Promise<number> {
  const { values, flags, positionals } = parse(args, ['look', 'groundwork', 'tolerance', 'pdf']);
  if (positionals.length === 0) throw new Error('evenness needs at least one file');
  const tolerance = Number(values['tolerance'] ?? usualTolerance);
  if (!(tolerance > 0 && tolerance <= 20)) throw new Error(`--tolerance takes a number over 0 and up to 20, not “${values['tolerance']}”`);
  const look = values['look'] ? await lookFrom(values['look']) : null,
    pdf = values['pdf'] ? resolve(values['pdf']) : null;
  if (pdf && existsSync(pdf) && !readFileSync(pdf).includes('(Dyepot)'))
    throw new Error(`${pdf} is there already and was not made by Dyepot`);
  const raws: SmallRaw[] = [],
    done = positionals.map((f) => (values['groundwork'] ? groundworkIn(values['groundwork'], f) : null)),
    k = await kernels();
  for (const file of positionals) raws.push(await smallRaw(file));
  const light = groupsOfLight(raws.map((r) => lightFacts(r.facts, r.plate))),
    nameOf = (i: number): string => basename(positionals[i]!, extname(positionals[i]!));
  const groups = [...new Set(light)].map((g) => {
    const own = positionals.flatMap((_, i) => (light[i] === g ? [i] : [])),
      { anchor, shifts } = toTypical(own.map((i) => raws[i]!)),
      subject = (i: number): { profile: SmallRaw['facts']['profile']; groundwork: (typeof done)[number] } => ({
        profile: raws[i]!.facts.profile,
        groundwork: done[i]!,
      });
    const frames = own.map((i, at) => ({
      file: positionals[i]!,
      name: nameOf(i),
      apart: apart(k, subject(i), subject(own[anchor]!), shifts[at]!, look),
    }));
    return { name: `Light ${g + 1}`, anchor: nameOf(own[anchor]!), frames };
  });
  const all = groups.flatMap((g) => g.frames),
    even = all.filter((f) => f.apart.difference <= tolerance).length;
  if (pdf)
    await writeWhole(
      pdf,
      await evennessPdf({ title: `${all.length} frames`, look: look?.name ?? '', tolerance, groups: groups satisfies ReportGroup[] }),
    );
  const rounded = (v: number): number => Number(v.toFixed(3));
  if (flags['json'])
    process.stdout.write(
      `${JSON.stringify(
        {
          tolerance,
          even,
          frames: all.length,
          groups: groups.map(({ name, anchor, frames }) => ({
            name,
            anchor,
            spread: Object.fromEntries(Object.entries(spreadOf(frames.map((f) => f.apart))).map(([key, v]) => [key, rounded(v as number)])),
            frames: frames.map(({ file, apart: a }) => ({
              file,
              ev: rounded(a.ev),
              mired: rounded(a.mired),
              duv: Number(a.duv.toFixed(5)),
              difference: rounded(a.difference),
              even: a.difference <= tolerance,
              ...(whyOut(a, tolerance) ? { why: whyOut(a, tolerance) } : {}),
            })),
          })),
        },
        null,
        2,
      )}\n`,
    );
  else {
    process.stdout.write(`${even} of ${all.length} frames even, within ${tolerance} of their anchor\n`);
    for (const { name, anchor, frames } of groups) {
      process.stdout.write(`${name}, anchor ${anchor}\n`);
      for (const f of frames)
        process.stdout.write(`  ${f.name}  ${whyOut(f.apart, tolerance) ?? `even (${f.apart.difference.toFixed(1)} ΔE)`}\n`);
    }
  }
  return 0;
}
