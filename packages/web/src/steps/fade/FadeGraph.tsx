import { scaleLinear } from 'd3';
import { Fields } from '../../kit/Cell.tsx';
import { Handle } from '../../kit/Handle.tsx';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 150,
  x = scaleLinear([0, 1], [20, W - 20]),
  y = scaleLinear([0, 100], [H - 12, 12]);

/** Tones as a line from black to white, its ends lifted and softened by hand, in the tints they have. */
export function FadeGraph({ numbers, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const { lift = 0, soften = 0, liftHue = 0, liftChroma = 0, softenHue = 0, softenChroma = 0 } = numbers,
    dark = `oklch(${0.25 + lift / 100} ${liftChroma} ${liftHue})`,
    light = `oklch(${1 - soften / 100} ${softenChroma} ${softenHue})`;
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Blacks and whites">
        <rect width={W} height={H} fill="#1f1f1f" />
        <path d={`M${x(0)},${y(0)}L${x(1)},${y(100)}`} stroke="#5a5856" strokeDasharray="4 3" />
        <path d={`M${x(0)},${y(lift)}L${x(1)},${y(100 - soften)}`} stroke="#f1f0ef" strokeWidth="2" />
        <Handle
          x={x(0)}
          y={y(lift)}
          fill={dark}
          label="Blacks lifted, on the drawing"
          up={{ name: 'lift', parameter: declared('fade', 'lift'), value: lift, at: y.invert }}
          onSet={(values, gesture) => onSetAll(values, 'Fade: blacks', gesture)}
        />
        <Handle
          x={x(1)}
          y={y(100 - soften)}
          fill={light}
          label="Whites softened, on the drawing"
          up={{ name: 'soften', parameter: declared('fade', 'soften'), value: soften, at: (v) => 100 - y.invert(v) }}
          onSet={(values, gesture) => onSetAll(values, 'Fade: whites', gesture)}
        />
      </svg>
      <Fields
        of={fieldsOf('fade', numbers, [
          ['lift', 'Blacks'],
          ['liftHue', 'hue'],
          ['liftChroma', 'chroma'],
        ])}
        onSet={onSet}
      />
      <Fields
        of={fieldsOf('fade', numbers, [
          ['soften', 'Whites'],
          ['softenHue', 'hue'],
          ['softenChroma', 'chroma'],
        ])}
        onSet={onSet}
      />
    </>
  );
}
