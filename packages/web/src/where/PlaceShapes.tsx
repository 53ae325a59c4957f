import type { Area, Mask, MaskPart } from '@dyepot/core';
import { useMemo, useRef } from 'react';
import { useAppSelector } from '../store.ts';
import type { Frame } from '../types.ts';
import type { Placed } from '../view/FrameView.tsx';
import { BoxHand } from './BoxHand.tsx';
import { Brush } from './Brush.tsx';
import { filmPlaceOf } from './filmPlace.ts';

type At = { x: number; y: number };
type SetPart = (change: Partial<MaskPart>, words: string, gesture: string) => void;
let gestures = 0;
const all: Area = { x: 0, y: 0, width: 1, height: 1 };
const round = (v: number): number => Math.round(v * 1e4) / 1e4;

/** The shape of the part in hand, on the picture: pulled by its handles, painted, or picked. */
export function PlaceShapes({
  frame,
  mask,
  placed,
  onSet,
  onWet,
  lightAt,
}: {
  frame: Frame;
  mask: Mask;
  placed: Placed;
  onSet: (mask: Mask, words: string, gesture: string) => void;
  /** what it is while it is being painted; null where that is given up */
  onWet: (mask: Mask | null, area: Area) => void;
  /** OKLab of the light that comes to the step at a place of the picture */
  lightAt: (at: At) => Promise<readonly [number, number, number] | null>;
}): React.JSX.Element | null {
  const index = useAppSelector((s) => Math.min(s.bench.part, mask.parts.length - 1)),
    part = mask.parts[index];
  if (!part) return null;
  const changed = (change: Partial<MaskPart>): Mask => ({
      ...mask,
      parts: mask.parts.map((p, i) => (i === index ? ({ ...p, ...change } as MaskPart) : p)),
    }),
    setPart: SetPart = (change, words, gesture) => onSet(changed(change), words, gesture);
  if (part.kind === 'brush')
    return (
      <Brush
        key={index}
        frame={frame}
        strokes={part.strokes}
        placed={placed}
        onSet={(strokes, words) => setPart({ strokes }, words, '')}
        // what is grown, feathered or snapped reaches further
        onWet={(strokes, area) => onWet(strokes && changed({ strokes }), mask.feather || mask.grow || mask.snap ? all : area)}
      />
    );
  return <Shape key={`${index}-${part.kind}`} frame={frame} part={part} placed={placed} onSet={setPart} lightAt={lightAt} />;
}

function Shape({
  frame,
  part,
  placed,
  onSet,
  lightAt,
}: {
  frame: Frame;
  part: MaskPart;
  placed: Placed;
  onSet: SetPart;
  lightAt: (at: At) => Promise<readonly [number, number, number] | null>;
}): React.JSX.Element | null {
  const own = useRef<SVGSVGElement>(null),
    film = useMemo(() => filmPlaceOf(frame), [frame]),
    { whole, stage } = placed;
  const left = (at: At): number => whole.left + at.x * whole.width,
    top = (at: At): number => whole.top + at.y * whole.height,
    fraction = (e: { clientX: number; clientY: number }): At => {
      const r = own.current!.getBoundingClientRect();
      return { x: (e.clientX - r.left - whole.left) / whole.width, y: (e.clientY - r.top - whole.top) / whole.height };
    };
  /** A handle at a place; what is dragged is told as a place again. */
  const handle = (
    key: string,
    label: string,
    at: At,
    move: (to: At, gesture: string, alt: boolean) => void,
    hollow = false,
  ): React.JSX.Element => (
    <circle
      key={key}
      className={`place-handle ${hollow ? 'hollow' : ''}`}
      cx={left(at)}
      cy={top(at)}
      r={7}
      tabIndex={0}
      role="slider"
      aria-label={label}
      aria-valuenow={Math.round(at.x * 100)}
      aria-valuetext={`${Math.round(at.x * 100)} % across, ${Math.round(at.y * 100)} % down`}
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
        e.currentTarget.dataset['gesture'] = `place-${++gestures}`;
      }}
      onPointerMove={(e) => {
        if (e.currentTarget.dataset['gesture'] && e.buttons > 0) move(fraction(e), e.currentTarget.dataset['gesture'], e.altKey);
      }}
      onPointerUp={(e) => {
        delete e.currentTarget.dataset['gesture'];
      }}
      onKeyDown={(e) => {
        const step = e.shiftKey ? 0.002 : e.altKey ? 0.05 : 0.01,
          way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
        if (!way) return;
        e.preventDefault();
        e.stopPropagation();
        move({ x: at.x + way[0]! * step, y: at.y + way[1]! * step }, `place-keys-${key}`, false);
      }}
    />
  );
  const svg = (children: React.ReactNode, takes = false, hands: React.SVGProps<SVGSVGElement> = {}): React.JSX.Element => (
    <svg
      ref={own}
      className={`place-shapes ${takes ? 'takes' : ''}`}
      width={stage.width}
      height={stage.height}
      onDoubleClick={(e) => e.stopPropagation()}
      {...hands}
    >
      {children}
    </svg>
  );
  if (part.kind === 'gradient') {
    const from = { x: part.from[0], y: part.from[1] },
      to = { x: part.to[0], y: part.to[1] },
      middle = { x: from.x + part.middle * (to.x - from.x), y: from.y + part.middle * (to.y - from.y) },
      [dx, dy] = [left(to) - left(from), top(to) - top(from)],
      length = Math.max(1, Math.hypot(dx, dy)),
      far = 4000,
      across = (at: At, dashed: boolean): React.JSX.Element => (
        <line
          x1={left(at) - (dy / length) * far}
          y1={top(at) + (dx / length) * far}
          x2={left(at) + (dy / length) * far}
          y2={top(at) - (dx / length) * far}
          className={dashed ? 'dashed' : ''}
        />
      );
    return svg(
      <>
        {across(from, true)}
        {across(middle, false)}
        {across(to, true)}
        {handle('from', 'Gradient: where it begins', from, (at, g) => onSet({ from: [round(at.x), round(at.y)] }, 'Gradient: begins', g))}
        {handle('to', 'Gradient: where it is whole', to, (at, g) => onSet({ to: [round(at.x), round(at.y)] }, 'Gradient: whole', g))}
        {handle(
          'middle',
          'Gradient: its half',
          middle,
          (at, g) => {
            const t = ((left(at) - left(from)) * dx + (top(at) - top(from)) * dy) / (length * length);
            onSet({ middle: round(Math.min(0.95, Math.max(0.05, t))) }, 'Gradient: half', g);
          },
          true,
        )}
      </>,
    );
  }
  if (part.kind === 'radial') {
    const long = Math.max(whole.width, whole.height),
      centre = { x: part.centre[0], y: part.centre[1] },
      [rx, ry] = [part.radii[0] * long, part.radii[1] * long],
      turn = (part.turn * Math.PI) / 180,
      at = (u: number, v: number): At => ({
        x: centre.x + (u * Math.cos(turn) - v * Math.sin(turn)) / whole.width,
        y: centre.y + (u * Math.sin(turn) + v * Math.cos(turn)) / whole.height,
      }),
      inside = Math.max(0, 1 - part.feather),
      away = (to: At): [number, number] => {
        const [x, y] = [left(to) - left(centre), top(to) - top(centre)];
        return [x * Math.cos(turn) + y * Math.sin(turn), y * Math.cos(turn) - x * Math.sin(turn)];
      },
      ellipse = (share: number, dashed: boolean): React.JSX.Element => (
        <ellipse
          cx={left(centre)}
          cy={top(centre)}
          rx={rx * share}
          ry={ry * share}
          transform={`rotate(${part.turn} ${left(centre)} ${top(centre)})`}
          className={dashed ? 'dashed' : ''}
        />
      ),
      limit = (v: number): number => round(Math.min(3, Math.max(0.01, Math.abs(v) / long)));
    return svg(
      <>
        {ellipse(1, false)}
        {inside > 0 && ellipse(inside, true)}
        {handle('centre', 'Pool: its middle', centre, (to, g) => onSet({ centre: [round(to.x), round(to.y)] }, 'Pool: moved', g))}
        {handle('wide', 'Pool: how wide', at(rx, 0), (to, g) => onSet({ radii: [limit(away(to)[0]), part.radii[1]] }, 'Pool: width', g))}
        {handle('high', 'Pool: how high', at(0, ry), (to, g) => onSet({ radii: [part.radii[0], limit(away(to)[1])] }, 'Pool: height', g))}
        {handle(
          'feather',
          'Pool: its feather',
          at(-rx * inside, 0),
          (to, g) => onSet({ feather: round(Math.min(1, Math.max(0, 1 - Math.abs(away(to)[0]) / rx))) }, 'Pool: feather', g),
          true,
        )}
      </>,
    );
  }
  if (part.kind === 'outline') {
    const points = part.points.map(([x, y]) => film.from(x, y));
    return svg(
      <>
        {points.length > 1 && <polygon points={points.map((p) => `${left(p)},${top(p)}`).join(' ')} className="dashed" />}
        {points.map((p, i) =>
          handle(`p${i}`, `Outline: point ${i + 1}`, p, (at, g, alt) => {
            const [x, y] = film.to(at),
              point = part.points[i]!,
              moved = alt
                ? ([point[0], point[1], round(Math.min(0.5, Math.hypot(x - point[0], y - point[1])))] as const)
                : ([round(x), round(y), point[2]] as const);
            onSet({ points: part.points.map((q, k) => (k === i ? moved : q)) }, alt ? 'Outline: feather of a point' : 'Outline: point', g);
          }),
        )}
      </>,
      true,
      {
        onPointerDown: (e) => {
          if (e.button !== 0 || part.points.length >= 400) return;
          e.stopPropagation();
          const [x, y] = film.to(fraction(e));
          onSet({ points: [...part.points, [round(x), round(y), part.points[0]?.[2] ?? 0.01] as const] }, 'Outline: one point more', '');
        },
        onKeyDown: (e) => {
          const i = [...own.current!.querySelectorAll('.place-handle')].indexOf(e.target as Element);
          if (i < 0 || (e.key !== 'Delete' && e.key !== 'Backspace')) return;
          e.preventDefault();
          e.stopPropagation();
          onSet({ points: part.points.filter((_, k) => k !== i) }, 'Outline: one point less', '');
        },
      },
    );
  }
  if (part.kind === 'colour')
    return svg(null, true, {
      onPointerDown: (e) => {
        if (e.button !== 0) return;
        e.stopPropagation();
        const { altKey } = e;
        void lightAt(fraction(e)).then((colour) => {
          if (!colour) return;
          const lab = colour.map((v) => Math.round(v * 1e4) / 1e4) as [number, number, number];
          if (!altKey) return onSet({ picks: [...part.picks, lab].slice(-24) }, 'Pick a colour', '');
          const far = part.picks.map((p) => Math.hypot((p[0] - lab[0]) / 2, p[1] - lab[1], p[2] - lab[2])),
            nearest = far.indexOf(Math.min(...far));
          onSet({ picks: part.picks.filter((_, i) => i !== nearest) }, 'Let go of a colour', '');
        });
      },
    });
  if (part.kind === 'figure') return <BoxHand frame={frame} box={part.box} placed={placed} onSet={onSet} />;
  return null;
}
