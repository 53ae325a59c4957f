import { bin, max, scaleLinear, type ScaleLinear } from 'd3';

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
    counted = bin()
      .domain([low, high])
      .thresholds(Array.from({ length: bins - 1 }, (_, i) => low + ((i + 1) * (high - low)) / bins)),
    [before, after] = [counted([...now]), counted([...proposed])],
    most = max([...before, ...after], (b) => b.length) ?? 1,
    x = scaleLinear([0, Math.max(1, most)], [0, width]);
  return (
    <g className="distribution" aria-hidden>
      {before.map((b, i) => {
        const [from, to] = [y(b.x1 ?? 0), y(b.x0 ?? 0)],
          rect = { y: from + 0.5, height: Math.max(1, to - from - 1), x: left };
        return (
          <g key={i}>
            <title>{`${b.length} as they are, ${after[i]!.length} as proposed`}</title>
            <rect {...rect} width={x(after[i]!.length)} className="bar-proposed" />
            <rect {...rect} width={x(b.length)} className="bar-now" />
          </g>
        );
      })}
    </g>
  );
}
