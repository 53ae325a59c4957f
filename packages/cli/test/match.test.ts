import { mkdtempSync, readFileSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { dyepot, frames } from './cliTrial.ts';

const folder = mkdtempSync(join(tmpdir(), 'dyepot-cli-match-')),
  raw = (name: string): string => join(frames, `${name}.dng`);
interface Truth {
  ev: number;
  kelvin: number;
  believedKelvin: number;
  chart: { board: [number, number][]; card: [number, number][] } | null;
}
const truthOf = (name: string): Truth => JSON.parse(readFileSync(join(frames, `${name}.truth.json`), 'utf8')) as Truth,
  deviation = (v: number[]): number => {
    const mean = v.reduce((a, b) => a + b, 0) / v.length;
    return Math.sqrt(v.reduce((a, b) => a + (b - mean) ** 2, 0) / v.length);
  };
interface Answer {
  frames: {
    file: string;
    error?: string;
    proposed: { exposureEv: number; kelvin?: number };
    before: { ev: number; mired: number; difference: number };
    after: { ev: number; mired: number; difference: number };
    at?: [number, number];
    patches?: { before: number; after: number };
  }[];
}

describe('matching on the command line', () => {
  it('by what is shown: the spread of exposure and warmth is a third or less, against what the simulated camera knows; rendering takes the folder', () => {
    const names = ['TR-0437', 'TR-0438', 'TR-0440', 'TR-0444'],
      out = join(folder, 'matched'),
      run = dyepot('match', ...names.map(raw), '--anchor', raw('TR-0444'), '--write', out, '--json');
    expect(run.err).toBe('');
    const { frames: answers } = JSON.parse(run.out) as Answer,
      ev = names.map((n) => truthOf(n).ev),
      proposed = names.map((n) => answers.find((a) => a.file === raw(n))!.proposed.exposureEv),
      after = ev.map((v, i) => v + proposed[i]!);
    console.log(`vat room: exposure spread ${deviation(ev).toFixed(3)} EV before, ${deviation(after).toFixed(3)} after`);
    expect(deviation(after)).toBeLessThan(deviation(ev) / 3);
    const mired = names.map((n) => 1e6 / truthOf(n).believedKelvin),
      kept = names
        .map((n) => answers.find((a) => a.file === raw(n))!.proposed.kelvin)
        .map((k) => 1e6 / (k ?? truthOf('TR-0444').believedKelvin));
    expect(deviation(kept)).toBeLessThan(deviation(mired) / 3);
    // each frame's own document is taken from the folder
    expect(statSync(join(out, 'TR-0440.groundwork.json')).size).toBeGreaterThan(100);
    const rendered = dyepot('render', raw('TR-0440'), '--look', 'none', '--out', join(folder, 'r'), '--size', '200', '--groundwork', out);
    expect([rendered.status, rendered.err]).toEqual([0, '']);
  });
  it('the chart is found where it is, within 2 pixels, and not where there is none', () => {
    const found = JSON.parse(dyepot('chart', raw('TR-0455'), '--json').out) as {
        chart: { corners: [number, number][]; meanDifference: number };
      },
      { board } = truthOf('TR-0455').chart!;
    found.chart.corners.forEach(([x, y], i) => expect(Math.hypot((x - board[i]![0]) * 1632, (y - board[i]![1]) * 1088)).toBeLessThan(2));
    expect(found.chart.meanDifference).toBeLessThan(3);
    expect(dyepot('chart', raw('TR-0437')).status).toBe(1);
  });
  it('by the chart and by the grey card, across lights; what cannot be matched is said', () => {
    const byChart = JSON.parse(
      dyepot('match', raw('TR-0455'), raw('TR-0437'), '--anchor', raw('TR-0419'), '--by', 'chart', '--json').out,
    ) as Answer;
    expect(byChart.frames[1]!.patches!.after).toBeLessThan(2.5);
    expect(byChart.frames[1]!.patches!.before).toBeGreaterThan(3 * byChart.frames[1]!.patches!.after);
    expect(byChart.frames[2]!.error).toMatch(/no chart/);
    const { card } = truthOf('TR-0419').chart!,
      at = [0, 1].map((k) => (card.reduce((sum, p) => sum + p[k]!, 0) / 4).toFixed(4)).join(),
      byCard = JSON.parse(dyepot('match', raw('TR-0455'), '--anchor', raw('TR-0419'), '--by', 'patch', '--at', at, '--json').out) as Answer,
      there = truthOf('TR-0455').chart!.card,
      [x, y] = byCard.frames[1]!.at!;
    // it is found on the card of the other frame
    expect(x).toBeGreaterThan(Math.min(...there.map((p) => p[0])));
    expect(x).toBeLessThan(Math.max(...there.map((p) => p[0])));
    expect(y).toBeGreaterThan(Math.min(...there.map((p) => p[1])));
    expect(y).toBeLessThan(Math.max(...there.map((p) => p[1])));
    expect(Math.abs(byCard.frames[1]!.after.ev)).toBeLessThan(0.05);
    expect(byCard.frames[1]!.after.difference).toBeLessThan(1);
    expect(dyepot('match', raw('TR-0455'), '--anchor', raw('TR-0419'), '--by', 'magic').err).toMatch(/--by takes statistics or neutral/);
    expect(dyepot('match', raw('TR-0455'), '--anchor', raw('TR-0419'), '--by', 'patch', '--at', '2,3').err).toMatch(/fractions/);
  });
  it('evenness tells lights apart, what stands out and why, and writes a report', () => {
    const pdf = join(folder, 'report.pdf'),
      run = dyepot('evenness', ...['TR-0437', 'TR-0444', 'TR-0451', 'TR-0452'].map(raw), '--pdf', pdf, '--json');
    expect(run.err).toBe('');
    const told = JSON.parse(run.out) as { groups: { frames: { file: string; even: boolean; why?: string; ev: number }[] }[] };
    expect(told.groups.map((g) => g.frames.length)).toEqual([2, 2]);
    const out = told.groups.flatMap((g) => g.frames).filter((f) => !f.even);
    expect(out.length).toBeGreaterThan(0);
    expect(out[0]!.why).toMatch(/EV (darker|lighter) than its anchor/);
    expect(readFileSync(pdf).subarray(0, 5).toString()).toBe('%PDF-');
  });
});
