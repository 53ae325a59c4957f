import { useEffect, useState } from 'react';
import { whenAtRest } from './handAtRest.ts';

/** When a page has settled, what it can do without at first is fetched. */
const settledMs = 2500;
const fetched = new Map<unknown, unknown>();

/**
 * A piece of code that is fetched when the page has settled, or when it is asked for; null until then. `load` has to be the same
 * each time. It is not given out while what it takes the place of is `busy`.
 */
export function useFetched<T>(load: () => Promise<T>, busy?: () => boolean): [T | null, () => void] {
  const [piece, setPiece] = useState<{ it: T } | null>(fetched.has(load) ? { it: fetched.get(load) as T } : null);
  const fetchNow = (): void => {
    if (fetched.has(load)) return whenAtRest(() => setPiece({ it: fetched.get(load) as T }), busy);
    load()
      .then((it) => {
        fetched.set(load, it);
        whenAtRest(() => setPiece({ it }), busy);
      })
      .catch(() => {});
  };
  useEffect(() => {
    if (piece) return;
    const timer = setTimeout(fetchNow, settledMs);
    return () => clearTimeout(timer);
  }, [piece === null]);
  return [piece?.it ?? null, fetchNow];
}
