import { applyCdl, type Cdl } from '../colour/cdl.ts';
import type { Rgb } from '../colour/table.ts';

const plain: Cdl = { slope: [1, 1, 1], offset: [0, 0, 0], power: [1, 1, 1], saturation: 1 };
const listOf = (c: Cdl): number[] => [...c.slope, ...c.offset, ...c.power, c.saturation];
const cdlOfList = (v: readonly number[]): Cdl => ({
  slope: [0, 1, 2].map((i) => Math.max(0, v[i]!)) as unknown as Cdl['slope'],
  offset: v.slice(3, 6) as unknown as Cdl['offset'],
  power: [6, 7, 8].map((i) => Math.max(0.05, v[i]!)) as unknown as Cdl['power'],
  saturation: Math.max(0, v[9]!),
});

/** The CDL nearest to what colours become (Levenberg 1944, Marquardt 1963); a look is seldom one exactly. */
export function fitCdl(from: readonly Rgb[], to: readonly Rgb[]): Cdl {
  const off = (v: readonly number[]): Float64Array => {
      const cdl = cdlOfList(v),
        out = new Float64Array(from.length * 3);
      from.forEach((c, i) =>
        applyCdl(cdl, c).forEach((x, k) => {
          out[i * 3 + k] = to[i]![k]! - x;
        }),
      );
      return out;
    },
    size = (r: Float64Array): number => r.reduce((s, v) => s + v * v, 0);
  let at = listOf(plain),
    rest = off(at),
    damping = 1e-3;
  for (let step = 0; step < 60; step++) {
    const slopes = at.map((v, i) => {
      const near = off(at.map((x, k) => (k === i ? v + 1e-4 : x)));
      return rest.map((r, k) => (r - near[k]!) / 1e-4);
    });
    const rows = slopes.map((a, i) => [
        ...slopes.map((b, j) => a.reduce((s, v, k) => s + v * b[k]!, 0) * (i === j ? 1 + damping : 1) + (i === j ? 1e-9 : 0)),
        a.reduce((s, v, k) => s + v * rest[k]!, 0),
      ]),
      n = rows.length;
    for (let i = 0; i < n; i++) {
      const p = rows.slice(i).reduce((best, r, k) => (Math.abs(r[i]!) > Math.abs(rows[best]![i]!) ? i + k : best), i);
      [rows[i], rows[p]] = [rows[p]!, rows[i]!];
      for (let j = 0; j < n; j++)
        if (j !== i) {
          const f = rows[j]![i]! / rows[i]![i]!;
          rows[j] = rows[j]!.map((v, k) => v - f * rows[i]![k]!);
        }
    }
    const next = listOf(cdlOfList(at.map((v, i) => v + rows[i]![n]! / rows[i]![i]!))),
      after = off(next);
    if (size(after) < size(rest)) {
      const gained = size(rest) - size(after);
      at = next;
      rest = after;
      damping = Math.max(1e-9, damping / 4);
      if (gained < 1e-10) break;
    } else if ((damping *= 6) > 1e6) break;
  }
  return cdlOfList(at);
}
