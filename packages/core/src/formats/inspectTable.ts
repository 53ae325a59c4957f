import { applyTable, type Rgb, type Table } from '../colour/table.ts';

/** A place on the grey axis, 0–1 of the domain, in one channel. */
export interface GreyPlace {
  channel: 0 | 1 | 2;
  at: number;
}
/** What can be said of a table: its grey axis, how much of it clips, folds back or steps. */
export interface TableReport {
  grey: { at: number; rgb: [number, number, number] }[];
  clippedLow: number;
  clippedHigh: number;
  /** share of cells whose colours turn inside out */
  folded: number;
  /** channels whose grey axis falls somewhere, and where first */
  falls: GreyPlace[];
  /** channels whose grey axis bends by a slope of more than 2 between neighbours, and where most */
  bends: GreyPlace[];
  /** channels whose grey axis goes up in steps, and where first */
  bands: GreyPlace[];
  warnings: string[];
}
const names = ['red', 'green', 'blue'] as const,
  percent = (v: number): string => `${v < 0.001 ? '<0.1' : (v * 100).toFixed(1)} %`,
  /** slope that neighbours may differ by; and how much slope may swing up and down within an eighth of the greys */
  sharpest = 2,
  swing = 2;

const corner = (t: Table, at: Rgb): Rgb => t.domainMin.map((v, c) => v + (t.domainMax[c]! - v) * at[c]!) as unknown as Rgb;
/** A colour through a table, from 0–1 of its domain. */
export const throughDomain = (t: Table, at: Rgb): Rgb => applyTable(t, corner(t, at));

/** Whether three edges from a corner turn the other way round than the axes do. */
function turnsOver(o: Rgb, x: Rgb, y: Rgb, z: Rgb): boolean {
  const [a, b, c] = [x, y, z].map((p) => p.map((v, k) => v - o[k]!)) as [number[], number[], number[]];
  return (
    a[0]! * (b[1]! * c[2]! - b[2]! * c[1]!) - a[1]! * (b[0]! * c[2]! - b[2]! * c[0]!) + a[2]! * (b[0]! * c[1]! - b[1]! * c[0]!) < -1e-9
  );
}
/** What befalls a colour, from 0–1 of the domain: an end it reaches that it did not start from, and whether the cube is folded there. */
export function fateOf(t: Table, at: Rgb): { clips: boolean; folds: boolean } {
  const step = 1 / (t.size - 1),
    out = throughDomain(t, at),
    low = at.map((v) => Math.min(v, 1 - step)) as unknown as Rgb,
    moved = (c: number): Rgb => throughDomain(t, low.map((v, k) => (k === c ? v + step : v)) as unknown as Rgb);
  return {
    clips: out.some((v) => v <= 0 || v >= 1) && at.every((v) => v > 0 && v < 1),
    folds: t.kind === '3d' && turnsOver(throughDomain(t, low), moved(0), moved(1), moved(2)),
  };
}

/** Where the greys of a channel first fall, bend most and first go up in steps. */
function greyFaults(grey: TableReport['grey'], channel: 0 | 1 | 2): { fall: number | null; bend: number | null; band: number | null } {
  const n = grey.length - 1,
    slope = grey.slice(1).map((g, i) => (g.rgb[channel] - grey[i]!.rgb[channel]) * n),
    turn = slope.slice(1).map((s, i) => s - slope[i]!),
    fall = slope.findIndex((s) => s < -2e-4 * n),
    sharp = turn.reduce((most, v, i) => (Math.abs(v) > Math.abs(turn[most]!) ? i : most), 0),
    // a slope that rises and falls again and again is a staircase
    swings = turn.map((v, i) => (i > 0 && v * turn[i - 1]! < 0 ? Math.min(Math.abs(v), Math.abs(turn[i - 1]!)) : 0)),
    reach = Math.max(4, Math.round(n / 8));
  let band: number | null = null;
  for (let i = 0, sum = 0; i < swings.length && band === null; i++) {
    sum += swings[i]! - (i >= reach ? swings[i - reach]! : 0);
    if (sum > swing) band = Math.max(0, i - reach + 1) / n;
  }
  return {
    fall: fall < 0 ? null : (fall + 1) / n,
    bend: turn.length > 0 && Math.abs(turn[sharp]!) > sharpest ? (sharp + 1) / n : null,
    band,
  };
}

/** Shares of a table's entries that lie on either end, beyond those of the faces of a plain cube. */
function clippedShares({ kind, size, data }: Table): [low: number, high: number] {
  const entries = data.length / 3,
    face = kind === '3d' ? 1 - ((size - 1) / size) ** 3 : 1 / size;
  let [low, high] = [0, 0];
  const [stride, next] = kind === '3d' ? [3, 1] : [1, size];
  for (let i = 0; i < entries; i++) {
    const [a, b, c] = [data[i * stride]!, data[i * stride + next]!, data[i * stride + 2 * next]!];
    if (a <= 0 || b <= 0 || c <= 0) low++;
    if (a >= 1 || b >= 1 || c >= 1) high++;
  }
  return [Math.max(0, low / entries - face), Math.max(0, high / entries - face)];
}

/** Share of a cube's cells, at most 32 a side of them looked at, whose colours turn inside out. */
function foldedShare({ kind, size, data }: Table): number {
  if (kind === '1d') return 0;
  const step = Math.max(1, Math.floor(size / 33)),
    get = (r: number, g: number, b: number): Rgb => {
      const o = ((b * size + g) * size + r) * 3;
      return [data[o]!, data[o + 1]!, data[o + 2]!];
    };
  let folded = 0,
    cells = 0;
  for (let b = 0; b + step < size; b += step)
    for (let g = 0; g + step < size; g += step)
      for (let r = 0; r + step < size; r += step, cells++)
        if (turnsOver(get(r, g, b), get(r + step, g, b), get(r, g + step, b), get(r, g, b + step))) folded++;
  return folded / cells;
}

/** Reads a table: what a retoucher should know before trusting it. */
export function inspectTable(t: Table): TableReport {
  const steps = Math.min(256, Math.max(33, t.size)),
    grey = Array.from({ length: steps }, (_, i) => {
      const at = i / (steps - 1);
      return { at, rgb: throughDomain(t, [at, at, at]) as [number, number, number] };
    }),
    faults = ([0, 1, 2] as const).map((channel) => ({ channel, ...greyFaults(grey, channel) })),
    places = (which: 'fall' | 'bend' | 'band'): GreyPlace[] =>
      faults.flatMap(({ channel, [which]: at }) => (at === null ? [] : [{ channel, at }])),
    [falls, bends, bands] = [places('fall'), places('bend'), places('band')],
    [clippedLow, clippedHigh] = clippedShares(t),
    folded = foldedShare(t),
    warnings: string[] = [],
    where = (list: GreyPlace[]): string => list.map((p) => `${names[p.channel]} at ${Math.round(p.at * 100)} %`).join(', ');
  for (const f of falls)
    warnings.push(`The greys fall back in ${names[f.channel]} from ${Math.round(f.at * 100)} % on: lighter light comes out darker there.`);
  if (folded > 0.002) warnings.push(`${percent(folded)} of the cube is folded: neighbouring colours change places.`);
  if (clippedHigh > 0.05) warnings.push(`${percent(clippedHigh)} of the colours reach the upper end and lose detail.`);
  if (clippedLow > 0.05) warnings.push(`${percent(clippedLow)} of the colours reach the lower end and lose detail.`);
  if (bands.length > 0) warnings.push(`The greys go up in steps (${where(bands)}): smooth skies will band.`);
  else if (bends.length > 0) warnings.push(`The greys bend sharply (${where(bends)}): an edge may show in smooth skies.`);
  if (t.kind === '3d' && t.size < 17)
    warnings.push(`With ${t.size} a side the cube is coarse; between its entries colours are only guessed.`);
  let far = false;
  for (let i = 0; i < t.data.length && !far; i++) far = t.data[i]! < -0.5 || t.data[i]! > 4;
  if (far) warnings.push('It holds values far outside 0–1; it may be meant for another encoding than the one chosen.');
  return { grey, clippedLow, clippedHigh, folded, falls, bends, bands, warnings };
}
