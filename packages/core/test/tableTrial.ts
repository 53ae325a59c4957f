import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Clf } from '../src/formats/clf.ts';
import { table3d, type Rgb, type Table } from '../src/colour/table.ts';

export const work = mkdtempSync(join(tmpdir(), 'dyepot-tables-')),
  bytes = (text: string): Uint8Array => new TextEncoder().encode(text),
  put = (name: string, text: string): string => {
    const path = join(work, name);
    writeFileSync(path, text);
    return path;
  };
// a thousand colours, a fifth of them outside 0–1
export const colours: Rgb[] = Array.from({ length: 1000 }, (_, i) => {
  const c = [0.8191725, 0.6710436, 0.5497005].map((a) => (0.5 + a * (i + 1)) % 1),
    wide = i % 5 === 0;
  return c.map((v) => (wide ? v * 2 - 0.5 : v)) as unknown as Rgb;
});
export const ocio = (jobs: { file: string; interpolation?: string; cccid?: string }[]): Rgb[][] =>
  JSON.parse(
    execFileSync('/usr/bin/python3', [new URL('./ocio.py', import.meta.url).pathname], {
      input: JSON.stringify({ jobs, colours }),
      encoding: 'utf8',
      maxBuffer: 1e8,
    }),
  ) as Rgb[][];
export const farthest = (ours: (c: Rgb) => Rgb, theirs: Rgb[], relative = false): number =>
  Math.max(
    ...colours.map((c, i) =>
      Math.max(...ours(c).map((v, k) => Math.abs(v - theirs[i]![k]!) / (relative ? Math.max(1, Math.abs(theirs[i]![k]!)) : 1))),
    ),
  );
export const odd = (rgb: Rgb): Rgb => [
  Math.max(0, rgb[0]) ** 1.3 * 0.9 + 0.05 * rgb[1],
  0.1 + 0.8 * Math.sin(rgb[1] * 1.5) * (1 - 0.2 * rgb[2]),
  rgb[2] * 0.7 + 0.3 * rgb[0] * rgb[1],
];
export const cube = table3d('Odd', 17, odd),
  wide = table3d('Wide', 9, odd, [-0.2, 0, 0], [1.4, 1.2, 1]);
export const ramp: Table = {
  kind: '1d',
  title: 'Ramp',
  size: 64,
  domainMin: [0, 0, 0],
  domainMax: [1, 1, 1],
  data: Float32Array.from({ length: 192 }, (_, i) => ((i % 64) / 63) ** (0.6 + 0.4 * Math.floor(i / 64))),
};
export const cdl = { slope: [1.2, 0.9, 0.75], offset: [0.03, -0.02, 0.06], power: [0.8, 1.1, 1.4], saturation: 1.3 } as const;
export const log = {
  base: 10,
  linSideSlope: 5.5,
  linSideOffset: 0.05,
  logSideSlope: 0.25,
  logSideOffset: 0.4,
  linSideBreak: null,
  linearSlope: null,
} as const;
export const clf: Clf = {
  id: 'trial',
  name: 'Trial',
  nodes: [
    {
      type: 'matrix',
      rows: [
        [0.9, 0.1, 0],
        [0.05, 0.85, 0.1],
        [0, 0.2, 0.8],
      ],
      offsets: [0.01, 0, -0.01],
    },
    { type: 'range', minIn: 0, maxIn: 1, minOut: 0.02, maxOut: 0.98, clamp: true },
    {
      type: 'exponent',
      style: 'monCurveFwd',
      params: [
        { exponent: 2.4, offset: 0.055 },
        { exponent: 2.2, offset: 0.099 },
        { exponent: 2.4, offset: 0.055 },
      ],
    },
    { type: 'cdl', cdl: { slope: [1.1, 1, 0.9], offset: [0.01, 0.02, 0], power: [1, 0.95, 1.1], saturation: 0.9 }, style: 'Fwd' },
    { type: 'log', style: 'linToLog', params: [log, log, log] },
    { type: 'table', linear: false, table: table3d('', 9, odd) },
    { type: 'table', linear: true, table: ramp },
  ],
};
