import { scaleLinear } from 'd3';
import { Fields } from '../../kit/Cell.tsx';
import { Handle } from '../../kit/Handle.tsx';
import { plainGrey } from '../greys.ts';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 152,
  strip = 12,
  contrast = declared('contrast', 'contrast'),
  pivot = declared('contrast', 'pivotEv'),
  x = scaleLinear([-6, 5], [0, W]),
  y = scaleLinear([-6, 5], [H - strip, 0]),
  /** how far from the pivot the line is held, in EV */
  reach = 2;

/** Light in against light out, both in EV: a line that turns about its pivot. */
export function ContrastGraph({ numbers, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const { contrast: k = 0, pivotEv = 0 } = numbers,
    slope = 2 ** (k / 100),
    out = (ev: number): number => pivotEv + slope * (ev - pivotEv),
    side = pivotEv > 1 ? -reach : reach;
  const set = (values: Record<string, number>, gesture: string): void => onSetAll(values, 'Contrast', gesture);
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Contrast about a pivot">
        <rect width={W} height={H} fill="#1f1f1f" />
        {[-4, -2, 0, 2, 4].map((ev) => (
          <g key={ev}>
            <path d={`M${x(ev)},0V${H - strip}M0,${y(ev)}H${W}`} stroke={ev === 0 ? '#4a4a4a' : '#353535'} />
            <text x={x(ev) + 3} y={H - strip - 4} className="on-dark">
              {ev > 0 ? `+${ev}` : ev < 0 ? `−${-ev}` : '0 EV'}
            </text>
          </g>
        ))}
        <path d={`M${x(-6)},${y(-6)}L${x(5)},${y(5)}`} stroke="#5c5a58" strokeDasharray="3 3" />
        <path d={`M${x(-6)},${y(out(-6))}L${x(5)},${y(out(5))}`} stroke="#f1f0ef" strokeWidth="2" />
        <path d={`M${x(pivotEv)},0V${H - strip}`} stroke="#a3a19e" strokeDasharray="1 3" />
        {Array.from({ length: 44 }, (_, i) => (
          <rect
            key={i}
            x={(i * W) / 44}
            y={H - strip}
            width={W / 44 + 0.5}
            height={strip}
            fill={plainGrey(out(x.invert(((i + 0.5) * W) / 44)))}
          />
        ))}
        <Handle
          x={x(pivotEv)}
          y={y(pivotEv)}
          label="Pivot, on the line"
          along={{ name: 'pivotEv', parameter: pivot, value: pivotEv, at: x.invert }}
          onSet={set}
        />
        <Handle
          x={x(pivotEv + side)}
          y={Math.min(H - strip - 6, Math.max(6, y(out(pivotEv + side))))}
          fill="#f1f0ef"
          label="Slope, on the line"
          up={{
            name: 'contrast',
            parameter: contrast,
            value: k,
            at: (place) => 100 * Math.log2(Math.max(0.05, (y.invert(place) - pivotEv) / side)),
          }}
          onSet={set}
        />
      </svg>
      <Fields of={fieldsOf('contrast', numbers, ['contrast', 'pivotEv'])} onSet={onSet} />
    </>
  );
}
