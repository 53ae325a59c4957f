import type { Groundwork, Repair, Shape } from '@dyepot/core';
import { useMemo, useRef, useState } from 'react';
import type { Placed } from '../../view/FrameView.tsx';
import { platePlaceOf } from '../../view/platePlace.ts';
import { useShortcut } from '../../kit/useShortcut.ts';
import type { Frame } from '../../types.ts';
import { middle, moved, thinned, type Point } from './drawn.ts';
import { onStage, pathOf } from './onStage.ts';
import { DustMarks } from './DustMarks.tsx';
import { PlacingMarks } from './PlacingMarks.tsx';
import { Instants, useInstants } from './Instants.tsx';
import type { DustHand } from './useDust.ts';
import { liesIn, nudge, usePlacing } from './usePlacing.ts';
import type { RepairHand } from './useRepairs.ts';

type Drag =
  | { kind: 'draw'; points: Point[] }
  | { kind: 'source'; id: string; from: Point; gesture: string }
  | { kind: 'move'; id: string; from: Point; shape: Shape; gesture: string }
  | { kind: 'point'; id: string; at: number; feather: boolean; from: Point; was: number; gesture: string };
let gestures = 0;
/** Repairs drawn over the picture: what each covers, where it is taken from; drawn, moved, reshaped. */
export function RepairOverlay({
  placed,
  frame,
  ground,
  hand,
}: {
  placed: Placed;
  frame: Frame;
  ground: Groundwork | null;
  hand: RepairHand & { dust: DustHand };
}): React.JSX.Element {
  const svg = useRef<SVGSVGElement>(null),
    drag = useRef<Drag | null>(null),
    [drawing, setDrawing] = useState<readonly Point[] | null>(null),
    [aim, setAim] = useState<{ x: number; y: number }>({ x: 0.5, y: 0.5 }),
    [byKeys, setByKeys] = useState(false),
    [panning, setPanning] = useState(false),
    place = useMemo(() => platePlaceOf(frame, ground), [frame, ground]),
    { whole, stage } = placed,
    edge = Math.max(frame.width, frame.height),
    // pixels of the stage for each of the plate, near enough for what is drawn round a place
    scale = whole.width / placed.picture.width;
  const instants = useInstants(frame, placed),
    placing = usePlacing(frame);
  const plateAt = (clientX: number, clientY: number): Point => {
      const r = svg.current!.getBoundingClientRect(),
        at = place.to({ x: (clientX - r.left - whole.left) / whole.width, y: (clientY - r.top - whole.top) / whole.height });
      return [Math.min(1, Math.max(0, at.x)), Math.min(1, Math.max(0, at.y))];
    },
    stageAt = ([x, y]: Point): Point => {
      const at = place.from({ x, y });
      return [whole.left + at.x * whole.width, whole.top + at.y * whole.height];
    };
  const seen = (shape: Shape, by?: Point): Shape => onStage(shape, stageAt, edge * scale, by),
    drawn = (shape: Shape, by?: Point): React.SVGProps<SVGPathElement> => pathOf(seen(shape, by));
  const add = (shape: Shape): void => {
    // what is cloned or taken from far is not what would be smooth here
    if (hand.brush.kind === 'heal' && !hand.off) instants.show(seen(shape), svg.current!.closest<HTMLElement>('[data-testid=stage]')!);
    void hand.add(shape, placing.sourceFor(shape));
  };
  const finish = (points: readonly Point[]): void => {
    const { brush } = hand,
      long = points.reduce(
        (most, p) => Math.max(most, Math.hypot((p[0] - points[0]![0]) * frame.width, (p[1] - points[0]![1]) * frame.height)),
        0,
      );
    if (brush.draws === 'outline') {
      const some = thinned(points, Math.max(3, 8 / scale), frame);
      if (some.length >= 3)
        add({ kind: 'outline', points: some.slice(0, 400).map(([x, y]) => [x, y, (brush.feather * 0.02) as number] as const) });
      return;
    }
    const [x, y] = points[0]!;
    if (long < brush.radius * edge * 0.5) add({ kind: 'spot', x, y, radius: brush.radius, feather: brush.feather });
    else
      add({
        kind: 'line',
        points: thinned(points, Math.max(2, brush.radius * edge * 1.1), frame).slice(0, 1000),
        radius: brush.radius,
        feather: brush.feather,
      });
  };
  const begin = (e: React.PointerEvent, made: Drag): void => {
    if (e.button !== 0) return;
    e.stopPropagation();
    svg.current!.setPointerCapture(e.pointerId);
    drag.current = made;
  };
  // while Space is held the hand is the picture's
  useShortcut('space', () => setPanning(true), {
    keydown: true,
    preventDefault: true,
    unless: (e) => (e.target as HTMLElement).closest('button, a, summary, input, select, [role=tab], [role=slider], [role=radio]') !== null,
  });
  useShortcut('space', () => setPanning(false), { keyup: true, keydown: false });
  const { selected, brush } = hand,
    shownRepairs: readonly Repair[] = hand.repairs,
    lines = brush.draws === 'spot' ? finish : null;
  return (
    <>
      <Instants shown={instants.shown} placed={placed} />
      <svg
        ref={svg}
        className={`repair-overlay ${panning ? 'panning' : ''}`}
        data-testid="repairs"
        width={stage.width}
        height={stage.height}
        tabIndex={0}
        role="application"
        aria-label="Repairs: arrows aim, Enter repairs there or chooses the one that lies there, Alt with arrows moves it, Delete takes it out"
        onFocus={() => setByKeys(document.activeElement?.matches(':focus-visible') ?? false)}
        onBlur={() => setByKeys(false)}
        onKeyDown={(e) => {
          const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
          if (by) {
            e.preventDefault();
            e.stopPropagation();
            const step = e.shiftKey ? 0.05 : 0.005;
            if (e.altKey) return nudge(hand, [by[0]! * 0.002, by[1]! * 0.002], e.shiftKey);
            setByKeys(true);
            setAim((a) => ({ x: Math.min(1, Math.max(0, a.x + by[0]! * step)), y: Math.min(1, Math.max(0, a.y + by[1]! * step)) }));
          } else if (e.key === 'Enter') {
            e.preventDefault();
            e.stopPropagation();
            const { x, y } = place.to(aim),
              there = hand.repairs.findLast((r) => liesIn(r, [x, y], frame));
            if (placing.click([x, y], e, lines)) return;
            if (there) hand.select(there.id);
            else finish([[x, y]]);
          } else if (e.key === 'Escape') {
            hand.select(null);
            placing.clear();
          }
        }}
        onPointerDown={(e) => {
          if (e.button !== 0) return;
          if (placing.click(plateAt(e.clientX, e.clientY), e, lines)) return e.stopPropagation();
          begin(e, { kind: 'draw', points: [plateAt(e.clientX, e.clientY)] });
          setDrawing([plateAt(e.clientX, e.clientY)]);
        }}
        onPointerMove={(e) => {
          const d = drag.current;
          if (!d) return;
          e.stopPropagation();
          const at = plateAt(e.clientX, e.clientY);
          if (d.kind === 'draw') {
            d.points.push(at);
            setDrawing([...d.points]);
          } else if (d.kind === 'source')
            hand.change(
              d.id,
              (r) => {
                const [x, y] = middle(r.shape);
                return { ...r, source: r.source && { ...r.source, dx: at[0] - d.from[0] - x, dy: at[1] - d.from[1] - y } };
              },
              'Move the source',
              d.gesture,
            );
          else if (d.kind === 'move')
            hand.change(d.id, (r) => ({ ...r, shape: moved(d.shape, at[0] - d.from[0], at[1] - d.from[1]) }), 'Move', d.gesture);
          else
            hand.change(
              d.id,
              (r) => {
                if (r.shape.kind === 'spot') return r;
                const set = <P extends readonly number[]>(p: P, i: number): P =>
                  i !== d.at
                    ? p
                    : ((d.feather
                        ? [p[0], p[1], Math.min(0.1, Math.max(0, d.was + (d.from[1] - at[1]) * 0.5))]
                        : [at[0], at[1], ...p.slice(2)]) as unknown as P);
                return {
                  ...r,
                  shape:
                    r.shape.kind === 'line'
                      ? { ...r.shape, points: r.shape.points.map(set) }
                      : { ...r.shape, points: r.shape.points.map(set) },
                };
              },
              d.feather ? 'Feather of a point' : 'Reshape',
              d.gesture,
            );
        }}
        onPointerUp={(e) => {
          const d = drag.current;
          drag.current = null;
          if (!d) return;
          e.stopPropagation();
          if (d.kind === 'draw') {
            setDrawing(null);
            finish(d.points);
          }
        }}
        onPointerCancel={() => {
          drag.current = null;
          setDrawing(null);
        }}
        onDoubleClick={(e) => e.stopPropagation()}
        onClick={(e) => e.stopPropagation()}
      >
        {hand.dust.proposed && <DustMarks dust={hand.dust} frame={frame} placed={placed} place={place} unit={edge * scale} />}
        {!hand.off &&
          shownRepairs.map((r) => {
            const chosen = r.id === selected?.id,
              path = drawn(r.shape);
            return (
              <path
                key={r.id}
                {...path}
                data-repair={r.id}
                className={`repair ${path.className ?? ''} ${chosen ? 'chosen' : ''} ${r.on ? '' : 'off'}`}
                onPointerDown={(e) => {
                  hand.select(r.id);
                  begin(e, { kind: 'move', id: r.id, from: plateAt(e.clientX, e.clientY), shape: r.shape, gesture: `move-${++gestures}` });
                }}
              />
            );
          })}
        {!hand.off && selected?.source && (
          <g>
            <line
              className="repair-way"
              {...(([x1, y1]) => ({ x1, y1 }))(stageAt(middle(selected.shape)))}
              {...(([x2, y2]) => ({ x2, y2 }))(
                stageAt([middle(selected.shape)[0] + selected.source.dx, middle(selected.shape)[1] + selected.source.dy]),
              )}
            />
            <path
              {...drawn(selected.shape, [selected.source.dx, selected.source.dy])}
              data-testid="repair-source"
              className={`repair source ${selected.shape.kind === 'line' ? 'broad' : ''}`}
              onPointerDown={(e) => {
                const [x, y] = middle(selected.shape),
                  at = plateAt(e.clientX, e.clientY);
                begin(e, {
                  kind: 'source',
                  id: selected.id,
                  from: [at[0] - x - selected.source!.dx, at[1] - y - selected.source!.dy],
                  gesture: `source-${++gestures}`,
                });
              }}
            />
          </g>
        )}
        {!hand.off &&
          selected &&
          selected.shape.kind !== 'spot' &&
          selected.shape.points.map((p, i) => {
            const [x, y] = stageAt([p[0], p[1]]);
            return (
              <circle
                key={i}
                className="repair-point"
                cx={x}
                cy={y}
                r={4}
                onPointerDown={(e) =>
                  begin(e, {
                    kind: 'point',
                    id: selected.id,
                    at: i,
                    feather: e.altKey && p.length === 3,
                    from: plateAt(e.clientX, e.clientY),
                    was: p[2] ?? 0,
                    gesture: `point-${++gestures}`,
                  })
                }
              />
            );
          })}
        {drawing && (
          <path
            className="repair drawing"
            {...(brush.draws === 'outline'
              ? drawn({ kind: 'outline', points: drawing.map(([x, y]) => [x, y, 0] as const) })
              : drawn(
                  drawing.length < 3
                    ? { kind: 'spot', x: drawing[0]![0], y: drawing[0]![1], radius: brush.radius, feather: 0 }
                    : { kind: 'line', points: drawing, radius: brush.radius, feather: 0 },
                ))}
          />
        )}
        <PlacingMarks
          placing={placing}
          stageAt={stageAt}
          aim={byKeys ? [whole.left + aim.x * whole.width, whole.top + aim.y * whole.height] : null}
          radius={Math.max(6, brush.radius * edge * scale)}
        />
      </svg>
    </>
  );
}
