import { decodeSrgb, type Histogram } from '@dyepot/core';
import { area, max, scaleLinear } from 'd3';
import { Fields } from '../../kit/Cell.tsx';
import { useHold } from '../../kit/Handle.tsx';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 38,
  x = scaleLinear([-6, 2.5], [0, W]).clamp(true),
  /** 8-bit codes by their EV from middle grey */
  evs = Array.from({ length: 256 }, (_, code) => Math.log2(Math.max(1e-3, decodeSrgb(code / 255)) / 0.18));

function Bound({ name, value, onSet }: { name: string; value: number; onSet: FittingProps['onSet'] }): React.JSX.Element {
  const parameter = declared('grade', name);
  const hold = useHold(`${parameter.label}, on the tones`, {
    along: { name, parameter, value, at: x.invert },
    onSet: (values, gesture) => onSet(name, values[name]!, gesture),
  });
  return (
    <g {...hold} className="handle along">
      <path d={`M${x(value)},0V${H}`} stroke="#f1f0ef" strokeWidth="1.5" />
      <rect x={x(value) - 8} width="16" height={H} fill="transparent" />
      <path d={`M${x(value) - 5} 0 h10 l-5 7 z`} fill="#f1f0ef" />
    </g>
  );
}

/** Where darks end and lights begin, over the picture's tones; and the balance between them. */
export function GradeBounds({
  numbers,
  histogram,
  onSet,
}: Pick<FittingProps, 'numbers' | 'onSet'> & { histogram: Histogram | null }): React.JSX.Element {
  const bars = histogram ? Array.from(histogram.luma) : [],
    top = max(bars.slice(2, 254)) || 1,
    shape = area<number>()
      .x((_, i) => x(evs[i]!))
      .y0(H)
      .y1((v) => H - Math.min(1, v / top) * (H - 6));
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Boundaries of the ranges">
        <rect width={W} height={H} fill="#1f1f1f" />
        <path d={shape(bars) ?? ''} fill="#565452" />
        {(['darksEndEv', 'lightsBeginEv'] as const).map((name) => (
          <Bound key={name} name={name} value={numbers[name]!} onSet={onSet} />
        ))}
      </svg>
      <Fields of={fieldsOf('grade', numbers, ['darksEndEv', ['balance', 'Balance'], 'lightsBeginEv'])} onSet={onSet} />
    </>
  );
}
