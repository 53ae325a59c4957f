import { encodeSrgb, stepKind, type NumberParameter } from '@dyepot/core';
import { line, range, scaleLinear } from 'd3';
import { Fields } from '../../kit/Cell.tsx';
import { Handle, type Axis } from '../../kit/Handle.tsx';
import { greyOf, shownLight } from '../greys.ts';
import { fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 160,
  strip = 12,
  params = stepKind('neutral')!.params as Record<string, NumberParameter>,
  x = scaleLinear([-7, 6.2], [0, W]),
  y = scaleLinear([0, 1], [H - strip - 18, 8]),
  /** where slope and toe are held, in EV */
  held = { slope: 1.2, toe: -4.6 };

/** What light is shown as, by EV from middle grey: held at its slope, its white end and its toe. */
export function ResponseGraph({ numbers, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const { contrast = 1, whiteEv = 1, toe = 0 } = numbers,
    shown = (ev: number, with_: { contrast?: number; toe?: number } = {}): number =>
      encodeSrgb(Math.min(1, Math.max(0, shownLight(ev, { contrast: with_.contrast ?? contrast, whiteEv, toe: with_.toe ?? toe })))),
    set = (values: Record<string, number>, gesture: string): void => onSetAll(values, 'Neutral response', gesture);
  /** The number at which the curve goes through a height, by bisection; `way` says whether more of it is higher there. */
  const through = (name: 'contrast' | 'toe', ev: number, way: 1 | -1): Axis['at'] => {
    const p = params[name]!;
    return (place) => {
      let [low, high] = [p.min, p.max];
      for (let i = 0; i < 24; i++) {
        const middle = (low + high) / 2;
        if ((shown(ev, { [name]: middle }) - y.invert(place)) * way < 0) low = middle;
        else high = middle;
      }
      return (low + high) / 2;
    };
  };
  const axis = (name: string, at: Axis['at']): Axis => ({ name, parameter: params[name]!, value: numbers[name]!, at });
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Response to light">
        <rect width={W} height={H} fill="#1f1f1f" />
        {[-6, -4, -2, 0, 2, 4].map((ev) => (
          <g key={ev}>
            <path d={`M${x(ev)},0V${H - strip}`} stroke={ev === 0 ? '#4a4a4a' : '#353535'} />
            <text x={x(ev) + 3} y={H - strip - 4} className="on-dark">
              {ev > 0 ? `+${ev}` : ev < 0 ? `−${-ev}` : '0 EV'}
            </text>
          </g>
        ))}
        <path d={`M0,${y(1)}H${W}`} stroke="#353535" />
        <path
          d={
            line<number>()
              .x(x)
              .y((ev) => y(shown(ev)))(range(-7, 6.21, 0.1)) ?? ''
          }
          fill="none"
          stroke="#f1f0ef"
          strokeWidth="2"
        />
        {range(44).map((i) => (
          <rect
            key={i}
            x={(i * W) / 44}
            y={H - strip}
            width={W / 44 + 0.5}
            height={strip}
            fill={greyOf(shownLight(x.invert(((i + 0.5) * W) / 44), { contrast, whiteEv, toe }))}
          />
        ))}
        <Handle
          x={x(held.toe)}
          y={y(shown(held.toe))}
          label="Toe, on the curve"
          up={axis('toe', through('toe', held.toe, -1))}
          onSet={set}
        />
        <Handle
          x={x(held.slope)}
          y={y(shown(held.slope))}
          fill="#f1f0ef"
          label="Slope at middle grey, on the curve"
          up={axis('contrast', through('contrast', held.slope, 1))}
          onSet={set}
        />
        <Handle x={x(whiteEv)} y={y(1)} label="White, on the curve" along={axis('whiteEv', x.invert)} onSet={set} />
      </svg>
      <Fields
        of={fieldsOf('neutral', numbers, [['contrast', 'Contrast'], ['whiteEv', 'White'], ['toe', 'Toe'], 'hueGuard'])}
        onSet={onSet}
      />
    </>
  );
}
