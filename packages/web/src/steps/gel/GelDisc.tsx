import { gelTransmission, luminanceOf } from '@dyepot/core';
import { arc, range, scaleLinear } from 'd3';
import { useRef } from 'react';
import { Fields } from '../../kit/Cell.tsx';
import { Handle, placeIn, useHold } from '../../kit/Handle.tsx';
import { cssLight } from '../../kit/cssLight.ts';
import { arcAngle } from '../../kit/hueWedges.ts';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const R = 74,
  H = 2 * R + 44,
  cx = R + 6,
  cy = R + 6,
  hue = declared('gel', 'hue'),
  density = declared('gel', 'density'),
  mired = declared('gel', 'mired'),
  x = scaleLinear([mired.min, mired.max], [10, W - 10]);
/** White light through the filter, as bright as it would be exposed for. */
const through = (h: number, d: number): string => {
  const t = gelTransmission(h, d),
    light = luminanceOf(t[0], t[1], t[2]);
  return cssLight(t.map((v) => (v * 0.42) / Math.max(0.2, light)));
};
const rings = [0.2, 0.6, 1, 1.4, 1.8],
  sectors = range(0, 360, 10);
let gestures = 0;

/** Every filter there is; drawn once. */
const disc = (
  <g transform={`translate(${cx} ${cy})`}>
    {rings.flatMap((ring, i) =>
      sectors.map((s) => (
        <path
          key={`${i} ${s}`}
          d={
            arc()({
              innerRadius: (i * R) / rings.length,
              outerRadius: ((i + 1) * R) / rings.length + 0.4,
              startAngle: arcAngle(s + 5.3),
              endAngle: arcAngle(s - 5.3),
            }) ?? ''
          }
          fill={through(s, ring)}
        />
      )),
    )}
  </g>
);

/** Filters on a disc, the hue round it, denser outward; below, warming and cooling in mired. */
export function GelDisc({ numbers, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const { hue: h = 0, density: d = 0, mired: m = 0 } = numbers,
    drag = useRef<string | null>(null),
    set = (values: Record<string, number>, gesture: string): void => onSetAll(values, 'Gel', gesture),
    angle = (h * Math.PI) / 180,
    at = { x: cx + ((Math.cos(angle) * d) / density.max) * R, y: cy - ((Math.sin(angle) * d) / density.max) * R };
  const keys = useHold('Filter, on the disc', {
    along: { name: 'hue', parameter: hue, value: h, at: () => 0 },
    up: { name: 'density', parameter: density, value: d, at: () => 0 },
    onSet: set,
  });
  const toward = (svg: SVGSVGElement, e: React.PointerEvent): void => {
    const p = placeIn(svg, e),
      [u, v] = [p.x - cx, cy - p.y],
      far = Math.min(1, Math.hypot(u, v) / R);
    set(
      {
        density: far < 0.04 ? 0 : Math.round(far * density.max * 100) / 100,
        ...(far < 0.04 || e.shiftKey ? {} : { hue: Math.round(((Math.atan2(v, u) * 180) / Math.PI + 360) % 360) }),
      },
      drag.current!,
    );
  };
  return (
    <>
      <svg className="drawing bare" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Filter">
        <g
          className="handle both"
          onPointerDown={(e) => {
            e.currentTarget.setPointerCapture(e.pointerId);
            drag.current = `gel-${++gestures}`;
            toward(e.currentTarget.ownerSVGElement!, e);
          }}
          onPointerMove={(e) => {
            if (drag.current) toward(e.currentTarget.ownerSVGElement!, e);
          }}
          onPointerUp={() => {
            drag.current = null;
          }}
        >
          {disc}
          <g
            role={keys.role}
            tabIndex={0}
            aria-label={keys['aria-label']}
            aria-valuenow={keys['aria-valuenow']}
            aria-valuetext={keys['aria-valuetext']}
            onKeyDown={keys.onKeyDown}
            onDoubleClick={keys.onDoubleClick}
            transform={`translate(${at.x} ${at.y})`}
          >
            <circle r="7" fill={through(h, d)} stroke="#fff" strokeWidth="2" />
            <circle r="8.4" fill="none" stroke="#0007" />
          </g>
        </g>
        <rect x={2 * R + 26} y="6" width={W - 2 * R - 32} height={2 * R - 20} rx="3" fill={through(h, d)} />
        <text x={2 * R + 26} y={2 * R + 2} className="on-dark">
          white, seen
        </text>
        <text x={2 * R + 26} y={2 * R + 14} className="on-dark">
          through it
        </text>
        <path d={`M${x(mired.min)},${H - 12}H${x(mired.max)}`} stroke="#5c5a58" />
        {[-50, 0, 50].map((v) => (
          <path key={v} d={`M${x(v)},${H - 16}v8`} stroke="#8a8886" />
        ))}
        <text x={x(mired.min)} y={H - 19} className="on-dark">
          cooling
        </text>
        <text x={x(mired.max)} y={H - 19} textAnchor="end" className="on-dark">
          warming
        </text>
        <path d={`M${x(0)},${H - 12}H${x(m)}`} stroke={m < 0 ? '#6f9bd1' : '#e2a35c'} strokeWidth="4" />
        <Handle
          x={x(m)}
          y={H - 12}
          label="Warming, on the drawing"
          along={{ name: 'mired', parameter: mired, value: m, at: x.invert }}
          onSet={set}
        />
      </svg>
      <Fields of={fieldsOf('gel', numbers, ['hue', 'density', 'mired'])} onSet={onSet} />
    </>
  );
}
