import { basename, extname } from 'node:path';
import { findChart } from '@dyepot/core/src/match/chart.ts';
import { coloursByCharts } from '@dyepot/core/src/match/correction.ts';
import { smallRaw } from '@dyepot/server/src/work/matching.ts';
import { parse } from './options.ts';

/** `dyepot chart`: finds a chart of 24 patches: its corners, its patches, how far they are from the published values, and what would put the camera's colours right. */
export async function chart(args: string[]): Promise<number> {
  const { flags, positionals } = parse(args, []);
  if (positionals.length !== 1) throw new Error('chart takes one file');
  const { plate, facts, width, height } = await smallRaw(positionals[0]!),
    found = findChart(plate);
  if (!found) {
    if (flags['json']) process.stdout.write(`${JSON.stringify({ file: positionals[0], chart: null }, null, 2)}\n`);
    else process.stdout.write(`${positionals[0]}  no chart of 24 patches\n`);
    return 1;
  }
  const colours = coloursByCharts([{ chart: found, profile: facts.profile }], basename(positionals[0]!, extname(positionals[0]!))),
    two = (v: number): number => Number(v.toFixed(2));
  const answer = {
    file: positionals[0],
    chart: {
      corners: found.corners.map(([x, y]) => [Number(x.toFixed(5)), Number(y.toFixed(5))]),
      pixels: found.corners.map(([x, y]) => [Number((x * width).toFixed(1)), Number((y * height).toFixed(1))]),
      patches: found.patches.map((camera, i) => ({
        camera: camera.map((v) => Number(v.toFixed(5))),
        difference: Number(found.errors[i]!.toFixed(2)),
      })),
      meanDifference: Number(found.error.toFixed(2)),
    },
    colours: colours && {
      before: two(colours.before),
      corrections: colours.corrections.map(({ correction, unseen }) => ({ ...correction, unseen: two(unseen) })),
    },
  };
  const said = colours
    ? `; as the profile shows it ${two(colours.before)}${colours.corrections.map(({ correction, unseen }) => `, by ${correction.kind === 'matrix' ? 'a matrix' : 'a root polynomial'} ${correction.after} (${two(unseen)} unseen)`).join('')}`
    : '; too many of its patches clip or drown to judge the colours by';
  process.stdout.write(
    flags['json']
      ? `${JSON.stringify(answer, null, 2)}\n`
      : `${positionals[0]}  corners ${answer.chart.pixels.map((p) => p.join(',')).join(' ')}; CIEDE2000 ${answer.chart.meanDifference} in the mean to the published values${said}\n`,
  );
  return 0;
}
