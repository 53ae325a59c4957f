import { line, range, scaleLinear } from 'd3';
import { Fields } from '../../kit/Cell.tsx';
import { Handle } from '../../kit/Handle.tsx';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 140,
  full = 0.28,
  change = declared('vibrance', 'change'),
  spare = declared('vibrance', 'spare'),
  x = scaleLinear([0, 0.3], [0, W]),
  y = scaleLinear([0, 0.34], [H, 0]),
  held = { others: 0.09, skins: 0.13 },
  skin = '#d9a184';
/** How much the step asks of a chroma: all at grey, nothing where colour is full (a smooth step). */
const asked = (chroma: number): number => {
  const t = Math.min(1, chroma / full);
  return 1 - t * t * (3 - 2 * t);
};

/** Chroma in against chroma out, for skins and for all else: the little that is there is raised, the full left alone. */
export function VibranceGraph({ numbers, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const { change: percent = 0, spare: share = 0 } = numbers,
    out = (chroma: number, part: number): number => chroma * Math.max(0, 1 + (percent / 100) * asked(chroma) * part),
    skins = 1 - share / 100,
    curve = (part: number): string =>
      line<number>()
        .x(x)
        .y((c) => y(out(c, part)))(range(0, 0.3001, 0.005)) ?? '',
    set = (values: Record<string, number>, gesture: string): void => onSetAll(values, 'Vibrance', gesture);
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Vibrance">
        <rect width={W} height={H} fill="#1f1f1f" />
        {range(0, 0.3, 0.0125).map((c) => (
          <rect key={c} x={x(c)} y={H - 8} width={x(0.0125) + 0.5} height="8" fill={`oklch(0.7 ${c.toFixed(3)} 250)`} />
        ))}
        <path d={`M0,${y(0)}L${W},${y(0.3)}`} stroke="#5c5a58" strokeDasharray="3 3" />
        <path d={curve(skins)} fill="none" stroke={skin} strokeWidth="1.6" />
        <path d={curve(1)} fill="none" stroke="#f1f0ef" strokeWidth="2" />
        <text x="8" y="16" className="on-dark">
          colour out
        </text>
        <text x={W - 8} y={H - 13} textAnchor="end" className="on-dark">
          colour in
        </text>
        <text x={W - 8} y="16" textAnchor="end" style={{ fill: skin }}>
          skins
        </text>
        <Handle
          x={x(held.skins)}
          y={y(out(held.skins, skins))}
          fill={skin}
          label="Skins spared, on the curve"
          up={{
            name: 'spare',
            parameter: spare,
            value: share,
            at: (place) => (percent === 0 ? share : 100 * (1 - (y.invert(place) / held.skins - 1) / ((percent / 100) * asked(held.skins)))),
          }}
          onSet={set}
        />
        <Handle
          x={x(held.others)}
          y={y(out(held.others, 1))}
          fill="#f1f0ef"
          label="Vibrance, on the curve"
          up={{
            name: 'change',
            parameter: change,
            value: percent,
            at: (place) => (100 * (y.invert(place) / held.others - 1)) / asked(held.others),
          }}
          onSet={set}
        />
      </svg>
      <Fields of={fieldsOf('vibrance', numbers, ['change', 'spare'])} onSet={onSet} />
    </>
  );
}
