import type { FigurePart, MaskPart } from '@dyepot/core';
import { useMemo, useRef, useState } from 'react';
import { messageOf } from '../api.ts';
import { useCutFigureMutation } from '../bench/ownApi.ts';
import { complain } from '../kit/notices.tsx';
import type { Frame } from '../types.ts';
import type { Placed } from '../view/FrameView.tsx';
import { filmPlaceOf } from './filmPlace.ts';

interface At {
  x: number;
  y: number;
}
/** Two corners of a box, in shares of the picture. */
type Corners = readonly [At, At];
const least = 0.01,
  inside = (v: number): number => Math.min(1, Math.max(0, v));

/** A box drawn round a thing, which is then cut out. With keys: arrows move it, Shift with them its far corner, Enter cuts. */
export function BoxHand({
  frame,
  box,
  placed,
  onSet,
}: {
  frame: Frame;
  box: FigurePart['box'];
  placed: Placed;
  onSet: (change: Partial<MaskPart>, words: string, gesture: string) => void;
}): React.JSX.Element {
  const own = useRef<SVGSVGElement>(null),
    film = useMemo(() => filmPlaceOf(frame), [frame]),
    [drawn, setDrawn] = useState<Corners | null>(null),
    from = useRef<At | null>(null),
    [cut, { isLoading }] = useCutFigureMutation(),
    cutting = useRef<ReturnType<typeof cut> | null>(null);
  const { whole, stage } = placed,
    there: Corners = [film.from(box[0], box[1]), film.from(box[0] + box[2], box[1] + box[3])],
    [a, b] = drawn ?? there;
  const at = (e: React.PointerEvent): At => {
    const r = own.current!.getBoundingClientRect();
    return { x: inside((e.clientX - r.left - whole.left) / whole.width), y: inside((e.clientY - r.top - whole.top) / whole.height) };
  };
  const look = async ([p, q]: Corners): Promise<void> => {
    const [left, top] = [Math.min(p.x, q.x), Math.min(p.y, q.y)],
      [width, height] = [Math.abs(p.x - q.x), Math.abs(p.y - q.y)];
    if (width < least || height < least) return setDrawn(null);
    cutting.current?.abort();
    const asked = cut({ id: frame.id, box: [left, top, width, height] });
    cutting.current = asked;
    try {
      const { box: cutBox, width: across, height: down, data } = await asked.unwrap();
      onSet({ box: cutBox, width: across, height: down, data }, 'Thing in a box', '');
    } catch (e) {
      if ((e as { name?: string }).name !== 'AbortError') complain(messageOf(e));
    }
    if (cutting.current === asked) setDrawn(null);
  };
  return (
    <svg
      ref={own}
      className="place-shapes takes"
      width={stage.width}
      height={stage.height}
      tabIndex={0}
      role="application"
      aria-label="Box round a thing: arrows move it, Shift with them its far corner, Enter cuts the thing out"
      onDoubleClick={(e) => e.stopPropagation()}
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
        from.current = at(e);
      }}
      onPointerMove={(e) => {
        if (from.current) setDrawn([from.current, at(e)]);
      }}
      onPointerUp={(e) => {
        const start = from.current;
        from.current = null;
        if (start) void look([start, at(e)]);
      }}
      onKeyDown={(e) => {
        if (e.key === 'Escape' && isLoading) {
          e.stopPropagation();
          cutting.current?.abort();
          return;
        }
        const begun: Corners =
          drawn ??
          (box[2] > least
            ? there
            : [
                { x: 0.3, y: 0.2 },
                { x: 0.7, y: 0.9 },
              ]);
        if (e.key === 'Enter') {
          e.preventDefault();
          void look(begun);
          return;
        }
        const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
        if (!way) return;
        e.preventDefault();
        e.stopPropagation();
        const moved = (p: At): At => ({ x: inside(p.x + 0.01 * way[0]!), y: inside(p.y + 0.01 * way[1]!) });
        setDrawn([e.shiftKey ? begun[0] : moved(begun[0]), moved(begun[1])]);
      }}
    >
      {(drawn || box[2] > least) && (
        <rect
          className={isLoading ? 'dashed looking' : drawn ? '' : 'dashed'}
          x={whole.left + Math.min(a.x, b.x) * whole.width}
          y={whole.top + Math.min(a.y, b.y) * whole.height}
          width={Math.abs(a.x - b.x) * whole.width}
          height={Math.abs(a.y - b.y) * whole.height}
        />
      )}
      {isLoading && (
        <text x={whole.left + Math.min(a.x, b.x) * whole.width + 8} y={whole.top + Math.min(a.y, b.y) * whole.height + 20}>
          looking for the thing… Escape stops
        </text>
      )}
    </svg>
  );
}
