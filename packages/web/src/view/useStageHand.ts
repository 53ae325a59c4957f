import type { PointerEvent, RefObject } from 'react';
import type { Rgb8 } from './canvasReading.ts';
import { scaleOf, type ViewState } from './layout.ts';
import type { Place } from './pieceMap.ts';

/** What the hand holds on the stage: the picture or the wipe, a hue it pulls, a rectangle it draws. */
export interface Held {
  drag: { x: number; y: number; centre: Place; wipe: boolean } | null;
  pullFrom: number | null;
  limitFrom: Place | null;
}
export const nothingHeld: Held = { drag: null, pullFrom: null, limitFrom: null };

interface Stage {
  view: ViewState;
  onView: (change: Partial<ViewState>) => void;
  picture: { width: number; height: number };
  size: { width: number; height: number };
  density: number;
  /** the seen part of the picture in the stage, and where the wipe stands in it */
  edges: { left: number; right: number; top: number; bottom: number };
  wipeAt: number;
  fractionAt: (clientX: number, clientY: number) => Place | null;
  meanAt: (at: Place, side: number) => Rgb8 | null;
  onPick: ((at: Place, mean: (side: number) => Rgb8 | null) => void) | null;
  onPull: { start: (colour: Rgb8, at: Place) => void; move: (upPx: number) => void } | null;
  onPin: ((at: Place) => void) | null;
  onHover: (clientX: number, clientY: number) => void;
  held: RefObject<Held>;
}
type Handlers = Record<'onPointerDown' | 'onPointerMove' | 'onPointerUp', (e: PointerEvent<HTMLDivElement>) => void>;
const within = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v));

/** What the pointer does on the stage: draws a limit, pins, picks, pulls, wipes or pans, in that order. */
export function useStageHand(s: Stage): Handlers {
  const { view, onView, picture, size, density, edges, held } = s,
    { zoom, centre, compare, across, limit, limiting } = view,
    pans = zoom !== 'fit';
  const begin = (e: PointerEvent<HTMLDivElement>): Held | null => {
    const r = e.currentTarget.getBoundingClientRect(),
      onWipe = compare === 'wipe' && Math.abs((across ? e.clientY - r.top : e.clientX - r.left) - s.wipeAt) < 14,
      at = limiting || !onWipe ? s.fractionAt(e.clientX, e.clientY) : null;
    if (limiting) return at && { ...nothingHeld, limitFrom: at };
    if (s.onPin && e.shiftKey && !onWipe) {
      if (at) s.onPin(at);
      return null;
    }
    if (s.onPick && !onWipe) {
      if (at) s.onPick(at, (side) => s.meanAt(at, side));
      return null;
    }
    if (s.onPull && !onWipe) {
      const colour = at && s.meanAt(at, 5);
      if (!at || !colour) return null;
      s.onPull.start(colour, at);
      return { ...nothingHeld, pullFrom: e.clientY };
    }
    return onWipe || pans ? { ...nothingHeld, drag: { x: e.clientX, y: e.clientY, centre, wipe: onWipe } } : null;
  };
  return {
    onPointerDown: (e) => {
      if (e.button !== 0) return;
      const holds = begin(e);
      if (!holds) return;
      e.currentTarget.setPointerCapture(e.pointerId);
      held.current = holds;
    },
    onPointerMove: (e) => {
      const { drag, pullFrom, limitFrom } = held.current;
      if (pullFrom !== null) s.onPull?.move(pullFrom - e.clientY);
      else if (limitFrom) {
        const at = s.fractionAt(e.clientX, e.clientY);
        if (at)
          onView({
            limit: {
              x: Math.min(limitFrom.x, at.x),
              y: Math.min(limitFrom.y, at.y),
              width: Math.abs(at.x - limitFrom.x),
              height: Math.abs(at.y - limitFrom.y),
            },
          });
      } else if (!drag) s.onHover(e.clientX, e.clientY);
      else if (drag.wipe) {
        const r = e.currentTarget.getBoundingClientRect(),
          { left, right, top, bottom } = edges;
        onView({ wipe: within(across ? (e.clientY - r.top - top) / (bottom - top) : (e.clientX - r.left - left) / (right - left), 0, 1) });
      } else if (pans) {
        const scale = scaleOf(zoom, picture, size, density),
          half = { x: Math.min(0.5, size.width / scale / picture.width / 2), y: Math.min(0.5, size.height / scale / picture.height / 2) };
        onView({
          centre: {
            x: within(drag.centre.x - (e.clientX - drag.x) / scale / picture.width, half.x, 1 - half.x),
            y: within(drag.centre.y - (e.clientY - drag.y) / scale / picture.height, half.y, 1 - half.y),
          },
        });
      }
    },
    onPointerUp: () => {
      const drawn = held.current.limitFrom;
      held.current = nothingHeld;
      // a rectangle too small to read is none
      if (drawn)
        onView({
          limiting: false,
          ...(!limit || limit.width * picture.width < 8 || limit.height * picture.height < 8 ? { limit: null } : {}),
        });
    },
  };
}
