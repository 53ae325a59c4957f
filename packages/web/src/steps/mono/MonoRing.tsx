import { bandAt, number, stepKind, type BandHandle, type BandParameter } from '@dyepot/core';
import { line } from 'd3';
import { useRef } from 'react';
import { Handle, placeIn } from '../../kit/Handle.tsx';
import type { FittingProps } from '../fitting.ts';

const inner = 24,
  middle = 48,
  outer = 72,
  reach = (stepKind('mono')!.params['response'] as BandParameter).max,
  radius = (value: number): number => middle + (value / reach) * (outer - middle),
  value = number('Lightness of the hue', '', -reach, reach, 0, 0.01, 2),
  rad = (degrees: number): number => (degrees * Math.PI) / 180;
let gestures = 0;

/** Hues lighter or darker before they are grey: pulled outwards lighter, inwards darker; a click on the ring adds a handle, Delete takes one away. */
export function MonoRing({ params, tools, onSet }: Pick<FittingProps, 'params' | 'tools' | 'onSet'>): React.JSX.Element {
  const handles = params['response'] as readonly BandHandle[],
    svg = useRef<SVGSVGElement>(null),
    set = (next: readonly BandHandle[], gesture: string): void => onSet('response', next, gesture),
    pulling = tools.tool === 'pull',
    ring =
      line<number>()
        .x((h) => radius(Math.min(reach, Math.max(-reach, bandAt(handles, h)))) * Math.cos(rad(h)))
        .y((h) => -radius(Math.min(reach, Math.max(-reach, bandAt(handles, h)))) * Math.sin(rad(h)))(
        Array.from({ length: 121 }, (_, i) => i * 3),
      ) ?? '';
  return (
    <div className="mono-ring">
      <svg
        ref={svg}
        viewBox="-80 -80 160 160"
        role="group"
        aria-label="Lightness by hue"
        onClick={(e) => {
          const at = placeIn(svg.current!, e),
            away = Math.hypot(at.x, at.y),
            hue = (Math.round((Math.atan2(-at.y, at.x) * 180) / Math.PI) + 360) % 360;
          if (away < inner - 6 || away > outer + 8 || handles.length >= 12) return;
          if (handles.some(([h]) => Math.abs(((h - hue + 540) % 360) - 180) < 14)) return;
          set([...handles, [hue, Math.round(((away - middle) / (outer - middle)) * reach * 100) / 100, 50]], `ring-${++gestures}`);
        }}
      >
        {Array.from({ length: 72 }, (_, i) => (
          <path
            key={i}
            d={`M${76 * Math.cos(rad(i * 5))},${-76 * Math.sin(rad(i * 5))}L${76 * Math.cos(rad(i * 5 + 5.4))},${-76 * Math.sin(rad(i * 5 + 5.4))}`}
            stroke={`oklch(0.72 0.13 ${i * 5 + 2.5})`}
            strokeWidth="5"
          />
        ))}
        <circle r={outer - 2} fill="#1f1f1f" />
        <circle r={middle} fill="none" stroke="#5a5856" strokeDasharray="3 3" />
        <path d={ring} fill="none" stroke="#f1f0ef" strokeWidth="1.6" />
        {handles.map(([hue, v, width], i) => (
          <g
            key={i}
            onClick={(e) => e.stopPropagation()}
            onKeyDownCapture={(e) => {
              if (e.key === 'Delete' || e.key === 'Backspace') {
                e.stopPropagation();
                e.preventDefault();
                set(
                  handles.filter((_, k) => k !== i),
                  `ring-${++gestures}`,
                );
              }
            }}
          >
            <Handle
              x={radius(v) * Math.cos(rad(hue))}
              y={-radius(v) * Math.sin(rad(hue))}
              fill={`oklch(0.6 0.12 ${hue})`}
              label={`Hue ${hue}°, on the ring`}
              up={{
                name: 'v',
                parameter: value,
                value: v,
                at: (y) => ((-y / (Math.abs(Math.sin(rad(hue))) > 0.3 ? Math.sin(rad(hue)) : 1) - middle) / (outer - middle)) * reach,
              }}
              onSet={(values, gesture) =>
                set(
                  handles.map((h, k) => (k === i ? [hue, values['v']!, width] : h)),
                  gesture,
                )
              }
            />
          </g>
        ))}
      </svg>
      <div>
        <button
          type="button"
          className={`tool ${pulling ? 'on' : ''}`}
          aria-pressed={pulling}
          onClick={() => tools.onTool(pulling ? 'off' : 'pull')}
        >
          {pulling ? 'Drag on the picture' : 'Drag a hue on the picture'}
        </button>
        <p className="purpose">Outwards is lighter, inwards darker: down on a sky makes it dramatic.</p>
        {handles.length > 0 && (
          <button type="button" className="text-button" onClick={() => set([], `ring-${++gestures}`)}>
            take all handles out
          </button>
        )}
      </div>
    </div>
  );
}
