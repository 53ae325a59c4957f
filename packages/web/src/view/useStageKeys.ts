import { useEffect, useRef } from 'react';
import type { Rgb8 } from './canvasReading.ts';
import { scaleOf, type ViewState } from './layout.ts';
import type { Place } from './pieceMap.ts';
import { arrowOf, useAim } from './useAim.ts';

interface Stage {
  view: ViewState;
  onView: (change: Partial<ViewState>) => void;
  picture: { width: number; height: number };
  size: { width: number; height: number };
  density: number;
  meanAt: (at: Place, side: number) => Rgb8 | null;
  onPick: ((at: Place, mean: (side: number) => Rgb8 | null) => void) | null;
  onPull: { start: (colour: Rgb8, at: Place) => void; move: (upPx: number) => void } | null;
  onPin: ((at: Place) => void) | undefined;
}
const middle: Place = { x: 0.5, y: 0.5 };
/** How far an arrow pulls a hue, in pixels of a pointer's pull. */
const pullStep = 7;
const within = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v));

/**
 * What the keys do on the picture when it has the focus: arrows pan; where something is picked, pulled or pinned they move an
 * aim, and Enter does at the aim what a click would. Escape puts the aim away.
 */
export function useStageKeys(s: Stage): { aim: Place | null; pulling: boolean; onKeyDown: (e: React.KeyboardEvent) => void } {
  const aim = useAim(),
    pull = useRef<number | null>(null),
    picks = s.onPick !== null || s.onPull !== null;
  // a tool in hand has its aim at once; put down, it takes the aim with it
  useEffect(() => {
    aim.set(picks ? middle : null);
    pull.current = null;
  }, [picks]);
  const act = (at: Place): void => {
    if (s.onPick) return s.onPick(at, (side) => s.meanAt(at, side));
    if (s.onPull) {
      const colour = s.meanAt(at, 5);
      if (pull.current !== null) pull.current = null;
      else if (colour) {
        s.onPull.start(colour, at);
        pull.current = 0;
      }
      return;
    }
    s.onPin?.(at);
  };
  const pan = (e: React.KeyboardEvent): boolean => {
    const way = arrowOf(e.key);
    if (!way || s.view.zoom === 'fit') return false;
    const scale = scaleOf(s.view.zoom, s.picture, s.size, s.density),
      seen = { x: Math.min(1, s.size.width / scale / s.picture.width), y: Math.min(1, s.size.height / scale / s.picture.height) },
      far = e.shiftKey ? 0.02 : e.altKey ? 0.8 : 0.15;
    s.onView({
      centre: {
        x: within(s.view.centre.x + way[0] * seen.x * far, seen.x / 2, 1 - seen.x / 2),
        y: within(s.view.centre.y + way[1] * seen.y * far, seen.y / 2, 1 - seen.y / 2),
      },
    });
    return true;
  };
  return {
    aim: aim.at,
    pulling: pull.current !== null,
    onKeyDown(e) {
      if (e.target !== e.currentTarget || e.ctrlKey || e.metaKey) return;
      const way = arrowOf(e.key);
      if (way && pull.current !== null) {
        e.preventDefault();
        pull.current += -way[1] * pullStep * (e.shiftKey ? 0.2 : e.altKey ? 5 : 1);
        s.onPull?.move(pull.current);
        return;
      }
      if (aim.moved(e)) return;
      if (pan(e)) {
        e.preventDefault();
        e.stopPropagation();
      } else if (e.key === 'Enter' && (picks || s.onPin)) {
        e.preventDefault();
        if (aim.at) act(aim.at);
        else aim.set(middle);
      } else if (e.key === 'Escape' && aim.at && !picks) {
        e.stopPropagation();
        aim.set(null);
      }
    },
  };
}
