import { line, range, scaleLinear } from 'd3';
import { Fields } from '../../kit/Cell.tsx';
import { Handle } from '../../kit/Handle.tsx';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 132;
interface Kind {
  kind: 'halation' | 'glow';
  /** the number that says how far, and the farthest the drawing shows */
  far: string;
  farthest: number;
  unit: string;
  more: string[];
}
const halationKind: Kind = { kind: 'halation', far: 'reach', farthest: 600, unit: 'µm on film', more: ['hue', 'colour', 'format'] },
  glowKind: Kind = { kind: 'glow', far: 'size', farthest: 24, unit: '% of the long edge', more: ['from', 'hue', 'colour'] };

/** A bright place and its light as it comes down about it: up for how much, along for how far. */
function ScatterGraph({ numbers, onSet, onSetAll, of }: FittingProps & { of: Kind }): React.JSX.Element {
  const { kind, far, farthest, unit, more } = of,
    share = numbers['share']!,
    reach = numbers[far]!,
    { hue = 40, colour = 0 } = numbers,
    x = scaleLinear([-farthest, farthest], [0, W]),
    y = scaleLinear([0, 1], [H - 14, 10]),
    most = declared(kind, 'share').max,
    bell = (at: number, sigma: number): number => Math.exp(-0.5 * (at / sigma) ** 2),
    scattered = (at: number): number => (share / 100) * (0.6 * bell(at, reach) + 0.4 * bell(at, 2.4 * reach)),
    ink = `oklch(0.75 ${0.02 + colour * 0.0013} ${hue})`,
    outline =
      line<number>()
        .x(x)
        .y((at) => y(scattered(at)))(range(-farthest, farthest * 1.001, farthest / 60)) ?? '';
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Scattered light over distance">
        <rect width={W} height={H} fill="#1f1f1f" />
        <path d={`M0,${y(0)}H${W}`} stroke="#4a4a4a" />
        <path d={`${outline}L${W},${y(0)}L0,${y(0)}Z`} fill={ink} opacity="0.35" />
        <path d={outline} fill="none" stroke={ink} strokeWidth="1.8" />
        <rect x={W / 2 - 1.5} width="3" y={y(1 - share / 100)} height={y(0) - y(1 - share / 100)} fill="#f1f0ef" />
        <text x={6} y={H - 3} className="on-dark">
          {farthest} {unit} either way
        </text>
        <Handle
          x={x(reach)}
          y={y(share / 100)}
          fill={ink}
          label={kind === 'glow' ? 'Glow, on the drawing' : 'Halation, on the drawing'}
          along={{ name: far, parameter: declared(kind, far), value: reach, at: (place) => x.invert(place) }}
          up={{ name: 'share', parameter: declared(kind, 'share'), value: share, at: (place) => Math.min(most, 100 * y.invert(place)) }}
          onSet={(values, gesture) => onSetAll(values, kind === 'glow' ? 'Glow' : 'Halation', gesture)}
        />
      </svg>
      <Fields of={fieldsOf(kind, numbers, [['share', 'Share'], far])} onSet={onSet} />
      <Fields of={fieldsOf(kind, numbers, more)} onSet={onSet} />
    </>
  );
}
export const HalationGraph = (props: FittingProps): React.JSX.Element => <ScatterGraph {...props} of={halationKind} />;
export const GlowGraph = (props: FittingProps): React.JSX.Element => <ScatterGraph {...props} of={glowKind} />;
