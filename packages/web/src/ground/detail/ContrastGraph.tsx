import { contrastFrom, contrastSpread, contrastTo, shareAt, type Detail, type NoiseModel, type Plate } from '@dyepot/core';
import { area, curveBasis, line, max, range, scaleLinear, scaleLog } from 'd3';
import { useMemo } from 'react';
import { Handle, type Axis } from '../../kit/Handle.tsx';
import { numbers, type DetailGraphProps, type DetailNumber } from './numbers.ts';

const W = 276,
  H = 104,
  foot = 16,
  /** contrast in deviations of the frame's noise */
  x = scaleLog([2 ** contrastFrom, 2 ** contrastTo], [0, W]),
  y = scaleLinear([0, 1], [H - foot, 10]),
  contrasts = range(0, 67).map((i) => 2 ** (contrastFrom + ((contrastTo - contrastFrom) * i) / 66));

interface Props extends DetailGraphProps {
  sharpness: Detail['sharpness'];
  small: Plate | null;
  noise: NoiseModel;
}
/** How much of the response a place takes by how far it stands out of the noise, over the frame's own places. */
export function ContrastGraph({ values, sharpness, small, noise, onSet }: Props): React.JSX.Element {
  const spread = useMemo(() => (small ? contrastSpread(small, noise) : null), [small, noise]),
    tallest = spread ? (max(spread) ?? 1) : 1;
  const axis = (name: DetailNumber, at: Axis['at']): Axis => ({ name, parameter: numbers[name], value: values[name], at });
  return (
    <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Sharpness by contrast">
      <rect width={W} height={H} fill="#1f1f1f" />
      {spread && (
        <path
          d={
            area<number>()
              .x((_, i) => x(2 ** (contrastFrom + ((i + 0.5) * (contrastTo - contrastFrom)) / spread.length)))
              .y0(y(0))
              .y1((v) => y((0.9 * v) / tallest))
              .curve(curveBasis)(spread) ?? ''
          }
          fill="#8a8886"
          opacity="0.5"
        />
      )}
      {[1, 4, 16, 64, 256].map((c) => (
        <g key={c}>
          <path d={`M${x(c)},0V${H - foot}`} stroke={c === 1 ? '#5c5a58' : '#353535'} />
          <text x={x(c)} y={H - 4} textAnchor="middle" className="on-dark">
            {c === 1 ? 'its noise' : `${c} ×`}
          </text>
        </g>
      ))}
      <path
        d={
          line<number>()
            .x(x)
            .y((c) => y(shareAt(sharpness, c)))(contrasts) ?? ''
        }
        fill="none"
        stroke="#f1f0ef"
        strokeWidth="2"
      />
      <Handle x={x(values.faint)} y={y(0.5)} label="Faint, on the graph" along={axis('faint', x.invert)} onSet={onSet} />
      <Handle
        x={Math.min(W - 8, x(values.strong) + 24)}
        y={y(values.kept / 100)}
        fill="#f1f0ef"
        label="Strong, on the graph"
        along={axis('strong', (place) => x.invert(place - 24))}
        up={axis('kept', (place) => 100 * y.invert(place))}
        onSet={onSet}
      />
    </svg>
  );
}
