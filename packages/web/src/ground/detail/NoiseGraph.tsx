import { deviationsAt, detailRanges } from '@dyepot/core';
import { line, range, scaleLinear, scaleLog } from 'd3';
import { Handle } from '../../kit/Handle.tsx';
import { numbers, type DetailGraphProps, type DetailNumber } from './numbers.ts';

const W = 276,
  H = 118,
  foot = 16,
  most = detailRanges.deviations[1],
  /** sizes in px, coarse at the left */
  x = scaleLog([24, 1.6], [0, W]),
  y = scaleLinear([0, most], [H - foot, 8]);
const lines = [
  { kind: 'luma', tint: '#f1f0ef', fine: 'lumaFine', coarse: 'lumaCoarse', atFine: 2.15, atCoarse: 17 },
  { kind: 'colour', tint: '#e0633a', fine: 'colourFine', coarse: 'colourCoarse', atFine: 1.8, atCoarse: 21 },
] as const;

/** How far a detail has to stand out of the frame's noise to stay, by its size: a line for luma and one for colour. */
export function NoiseGraph({ values, onSet }: DetailGraphProps): React.JSX.Element {
  const handle = (name: DetailNumber, at: number, tint: string): React.JSX.Element => (
    <Handle
      key={name}
      x={x(at)}
      y={y(values[name])}
      fill={tint}
      label={`${numbers[name].label}, on the graph`}
      up={{ name, parameter: numbers[name], value: values[name], at: y.invert }}
      onSet={onSet}
    />
  );
  return (
    <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Noise by size of detail">
      <rect width={W} height={H} fill="#1f1f1f" />
      {[16, 8, 4, 2].map((px) => (
        <g key={px}>
          <path d={`M${x(px)},0V${H - foot}`} stroke="#353535" />
          <text x={x(px)} y={H - 4} textAnchor="middle" className="on-dark">
            {px} px
          </text>
        </g>
      ))}
      {range(1, most).map((v) => (
        <g key={v}>
          <path d={`M0,${y(v)}H${W}`} stroke={v === 1 ? '#5c5a58' : '#2f2f2f'} />
          {v === 1 && (
            <text x="4" y={y(v) - 3} className="on-dark">
              its noise
            </text>
          )}
        </g>
      ))}
      {lines.map((l) => (
        <path
          key={l.kind}
          d={
            line<number>()
              .x(x)
              .y((px) => y(deviationsAt({ fine: values[l.fine], coarse: values[l.coarse] }, px)))(
              range(0, 31).map((i) => 24 / 15 ** (i / 30)),
            ) ?? ''
          }
          fill="none"
          stroke={l.tint}
          strokeWidth="2"
          strokeDasharray={l.kind === 'colour' ? '5 3' : undefined}
        />
      ))}
      {lines.flatMap((l) => [handle(l.coarse, l.atCoarse, l.tint), handle(l.fine, l.atFine, l.tint)])}
    </svg>
  );
}
