import { localScales } from '@dyepot/core';
import { curveMonotoneX, line, scaleLinear } from 'd3';
import { Fields } from '../../kit/Cell.tsx';
import { Handle } from '../../kit/Handle.tsx';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 140,
  names = ['fine', 'medium', 'coarse'] as const,
  places = [52, 138, 224],
  /** waves of each size, in the drawing's units */
  waves = [7, 18, 44],
  y = scaleLinear([-100, 100], [H - 24, 12]);

/** How firm shapes of each size are: three sizes across, softer below the line, firmer above. */
export function ReliefGraph({ numbers, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const points = names.map((n, i): [number, number] => [places[i]!, y(numbers[n]!)]),
    shape = line().curve(curveMonotoneX)([[0, points[0]![1]], ...points, [W, points[2]![1]]]) ?? '';
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Local contrast by size">
        <rect width={W} height={H} fill="#1f1f1f" />
        <path d={`M0,${y(0)}H${W}`} stroke="#5c5a58" strokeDasharray="3 3" />
        {names.map((n, i) => {
          const height = 11 * Math.max(0, 1 + numbers[n]! / 100);
          return (
            <path
              key={n}
              d={
                line<number>()
                  .x((k) => places[i]! - 40 + k)
                  .y((k) => y(0) - height * Math.sin((2 * Math.PI * (k - 40)) / waves[i]!) * Math.exp(-(((k - 40) / 26) ** 2)))(
                  Array.from({ length: 81 }, (_, k) => k),
                ) ?? ''
              }
              fill="none"
              stroke="#77746f"
            />
          );
        })}
        <path d={shape} fill="none" stroke="#f1f0ef" strokeWidth="2" />
        {names.map((n, i) => (
          <g key={n}>
            <text x={places[i]} y={H - 5} textAnchor="middle" className="on-dark">
              {n} {(localScales[i]![0] * 200).toPrecision(2)} %
            </text>
            <Handle
              x={places[i]!}
              y={y(numbers[n]!)}
              label={`${declared('localContrast', n).label}, on the drawing`}
              up={{ name: n, parameter: declared('localContrast', n), value: numbers[n]!, at: y.invert }}
              onSet={(values, gesture) => onSetAll(values, `Local contrast: ${n}`, gesture)}
            />
          </g>
        ))}
      </svg>
      <p className="purpose">Width of the shapes, in shares of the long edge.</p>
      <Fields of={fieldsOf('localContrast', numbers, names)} onSet={onSet} />
    </>
  );
}
