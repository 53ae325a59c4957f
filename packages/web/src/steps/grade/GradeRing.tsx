import { gradeRanges, hueBins, tiedHue, type GradeRange } from '@dyepot/core';
import { max } from 'd3';
import { useRef, useState } from 'react';
import { Fields } from '../../kit/Cell.tsx';
import { placeIn } from '../../kit/Handle.tsx';
import { useCalmReadouts } from '../../view/readoutSignal.ts';
import { declared, type FittingProps } from '../fitting.ts';
import { GradeBounds } from './GradeBounds.tsx';
import { Rove } from '../../kit/Rove.tsx';

const R = 74,
  C = 86,
  most = 0.15,
  words: Record<GradeRange, string> = { darks: 'Darks', mids: 'Mids', lights: 'Lights', all: 'All' },
  greys: Record<GradeRange, number> = { darks: 0.42, mids: 0.62, lights: 0.82, all: 0.72 },
  /** where pins without colour wait, so that each can be taken */
  parked: Record<GradeRange, readonly [number, number]> = { darks: [-13, 8], mids: [0, -12], lights: [13, 8], all: [0, 4] };
const ties = [
  ['complement', 'The other end follows, 180° away'],
  ['analogous', 'The other end follows, 30° away'],
  ['triad', 'All three a third of the circle apart'],
] as const;
type Tie = (typeof ties)[number][0];
let gestures = 0;

// the scale opens near the middle, where grades live
const out = (chroma: number): number => Math.sqrt(chroma / most) * R,
  back = (r: number): number => Math.min(1, r / R) ** 2 * most;
const along = (degrees: number, r: number): [number, number] => {
  const a = (degrees * Math.PI) / 180;
  return [C + Math.cos(a) * r, C - Math.sin(a) * r];
};

/** The hues round the ring; drawn once. */
const ring = (
  <>
    {Array.from({ length: 72 }, (_, i) => {
      const [a, b] = [along(i * 5, R + 4), along(i * 5 + 5, R + 4)];
      return (
        <path key={i} d={`M${a}A${R + 4},${R + 4} 0 0 0 ${b}`} stroke={`oklch(0.7 0.12 ${i * 5 + 2.5})`} strokeWidth="4" fill="none" />
      );
    })}
  </>
);

/** What the other pins do when one goes to a hue: the opposite end follows, in a triad the third too. */
export function tiedPins(
  numbers: Readonly<Record<string, number>>,
  range: GradeRange,
  hue: number,
  tie: Tie | null,
): Record<string, number> {
  if (!tie || range === 'all') return {};
  const other: GradeRange = range === 'lights' ? 'darks' : range === 'darks' ? 'lights' : 'darks',
    third: GradeRange = range === 'mids' ? 'lights' : 'mids',
    least = Math.max(0.01, numbers[`${range}Chroma`]! * 0.6),
    chroma = (r: GradeRange): number => Math.max(numbers[`${r}Chroma`]!, least);
  return {
    [`${other}Hue`]: tiedHue(hue, tie),
    [`${other}Chroma`]: chroma(other),
    ...(tie === 'triad' ? { [`${third}Hue`]: (hue + 240) % 360, [`${third}Chroma`]: chroma(third) } : {}),
  };
}

/** One ring for all ranges: angle is hue, distance is chroma. Shift keeps the hue; the fields below take over by keyboard. */
export function GradeRing({ numbers, signal, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const readouts = useCalmReadouts(signal),
    hues = readouts?.hues ?? null,
    relief = hues ? max(hues) || 1 : 1,
    drag = useRef<{ range: GradeRange; gesture: string } | null>(null),
    [active, setActive] = useState<GradeRange>('lights'),
    [tie, setTie] = useState<Tie | null>(null);
  const of = (range: GradeRange, what: string): number => numbers[`${range}${what}`]!,
    set = (values: Record<string, number>, gesture: string): void => onSetAll(values, 'Grade', gesture),
    at = (range: GradeRange): readonly [number, number] =>
      of(range, 'Chroma') > 0 ? along(of(range, 'Hue'), out(of(range, 'Chroma'))) : [C + parked[range][0], C + parked[range][1]];
  const [dark, light] = [at('darks'), at('lights')];
  return (
    <div className="grade">
      <div className="grade-top">
        <svg
          viewBox="0 0 172 172"
          className="grade-ring"
          role="group"
          aria-label="Grade"
          onPointerMove={(e) => {
            if (!drag.current) return;
            const { range, gesture } = drag.current,
              p = placeIn(e.currentTarget, e),
              [x, y] = [p.x - C, C - p.y],
              r = Math.hypot(x, y),
              hue = e.shiftKey ? of(range, 'Hue') : (Math.round(((Math.atan2(y, x) * 180) / Math.PI + 360) * 10) / 10) % 360;
            set(
              { [`${range}Hue`]: hue, [`${range}Chroma`]: r < 4 ? 0 : Number(back(r).toFixed(4)), ...tiedPins(numbers, range, hue, tie) },
              gesture,
            );
          }}
          onPointerUp={() => {
            drag.current = null;
          }}
        >
          {ring}
          {hues && (
            <path
              d={Array.from(hues, (v, i) => {
                const degrees = ((i + 0.5) * 360) / hueBins;
                return `M${along(degrees, R + 1)}L${along(degrees, R + 1 - 15 * Math.sqrt(v / relief))}`;
              }).join('')}
              stroke="#8a8886"
              strokeWidth="3.2"
              opacity="0.45"
            />
          )}
          {[0.01, 0.04, 0.09].map((c) => (
            <circle key={c} cx={C} cy={C} r={out(c)} fill="none" stroke="#454545" />
          ))}
          <path d={`M${dark}L${light}`} stroke="#8a8886" strokeDasharray="2 3" />
          {[...gradeRanges.filter((r) => r !== active), active].map((range) => (
            <g
              key={range}
              transform={`translate(${at(range)})`}
              className="grade-pin"
              data-testid={`pin-${range}`}
              onPointerDown={(e) => {
                e.currentTarget.ownerSVGElement!.setPointerCapture(e.pointerId);
                drag.current = { range, gesture: `pin-${++gestures}` };
                setActive(range);
              }}
              onDoubleClick={() => set({ [`${range}Chroma`]: 0, [`${range}Hue`]: 0 }, '')}
            >
              <circle
                r="9"
                fill={`oklch(${greys[range]} ${of(range, 'Chroma') * 1.6} ${of(range, 'Hue')})`}
                stroke={active === range ? '#f1f0ef' : '#a3a19e'}
                strokeWidth={active === range ? 2 : 1.2}
              />
              <text textAnchor="middle" dy="3.4" fill={range === 'darks' ? '#f1f0ef' : '#161616'}>
                {words[range][0]}
              </text>
            </g>
          ))}
        </svg>
        <div className="grade-side">
          <Rove className="segmented upright" role="tablist" aria-label="Range" aria-orientation="vertical">
            {gradeRanges.map((r) => (
              <button key={r} type="button" role="tab" aria-selected={active === r} onClick={() => setActive(r)}>
                {words[r]}
                <i style={{ background: of(r, 'Chroma') > 0 ? `oklch(0.7 ${of(r, 'Chroma') * 1.6} ${of(r, 'Hue')})` : 'transparent' }} />
              </button>
            ))}
          </Rove>
          <div role="group" aria-label="Tie the other pins" className="grade-ties">
            <span>tie as</span>
            {ties.map(([k, title]) => (
              <button
                key={k}
                type="button"
                className={`tool ${tie === k ? 'on' : ''}`}
                aria-pressed={tie === k}
                disabled={active === 'all'}
                title={title}
                onClick={() => {
                  setTie(tie === k ? null : k);
                  if (tie !== k) set(tiedPins(numbers, active, of(active, 'Hue'), k), '');
                }}
              >
                {k}
              </button>
            ))}
          </div>
        </div>
      </div>
      <Fields
        of={(['Hue', 'Chroma', 'Lightness'] as const).map((what) => ({
          name: `${active}${what}`,
          label: what,
          parameter: { ...declared('grade', `${active}${what}`), label: what },
          value: of(active, what),
        }))}
        onSet={(name, v, gesture) =>
          set({ [name]: v, ...(name === `${active}Hue` ? tiedPins(numbers, active, v, tie) : {}) }, `${name}-${gesture}`)
        }
      />
      <GradeBounds numbers={numbers} histogram={readouts?.histogram ?? null} onSet={onSet} />
    </div>
  );
}
