import { simplified, strokeUnits, type Area, type Stroke } from '@dyepot/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useShortcut } from '../kit/useShortcut.ts';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { Frame } from '../types.ts';
import type { Placed } from '../view/FrameView.tsx';
import { act } from '../bench/benchSlice.ts';
import { filmPlaceOf } from './filmPlace.ts';

/** How often the picture is asked for with what is painted, in milliseconds: dabs go first. */
const paceMs = 45;
type At = { x: number; y: number };
const translation = ({ x, y }: At): string => `${x}px ${y}px`;
const nowhere: Area = { x: 0, y: 0, width: 0, height: 0 };

/**
 * Painting: what is painted shows at once as a tint, which gives way to what it does as soon as the picture has that. The
 * stroke is the look's when the hand lets go.
 */
export function Brush({
  frame,
  strokes,
  placed,
  onSet,
  onWet,
}: {
  frame: Frame;
  strokes: readonly Stroke[];
  placed: Placed;
  onSet: (strokes: readonly Stroke[], words: string) => void;
  /** the strokes as they are while one is being painted, and what differs since the last time (fractions of the picture); null where it is given up */
  onWet: (strokes: readonly Stroke[] | null, area: Area) => void;
}): React.JSX.Element {
  const dispatch = useAppDispatch(),
    brush = useAppSelector((s) => s.bench.brush),
    film = useMemo(() => filmPlaceOf(frame), [frame]),
    wet = useRef<HTMLCanvasElement>(null),
    own = useRef<HTMLDivElement>(null),
    /** the one under way, as the brush was when it began */
    stroke = useRef<(Omit<Stroke, 'points'> & { points: number[] }) | null>(null),
    pace = useRef<ReturnType<typeof setTimeout>>(undefined),
    now = useRef({ placed, onWet }),
    ring = useRef<HTMLElement>(null),
    place = useRef<At>({ x: 0, y: 0 }),
    [over, setOver] = useState(false);
  const { whole, stage } = placed,
    perShare = (whole.width / film.whole.width) * film.edge,
    radius = brush.size * perShare;
  const sized = (by: number): void => {
      dispatch(act.brushSet({ size: Math.min(0.3, Math.max(0.001, brush.size * by)) }));
    },
    feathered = (by: number): void => {
      dispatch(act.brushSet({ feather: Math.min(1, Math.max(0, brush.feather + by)) }));
    };
  useShortcut('period', () => sized(1.15));
  useShortcut('comma', () => sized(1 / 1.15));
  useShortcut('shift+period', () => feathered(0.1));
  useShortcut('shift+comma', () => feathered(-0.1));
  useShortcut('e', () => dispatch(act.brushSet({ erase: !brush.erase })));
  now.current = { placed, onWet };
  const clear = (): void => wet.current?.getContext('2d')?.clearRect(0, 0, wet.current.width, wet.current.height),
    giveUp = (): void => {
      if (!stroke.current) return;
      stroke.current = null;
      onWet(null, nowhere);
      clear();
    };
  useShortcut('escape', giveUp);
  useEffect(
    () => () => {
      clearTimeout(pace.current);
      if (stroke.current) now.current.onWet(null, nowhere);
    },
    [],
  );
  const placeOf = (e: { clientX: number; clientY: number }): { stage: At; film: [number, number] } => {
    const r = own.current!.getBoundingClientRect(),
      at = { x: e.clientX - r.left, y: e.clientY - r.top };
    return { stage: at, film: film.to({ x: (at.x - whole.left) / whole.width, y: (at.y - whole.top) / whole.height }) };
  };
  // at every move of the pointer: the page is not drawn anew for it
  const follow = (e: { clientX: number; clientY: number }): void => {
    place.current = placeOf(e).stage;
    // by a translation the page is not laid out anew
    if (ring.current) ring.current.style.translate = translation(place.current);
  };
  const pressure = (e: React.PointerEvent): number => (e.pointerType === 'pen' ? Math.round(100 * Math.min(1, e.pressure)) : 100);
  const add = (e: React.PointerEvent): void => {
    const { film: at } = placeOf(e),
      points = stroke.current!.points,
      last = points.slice(-3),
      next = [Math.round(at[0] * strokeUnits), Math.round(at[1] * strokeUnits), pressure(e)];
    if (last[0] === next[0] && last[1] === next[1]) return;
    points.push(...next);
    tint(points.length - 3);
  };
  /** Tints what one point of the stroke adds. */
  const tint = (at: number): void => {
    const { points, erase, size } = stroke.current!,
      context = wet.current!.getContext('2d')!,
      onStage = (i: number): [number, number] => {
        const { x, y } = film.from(points[i]! / strokeUnits, points[i + 1]! / strokeUnits);
        return [whole.left + x * whole.width, whole.top + y * whole.height];
      },
      [x, y] = onStage(at);
    context.lineCap = 'round';
    context.lineWidth = 2 * size * perShare * (0.25 + (0.75 * points[at + 2]!) / 100);
    context.strokeStyle = erase ? 'rgba(30, 30, 30, .35)' : 'rgba(224, 60, 160, .35)';
    context.beginPath();
    context.moveTo(...onStage(Math.max(0, at - 3)));
    context.lineTo(x + (at > 0 ? 0 : 0.01), y);
    context.stroke();
  };
  /** What the points of the stroke from one on reach, a pixel of the stage more. */
  const areaFrom = (first: number): Area => {
    const { points, size } = stroke.current!,
      by = size * perShare + 1;
    let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = Math.max(0, first - 3); i < points.length; i += 3) {
      const { x, y } = film.from(points[i]! / strokeUnits, points[i + 1]! / strokeUnits),
        [u, v] = [by / whole.width, by / whole.height];
      [left, top, right, bottom] = [Math.min(left, x - u), Math.min(top, y - v), Math.max(right, x + u), Math.max(bottom, y + v)];
    }
    return { x: left, y: top, width: right - left, height: bottom - top };
  };
  const painted = (): readonly Stroke[] => {
    const { points, ...how } = stroke.current!;
    return [...strokes, { ...how, points: simplified(points, Math.max(1, how.size * strokeUnits * 0.04)) }];
  };
  /** Has the picture drawn with what is painted, and takes the tint off what it has. */
  const follows = (asked: number, shown: number): void => {
    pace.current = setTimeout(() => {
      const busy = now.current.placed.busy(),
        points = stroke.current?.points;
      if (busy) return follows(asked, shown);
      if (!points) return clear();
      if (asked > shown) {
        clear();
        for (let at = asked; at < points.length; at += 3) tint(at);
      }
      const there = points.length;
      if (there > asked) now.current.onWet(painted(), areaFrom(asked));
      follows(there, asked);
    }, paceMs);
  };
  return (
    <div
      ref={own}
      className="place-brush"
      data-testid="brush"
      onPointerEnter={(e) => {
        follow(e);
        setOver(true);
      }}
      onPointerLeave={() => setOver(false)}
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
        const last = strokes[strokes.length - 1];
        stroke.current = {
          erase: brush.erase !== e.altKey,
          size: Math.round(brush.size * 1e4) / 1e4,
          feather: brush.feather,
          flow: brush.flow,
          // a straight line from where the last stroke ended
          points: e.shiftKey && last ? last.points.slice(-3) : [],
        };
        add(e);
        clearTimeout(pace.current);
        follows(0, 0);
      }}
      onPointerMove={(e) => {
        follow(e);
        if (!over) setOver(true);
        if (!stroke.current) return;
        for (const one of e.nativeEvent.getCoalescedEvents?.() ?? [])
          add({
            ...e,
            clientX: one.clientX,
            clientY: one.clientY,
            pressure: one.pressure,
            pointerType: e.pointerType,
          } as React.PointerEvent);
        add(e);
      }}
      onDoubleClick={(e) => e.stopPropagation()}
      onPointerCancel={giveUp}
      onPointerUp={() => {
        if (!stroke.current) return;
        const words = stroke.current.erase ? 'Erase' : 'Paint',
          all = painted();
        stroke.current = null;
        onSet(all, words);
      }}
    >
      <canvas ref={wet} width={stage.width} height={stage.height} />
      {over && (
        <i ref={ring} style={{ translate: translation(place.current), width: 2 * radius, height: 2 * radius }}>
          <i style={{ inset: `${50 * brush.feather}%` }} />
        </i>
      )}
    </div>
  );
}
