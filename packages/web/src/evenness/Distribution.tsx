import { scaleLinear, type ScaleLinear } from 'd3';

const bins = 15;
/** How frames are distributed over the values of a chart, along its right edge: outlined as they are, filled as they are proposed. */
export function Distribution({
  now,
  proposed,
  y,
  left,
  width,
}: {
  now: readonly number[];
  proposed: readonly number[];
  y: ScaleLinear<number, number>;
  left: number;
  width: number;
}): React.JSX.Element {
  const [low, high] = y.domain() as [number, number],
    step = (high - low) / bins,
    counted = (values: readonly number[]): number[] => {
      const out = Array<number>(bins).fill(0);
      for (const v of values) out[Math.min(bins - 1, Math.max(0, Math.floor((v - low) / step)))]!++;
      return out;
    },
    [before, after] = [counted(now), counted(proposed)],
    x = scaleLinear([0, Math.max(1, ...before, ...after)], [0, width]);
  return (
    <g className="distribution" aria-hidden>
      {before.map((were, i) => {
        const [from, to] = [y(low + (i + 1) * step), y(low + i * step)],
          rect = { y: from + 0.5, height: Math.max(1, to - from - 1), x: left };
        return (
          <g key={i}>
            <title>{`${were} as they are, ${after[i]!} as proposed`}</title>
            <rect {...rect} width={x(after[i]!)} className="bar-proposed" />
            <rect {...rect} width={x(were)} className="bar-now" />
          </g>
        );
      })}
    </g>
  );
}
