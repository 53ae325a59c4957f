import { apply3, chain3, decodeSrgb, invert3, rec2020ToXyz, rgbToXyz, srgb, type Vector3 } from '@dyepot/core';
import { scaleLinear } from 'd3';
import { stepKind } from '@dyepot/core';
import { Fields } from '../../kit/Cell.tsx';
import { Handle } from '../../kit/Handle.tsx';
import { MonoRing } from './MonoRing.tsx';
import { greyOf } from '../greys.ts';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 150,
  bars = [
    ['red', '#c9675c'],
    ['green', '#6f9e68'],
    ['blue', '#6b86c4'],
  ] as const,
  place = (i: number): number => 26 + i * 44,
  y = scaleLinear([-50, 150], [H - 10, 12]);
/** What greys become of: colours of common things in sRGB, invented for the drawing. */
const things: [name: string, colour: Vector3][] = [
  ['sky', [92, 142, 204]],
  ['leaf', [96, 124, 58]],
  ['brick', [156, 76, 56]],
  ['straw', [208, 174, 98]],
  ['skin', [200, 148, 122]],
];
const toLight = chain3(invert3(rec2020ToXyz), rgbToXyz(srgb)),
  lights = things.map(([, colour]) => apply3(toLight, colour.map((v) => decodeSrgb(v / 255)) as unknown as Vector3));

/** Weights of red, green and blue light as bars, and what they make of common things. */
export function MonoBars({ params, numbers, tools, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const pass = stepKind('mono')!
      .compile({ ...params, amount: 100 }, 1)
      .at(-1)!,
    weights = Array.from(pass.parameters).slice(0, 3) as unknown as Vector3,
    sum = bars.reduce((s, [n]) => s + numbers[n]!, 0);
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Weights of the light">
        <rect width={W} height={H} fill="#1f1f1f" />
        <path d={`M0,${y(0)}H148`} stroke="#77746f" />
        {bars.map(([name, fill], i) => (
          <g key={name}>
            <rect
              x={place(i) - 14}
              width="28"
              y={Math.min(y(0), y(numbers[name]!))}
              height={Math.abs(y(numbers[name]!) - y(0))}
              fill={fill}
            />
            <Handle
              x={place(i)}
              y={y(numbers[name]!)}
              label={`${declared('mono', name).label}, on the bar`}
              up={{ name, parameter: declared('mono', name), value: numbers[name]!, at: y.invert }}
              onSet={(values, gesture) => onSetAll(values, `Black and white: ${name} light`, gesture)}
            />
          </g>
        ))}
        {things.map(([name, colour], i) => {
          const top = 8 + i * 27,
            grey = weights.reduce((s, w, c) => s + w * lights[i]![c]!, 0);
          return (
            <g key={name}>
              <rect x="160" y={top} width="24" height="22" fill={`rgb(${colour.join(' ')})`} />
              <rect x="184" y={top} width="44" height="22" fill={greyOf(grey)} />
              <text x="234" y={top + 15} className="on-dark">
                {name}
              </text>
            </g>
          );
        })}
      </svg>
      <Fields of={fieldsOf('mono', numbers, [['red', 'Red'], ['green', 'Green'], ['blue', 'Blue'], 'amount'])} onSet={onSet} />
      <MonoRing params={params} tools={tools} onSet={onSet} />
      {sum !== 100 && <p className="purpose">Together {Math.round(sum)} %; greys stay as light as they are all the same.</p>}
    </>
  );
}
