import { monotoneCubic, type CurvePoints } from '@dyepot/core';
import { area, line, max } from 'd3';
import { useRef, useState } from 'react';

const S = 256,
  H = 158;
let gestures = 0;

/** A point curve over the picture's luma. Click adds, drag moves, double click or Delete removes, arrows nudge. */
export function CurveEditor({
  points,
  counts,
  onChange,
}: {
  points: CurvePoints;
  /** 256 counts of what the curve acts on */
  counts: Uint32Array | null;
  onChange: (points: CurvePoints, gesture: string) => void;
}): React.JSX.Element {
  const svg = useRef<SVGSVGElement>(null),
    drag = useRef<{ index: number; gesture: string } | null>(null),
    [active, setActive] = useState(0);
  const f = monotoneCubic(points);
  const where = (e: { clientX: number; clientY: number }): [number, number] => {
    const b = svg.current!.getBoundingClientRect();
    return [Math.min(1, Math.max(0, (e.clientX - b.left) / b.width)), Math.min(1, Math.max(0, 1 - (e.clientY - b.top) / b.height))];
  };
  const round = (v: number): number => Math.round(v * 1000) / 1000;
  const move = (index: number, x: number, y: number, gesture: string): void => {
    const low = index === 0 ? 0 : points[index - 1]![0] + 0.01,
      high = index === points.length - 1 ? 1 : points[index + 1]![0] - 0.01;
    onChange(
      points.map((p, i) => (i === index ? ([round(Math.min(high, Math.max(low, x))), round(Math.min(1, Math.max(0, y)))] as const) : p)),
      gesture,
    );
  };
  const remove = (index: number): void => {
    if (points.length > 2) {
      onChange(
        points.filter((_, i) => i !== index),
        '',
      );
      setActive(Math.max(0, index - 1));
    }
  };
  const curve =
    line<number>()
      .x((t) => t * S)
      .y((t) => (1 - f(t)) * H)(Array.from({ length: 129 }, (_, i) => i / 128)) ?? '';
  const bars = counts ? Array.from(counts) : [],
    top = max(bars.slice(2, 254)) ?? 1;
  return (
    <div className="curve-editor">
      <svg
        ref={svg}
        viewBox={`0 0 ${S} ${H}`}
        role="group"
        aria-label="Tone curve"
        onPointerDown={(e) => {
          if (e.button !== 0 || drag.current) return;
          const [x, y] = where(e);
          if (points.length >= 24 || points.some((p) => Math.abs(p[0] - x) < 0.025)) return;
          const index = points.findIndex((p) => p[0] > x),
            at = index < 0 ? points.length : index,
            gesture = `curve-${++gestures}`;
          onChange([...points.slice(0, at), [round(x), round(y)], ...points.slice(at)], gesture);
          setActive(at);
          drag.current = { index: at, gesture };
          e.currentTarget.setPointerCapture(e.pointerId);
        }}
        onPointerMove={(e) => {
          if (drag.current) move(drag.current.index, ...where(e), drag.current.gesture);
        }}
        onPointerUp={() => {
          drag.current = null;
        }}
      >
        <path
          d={
            area<number>()
              .x((_, i) => i)
              .y0(H)
              .y1((v) => H - Math.min(1, v / top) * H * 0.9)(bars) ?? ''
          }
          fill="#4a4a4a"
        />
        {[0.25, 0.5, 0.75].map((t) => (
          <g key={t} stroke="#3d3d3d">
            <line x1={t * S} x2={t * S} y1="0" y2={H} />
            <line y1={t * H} y2={t * H} x1="0" x2={S} />
          </g>
        ))}
        <line x1="0" y1={H} x2={S} y2="0" stroke="#565656" />
        <path d={curve} fill="none" stroke="#f1f0ef" strokeWidth="2" />
        {points.map((p, i) => (
          <circle
            key={i}
            cx={p[0] * S}
            cy={(1 - p[1]) * H}
            r={active === i ? 6.5 : 5}
            fill={active === i ? '#f1f0ef' : '#2b2b2b'}
            stroke="#f1f0ef"
            strokeWidth="1.6"
            tabIndex={0}
            role="slider"
            aria-label={`Point ${i + 1}`}
            aria-valuenow={Math.round(p[1] * 255)}
            aria-valuetext={`${Math.round(p[0] * 255)} to ${Math.round(p[1] * 255)}`}
            onFocus={() => setActive(i)}
            onDoubleClick={(e) => {
              e.stopPropagation();
              remove(i);
            }}
            onPointerDown={(e) => {
              e.stopPropagation();
              setActive(i);
              drag.current = { index: i, gesture: `curve-${++gestures}` };
              svg.current!.setPointerCapture(e.pointerId);
            }}
            onKeyDown={(e) => {
              const step = e.shiftKey ? 0.001 : e.altKey ? 0.05 : 0.01,
                way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key];
              if (way) {
                e.preventDefault();
                move(i, p[0] + way[0]! * step, p[1] + way[1]! * step, `curve-keys-${i}`);
              }
              if (e.key === 'Delete' || e.key === 'Backspace') {
                e.preventDefault();
                remove(i);
              }
            }}
          />
        ))}
      </svg>
      <p className="curve-numbers">
        {(['in', 'out'] as const).map((name, k) => (
          <label key={name}>
            {name}{' '}
            <input
              key={`${active}-${points[active]?.[k]}`}
              aria-label={`Point ${active + 1}, ${name}`}
              defaultValue={Math.round((points[active]?.[k] ?? 0) * 255)}
              inputMode="decimal"
              onFocus={(e) => e.target.select()}
              onKeyDown={(e) => {
                e.stopPropagation();
                if (e.key === 'Enter') e.currentTarget.blur();
              }}
              onBlur={(e) => {
                const v = Number(e.target.value.replace(',', '.')),
                  p = points[active];
                if (!p || !Number.isFinite(v) || Math.round(p[k]! * 255) === v) {
                  e.target.value = String(Math.round((p?.[k] ?? 0) * 255));
                  return;
                }
                const to = Math.min(255, Math.max(0, v)) / 255;
                move(active, k === 0 ? to : p[0], k === 1 ? to : p[1], '');
              }}
            />
          </label>
        ))}
        <button type="button" className="text-button" disabled={points.length <= 2} onClick={() => remove(active)}>
          Delete point
        </button>
      </p>
    </div>
  );
}
