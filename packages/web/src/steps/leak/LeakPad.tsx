import { Fields } from '../../kit/Cell.tsx';
import { Handle } from '../../kit/Handle.tsx';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';
import { padFrame, padHeight } from '../PlacePad.tsx';

const frame = padFrame(228);

/** The edge that light comes in at: its place is dragged along the edge, its reach away from it. */
export function LeakPad({ params, numbers, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const { place = 40, reach = 35, width = 40, hue = 45, light = 0, angle = 0 } = numbers,
    edge = params['edge'] as string,
    upright = edge === 'left' || edge === 'right',
    far = edge === 'right' || edge === 'bottom',
    long = frame.width,
    deep = (reach / 100) * long,
    turn = { left: 0, top: 90, right: 180, bottom: -90 }[edge]! + angle,
    x = upright ? (far ? frame.x + frame.width : frame.x) : frame.across(place / 100),
    y = upright ? frame.down(place / 100) : far ? frame.y + frame.height : frame.y,
    tip = { x: x + deep * Math.cos((turn * Math.PI) / 180), y: y + deep * Math.sin((turn * Math.PI) / 180) };
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${padHeight}`} role="group" aria-label="Light leak on the frame">
        <rect width={W} height={padHeight} fill="#1f1f1f" />
        <rect x={frame.x} y={frame.y} width={frame.width} height={frame.height} fill="#4c4c4c" />
        <defs>
          <radialGradient id="leak">
            <stop offset="0" stopColor={`oklch(0.8 0.16 ${hue})`} stopOpacity={Math.min(1, 0.12 + light / 90)} />
            <stop offset="1" stopColor={`oklch(0.8 0.16 ${hue})`} stopOpacity="0" />
          </radialGradient>
          <clipPath id="leaking">
            <rect x={frame.x} y={frame.y} width={frame.width} height={frame.height} />
          </clipPath>
        </defs>
        <g clipPath="url(#leaking)">
          <ellipse rx={deep} ry={(width / 100) * long} fill="url(#leak)" transform={`translate(${x} ${y}) rotate(${turn})`} />
        </g>
        <rect x={frame.x} y={frame.y} width={frame.width} height={frame.height} fill="none" stroke="#8f8d8a" />
        <path d={`M${x},${y}L${tip.x},${tip.y}`} stroke="#f1f0ef" strokeDasharray="3 3" />
        <Handle
          x={x}
          y={y}
          label="Along the edge, on the frame"
          {...{
            [upright ? 'up' : 'along']: {
              name: 'place',
              parameter: declared('leak', 'place'),
              value: place,
              at: (v: number) => (100 * (v - (upright ? frame.y : frame.x))) / (upright ? frame.height : frame.width),
            },
          }}
          onSet={(values, gesture) => onSetAll(values, 'Light leak: place', gesture)}
        />
        <Handle
          x={tip.x}
          y={tip.y}
          fill="#f1f0ef"
          label="Reach, on the frame"
          {...{
            [upright ? 'along' : 'up']: {
              name: 'reach',
              parameter: declared('leak', 'reach'),
              value: reach,
              at: (v: number) => (100 * (far ? (upright ? x : y) - v : v - (upright ? x : y))) / long,
            },
          }}
          onSet={(values, gesture) => onSetAll(values, 'Light leak: reach', gesture)}
        />
      </svg>
      <Fields of={fieldsOf('leak', numbers, ['light', 'hue', 'colour', 'width'])} onSet={onSet} />
      <Fields of={fieldsOf('leak', numbers, ['reach', 'angle', 'count', 'take'])} onSet={onSet} />
    </>
  );
}
