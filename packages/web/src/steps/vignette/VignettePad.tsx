import { Fields } from '../../kit/Cell.tsx';
import { fieldsOf, type FittingProps } from '../fitting.ts';
import { padFrame, PlacePad } from '../PlacePad.tsx';

const frame = padFrame(228);

/** Where edges fall off and the middle gains, drawn on the frame. */
export function VignettePad({ numbers, tools, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const { x = 50, y = 50, size = 90, feather = 70, round = 20, edgeEv = 0, middleEv = 0 } = numbers,
    half = size / 200,
    rx = half * frame.width,
    ry = half * (frame.height + (frame.width - frame.height) * (round / 100)),
    cx = frame.across(x / 100),
    cy = frame.down(y / 100),
    inner = Math.max(0.02, 1 - 0.9 * (feather / 100)),
    outer = 1 + 0.9 * (feather / 100);
  return (
    <>
      <PlacePad kind="vignette" label="Vignette" frame={frame} numbers={numbers} tools={tools} onSetAll={onSetAll}>
        <defs>
          <radialGradient id="fall">
            <stop offset="0" stopColor={middleEv >= 0 ? '#fff' : '#000'} stopOpacity={Math.min(0.7, Math.abs(middleEv) * 0.4)} />
            <stop offset={inner / outer} stopColor={edgeEv >= 0 ? '#fff' : '#000'} stopOpacity="0" />
            <stop offset="1" stopColor={edgeEv >= 0 ? '#fff' : '#000'} stopOpacity={Math.min(0.9, Math.abs(edgeEv) * 0.45)} />
          </radialGradient>
          <clipPath id="frame">
            <rect x={frame.x} y={frame.y} width={frame.width} height={frame.height} />
          </clipPath>
        </defs>
        <g clipPath="url(#frame)">
          <g transform={`translate(${cx} ${cy}) scale(${rx * outer} ${ry * outer})`}>
            <path
              d="M-40,-40H40V40H-40Z M-1,0A1,1 0 0 0 1,0A1,1 0 0 0 -1,0Z"
              fillRule="evenodd"
              fill={edgeEv >= 0 ? '#fff' : '#000'}
              opacity={Math.min(0.9, Math.abs(edgeEv) * 0.45)}
            />
            <circle r="1" fill="url(#fall)" />
          </g>
          <ellipse cx={cx} cy={cy} rx={rx} ry={ry} fill="none" stroke="#f1f0ef" strokeDasharray="3 3" />
        </g>
      </PlacePad>
      <Fields of={fieldsOf('vignette', numbers, [['edgeEv', 'Edges'], ['middleEv', 'Middle'], 'size', 'feather'])} onSet={onSet} />
      <Fields of={fieldsOf('vignette', numbers, ['round', ['kept', 'Lights kept'], ['x', 'Across'], ['y', 'Down']])} onSet={onSet} />
    </>
  );
}
