import { evBins, evFrom, evTo, zoneNames, type LightSpread } from '@dyepot/core';
import { area, curveBasis, max, scaleLinear } from 'd3';
import { useRef } from 'react';

const width = 276,
  height = 128,
  reach = 3;
let gestures = 0;

/** Five zones over the frame's own light: each column is raised or lowered, each boundary moved along. */
export function ZoneEditor({
  spread,
  ev,
  bounds,
  onChange,
}: {
  spread: LightSpread | null;
  ev: readonly number[];
  bounds: readonly number[];
  onChange: (zones: { ev: readonly number[]; bounds: readonly number[] }, words: string, gesture: string) => void;
}): React.JSX.Element {
  const svg = useRef<SVGSVGElement>(null),
    drag = useRef<{ kind: 'zone' | 'bound'; index: number; gesture: string } | null>(null);
  const x = scaleLinear([-7.5, 5], [0, width]).clamp(true),
    y = scaleLinear([-reach, reach], [height - 6, 6]).clamp(true),
    edges = [-7.5, ...bounds, 5];
  const tallest = spread ? (max(spread.luminance) ?? 1) : 1,
    shape = area<number>()
      .x((_, i) => x(evFrom + ((i + 0.5) * (evTo - evFrom)) / evBins))
      .y0(height)
      .y1((v) => height - (v / tallest) * height * 0.8)
      .curve(curveBasis);
  const at = (e: React.PointerEvent): { ev: number; lift: number } => {
    const r = svg.current!.getBoundingClientRect();
    return { ev: x.invert(((e.clientX - r.left) / r.width) * width), lift: y.invert(((e.clientY - r.top) / r.height) * height) };
  };
  const setZone = (i: number, v: number, gesture: string): void =>
    onChange(
      { ev: ev.map((o, k) => (k === i ? Math.round(Math.min(4, Math.max(-4, v)) * 100) / 100 : o)), bounds },
      `${zoneNames[i]} zone ${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(2)} EV`,
      gesture,
    );
  const setBound = (i: number, v: number, gesture: string): void =>
    onChange(
      {
        ev,
        bounds: bounds.map((o, k) =>
          k === i ? Math.round(Math.min((bounds[i + 1] ?? 7) - 0.3, Math.max((bounds[i - 1] ?? -9) + 0.3, v)) * 100) / 100 : o,
        ),
      },
      `Zone boundary ${v.toFixed(1)} EV`,
      gesture,
    );
  return (
    <div className="zone-editor" role="group" aria-label="Tone zones">
      <svg
        ref={svg}
        viewBox={`0 0 ${width} ${height}`}
        onPointerMove={(e) => {
          const d = drag.current;
          if (!d) return;
          const p = at(e);
          if (d.kind === 'zone') setZone(d.index, p.lift, d.gesture);
          else setBound(d.index, p.ev, d.gesture);
        }}
        onPointerUp={() => {
          drag.current = null;
        }}
      >
        {spread && <path d={shape(Array.from(spread.luminance)) ?? ''} fill="#8a8886" opacity="0.5" />}
        <line x1={x(0)} x2={x(0)} y1="0" y2={height} stroke="#ffffff40" strokeDasharray="2 3" />
        <line x1="0" x2={width} y1={y(0)} y2={y(0)} stroke="#ffffff26" />
        {zoneNames.map((name, i) => {
          const left = x(edges[i]!),
            right = x(edges[i + 1]!);
          return (
            <g
              key={name}
              role="slider"
              tabIndex={0}
              aria-label={`${name} zone`}
              aria-valuemin={-4}
              aria-valuemax={4}
              aria-valuenow={ev[i]!}
              aria-valuetext={`${ev[i]!.toFixed(2)} EV`}
              className="zone"
              onDoubleClick={() => setZone(i, 0, `zone-reset-${++gestures}`)}
              onPointerDown={(e) => {
                if (e.button !== 0) return;
                svg.current!.setPointerCapture(e.pointerId);
                drag.current = { kind: 'zone', index: i, gesture: `zone-${++gestures}` };
              }}
              onKeyDown={(e) => {
                const way = e.key === 'ArrowUp' || e.key === 'ArrowRight' ? 1 : e.key === 'ArrowDown' || e.key === 'ArrowLeft' ? -1 : 0;
                if (way) {
                  e.preventDefault();
                  e.stopPropagation();
                  setZone(i, ev[i]! + way * (e.shiftKey ? 0.02 : e.altKey ? 0.5 : 0.1), `zone-keys-${i}`);
                } else if (e.key === 'Delete') setZone(i, 0, `zone-reset-${++gestures}`);
              }}
            >
              <rect x={left} y="0" width={Math.max(1, right - left)} height={height} fill="transparent" />
              <rect
                x={left + 1}
                y={Math.min(y(0), y(ev[i]!))}
                width={Math.max(1, right - left - 2)}
                height={Math.abs(y(ev[i]!) - y(0))}
                fill="#e0633a"
                opacity="0.35"
              />
              <line x1={left + 3} x2={right - 3} y1={y(ev[i]!)} y2={y(ev[i]!)} stroke="#f4f3f2" strokeWidth="2.5" />
            </g>
          );
        })}
        {bounds.map((b, i) => (
          <g
            key={i}
            role="slider"
            tabIndex={0}
            aria-label={`Boundary between ${zoneNames[i]} and ${zoneNames[i + 1]}`}
            aria-valuenow={b}
            aria-valuetext={`${b.toFixed(1)} EV`}
            className="bound"
            onPointerDown={(e) => {
              e.stopPropagation();
              svg.current!.setPointerCapture(e.pointerId);
              drag.current = { kind: 'bound', index: i, gesture: `bound-${++gestures}` };
            }}
            onKeyDown={(e) => {
              const way = e.key === 'ArrowRight' ? 1 : e.key === 'ArrowLeft' ? -1 : 0;
              if (way) {
                e.preventDefault();
                e.stopPropagation();
                setBound(i, b + way * 0.1, `bound-keys-${i}`);
              }
            }}
          >
            <line x1={x(b)} x2={x(b)} y1="0" y2={height} stroke="#c9c7c4" />
            <rect x={x(b) - 5} y="0" width="10" height={height} fill="transparent" />
            <path d={`M${x(b) - 4} ${height} h8 l-4 -6 z`} fill="#f4f3f2" />
          </g>
        ))}
      </svg>
      <div className="zone-line">
        {zoneNames.map((name, i) => (
          <span key={name} style={{ flex: x(edges[i + 1]!) - x(edges[i]!) }}>
            <b>{ev[i] === 0 ? '0' : `${ev[i]! < 0 ? '−' : '+'}${Math.abs(ev[i]!).toFixed(1)}`}</b>
            <small>{name}</small>
          </span>
        ))}
      </div>
    </div>
  );
}
