import { scaleLinear } from 'd3';
import { Fields } from '../../kit/Cell.tsx';
import { useHold } from '../../kit/Handle.tsx';
import { plainGrey } from '../greys.ts';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 84,
  shift = declared('exposure', 'shiftEv'),
  x = scaleLinear([-6, 5], [0, W]),
  stops = [-5, -4, -3, -2, -1, 0, 1, 2, 3, 4],
  /** where tones of a scene usually lie; common practice */
  tones = [
    [-3, 'shade'],
    [0, 'middle'],
    [2.3, 'white'],
  ] as const;

/** The picture's greys with a mark at each stop; drawn once. */
const picture = (
  <>
    {Array.from({ length: 44 }, (_, i) => (
      <rect
        key={i}
        x={(i * W) / 44}
        width={W / 44 + 0.5}
        height="42"
        fill={plainGrey(x.invert(((i + 0.5) * W) / 44))}
        shapeRendering="crispEdges"
      />
    ))}
    {stops.map((ev) => (
      <path key={ev} d={`M${x(ev)},42v${ev === 0 ? -10 : -5}`} stroke={ev < 0 ? '#fff9' : '#0009'} />
    ))}
  </>
);

/** A slide rule of light: the lower scale is the scene, drawn along under the picture's greys. */
export function ExposureRule({ numbers, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const { shiftEv = 0 } = numbers;
  const hold = useHold('Exposure, on the rule', {
    along: { name: 'shiftEv', parameter: shift, value: shiftEv, at: x.invert },
    onSet: (values, gesture) => onSetAll(values, 'Exposure shift', gesture),
  });
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Exposure shift">
        {picture}
        <g {...hold} className="handle along">
          <rect y="42" width={W} height={H - 42} fill="#333" />
          {stops.map((ev) => (
            <path
              key={ev}
              d={`M${x(ev + shiftEv)},42v${ev === 0 ? 14 : 7}`}
              stroke={ev === 0 ? '#f1f0ef' : '#8a8886'}
              strokeWidth={ev === 0 ? 2 : 1}
            />
          ))}
          {tones.map(([ev, words]) => (
            <text key={words} x={x(ev + shiftEv)} y="70" textAnchor="middle" className="on-dark">
              {words}
            </text>
          ))}
        </g>
      </svg>
      <Fields of={fieldsOf('exposure', numbers, ['shiftEv'])} onSet={onSet} />
    </>
  );
}
