import { scaleLinear } from 'd3';
import { Fields } from '../../kit/Cell.tsx';
import { Handle } from '../../kit/Handle.tsx';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 140,
  x = scaleLinear([-100, 100], [20, W - 20]),
  y = scaleLinear([-100, 100], [0, 1]),
  poles = [
    { word: 'cool', hue: 238, top: 76, names: ['coolWarmer', 'coolColour'] },
    { word: 'warm', hue: 58, top: 8, names: ['warmWarmer', 'warmColour'] },
  ] as const;

/** Warm and cool colours as two strips: along for warmer, up for more colour. */
export function ApartPoles({ numbers, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const high = 54;
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Warm and cool colours">
        <rect width={W} height={H} fill="#1f1f1f" />
        {poles.map(({ word, hue, top, names: [warmer, colour] }) => (
          <g key={word}>
            <defs>
              <linearGradient id={`pole-${word}`}>
                <stop offset="0" stopColor={word === 'warm' ? `oklch(0.6 0.03 ${hue})` : `oklch(0.6 0.13 ${hue})`} />
                <stop offset="0.5" stopColor={`oklch(0.62 0.08 ${hue})`} />
                <stop offset="1" stopColor={word === 'warm' ? `oklch(0.66 0.14 ${hue})` : `oklch(0.6 0.03 ${hue})`} />
              </linearGradient>
            </defs>
            <rect x={x(-100)} y={top} width={x(100) - x(-100)} height={high} fill={`url(#pole-${word})`} />
            <path d={`M${x(0)},${top}v${high}M${x(-100)},${top + high / 2}H${x(100)}`} stroke="#00000055" />
            <text x={x(-100) + 5} y={top + 14} className="on-dark">
              {word} colours
            </text>
            <Handle
              x={x(numbers[warmer]!)}
              y={top + high * (1 - y(numbers[colour]!))}
              label={`${word === 'warm' ? 'Warm' : 'Cool'} colours, on the drawing`}
              along={{ name: warmer, parameter: declared('apart', warmer), value: numbers[warmer]!, at: x.invert }}
              up={{
                name: colour,
                parameter: declared('apart', colour),
                value: numbers[colour]!,
                at: (v) => y.invert(1 - (v - top) / high),
              }}
              onSet={(values, gesture) => onSetAll(values, 'Apart', gesture)}
            />
          </g>
        ))}
      </svg>
      <Fields
        of={fieldsOf('apart', numbers, [
          ['warmWarmer', 'Warm: warmer'],
          ['warmColour', 'colour'],
        ])}
        onSet={onSet}
      />
      <Fields
        of={fieldsOf('apart', numbers, [
          ['coolWarmer', 'Cool: warmer'],
          ['coolColour', 'colour'],
        ])}
        onSet={onSet}
      />
    </>
  );
}
