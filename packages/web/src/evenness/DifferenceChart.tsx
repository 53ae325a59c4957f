import { max, scaleLinear } from 'd3';
import type { Band, Stand } from './layout.ts';

const [top, foot] = [8, 6];

/** How far greys and skins of every frame are from its anchor's: outlined as it is, filled as proposed, with the tolerance drawn through. */
export function DifferenceChart({
  tolerance,
  width,
  height,
  stands,
  bands,
  chosen,
  onChoose,
}: {
  tolerance: number;
  width: number;
  height: number;
  stands: readonly Stand[];
  bands: readonly Band[];
  chosen: number | null;
  onChoose: (id: number) => void;
}): React.JSX.Element {
  const most = Math.max(2.5 * tolerance, max(stands, ({ frame: f }) => f.now?.difference ?? 0) ?? 0),
    y = scaleLinear([0, most], [top + height, top]),
    wide = Math.max(1.5, Math.min(18, ((width - 30) / Math.max(1, stands.length)) * 0.5));
  return (
    <figure className="even-chart" aria-label="Greys and skins: CIEDE2000 to the anchor">
      <figcaption>
        <b>Greys and skins</b> <span>CIEDE2000 to the anchor, the largest of seven · outline: as it is, filled: proposed</span>
      </figcaption>
      <svg width={width} height={top + height + foot} role="img" aria-label={`Difference of ${stands.length} frames, in CIEDE2000`}>
        {bands.map((b) => (
          <rect key={b.light} x={b.from} y={top} width={b.to - b.from} height={height} className="light-band" />
        ))}
        <text x={26} y={y(tolerance) + 4} textAnchor="end">
          {tolerance.toFixed(1)}
        </text>
        {stands.map(({ frame: f, x }) =>
          f.now && f.proposed ? (
            <g
              key={f.id}
              className={`${f.now.difference > tolerance ? 'out' : ''} ${f.id === chosen ? 'chosen' : ''}`}
              onClick={() => onChoose(f.id)}
            >
              <title>{`${f.name}: ${f.now.difference.toFixed(1)} ΔE as it is, ${f.proposed.difference.toFixed(1)} as proposed`}</title>
              <rect x={x - wide / 2} width={wide} y={y(f.now.difference)} height={y(0) - y(f.now.difference)} className="bar-now" />
              <rect
                x={x - wide / 2}
                width={wide}
                y={y(f.proposed.difference) - 1}
                height={y(0) - y(f.proposed.difference) + 1}
                className="bar-proposed"
              />
            </g>
          ) : null,
        )}
        <line x1={30} x2={width} y1={y(tolerance)} y2={y(tolerance)} className="tolerance" />
      </svg>
    </figure>
  );
}
