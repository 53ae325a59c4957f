import { useEffect, useState } from 'react';
import { flushSync } from 'react-dom';
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
  // drawn at once: on a busy machine a press could else begin before what it began on is made anew, and be lost
  const give = (it: T): void => flushSync(() => setPiece({ it }));
  const fetchNow = (): void => {
    if (fetched.has(load)) return whenAtRest(() => give(fetched.get(load) as T), busy);
    load()
      .then((it) => {
        fetched.set(load, it);
        whenAtRest(() => give(it), busy);
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
