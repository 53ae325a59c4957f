import { gradeRanges, hueBins, stepKind, tiedHue, type GradeRange, type Histogram, type NumberParameter } from '@dyepot/core';
import { area, max, scaleLinear } from 'd3';
import { useRef, useState } from 'react';
import { NumberControl } from '../kit/NumberControl.tsx';
import { useReadouts, type ReadoutSignal } from '../view/readoutSignal.ts';

const R = 82,
  C = 96,
  most = 0.15;
const letter: Record<GradeRange, string> = { darks: 'D', mids: 'M', lights: 'L', all: 'A' };
let gestures = 0;

/** One ring for all ranges: angle is hue, distance is chroma. Shift keeps the hue; the number fields below take over by keyboard. */
export function GradeRing({
  params,
  signal,
  onSet,
}: {
  params: Record<string, number>;
  /** the picture's own hues are drawn round the ring */ signal: ReadoutSignal;
  onSet: (values: Record<string, number>, gesture: string) => void;
}): React.JSX.Element {
  const readouts = useReadouts(signal),
    hues = readouts?.hues ?? null,
    histogram = readouts?.histogram ?? null,
    svg = useRef<SVGSVGElement>(null),
    drag = useRef<{ range: GradeRange; gesture: string } | null>(null);
  const [active, setActive] = useState<GradeRange>('lights');
  const declared = stepKind('grade')!.params;
  const of = (range: GradeRange, what: string): number => params[`${range}${what}`] ?? 0;
  // the scale opens near the middle, where grades live
  const out = (chroma: number): number => Math.sqrt(chroma / most) * R,
    back = (r: number): number => Math.min(1, r / R) ** 2 * most;
  const at = (range: GradeRange): { x: number; y: number } => {
    const a = (of(range, 'Hue') * Math.PI) / 180,
      d = out(of(range, 'Chroma'));
    return { x: C + Math.cos(a) * d, y: C - Math.sin(a) * d };
  };
  const [tie, setTie] = useState<'complement' | 'analogous' | 'triad' | null>(null);
  /** What the other pins do when this one goes to a hue: the opposite end follows, in a triad the third too. */
  const tied = (range: GradeRange, hue: number, kind = tie): Record<string, number> => {
    if (!kind || range === 'all') return {};
    const other: GradeRange = range === 'lights' ? 'darks' : range === 'darks' ? 'lights' : 'darks',
      third: GradeRange = range === 'mids' ? 'lights' : 'mids',
      least = Math.max(0.01, of(range, 'Chroma') * 0.6);
    return {
      [`${other}Hue`]: tiedHue(hue, kind),
      [`${other}Chroma`]: Math.max(of(other, 'Chroma'), least),
      ...(kind === 'triad' ? { [`${third}Hue`]: (hue + 240) % 360, [`${third}Chroma`]: Math.max(of(third, 'Chroma'), least) } : {}),
    };
  };
  const relief = hues ? max(hues) || 1 : 1;
  return (
    <div className="grade">
      <svg
        ref={svg}
        viewBox="0 0 192 192"
        className="grade-ring"
        onPointerMove={(e) => {
          if (!drag.current || !svg.current) return;
          const b = svg.current.getBoundingClientRect(),
            x = ((e.clientX - b.left) / b.width) * 192 - C,
            y = C - ((e.clientY - b.top) / b.height) * 192,
            { range, gesture } = drag.current;
          const hue = e.shiftKey ? of(range, 'Hue') : (Math.round(((Math.atan2(y, x) * 180) / Math.PI + 360) * 10) / 10) % 360;
          const r = Math.hypot(x, y);
          onSet({ [`${range}Hue`]: hue, [`${range}Chroma`]: r < 4 ? 0 : Number(back(r).toFixed(4)), ...tied(range, hue) }, gesture);
        }}
        onPointerUp={() => {
          drag.current = null;
        }}
      >
        {Array.from({ length: 72 }, (_, i) => {
          const a = (i * 5 * Math.PI) / 180,
            b = ((i + 1) * 5 * Math.PI) / 180;
          return (
            <path
              key={i}
              d={`M${C + Math.cos(a) * (R + 4)},${C - Math.sin(a) * (R + 4)}A${R + 4},${R + 4} 0 0 0 ${C + Math.cos(b) * (R + 4)},${C - Math.sin(b) * (R + 4)}`}
              stroke={`oklch(0.7 0.12 ${i * 5 + 2.5})`}
              strokeWidth="4"
              fill="none"
            />
          );
        })}
        {hues &&
          Array.from(hues, (v, i) => {
            const a = ((i + 0.5) * 2 * Math.PI) / hueBins,
              r = R + 1 - 15 * Math.sqrt(v / relief);
            return (
              <line
                key={`h${i}`}
                x1={C + Math.cos(a) * (R + 1)}
                y1={C - Math.sin(a) * (R + 1)}
                x2={C + Math.cos(a) * r}
                y2={C - Math.sin(a) * r}
                stroke="#8a8886"
                strokeWidth="3.4"
                opacity="0.45"
              />
            );
          })}
        {[0.01, 0.04, 0.09].map((c) => (
          <circle key={c} cx={C} cy={C} r={out(c)} fill="none" stroke="#454545" />
        ))}
        <circle cx={C} cy={C} r="1.5" fill="#777" />
        <line x1={at('darks').x} y1={at('darks').y} x2={at('lights').x} y2={at('lights').y} stroke="#8a8886" strokeDasharray="2 3" />
        {gradeRanges.map((range) => {
          const p = at(range);
          return (
            <g
              key={range}
              transform={`translate(${p.x} ${p.y})`}
              className="grade-pin"
              data-testid={`pin-${range}`}
              onPointerDown={(e) => {
                e.currentTarget.ownerSVGElement!.setPointerCapture(e.pointerId);
                drag.current = { range, gesture: `pin-${++gestures}` };
                setActive(range);
              }}
              onDoubleClick={() => onSet({ [`${range}Chroma`]: 0, [`${range}Hue`]: 0 }, '')}
            >
              <circle
                r="10"
                fill={`oklch(${range === 'darks' ? 0.42 : range === 'mids' ? 0.62 : 0.82} ${of(range, 'Chroma') * 1.6} ${of(range, 'Hue')})`}
                stroke={active === range ? '#f1f0ef' : '#a3a19e'}
                strokeWidth={active === range ? 2 : 1.2}
              />
              <text textAnchor="middle" dy="3.6" fontSize="10" fontWeight="700" fill={range === 'darks' ? '#f1f0ef' : '#161616'}>
                {letter[range]}
              </text>
            </g>
          );
        })}
      </svg>
      <div className="segmented" role="tablist" aria-label="Range">
        {gradeRanges.map((r) => (
          <button key={r} type="button" role="tab" aria-selected={active === r} onClick={() => setActive(r)}>
            {r[0]!.toUpperCase() + r.slice(1)}
          </button>
        ))}
      </div>
      {(['Hue', 'Chroma', 'Lightness'] as const).map((what) => (
        <NumberControl
          key={active + what}
          label={what}
          parameter={declared[`${active}${what}`] as NumberParameter}
          value={of(active, what)}
          onChange={(v, gesture) =>
            onSet({ [`${active}${what}`]: v, ...(what === 'Hue' ? tied(active, v) : {}) }, `${active}${what}-${gesture}`)
          }
        />
      ))}
      {active !== 'all' && (
        <div className="row" role="group" aria-label="Tie the other pins">
          {(['complement', 'analogous', 'triad'] as const).map((k) => (
            <button
              key={k}
              type="button"
              className={`tool ${tie === k ? 'on' : ''}`}
              aria-pressed={tie === k}
              title={
                k === 'complement'
                  ? 'The other end follows, 180° away'
                  : k === 'analogous'
                    ? 'The other end follows, 30° away'
                    : 'All three a third of the circle apart'
              }
              onClick={() => {
                setTie(tie === k ? null : k);
                if (tie !== k) onSet(tied(active, of(active, 'Hue'), k), '');
              }}
            >
              {k}
            </button>
          ))}
        </div>
      )}
      <Boundaries params={params} histogram={histogram} onSet={onSet} />
      <NumberControl
        parameter={declared['balance'] as NumberParameter}
        value={params['balance'] ?? 0}
        onChange={(v, gesture) => onSet({ balance: v }, `balance-${gesture}`)}
      />
    </div>
  );
}

const BW = 276,
  BH = 44;
/** Where darks end and lights begin, over the picture's tones; each boundary is dragged. */
function Boundaries({
  params,
  histogram,
  onSet,
}: {
  params: Record<string, number>;
  histogram: Histogram | null;
  onSet: (values: Record<string, number>, gesture: string) => void;
}): React.JSX.Element {
  const svg = useRef<SVGSVGElement>(null),
    drag = useRef<{ name: string; gesture: string } | null>(null),
    x = scaleLinear([-6, 2.5], [0, BW]).clamp(true),
    declared = stepKind('grade')!.params;
  // 8-bit codes by their EV from middle grey
  const evOf = (code: number): number => {
      const v = code / 255,
        linear = v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
      return Math.log2(Math.max(1e-3, linear) / 0.18);
    },
    bars = histogram ? Array.from(histogram.luma) : [],
    top = max(bars.slice(2, 254)) || 1;
  const set = (name: string, ev: number, gesture: string): void => {
    const p = declared[name] as NumberParameter;
    onSet({ [name]: Math.round(Math.min(p.max, Math.max(p.min, ev)) * 10) / 10 }, gesture);
  };
  return (
    <svg
      ref={svg}
      className="boundaries"
      viewBox={`0 0 ${BW} ${BH}`}
      role="group"
      aria-label="Boundaries of the ranges"
      onPointerMove={(e) => {
        if (!drag.current) return;
        const r = svg.current!.getBoundingClientRect();
        set(drag.current.name, x.invert(((e.clientX - r.left) / r.width) * BW), drag.current.gesture);
      }}
      onPointerUp={() => {
        drag.current = null;
      }}
    >
      <rect width={BW} height={BH} fill="#232323" rx="3" />
      <path
        d={
          area<number>()
            .x((_, i) => x(evOf(i)))
            .y0(BH)
            .y1((v) => BH - Math.min(1, v / top) * (BH - 6))(bars) ?? ''
        }
        fill="#565452"
      />
      {(['darksEndEv', 'lightsBeginEv'] as const).map((name) => (
        <g
          key={name}
          role="slider"
          tabIndex={0}
          aria-label={(declared[name] as NumberParameter).label}
          aria-valuenow={params[name]!}
          aria-valuetext={`${params[name]!.toFixed(1)} EV`}
          className="bound"
          onPointerDown={(e) => {
            svg.current!.setPointerCapture(e.pointerId);
            drag.current = { name, gesture: `bound-${++gestures}` };
          }}
          onDoubleClick={() => set(name, (declared[name] as NumberParameter).default, `bound-${++gestures}`)}
          onKeyDown={(e) => {
            const way = e.key === 'ArrowRight' ? 1 : e.key === 'ArrowLeft' ? -1 : 0;
            if (way) {
              e.preventDefault();
              e.stopPropagation();
              set(name, params[name]! + way * (e.altKey ? 0.5 : 0.1), 'bound-keys');
            }
          }}
        >
          <line x1={x(params[name]!)} x2={x(params[name]!)} y1="0" y2={BH} stroke="#f1f0ef" strokeWidth="1.5" />
          <rect x={x(params[name]!) - 6} width="12" height={BH} fill="transparent" />
          <path d={`M${x(params[name]!) - 4} 0 h8 l-4 6 z`} fill="#f1f0ef" />
        </g>
      ))}
    </svg>
  );
}
