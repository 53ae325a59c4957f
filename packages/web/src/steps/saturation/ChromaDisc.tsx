import { hueBins } from '@dyepot/core';
import { arc, max, scaleLinear } from 'd3';
import { memo } from 'react';
import { Fields } from '../../kit/Cell.tsx';
import { Handle } from '../../kit/Handle.tsx';
import { useCalmReadouts } from '../../view/readoutSignal.ts';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 176,
  cx = W / 2,
  cy = H / 2,
  change = declared('saturation', 'change'),
  /** how far out colour reaches at a change */
  out = scaleLinear([-100, 0, 100], [5, 56, 84]),
  full = out(0),
  rad = (degrees: number): number => Math.PI / 2 - (degrees * Math.PI) / 180;

/** Hues round a middle, each as long as there is of it, at full length where nothing is changed. */
const Spokes = memo(function Spokes({ hues, fill }: { hues: Float32Array | null; fill?: string }): React.JSX.Element {
  const top = hues ? max(hues) || 1 : 1,
    step = 360 / hueBins;
  return (
    <>
      {Array.from({ length: hueBins }, (_, i) => {
        const hue = (i + 0.5) * step,
          outerRadius = 3 + (full - 3) * (0.12 + 0.88 * (hues ? Math.sqrt(hues[i]! / top) : 0.4));
        return (
          <path
            key={i}
            d={arc()({ innerRadius: 3, outerRadius, startAngle: rad(hue + step / 2), endAngle: rad(hue - step / 2) }) ?? ''}
            style={{ fill: fill ?? `oklch(0.68 var(--chroma) ${hue})` }}
          />
        );
      })}
    </>
  );
});

/** The picture's own hues round a grey middle: pulled outward there is more colour, inward less. */
export function ChromaDisc({ numbers, signal, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const { change: percent = 0 } = numbers,
    hues = useCalmReadouts(signal)?.hues ?? null,
    r = out(percent);
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Saturation">
        <rect width={W} height={H} fill="#1f1f1f" />
        <g transform={`translate(${cx} ${cy})`}>
          <Spokes hues={hues} fill="#3a3a3a" />
          <g transform={`scale(${r / full})`} style={{ '--chroma': 0.11 * (1 + percent / 100) } as React.CSSProperties}>
            <Spokes hues={hues} />
          </g>
          <circle r={out(0)} fill="none" stroke="#a3a19e" strokeDasharray="3 3" />
          <circle r={r} fill="none" stroke="#f1f0ef" strokeWidth="1.6" />
        </g>
        <text x="8" y="16" className="on-dark">
          the picture’s hues
        </text>
        <Handle
          x={cx + r}
          y={cy}
          label="Saturation, on the disc"
          along={{ name: 'change', parameter: change, value: percent, at: (place) => out.invert(place - cx) }}
          onSet={(values, gesture) => onSetAll(values, 'Saturation', gesture)}
        />
      </svg>
      <Fields of={fieldsOf('saturation', numbers, ['change'])} onSet={onSet} />
    </>
  );
}
