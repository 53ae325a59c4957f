import { exp, log } from '../../colour/elementary.ts';
import type { Vector3 } from '../../colour/matrix.ts';

/** Greys between these stops from the middle are made neutral. */
export const balancedStops = [-4, -3, -2, -1, 0, 1, 2, 3, 4];
/**
 * Eight numbers (red's shift, slope, toe and Dmax, blue's) that make greys as neutral as they go: Gauss–Newton, damped, on the ratios of
 * red and blue to green in the picture, which are 1 in a grey.
 */
export function balanced(greyOf: (moves: readonly number[]) => (ev: number) => Vector3): number[] {
  const off = (m: readonly number[]): number[] => {
    const grey = greyOf(m);
    return balancedStops.flatMap((ev) => {
      const [r, g, b] = grey(ev).map((v) => exp(log(Math.max(0, v) + 1e-4) / 3)) as unknown as Vector3;
      return [r - g, b - g];
    });
  };
  const error = (list: readonly number[]): number => list.reduce((sum, v) => sum + v * v, 0);
  let moves = [0, 0, 0, 0, 0, 0, 0, 0],
    here = off(moves);
  for (let round = 0; round < 14; round++) {
    const slopes = moves.map((_, k) => {
      const more = off(moves.map((v, i) => v + (i === k ? 1e-4 : 0)));
      return more.map((v, i) => (v - here[i]!) / 1e-4);
    });
    const step = solved(
      slopes
        .map((a) => slopes.map((b) => a.reduce((sum, v, i) => sum + v * b[i]!, 0)))
        .map((row, i) => row.map((v, j) => (i === j ? v * 1.0001 + 1e-9 : v))),
      slopes.map((a) => a.reduce((sum, v, i) => sum + v * here[i]!, 0)),
    );
    if (Math.max(...step.map(Math.abs)) < 1e-5) break;
    let share = 1,
      gained = 0;
    for (let tries = 0; tries < 6; tries++, share /= 2) {
      const next = moves.map((v, i) => v - share * step[i]!),
        there = off(next);
      if (error(there) < error(here)) {
        gained = error(here) - error(there);
        moves = next;
        here = there;
        break;
      }
    }
    // nearer than this no eye sees
    if (gained < 0.02 * error(here)) break;
  }
  return moves;
}
/** Solves linear equations by elimination with pivots. */
export function solved(m: number[][], v: number[]): number[] {
  const a = m.map((row, i) => [...row, v[i]!]),
    size = v.length;
  for (let c = 0; c < size; c++) {
    let pivot = c;
    for (let r = c + 1; r < size; r++) if (Math.abs(a[r]![c]!) > Math.abs(a[pivot]![c]!)) pivot = r;
    [a[c], a[pivot]] = [a[pivot]!, a[c]!];
    for (let r = 0; r < size; r++) {
      if (r === c || a[c]![c] === 0) continue;
      const f = a[r]![c]! / a[c]![c]!;
      for (let k = c; k <= size; k++) a[r]![k]! -= f * a[c]![k]!;
    }
  }
  return a.map((row, i) => (row[i] === 0 ? 0 : row[size]! / row[i]!));
}
