import type { LookStep } from './look.ts';

/** Two lanes laid beside one another: each step with its like in the other, or with nothing. */
export type Pair = { a: LookStep; b: LookStep } | { a: LookStep; b: null } | { a: null; b: LookStep };

/**
 * Lays two lanes beside one another so that most steps have their like, none crossing another: the longest common
 * subsequence (Wagner and Fischer 1974). What has no like comes where it stands, the first lane's before the second's.
 */
export function matched(a: readonly LookStep[], b: readonly LookStep[], alike: (p: LookStep, q: LookStep) => boolean): Pair[] {
  const most = Array.from({ length: a.length + 1 }, () => new Array<number>(b.length + 1).fill(0));
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      most[i]![j] = alike(a[i]!, b[j]!) ? most[i + 1]![j + 1]! + 1 : Math.max(most[i + 1]![j]!, most[i]![j + 1]!);
  const pairs: Pair[] = [];
  let i = 0,
    j = 0;
  while (i < a.length || j < b.length) {
    if (i < a.length && j < b.length && alike(a[i]!, b[j]!)) pairs.push({ a: a[i++]!, b: b[j++]! });
    else if (i < a.length && (j === b.length || most[i + 1]![j]! >= most[i]![j + 1]!)) pairs.push({ a: a[i++]!, b: null });
    else pairs.push({ a: null, b: b[j++]! });
  }
  return pairs;
}
/** Whether two values that go into JSON are the same, whatever the order of their keys. */
export function same(p: unknown, q: unknown): boolean {
  if (p === q) return true;
  if (typeof p !== 'object' || typeof q !== 'object' || p === null || q === null || Array.isArray(p) !== Array.isArray(q)) return false;
  const keys = Object.keys(p);
  return (
    keys.length === Object.keys(q).length &&
    keys.every((k) => Object.hasOwn(q, k) && same((p as Record<string, unknown>)[k], (q as Record<string, unknown>)[k]))
  );
}
