import { curveMonotoneX, line, scaleLinear } from 'd3';
import { Fields } from '../../kit/Cell.tsx';
import { Handle } from '../../kit/Handle.tsx';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 132,
  x = scaleLinear([0, 1], [16, W - 16]),
  places = [
    ['darks', 0.08],
    ['mids', 0.48],
    ['lights', 0.92],
  ] as const;

/** How much grain each tone has: three handles over the tones, at the granularity that is said. */
export function GrainGraph({ numbers, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const y = scaleLinear([0, 200], [H - 18, 10]),
    points: [number, number][] = [
      [0, numbers['darks']!],
      ...places.map(([name, at]): [number, number] => [at, numbers[name]!]),
      [1, numbers['lights']!],
    ];
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Grain over tones">
        <defs>
          <linearGradient id="tones">
            <stop offset="0" stopColor="#161616" />
            <stop offset="1" stopColor="#e8e6e2" />
          </linearGradient>
        </defs>
        <rect width={W} height={H} fill="#1f1f1f" />
        <rect x={x(0)} width={x(1) - x(0)} y={H - 9} height="7" fill="url(#tones)" />
        <path d={`M0,${y(100)}H${W}`} stroke="#4a4a4a" strokeDasharray="2 4" />
        <path
          d={
            line<[number, number]>()
              .x(([t]) => x(t))
              .y(([, v]) => y(v))
              .curve(curveMonotoneX)(points) ?? ''
          }
          fill="none"
          stroke="#f1f0ef"
          strokeWidth="1.8"
        />
        {places.map(([name, at]) => (
          <Handle
            key={name}
            x={x(at)}
            y={y(numbers[name]!)}
            label={`${declared('grain', name).label}, on the drawing`}
            up={{ name, parameter: declared('grain', name), value: numbers[name]!, at: y.invert }}
            onSet={(values, gesture) => onSetAll(values, 'Grain over tones', gesture)}
          />
        ))}
      </svg>
      <Fields of={fieldsOf('grain', numbers, ['rms', 'size', 'roughness', 'colour'])} onSet={onSet} />
      <Fields of={fieldsOf('grain', numbers, ['darks', 'mids', 'lights'])} onSet={onSet} />
      <Fields of={fieldsOf('grain', numbers, ['format', 'roll'])} onSet={onSet} />
    </>
  );
}
