import { invert3 } from '../colour/matrix.ts';
import type { Geometry } from './groundwork.ts';
import type { LensMap } from './lens.ts';
import { through, turnedSize, lean, fillScale } from './geometry.ts';

/** A line drawn over the picture, as places of the turned (upright, uncropped) plate before it is righted, in its pixels. */
export interface DrawnLine {
  from: readonly [number, number];
  to: readonly [number, number];
  way: 'upright' | 'level';
}

/**
 * The straightening and leaning that make drawn lines upright or level, by least squares (Gauss–Newton): two uprights settle
 * straighten and verticals, two levels straighten and horizontals, both pairs all three. Null where they ask for more than ±45° or ±100.
 */
export function rightedBy(
  lines: readonly DrawnLine[],
  g: Geometry,
  width: number,
  height: number,
): Pick<Geometry, 'straighten' | 'vertical' | 'horizontal'> | null {
  const half = Math.max(width, height) / 2,
    unit = (p: readonly [number, number]): [number, number] => [(p[0] - width / 2) / half, (p[1] - height / 2) / half],
    pairs = lines.map((l) => ({ a: unit(l.from), b: unit(l.to), way: l.way }));
  const free = [
      'straighten' as const,
      ...(lines.some((l) => l.way === 'upright') ? ['vertical' as const] : []),
      ...(lines.some((l) => l.way === 'level') ? ['horizontal' as const] : []),
    ],
    scale = { straighten: 1, vertical: 5, horizontal: 5 };
  const rest = (v: Pick<Geometry, 'straighten' | 'vertical' | 'horizontal'>): number[] => {
    const back = invert3(lean({ ...g, ...v }));
    return pairs.map(({ a, b, way }) => {
      const p = through(back, ...a),
        q = through(back, ...b),
        dx = q[0] - p[0],
        dy = q[1] - p[1];
      return way === 'upright' ? Math.atan2(dx, Math.abs(dy)) * Math.sign(dy || 1) : Math.atan2(dy, Math.abs(dx)) * Math.sign(dx || 1);
    });
  };
  let at = { straighten: g.straighten, vertical: g.vertical, horizontal: g.horizontal };
  for (let step = 0; step < 40; step++) {
    const r = rest(at),
      J = free.map((k) => {
        const s = rest({ ...at, [k]: at[k] + 0.01 * scale[k] });
        return s.map((v, i) => (v - r[i]!) / 0.01);
      });
    const normal = free.map((_, i) => [
      ...free.map((__, j) => J[i]!.reduce((sum, v, k) => sum + v * J[j]![k]!, i === j ? 1e-9 : 0)),
      -J[i]!.reduce((sum, v, k) => sum + v * r[k]!, 0),
    ]);
    for (let i = 0; i < free.length; i++)
      for (let j = 0; j < free.length; j++)
        if (j !== i) {
          const f = normal[j]![i]! / normal[i]![i]!;
          normal[j] = normal[j]!.map((v, k) => v - f * normal[i]![k]!);
        }
    at = {
      ...at,
      ...Object.fromEntries(
        free.map((k, i) => [k, at[k] + Math.max(-20, Math.min(20, normal[i]![free.length]! / normal[i]![i]!)) * scale[k]]),
      ),
    };
    if (!Number.isFinite(at.straighten + at.vertical + at.horizontal)) return null;
  }
  return Math.abs(at.straighten) <= 45 && Math.abs(at.vertical) <= 100 && Math.abs(at.horizontal) <= 100 ? at : null;
}
/** Where a place of the righted, uncropped picture lies before it is righted (both turned, in pixels). */
export const beforeRighting = (
  g: Geometry,
  width: number,
  height: number,
  lens: LensMap | null,
  x: number,
  y: number,
): [number, number] => {
  const { width: tw, height: th } = turnedSize(g, width, height),
    half = Math.max(tw, th) / 2,
    scale = fillScale(g, tw, th, lens),
    [u, v] = through(lean(g), (x - tw / 2) / (half * scale), (y - th / 2) / (half * scale));
  return [u * half + tw / 2, v * half + th / 2];
};
