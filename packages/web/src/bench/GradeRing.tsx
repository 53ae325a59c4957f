import { gradeRanges, stepKind, type GradeRange, type NumberParameter } from '@dyepot/core';
import { useRef, useState } from 'react';
import { NumberControl } from '../kit/NumberControl.tsx';

const R = 82, C = 96, most = 0.15;
const letter: Record<GradeRange, string> = { darks: 'D', mids: 'M', lights: 'L' };
let gestures = 0;

/** One ring for all ranges: angle is hue, distance is chroma. Shift keeps the hue; the number fields below take over by keyboard. */
export function GradeRing({ params, onSet }: { params: Record<string, number>; onSet: (values: Record<string, number>, gesture: string) => void }): React.JSX.Element {
  const svg = useRef<SVGSVGElement>(null), drag = useRef<{ range: GradeRange; gesture: string } | null>(null);
  const [active, setActive] = useState<GradeRange>('lights');
  const declared = stepKind('grade')!.params;
  const of = (range: GradeRange, what: string): number => params[`${range}${what}`] ?? 0;
  // the scale opens near the middle, where grades live
  const out = (chroma: number): number => Math.sqrt(chroma / most) * R, back = (r: number): number => Math.min(1, r / R) ** 2 * most;
  const at = (range: GradeRange): { x: number; y: number } => { const a = (of(range, 'Hue') * Math.PI) / 180, d = out(of(range, 'Chroma')); return { x: C + Math.cos(a) * d, y: C - Math.sin(a) * d }; };
  const opposite = (range: GradeRange): void => { const other: GradeRange = range === 'lights' ? 'darks' : 'lights'; onSet({ [`${other}Hue`]: (of(range, 'Hue') + 180) % 360, [`${other}Chroma`]: Math.max(of(other, 'Chroma'), of(range, 'Chroma') * 0.7) }, ''); };
  return (
    <div className="grade">
      <svg
        ref={svg} viewBox="0 0 192 192" className="grade-ring"
        onPointerMove={(e) => {
          if (!drag.current || !svg.current) return;
          const b = svg.current.getBoundingClientRect(), x = ((e.clientX - b.left) / b.width) * 192 - C, y = C - ((e.clientY - b.top) / b.height) * 192, { range, gesture } = drag.current;
          const hue = e.shiftKey ? of(range, 'Hue') : (Math.round(((Math.atan2(y, x) * 180) / Math.PI + 360) * 10) / 10) % 360;
          const r = Math.hypot(x, y);
          onSet({ [`${range}Hue`]: hue, [`${range}Chroma`]: r < 4 ? 0 : Number(back(r).toFixed(4)) }, gesture);
        }}
        onPointerUp={() => { drag.current = null; }}
      >
        {Array.from({ length: 72 }, (_, i) => { const a = (i * 5 * Math.PI) / 180, b = ((i + 1) * 5 * Math.PI) / 180; return <path key={i} d={`M${C + Math.cos(a) * (R + 4)},${C - Math.sin(a) * (R + 4)}A${R + 4},${R + 4} 0 0 0 ${C + Math.cos(b) * (R + 4)},${C - Math.sin(b) * (R + 4)}`} stroke={`oklch(0.7 0.12 ${i * 5 + 2.5})`} strokeWidth="4" fill="none" />; })}
        {[0.01, 0.04, 0.09].map((c) => <circle key={c} cx={C} cy={C} r={out(c)} fill="none" stroke="#454545" />)}
        <circle cx={C} cy={C} r="1.5" fill="#777" />
        <line x1={at('darks').x} y1={at('darks').y} x2={at('lights').x} y2={at('lights').y} stroke="#8a8886" strokeDasharray="2 3" />
        {gradeRanges.map((range) => {
          const p = at(range);
          return (
            <g key={range} transform={`translate(${p.x} ${p.y})`} className="grade-pin" data-testid={`pin-${range}`}
              onPointerDown={(e) => { e.currentTarget.ownerSVGElement!.setPointerCapture(e.pointerId); drag.current = { range, gesture: `pin-${++gestures}` }; setActive(range); }}
              onDoubleClick={() => onSet({ [`${range}Chroma`]: 0, [`${range}Hue`]: 0 }, '')}>
              <circle r="10" fill={`oklch(${range === 'darks' ? 0.42 : range === 'mids' ? 0.62 : 0.82} ${of(range, 'Chroma') * 1.6} ${of(range, 'Hue')})`} stroke={active === range ? '#f1f0ef' : '#a3a19e'} strokeWidth={active === range ? 2 : 1.2} />
              <text textAnchor="middle" dy="3.6" fontSize="10" fontWeight="700" fill={range === 'darks' ? '#f1f0ef' : '#161616'}>{letter[range]}</text>
            </g>
          );
        })}
      </svg>
      <div className="segmented" role="tablist" aria-label="Range">{gradeRanges.map((r) => <button key={r} type="button" role="tab" aria-selected={active === r} onClick={() => setActive(r)}>{r[0]!.toUpperCase() + r.slice(1)}</button>)}</div>
      {(['Hue', 'Chroma', 'Lightness'] as const).map((what) => <NumberControl key={active + what} label={what} parameter={declared[`${active}${what}`] as NumberParameter} value={of(active, what)} onChange={(v, gesture) => onSet({ [`${active}${what}`]: v }, `${active}${what}-${gesture}`)} />)}
      {active !== 'mids' && <button type="button" className="text-button" onClick={() => opposite(active)}>{active === 'lights' ? 'Darks' : 'Lights'} to the complement</button>}
    </div>
  );
}
