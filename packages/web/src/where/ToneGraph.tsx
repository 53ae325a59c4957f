import { decodeSrgb, number, toneBounds, toneShare, wholeRange, type ToneRange } from '@dyepot/core';
import { area, curveBasis, line, max, range, scaleLinear } from 'd3';
import { Fields } from '../kit/Cell.tsx';
import { Handle, type Axis } from '../kit/Handle.tsx';
import { useCalmReadouts, type ReadoutSignal } from '../view/readoutSignal.ts';

const W = 276,
  H = 104,
  foot = 15,
  [lowest, highest] = toneBounds.ev,
  x = scaleLinear([lowest, highest], [10, W - 10]),
  y = scaleLinear([0, 1], [H - foot, 10]),
  numbers = {
    fromEv: number('From', 'EV', lowest, highest, wholeRange.fromEv, 0.1, 1),
    toEv: number('To', 'EV', lowest, highest, wholeRange.toEv, 0.1, 1),
    fadeBelowEv: number('Fade below', 'EV', ...toneBounds.fade, wholeRange.fadeBelowEv, 0.1, 1),
    fadeAboveEv: number('Fade above', 'EV', ...toneBounds.fade, wholeRange.fadeAboveEv, 0.1, 1),
  };
type Name = keyof typeof numbers;
/** EV from middle grey of each code of the picture's luma, as bins of a third of a stop. */
const bins = Math.round((highest - lowest) * 3),
  binOf = Array.from({ length: 256 }, (_, code) =>
    Math.min(bins - 1, Math.max(0, Math.floor((Math.log2(Math.max(1e-5, decodeSrgb(code / 255)) / 0.18) - lowest) * 3))),
  );

/** A range of tones over the picture's own: its ends are dragged along, its fades by the feet under them. */
export function ToneGraph({
  mask,
  signal,
  onSet,
}: {
  mask: ToneRange;
  signal: ReadoutSignal;
  onSet: (mask: ToneRange, words: string, gesture: string) => void;
}): React.JSX.Element {
  const counts = useCalmReadouts(signal)?.histogram.luma ?? null,
    spread = new Array<number>(bins).fill(0);
  counts?.forEach((n, code) => (spread[binOf[code]!]! += n));
  const tallest = max(spread) || 1;
  const set = (values: Record<string, number>, gesture: string): void => {
    const next = { ...mask, ...values };
    // one end pushes the other along
    if (values['fromEv'] !== undefined) next.toEv = Math.max(next.toEv, next.fromEv);
    if (values['toEv'] !== undefined) next.fromEv = Math.min(next.fromEv, next.toEv);
    const name = Object.keys(values)[0] as Name;
    onSet(next, `Tone range: ${numbers[name].label.toLowerCase()}`, `${name}-${gesture}`);
  };
  const axis = (name: Name, at: Axis['at']): Axis => ({ name, parameter: numbers[name], value: mask[name], at });
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Range of tones">
        <rect width={W} height={H} fill="#1f1f1f" />
        <path
          d={
            area<number>()
              .x((_, i) => x(lowest + (i + 0.5) / 3))
              .y0(y(0))
              .y1((n) => y((0.92 * n) / tallest))
              .curve(curveBasis)(spread) ?? ''
          }
          fill="#8a8886"
          opacity="0.5"
        />
        {[-8, -6, -4, -2, 0, 2, 4, 6].map((ev) => (
          <g key={ev}>
            <path d={`M${x(ev)},0V${H - foot}`} stroke={ev === 0 ? '#4a4a4a' : '#333'} />
            <text x={x(ev)} y={H - 4} textAnchor="middle" className="on-dark">
              {ev > 0 ? `+${ev}` : ev < 0 ? `−${-ev}` : '0 EV'}
            </text>
          </g>
        ))}
        <path
          d={
            line<number>()
              .x(x)
              .y((ev) => y(toneShare(mask, ev)))(range(lowest, highest + 0.01, 0.1)) ?? ''
          }
          fill="none"
          stroke="#f1f0ef"
          strokeWidth="2"
        />
        <Handle
          x={x(Math.max(lowest, mask.fromEv - mask.fadeBelowEv))}
          y={y(0)}
          label="Fade below, on the graph"
          along={axis('fadeBelowEv', (place) => mask.fromEv - x.invert(place))}
          onSet={set}
        />
        <Handle
          x={x(Math.min(highest, mask.toEv + mask.fadeAboveEv))}
          y={y(0)}
          label="Fade above, on the graph"
          along={axis('fadeAboveEv', (place) => x.invert(place) - mask.toEv)}
          onSet={set}
        />
        <Handle x={x(mask.fromEv)} y={y(1)} fill="#f1f0ef" label="From, on the graph" along={axis('fromEv', x.invert)} onSet={set} />
        <Handle x={x(mask.toEv)} y={y(1)} fill="#f1f0ef" label="To, on the graph" along={axis('toEv', x.invert)} onSet={set} />
      </svg>
      <Fields
        of={(Object.keys(numbers) as Name[]).map((name) => ({ name, parameter: numbers[name], value: mask[name] }))}
        onSet={(name, value, gesture) => set({ [name]: value }, gesture)}
      />
      <label className="inline">
        <input
          type="checkbox"
          checked={mask.inverted}
          onChange={() => onSet({ ...mask, inverted: !mask.inverted }, mask.inverted ? 'Inside the range' : 'Outside the range', '')}
        />{' '}
        outside of it instead
      </label>
    </>
  );
}
