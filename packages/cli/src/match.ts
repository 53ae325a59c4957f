import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { basename, extname, join } from 'node:path';
import { autoBalance } from '@dyepot/core/src/groundwork/balance.ts';
import type { Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { apart, brought, noShift, type Shift } from '@dyepot/core/src/match/card.ts';
import { chartErrorBetween, findChart, type Chart } from '@dyepot/core/src/match/chart.ts';
import { compare } from '@dyepot/core/src/match/pair.ts';
import { pairsToCompare, shiftBetween, shiftByChart, shiftByNeutrals } from '@dyepot/core/src/match/set.ts';
import { settle, type Tie } from '@dyepot/core/src/match/settle.ts';
import { spotAgain, spotAt } from '@dyepot/core/src/match/spot.ts';
import { sampleOf } from '@dyepot/core/src/match/likeness.ts';
import { kernels } from '@dyepot/server/src/work/ownKernels.ts';
import { smallRaw, type SmallRaw } from '@dyepot/server/src/work/matching.ts';
import { groundworkIn, oneOf, parse, textOf } from './options.ts';

const ways = ['statistics', 'neutral', 'patch', 'chart'] as const;
type Way = (typeof ways)[number];
interface Matched {
  shift: Shift;
  /** how much speaks for it, in places known again; null where it does not say */
  weight: number | null;
  more: Record<string, unknown>;
}
const round = (v: number, digits: number): number => Number(v.toFixed(digits));

/** What brings each frame to the anchor, by whole pictures. */
function byStatistics(raws: readonly SmallRaw[], anchor: number): Matched[] {
  const samples = raws.map((r) => sampleOf(r.plate)),
    ties: Tie[] = pairsToCompare(raws.length, anchor).map(({ from, to }) => ({
      from,
      to,
      evidence: compare(samples[from]!, samples[to]!),
    }));
  return settle(raws.length, anchor, ties).map(({ ev, ratios, weight, sure }) => ({ shift: { ev, ratios }, weight, more: { sure } }));
}
/** Each frame's way to the anchor, or a sentence why it has none. */
function matched(by: Way, raws: readonly SmallRaw[], anchor: number, at: [number, number] | null): (Matched | string)[] {
  if (by === 'statistics') return byStatistics(raws, anchor);
  const greys = raws.map(({ facts: { profile }, plate }) => ({ profile, light: by === 'neutral' ? autoBalance(plate, profile) : null }));
  if (by === 'neutral')
    return byStatistics(raws, anchor).map((m, i) => {
      const shift = shiftByNeutrals(greys[i]!, greys[anchor]!, m.shift.ev);
      return shift ? { ...m, shift } : 'nothing in this picture looks grey under any usual light';
    });
  const charts = raws.map((r) => findChart(r.plate)),
    own = charts[anchor];
  if (by === 'chart') {
    if (!own) throw new Error('there is no chart of 24 patches in the anchor');
    return charts.map((chart) =>
      chart ? { shift: shiftByChart(chart, own), weight: null, more: { chart } } : 'there is no chart of 24 patches in this picture',
    );
  }
  if (!at) throw new Error('--by patch needs --at X,Y: a place of the anchor, in fractions of the picture from its top left');
  const spot = spotAt(raws[anchor]!.plate, ...at);
  if (!spot) throw new Error('that place of the anchor clips, or is too dark to tell its colour');
  return raws.map((r, i) => {
    const again = i === anchor ? spot : spotAgain(spot, { chart: own ?? null }, { plate: r.plate, chart: charts[i] ?? null });
    return again
      ? { shift: shiftBetween(again.camera, spot.camera), weight: null, more: { at: [round(again.x, 4), round(again.y, 4)] } }
      : 'the place is not found again in this picture';
  });
}

/** `dyepot match`: proposes groundwork under which frames match an anchor. */
export async function match(args: string[]): Promise<number> {
  const { values, flags, positionals } = parse(args, ['anchor', 'by', 'at', 'write', 'groundwork']);
  if (positionals.length === 0 || !values['anchor']) throw new Error('match needs at least one file and --anchor FILE');
  const by = oneOf(values['by'] ?? 'statistics', 'by', ways),
    place = values['at']?.split(',').map(Number);
  if (place && !(place.length === 2 && place.every((v) => v >= 0 && v <= 1)))
    throw new Error('--at takes two fractions of the picture from 0 to 1, such as 0.5,0.4');
  const files = [values['anchor'], ...positionals.filter((f) => f !== values['anchor'])],
    raws: SmallRaw[] = [],
    done = files.map((f) => (values['groundwork'] ? groundworkIn(values['groundwork'], f) : null));
  for (const file of files) raws.push(await smallRaw(file));
  const found = matched(by, raws, 0, (place as [number, number] | undefined) ?? null),
    k = await kernels(),
    first = found[0]!,
    ownChart = typeof first === 'string' ? undefined : (first.more['chart'] as Chart | undefined),
    anchor = { profile: raws[0]!.facts.profile, groundwork: done[0]! };
  let failed = 0;
  const answers = files.map((file, i) => {
    const m = found[i]!;
    if (typeof m === 'string') {
      failed++;
      process.stderr.write(`dyepot: ${file}: ${m}\n`);
      return { file, error: m };
    }
    const subject = { profile: raws[i]!.facts.profile, groundwork: done[i]! },
      shift = i === 0 ? noShift : m.shift,
      groundwork: Groundwork | null = i === 0 ? subject.groundwork : brought(subject, anchor, shift),
      before = apart(k, subject, anchor, shift, null),
      after = apart(k, { ...subject, groundwork }, anchor, shift, null);
    const told = (a: typeof before): object => ({
      ev: round(a.ev, 3),
      mired: round(a.mired, 2),
      duv: round(a.duv, 5),
      difference: round(a.difference, 2),
    });
    const chart = m.more['chart'] as Chart | undefined;
    const patches = chart
      ? {
          patches: {
            before: round(chartErrorBetween(chart, ownChart!, subject, anchor), 2),
            after: round(chartErrorBetween(chart, ownChart!, { ...subject, groundwork }, anchor), 2),
          },
        }
      : {};
    if (values['write'] && groundwork) write(values['write'], file, groundwork);
    return {
      file,
      anchor: i === 0,
      proposed: {
        exposureEv: groundwork?.exposureEv ?? 0,
        ...(groundwork ? { kelvin: groundwork.balance.kelvin, tintDuv: groundwork.balance.tintDuv } : {}),
      },
      before: told(before),
      after: told(after),
      ...(m.weight !== null && Number.isFinite(m.weight) ? { weight: round(m.weight, 1), sure: m.more['sure'] } : {}),
      ...('at' in m.more ? { at: m.more['at'] } : {}),
      ...patches,
    };
  });
  if (flags['json']) process.stdout.write(`${JSON.stringify({ by, frames: answers }, null, 2)}\n`);
  else
    for (const a of answers)
      if ('proposed' in a)
        process.stdout.write(
          `${a.file}  ${a.anchor ? 'anchor' : `${signed((a.before as { ev: number }).ev)} EV and ${signed((a.before as { mired: number }).mired)} mired from it; proposed ${signed(a.proposed.exposureEv)} EV${'kelvin' in a.proposed ? `, ${Math.round(a.proposed.kelvin!)} K` : ''}`}\n`,
        );
  return failed > 0 ? 1 : 0;
}
const signed = (v: number): string => `${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(2)}`;
function write(folder: string, file: string, groundwork: Groundwork): void {
  mkdirSync(folder, { recursive: true });
  const out = join(folder, `${basename(file, extname(file))}.groundwork.json`);
  if (existsSync(out) && !ours(out)) throw new Error(`${out} is there already and is no groundwork of Dyepot's`);
  writeFileSync(out, `${JSON.stringify(groundwork, null, 2)}\n`);
}
function ours(path: string): boolean {
  try {
    return (JSON.parse(textOf(path)) as { format?: string }).format === 'dyepot-groundwork';
  } catch {
    return false;
  }
}
