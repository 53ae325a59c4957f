import { apply3, shiftedWhite, xyToXyz, xyzToRec2020 } from '@dyepot/core';
import { scaleLinear } from 'd3';
import { Fields } from '../../kit/Cell.tsx';
import { Handle } from '../../kit/Handle.tsx';
import { cssLight } from '../../kit/cssLight.ts';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 128,
  columns = 23,
  rows = 9,
  mired = declared('warmth', 'shiftMired'),
  tint = declared('warmth', 'tint'),
  x = scaleLinear([mired.min, mired.max], [0, W]),
  y = scaleLinear([tint.min, tint.max], [H, 0]);
/** What a middle grey turns into all over the pad. */
const greys = Array.from({ length: columns * rows }, (_, i) => {
  const [column, row] = [i % columns, Math.floor(i / columns)],
    white = shiftedWhite(x.invert(((column + 0.5) * W) / columns), y.invert(((row + 0.5) * H) / rows) / 1000);
  return { column, row, fill: cssLight(apply3(xyzToRec2020, xyToXyz(white)).map((v) => v * 0.3)) };
});

/** Drawn once: it never changes. */
const backdrop = (
  <>
    {greys.map(({ column, row, fill }) => (
      <rect
        key={`${column},${row}`}
        x={(column * W) / columns}
        y={(row * H) / rows}
        width={W / columns + 0.6}
        height={H / rows + 0.6}
        fill={fill}
        shapeRendering="crispEdges"
      />
    ))}
  </>
);

/** Cool to warm across, magenta to green upward: the pad shows what a grey becomes at each place. */
export function WarmthPad({ numbers, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const { shiftMired = 0, tint: duv = 0 } = numbers;
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Warmth and tint">
        {backdrop}
        <path d={`M${x(0)},0V${H}M0,${y(0)}H${W}`} stroke="#0005" />
        {[-50, 50].map((m) => (
          <path key={m} d={`M${x(m)},${y(0) - 4}v8`} stroke="#0008" />
        ))}
        <text x="5" y={y(0) - 5}>
          cooler
        </text>
        <text x={W - 5} y={y(0) - 5} textAnchor="end">
          warmer
        </text>
        <text x={x(0) + 5} y="12">
          green
        </text>
        <text x={x(0) + 5} y={H - 5}>
          magenta
        </text>
        <Handle
          x={x(shiftMired)}
          y={y(duv)}
          label="Warmth and tint, on the pad"
          along={{ name: 'shiftMired', parameter: mired, value: shiftMired, at: x.invert }}
          up={{ name: 'tint', parameter: tint, value: duv, at: y.invert }}
          onSet={(values, gesture) => onSetAll(values, 'Warmth', gesture)}
        />
      </svg>
      <Fields of={fieldsOf('warmth', numbers, ['shiftMired', 'tint'])} onSet={onSet} />
    </>
  );
}
