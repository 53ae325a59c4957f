import { bandAt, hueBins, stepKind, type BandHandle, type BandParameter } from '@dyepot/core';
import { area, line, max, scaleLinear } from 'd3';
import { useRef, useState } from 'react';
import { number } from '@dyepot/core';
import { Fields } from '../../kit/Cell.tsx';
import { useCalmReadouts } from '../../view/readoutSignal.ts';
import { fieldsOf, type FittingProps } from '../fitting.ts';
import { Rove } from '../../kit/Rove.tsx';
import { curves, type BandCurve } from './hueHandles.ts';

const W = 276,
  H = 132;
const words: Record<BandCurve, string> = { hue: 'Hue', chroma: 'Chroma', lightness: 'Lightness' };
const width = number('Width', '°', 5, 180, 45, 1, 0),
  at = number('At hue', '°', 0, 360, 0, 1, 0);
let gestures = 0;

/** The hues under the band; drawn once. */
const hueStrip = (
  <>
    {Array.from({ length: 60 }, (_, i) => (
      <rect key={i} x={(i * W) / 60} y={H + 2} width={W / 60 + 0.5} height="9" fill={`oklch(0.72 0.13 ${i * 6 + 3})`} />
    ))}
  </>
);

/** The hue circle unrolled: a curve for where hues go, how much colour and how much light they get, over the picture's own hues. */
export function HueBandEditor({ params, numbers, signal, tools, onSet }: FittingProps): React.JSX.Element {
  const values = params as Record<BandCurve, readonly BandHandle[]>,
    curve = tools.band,
    pulling = tools.tool === 'pull',
    onChange = (of: BandCurve, next: readonly BandHandle[], gesture: string): void => onSet(of, next, gesture);
  const hues = useCalmReadouts(signal)?.hues ?? null,
    svg = useRef<SVGSVGElement>(null),
    drag = useRef<{ index: number; gesture: string } | null>(null),
    [active, setActive] = useState(0);
  const p = stepKind('hueBands')!.params[curve] as BandParameter,
    handles = values[curve],
    x = scaleLinear([0, 360], [0, W]),
    y = scaleLinear([p.min, p.max], [H - 8, 8]).clamp(true),
    chosen = handles[Math.min(active, handles.length - 1)];
  const place = (e: { clientX: number; clientY: number }): [number, number] => {
    const r = svg.current!.getBoundingClientRect();
    return [Math.min(359.9, Math.max(0, x.invert(((e.clientX - r.left) / r.width) * W))), y.invert(((e.clientY - r.top) / r.height) * H)];
  };
  const tidy = (v: number): number => Math.round(v * (p.max > 1 ? 10 : 1000)) / (p.max > 1 ? 10 : 1000),
    set = (index: number, next: BandHandle, gesture: string): void =>
      onChange(
        curve,
        handles.map((h, i) => (i === index ? next : h)),
        gesture,
      );
  const limit = (v: number): number => Math.min(p.max, Math.max(p.min, v)),
    shape = line<number>()
      .x((h) => x(h))
      .y((h) => y(limit(bandAt(handles, h)))),
    relief = hues
      ? area<number>()
          .x((_, i) => x(((i + 0.5) * 360) / hueBins))
          .y0(H)
          .y1((v) => H - Math.sqrt(v / (max(hues) || 1)) * H * 0.42)
      : null;
  const numeric = number(words[curve], p.unit, p.min, p.max, 0, p.max > 1 ? 1 : 0.005, p.max > 1 ? 0 : 3);
  return (
    <div className="bands">
      <Rove className="segmented" role="tablist" aria-label="What hues turn into">
        {curves.map((c) => (
          <button
            key={c}
            type="button"
            role="tab"
            aria-selected={c === curve}
            onClick={() => {
              tools.onBand(c);
              setActive(0);
            }}
          >
            {words[c]}
            {values[c].some(([, v]) => v !== 0) ? ' •' : ''}
          </button>
        ))}
      </Rove>
      <svg
        ref={svg}
        viewBox={`0 0 ${W} ${H + 12}`}
        role="group"
        aria-label={`Hue to ${curve}`}
        onPointerDown={(e) => {
          if (e.button !== 0 || drag.current || handles.length >= 16) return;
          const [hue, v] = place(e),
            gesture = `band-${++gestures}`;
          svg.current!.setPointerCapture(e.pointerId);
          drag.current = { index: handles.length, gesture };
          setActive(handles.length);
          onChange(curve, [...handles, [Math.round(hue), tidy(v), 45]], gesture);
        }}
        onPointerMove={(e) => {
          const d = drag.current;
          if (!d || !handles[d.index]) return;
          const [hue, v] = place(e);
          set(d.index, [Math.round(hue * 2) / 2, tidy(limit(v)), handles[d.index]![2]], d.gesture);
        }}
        onPointerUp={() => {
          drag.current = null;
        }}
      >
        <rect width={W} height={H} fill="#232323" rx="3" />
        {hues && relief && <path d={relief(Array.from(hues)) ?? ''} fill="#565452" />}
        {hueStrip}
        <line x1="0" x2={W} y1={y(0)} y2={y(0)} stroke="#5c5a58" />
        <path d={shape(Array.from({ length: 181 }, (_, i) => i * 2)) ?? ''} fill="none" stroke="#f1f0ef" strokeWidth="2" />
        {chosen && <rect x={x(chosen[0] - chosen[2])} width={x(2 * chosen[2])} y="0" height={H} fill="#ffffff0c" pointerEvents="none" />}
        {handles.map((h, i) => (
          <circle
            key={i}
            cx={x(h[0])}
            cy={y(h[1])}
            r={chosen === h ? 7 : 5.5}
            fill={`oklch(0.72 0.13 ${h[0]})`}
            stroke={chosen === h ? '#fff' : '#cfcdca'}
            strokeWidth={chosen === h ? 2 : 1.2}
            tabIndex={0}
            role="slider"
            aria-label={`Handle at ${Math.round(h[0])}°`}
            aria-valuenow={h[1]}
            aria-valuetext={`${h[1]} ${p.unit}`}
            onFocus={() => setActive(i)}
            onDoubleClick={(e) => {
              e.stopPropagation();
              onChange(
                curve,
                handles.filter((_, k) => k !== i),
                '',
              );
            }}
            onPointerDown={(e) => {
              e.stopPropagation();
              setActive(i);
              drag.current = { index: i, gesture: `band-${++gestures}` };
              svg.current!.setPointerCapture(e.pointerId);
            }}
            onKeyDown={(e) => {
              const step = e.shiftKey ? 0.2 : e.altKey ? 5 : 1,
                unit = p.max > 1 ? 1 : 0.005,
                to = { ArrowUp: [0, 1], ArrowDown: [0, -1], ArrowRight: [1, 0], ArrowLeft: [-1, 0] }[e.key];
              if (to) {
                e.preventDefault();
                e.stopPropagation();
                set(i, [(h[0] + to[0]! * step + 360) % 360, tidy(limit(h[1] + to[1]! * step * unit)), h[2]], `band-keys-${i}`);
              }
              if (e.key === 'Delete' || e.key === 'Backspace') {
                e.preventDefault();
                e.stopPropagation();
                onChange(
                  curve,
                  handles.filter((_, k) => k !== i),
                  '',
                );
              }
            }}
          />
        ))}
      </svg>
      <div className="row">
        <button
          type="button"
          className={`tool ${pulling ? 'on' : ''}`}
          aria-pressed={pulling}
          onClick={() => tools.onTool(pulling ? 'off' : 'pull')}
        >
          Drag on the picture
        </button>
        <span className="dim">
          {pulling ? 'up and down, from the hue under the pointer' : handles.length === 0 ? 'or press in the band to set a handle' : ''}
        </span>
      </div>
      {chosen && (
        <Fields
          of={[
            { name: 'at', parameter: at, value: chosen[0] },
            { name: 'value', parameter: numeric, value: chosen[1] },
            { name: 'width', parameter: width, value: chosen[2] },
          ]}
          onSet={(name, v, g) =>
            set(
              handles.indexOf(chosen),
              name === 'at' ? [v % 360, chosen[1], chosen[2]] : name === 'value' ? [chosen[0], v, chosen[2]] : [chosen[0], chosen[1], v],
              `${name}-${g}`,
            )
          }
        />
      )}
      <Fields of={fieldsOf('hueBands', numbers, ['guard'])} onSet={onSet} />
    </div>
  );
}
