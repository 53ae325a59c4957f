import type { Stroke } from './mask.ts';

/** Units of a stroke's points in a share of the long edge. */
export const strokeUnits = 10_000;

/** Strokes as the kernel reads them (`strokeShare`). Pressure narrows a stroke, to a quarter at none. */
export function strokeNumbers(strokes: readonly Stroke[]): Float32Array {
  const out: number[] = [strokes.length];
  for (const { erase, size, feather, flow, points } of strokes) {
    const count = Math.floor(points.length / 3),
      hard = Math.min(0.99, 1 - feather),
      place = (i: number): [number, number, number] => [
        points[i * 3]! / strokeUnits,
        points[i * 3 + 1]! / strokeUnits,
        size * (0.25 + (0.75 * points[i * 3 + 2]!) / 100),
      ];
    let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
    const segments: number[] = [];
    // a single point is a segment without length
    for (let i = 0; i < Math.max(1, count - 1); i++) {
      const [x, y, r] = place(i),
        [u, v, s] = place(Math.min(count - 1, i + 1)),
        square = (u - x) ** 2 + (v - y) ** 2,
        most = Math.max(r, s);
      segments.push(x, y, u - x, v - y, square > 0 ? 1 / square : 0, r, s - r, most);
      left = Math.min(left, x - most, u - most);
      right = Math.max(right, x + most, u + most);
      top = Math.min(top, y - most, v - most);
      bottom = Math.max(bottom, y + most, v + most);
    }
    out.push(segments.length / 8, hard, 1 / (1 - hard), erase ? -flow : flow, left, top, right, bottom, ...segments);
  }
  return Float32Array.from(out);
}

/**
 * Fewer points that lie within `away` of all of a hand's (Ramer 1972; Douglas, Peucker 1973). Points are x, y, pressure one after
 * another; pressure counts as a distance of a 20th of its own.
 */
export function simplified(points: readonly number[], away: number): number[] {
  const count = Math.floor(points.length / 3),
    kept = new Uint8Array(count);
  if (count < 3) return [...points];
  kept[0] = kept[count - 1] = 1;
  const open: [number, number][] = [[0, count - 1]];
  while (open.length > 0) {
    const [a, b] = open.pop()!,
      at = (i: number, c: number): number => points[i * 3 + c]! * (c === 2 ? 0.05 : 1),
      way = [0, 1, 2].map((c) => at(b, c) - at(a, c)),
      square = way.reduce((sum, v) => sum + v * v, 0);
    let most = 0,
      which = -1;
    for (let i = a + 1; i < b; i++) {
      const from = [0, 1, 2].map((c) => at(i, c) - at(a, c)),
        t = square > 0 ? Math.min(1, Math.max(0, from.reduce((sum, v, c) => sum + v * way[c]!, 0) / square)) : 0,
        d = Math.hypot(...from.map((v, c) => v - t * way[c]!));
      if (d > most) [most, which] = [d, i];
    }
    if (most <= away) continue;
    kept[which] = 1;
    open.push([a, which], [which, b]);
  }
  return points.filter((_, i) => kept[Math.floor(i / 3)]);
}
