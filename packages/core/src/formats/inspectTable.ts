import { applyTable, type Table } from './table.ts';

/** What can be said of a table: its grey axis, how much of it clips, folds back or steps. */
export interface TableReport {
  grey: { at: number; rgb: [number, number, number] }[];
  clippedLow: number;
  clippedHigh: number;
  /** share of cells whose colours turn inside out */ folded: number;
  /** channels whose grey axis falls somewhere, and where first */ falls: { channel: 0 | 1 | 2; at: number }[];
  /** largest jump of slope along the greys between neighbouring entries, in 0–1 of the range */ roughness: number;
  warnings: string[];
}
const names = ['red', 'green', 'blue'] as const,
  percent = (v: number): string => `${v < 0.001 ? '<0.1' : (v * 100).toFixed(1)} %`;

/** Reads a table: what a retoucher should know before trusting it. */
export function inspectTable(t: Table): TableReport {
  const steps = Math.min(256, Math.max(33, t.size)),
    at = (i: number): [number, number, number] =>
      t.domainMin.map((v, c) => v + ((t.domainMax[c]! - v) * i) / (steps - 1)) as [number, number, number];
  const grey = Array.from({ length: steps }, (_, i) => ({ at: i / (steps - 1), rgb: applyTable(t, at(i)) })),
    falls: TableReport['falls'] = [],
    { size, data } = t;
  for (const channel of [0, 1, 2] as const) {
    const i = grey.findIndex((g, k) => k > 0 && g.rgb[channel] < grey[k - 1]!.rgb[channel] - 2e-4);
    if (i > 0) falls.push({ channel, at: grey[i]!.at });
  }
  let roughness = 0;
  for (let i = 1; i < steps - 1; i++)
    for (let c = 0; c < 3; c++)
      roughness = Math.max(roughness, Math.abs(grey[i + 1]!.rgb[c]! - 2 * grey[i]!.rgb[c]! + grey[i - 1]!.rgb[c]!) * (33 / steps));
  let low = 0,
    high = 0,
    folded = 0,
    cells = 0;
  const entries = data.length / 3;
  for (let i = 0; i < entries; i++) {
    let l = false,
      h = false;
    for (let c = 0; c < 3; c++) {
      const v = t.kind === '3d' ? data[i * 3 + c]! : data[c * size + i]!;
      if (v <= 0) l = true;
      if (v >= 1) h = true;
    }
    if (l) low++;
    if (h) high++;
  }
  if (t.kind === '3d') {
    const get = (r: number, g: number, b: number): number => ((b * size + g) * size + r) * 3,
      step = Math.max(1, Math.floor(size / 33));
    for (let b = 0; b + step < size; b += step)
      for (let g = 0; g + step < size; g += step)
        for (let r = 0; r + step < size; r += step) {
          const o = get(r, g, b),
            x = get(r + step, g, b),
            y = get(r, g + step, b),
            z = get(r, g, b + step),
            d = (p: number): [number, number, number] => [data[p]! - data[o]!, data[p + 1]! - data[o + 1]!, data[p + 2]! - data[o + 2]!],
            [A, B, C] = [d(x), d(y), d(z)];
          const det = A[0] * (B[1] * C[2] - B[2] * C[1]) - A[1] * (B[0] * C[2] - B[2] * C[0]) + A[2] * (B[0] * C[1] - B[1] * C[0]);
          cells++;
          if (det < -1e-9) folded++;
        }
  }
  // the faces of a plain cube lie on 0 and 1; what is more is lost
  const face = t.kind === '3d' ? 1 - ((size - 1) / size) ** 3 : 1 / size,
    clippedLow = Math.max(0, low / entries - face),
    clippedHigh = Math.max(0, high / entries - face),
    share = cells > 0 ? folded / cells : 0,
    warnings: string[] = [];
  for (const f of falls)
    warnings.push(`The greys fall back in ${names[f.channel]} from ${Math.round(f.at * 100)} % on: lighter light comes out darker there.`);
  if (share > 0.002) warnings.push(`${percent(share)} of the cube is folded: neighbouring colours change places.`);
  if (clippedHigh > 0.05) warnings.push(`${percent(clippedHigh)} of the colours reach the upper end and lose detail.`);
  if (clippedLow > 0.05) warnings.push(`${percent(clippedLow)} of the colours reach the lower end and lose detail.`);
  if (roughness > 0.06) warnings.push('The greys bend sharply between neighbouring entries: smooth skies may band.');
  if (t.kind === '3d' && size < 17) warnings.push(`With ${size} a side the cube is coarse; between its entries colours are only guessed.`);
  if (Array.from(data).some((v) => v < -0.5 || v > 4))
    warnings.push('It holds values far outside 0–1; it may be meant for another encoding than the one chosen.');
  return { grey, clippedLow, clippedHigh, folded: share, falls, roughness, warnings };
}
