import { range, scaleLinear } from 'd3';
import { Fields } from '../../kit/Cell.tsx';
import { useHold } from '../../kit/Handle.tsx';
import { greyOf } from '../greys.ts';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 112,
  amount = declared('haze', 'amount'),
  x = scaleLinear([-100, 100], [14, W - 14]),
  air = 0.5,
  ridges = [
    [1.6, 44],
    [1.0, 55],
    [0.55, 67],
    [0.2, 82],
  ] as const;
/** Light of a dark ridge so deep in haze: I = J·t + A·(1 − t), t = e^(−β·depth). */
const ridge = (depth: number, percent: number): number => {
  const thick = percent > 0 ? 1 - percent / 100 : 1 - percent / 40,
    t = Math.exp(-thick * depth);
  return 0.03 * t + air * (1 - t);
};

/** Hills that recede into the air: drawn along, the distance clears or veils. */
export function HazeView({ numbers, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const { amount: percent = 0 } = numbers;
  const hold = useHold('Haze, on the hills', {
    along: { name: 'amount', parameter: amount, value: percent, at: x.invert },
    onSet: (values, gesture) => onSetAll(values, 'Haze', gesture),
  });
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Haze">
        <g {...hold} className="handle along">
          <rect width={W} height={H} fill={greyOf(air)} />
          {ridges.map(([depth, top], i) => (
            <path
              key={depth}
              d={`M0,${H}${range(0, W + 1, 6)
                .map((at) => `L${at},${(top + 7 * Math.sin(at / (46 - i * 6) + 2 * i) + 3 * Math.sin(at / 15 + i)).toFixed(1)}`)
                .join('')}V${H}z`}
              fill={greyOf(ridge(depth, percent))}
            />
          ))}
          <rect y={H - 18} width={W} height="18" fill="#1f1f1f" />
          <path d={`M${x(-100)},${H - 9}H${x(100)}`} stroke="#5c5a58" />
          <path d={`M${x(0)},${H - 13}v8`} stroke="#8a8886" />
          <path d={`M${x(0)},${H - 9}H${x(percent)}`} stroke="#f1f0ef" strokeWidth="2" />
          <circle cx={x(percent)} cy={H - 9} r="5" fill="#f1f0ef" />
        </g>
        <text x="6" y="13">
          hazier
        </text>
        <text x={W - 6} y="13" textAnchor="end">
          clearer
        </text>
      </svg>
      <Fields of={fieldsOf('haze', numbers, ['amount'])} onSet={onSet} />
    </>
  );
}
