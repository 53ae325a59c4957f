import { max, scaleLinear } from 'd3';
import { useMemo } from 'react';
import { Fields } from '../../kit/Cell.tsx';
import { Handle } from '../../kit/Handle.tsx';
import { HueFan } from '../../kit/HueFan.tsx';
import { hueWedges } from '../../kit/hueWedges.ts';
import { useCalmReadouts } from '../../view/readoutSignal.ts';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 176,
  cx = W / 2,
  cy = H / 2,
  change = declared('saturation', 'change'),
  /** how far out colour reaches at a change */
  out = scaleLinear([-100, 0, 100], [5, 56, 84]),
  full = out(0);

/** The picture's own hues round a grey middle: pulled outward there is more colour, inward less. */
export function ChromaDisc({ numbers, signal, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const { change: percent = 0 } = numbers,
    hues = useCalmReadouts(signal)?.hues ?? null,
    r = out(percent),
    // each hue as long as there is of it, at full length where nothing is changed
    wedges = useMemo(() => {
      const top = hues ? max(hues) || 1 : 1;
      return hueWedges(3, (i) => 3 + (full - 3) * (0.12 + 0.88 * (hues ? Math.sqrt(hues[i]! / top) : 0.4)));
    }, [hues]);
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Saturation">
        <rect width={W} height={H} fill="#1f1f1f" />
        <g transform={`translate(${cx} ${cy})`}>
          <path d={wedges} style={{ fill: '#3a3a3a' }} />
          <g transform={`scale(${r / full})`}>
            <HueFan wedges={wedges} radius={full} chroma={0.11 * (1 + percent / 100)} lightness={0.68} />
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
