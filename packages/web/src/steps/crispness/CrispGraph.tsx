import { line, range, scaleLinear } from 'd3';
import { Fields } from '../../kit/Cell.tsx';
import { Handle } from '../../kit/Handle.tsx';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 132,
  amount = declared('crispness', 'amount'),
  size = declared('crispness', 'size'),
  /** places across the drawing, in thousandths of the long edge */
  reach = 6,
  x = scaleLinear([-reach, reach], [0, W]),
  y = scaleLinear([0, 1], [H - 10, 10]),
  /** an edge between a dark and a light place, as lightness */
  edge = { low: 0.3, high: 0.7, width: 0.35 },
  own = (at: number): number => edge.low + (edge.high - edge.low) / (1 + Math.exp(-at / edge.width));
/** The same edge through a Gaussian: the mean of it over seventeen places of equal weight. */
const quantiles = [-1.89, -1.33, -1.03, -0.8, -0.61, -0.44, -0.28, -0.14, 0, 0.14, 0.28, 0.44, 0.61, 0.8, 1.03, 1.33, 1.89],
  blurred = (at: number, sigma: number): number => quantiles.reduce((s, q) => s + own(at + q * sigma), 0) / quantiles.length;

/** An edge of the picture before and after: held where it stands out most, up for the amount, along for the size. */
export function CrispGraph({ numbers, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const { amount: percent = 0, size: spread = 0.4, still = 0.8, most = 12 } = numbers;
  const moved = (at: number, k: number, sigma = spread): number => {
    const d = own(at) - blurred(at, sigma),
      sure = (d * d * d) / (d * d + (still / 100) ** 2 + 1e-12),
      held = sure / (1 + Math.abs(sure) / (most / 100));
    return own(at) + k * held;
  };
  const k = Math.max(-1, percent / 100),
    crest = (sigma: number): number => edge.width + 1.1 * sigma,
    at = crest(spread),
    unit = moved(at, 1) - own(at);
  const draw = (of: (p: number) => number): string =>
    line<number>()
      .x(x)
      .y((p) => y(of(p)))(range(-reach, reach + 0.01, 0.1)) ?? '';
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="An edge, crisper or softer">
        <rect width={W} height={H} fill="#1f1f1f" />
        {range(-5, 6).map((v) => (
          <path key={v} d={`M${x(v)},0V${H}`} stroke={v === 0 ? '#4a4a4a' : '#303030'} />
        ))}
        <text x={x(1) + 3} y={H - 4} className="on-dark">
          1 ‰ of the long edge
        </text>
        <path d={draw(own)} fill="none" stroke="#7d7b78" strokeWidth="1.5" strokeDasharray="4 3" />
        <path d={draw((p) => moved(p, k))} fill="none" stroke="#f1f0ef" strokeWidth="2" />
        <Handle
          x={x(at)}
          y={y(moved(at, k))}
          fill="#f1f0ef"
          label="Crest of the edge, on the drawing"
          along={{ name: 'size', parameter: size, value: spread, at: (place) => (x.invert(place) - edge.width) / 1.1 }}
          up={{
            name: 'amount',
            parameter: amount,
            value: percent,
            at: (place) => (100 * (y.invert(place) - own(at))) / Math.max(0.004, unit),
          }}
          onSet={(values, gesture) => onSetAll(values, 'Crispness', gesture)}
        />
      </svg>
      <Fields of={fieldsOf('crispness', numbers, ['amount', 'size'])} onSet={onSet} />
      <Fields of={fieldsOf('crispness', numbers, ['still', 'most'])} onSet={onSet} />
    </>
  );
}
