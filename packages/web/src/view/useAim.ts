import { useState } from 'react';
import type { Place } from './pieceMap.ts';

/** What a key does to the aim. */
export interface Aim {
  at: Place | null;
  set: (at: Place | null) => void;
  /** Moves the aim by an arrow, as fractions of the picture; Shift finer, Alt coarser. True when the key was one. */
  moved: (e: React.KeyboardEvent) => boolean;
}
const step = 0.02;
const within = (v: number): number => Math.min(1, Math.max(0, v));
const arrows: Record<string, readonly [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
/** The way an arrow points; undefined for other keys. */
export const arrowOf = (key: string): readonly [number, number] | undefined => arrows[key];

/** A place on the picture that keys move, for what a pointer would point at. */
export function useAim(): Aim {
  const [at, set] = useState<Place | null>(null);
  return {
    at,
    set,
    moved(e) {
      const way = arrowOf(e.key);
      if (!way || at === null) return false;
      e.preventDefault();
      e.stopPropagation();
      const far = step * (e.shiftKey ? 0.1 : e.altKey ? 5 : 1);
      set({ x: within(at.x + way[0] * far), y: within(at.y + way[1] * far) });
      return true;
    },
  };
}
