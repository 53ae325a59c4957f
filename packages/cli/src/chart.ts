import { findChart } from '@dyepot/core/src/match/chart.ts';
import { smallRaw } from '@dyepot/server/src/work/matching.ts';
import { parse } from './options.ts';

/** `dyepot chart`: finds a chart of 24 patches: its corners, its patches, and how far they are from the published values. */
export async function chart(args: string[]): Promise<number> {
  const { flags, positionals } = parse(args, []);
  if (positionals.length !== 1) throw new Error('chart takes one file');
  const { plate, width, height } = await smallRaw(positionals[0]!),
    found = findChart(plate);
  if (!found) {
    if (flags['json']) process.stdout.write(`${JSON.stringify({ file: positionals[0], chart: null }, null, 2)}\n`);
    else process.stdout.write(`${positionals[0]}  no chart of 24 patches\n`);
    return 1;
  }
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
  };
  process.stdout.write(
    flags['json']
      ? `${JSON.stringify(answer, null, 2)}\n`
      : `${positionals[0]}  corners ${answer.chart.pixels.map((p) => p.join(',')).join(' ')}; CIEDE2000 ${answer.chart.meanDifference} in the mean to the published values\n`,
  );
  return 0;
}
