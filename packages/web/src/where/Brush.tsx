import { simplified, strokeUnits, type Stroke } from '@dyepot/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useShortcut } from '../kit/useShortcut.ts';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { Frame } from '../types.ts';
import type { Placed } from '../view/FrameView.tsx';
import { act } from '../bench/benchSlice.ts';
import { filmPlaceOf } from './filmPlace.ts';

type At = { x: number; y: number };

/** Painting: what is painted shows at once as a tint; the stroke is the look's when the hand lets go. */
export function Brush({
  frame,
  strokes,
  placed,
  onSet,
}: {
  frame: Frame;
  strokes: readonly Stroke[];
  placed: Placed;
  onSet: (strokes: readonly Stroke[], words: string) => void;
}): React.JSX.Element {
  const dispatch = useAppDispatch(),
    brush = useAppSelector((s) => s.bench.brush),
    film = useMemo(() => filmPlaceOf(frame), [frame]),
    wet = useRef<HTMLCanvasElement>(null),
    own = useRef<HTMLDivElement>(null),
    stroke = useRef<{ points: number[]; erase: boolean } | null>(null),
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
  // what was painted is in the picture once it has been drawn anew
  useEffect(() => {
    const timer = setTimeout(() => {
      if (!stroke.current) wet.current?.getContext('2d')?.clearRect(0, 0, wet.current.width, wet.current.height);
    }, 350);
    return () => clearTimeout(timer);
  }, [strokes]);
  const placeOf = (e: { clientX: number; clientY: number }): { stage: At; film: [number, number] } => {
    const r = own.current!.getBoundingClientRect(),
      at = { x: e.clientX - r.left, y: e.clientY - r.top };
    return { stage: at, film: film.to({ x: (at.x - whole.left) / whole.width, y: (at.y - whole.top) / whole.height }) };
  };
  // at every move of the pointer: the page is not drawn anew for it
  const follow = (e: { clientX: number; clientY: number }): void => {
    place.current = placeOf(e).stage;
    if (ring.current) Object.assign(ring.current.style, { left: `${place.current.x}px`, top: `${place.current.y}px` });
  };
  const pressure = (e: React.PointerEvent): number => (e.pointerType === 'pen' ? Math.round(100 * Math.min(1, e.pressure)) : 100);
  const add = (e: React.PointerEvent): void => {
    const { film: at, stage: here } = placeOf(e),
      points = stroke.current!.points,
      last = points.slice(-3),
      next = [Math.round(at[0] * strokeUnits), Math.round(at[1] * strokeUnits), pressure(e)];
    if (last[0] === next[0] && last[1] === next[1]) return;
    points.push(...next);
    const context = wet.current!.getContext('2d')!,
      before = last.length === 3 ? film.from(last[0]! / strokeUnits, last[1]! / strokeUnits) : null;
    context.lineCap = 'round';
    context.lineWidth = 2 * radius * (0.25 + (0.75 * next[2]!) / 100);
    context.strokeStyle = stroke.current!.erase ? 'rgba(30, 30, 30, .35)' : 'rgba(224, 60, 160, .35)';
    context.beginPath();
    context.moveTo(before ? whole.left + before.x * whole.width : here.x, before ? whole.top + before.y * whole.height : here.y);
    context.lineTo(here.x + (before ? 0 : 0.01), here.y);
    context.stroke();
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
        // a straight line from where the last stroke ended
        stroke.current = { points: e.shiftKey && last ? last.points.slice(-3) : [], erase: brush.erase !== e.altKey };
        add(e);
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
      onPointerCancel={() => {
        stroke.current = null;
        wet.current?.getContext('2d')?.clearRect(0, 0, wet.current.width, wet.current.height);
      }}
      onPointerUp={() => {
        const painted = stroke.current;
        stroke.current = null;
        if (!painted) return;
        const points = simplified(painted.points, Math.max(1, brush.size * strokeUnits * 0.04));
        onSet(
          [
            ...strokes,
            { erase: painted.erase, size: Math.round(brush.size * 1e4) / 1e4, feather: brush.feather, flow: brush.flow, points },
          ],
          painted.erase ? 'Erase' : 'Paint',
        );
      }}
    >
      <canvas ref={wet} width={stage.width} height={stage.height} />
      {over && (
        <i ref={ring} style={{ left: place.current.x, top: place.current.y, width: 2 * radius, height: 2 * radius }}>
          <i style={{ inset: `${50 * brush.feather}%` }} />
        </i>
      )}
    </div>
  );
}
