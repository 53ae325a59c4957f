import { useCallback, useEffect, useRef, useState } from 'react';
import type { Frame } from '../types.ts';

const key = (shootId: number): string => `dyepot-chosen-${shootId}`;
function remembered(shootId: number): number[] {
  try {
    return JSON.parse(sessionStorage.getItem(key(shootId)) ?? '[]') as number[];
  } catch {
    return [];
  }
}

/** How a frame is chosen: alone, besides the others, or with all between it and the last. */
export type How = 'one' | 'toggle' | 'range';

/** The frames chosen in a shoot; they survive Back and reload. */
export function useChosen(
  shootId: number,
  frames: readonly Frame[],
): { ids: ReadonlySet<number>; choose: (id: number, how: How) => void; set: (ids: Iterable<number>) => void } {
  const [ids, setIds] = useState<ReadonlySet<number>>(() => new Set(remembered(shootId))),
    from = useRef<number | null>(null),
    now = useRef(frames);
  now.current = frames;
  useEffect(() => {
    try {
      sessionStorage.setItem(key(shootId), JSON.stringify([...ids]));
    } catch {
      /* storage may be refused */
    }
  }, [ids, shootId]);
  const choose = useCallback((id: number, how: How): void => {
    if (how === 'range' && from.current !== null) {
      const order = now.current.map((f) => f.id),
        a = order.indexOf(from.current),
        b = order.indexOf(id);
      setIds(new Set(order.slice(Math.min(a, b), Math.max(a, b) + 1)));
      return;
    }
    from.current = id;
    setIds((s) => {
      if (how !== 'toggle') return s.size === 1 && s.has(id) && how === 'one' ? new Set() : new Set([id]);
      const next = new Set(s);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  }, []);
  const set = useCallback((chosen: Iterable<number>): void => setIds(new Set(chosen)), []);
  return { ids, choose, set };
}
