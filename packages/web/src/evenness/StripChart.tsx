import { extent, scaleLinear } from 'd3';
import { Distribution } from './Distribution.tsx';
import type { Apart } from './evennessApi.ts';
import type { Band, Stand } from './layout.ts';

const [top, foot] = [8, 20];
/** What stands right of the frames: how they are distributed. */
export const distributionWidth = 64;

/** One number of every frame, in shooting order: hollow as it is, filled as it is proposed; the anchor is the line. */
export function StripChart({
  title,
  words,
  of,
  least,
  band,
  unit,
  width,
  height,
  stands,
  bands,
  chosen,
  out,
  onChoose,
}: {
  title: string;
  words: string;
  of: (a: Apart) => number;
  /** the axis reaches so far at least */
  least: number;
  /** what hardly shows */
  band: number;
  unit: string;
  width: number;
  height: number;
  stands: readonly Stand[];
  bands: readonly Band[];
  chosen: number | null;
  out: ReadonlySet<number>;
  onChoose: (id: number) => void;
}): React.JSX.Element {
  const values = stands.flatMap(({ frame: f }) => (f.now && f.proposed ? [of(f.now), of(f.proposed)] : [])),
    [low = 0, high = 0] = extent(values),
    most = Math.max(least, Math.abs(low), Math.abs(high)),
    y = scaleLinear([-most, most], [top + height, top]),
    radius = stands.length > 200 ? 2.2 : stands.length > 60 ? 3.2 : 4.5;
  const tick = (v: number): React.JSX.Element => (
    <text x={26} y={y(v) + 4} textAnchor="end">
      {v > 0 ? '+' : '−'}
      {Math.abs(v) < 1 ? Math.abs(v).toFixed(1) : Math.round(Math.abs(v))}
    </text>
  );
  return (
    <figure className="even-chart" aria-label={`${title}: ${words}`}>
      <figcaption>
        <b>{title}</b> <span>{words}</span>
      </figcaption>
      <svg width={width} height={top + height + foot} role="img" aria-label={`${title} of ${stands.length} frames, in ${unit}`}>
        {bands.map((b) => (
          <g key={b.light}>
            <rect x={b.from} y={top} width={b.to - b.from} height={height} className="light-band" />
            <text x={b.from + 2} y={top + height + 14}>
              {b.light.length * 6 > b.to - b.from ? `${b.light.slice(0, Math.max(1, Math.floor((b.to - b.from) / 6.4) - 1))}…` : b.light}
            </text>
          </g>
        ))}
        <rect x={30} y={y(band)} width={width - 30} height={y(-band) - y(band)} className="small-band" />
        <line x1={30} x2={width} y1={y(0)} y2={y(0)} className="zero" />
        <Distribution
          now={stands.flatMap(({ frame: f }) => (f.now ? [of(f.now)] : []))}
          proposed={stands.flatMap(({ frame: f }) => (f.proposed ? [of(f.proposed)] : []))}
          y={y}
          left={width - distributionWidth}
          width={distributionWidth - 4}
        />
        {tick(most * 0.9)}
        {tick(-most * 0.9)}
        {stands.map(({ frame: f, isAnchor, x }) =>
          !f.now || !f.proposed ? null : isAnchor ? (
            <circle key={f.id} cx={x} cy={y(0)} r={radius + 1.2} className="anchor" onClick={() => onChoose(f.id)}>
              <title>{f.name}: anchor</title>
            </circle>
          ) : (
            <g key={f.id} className={`${out.has(f.id) ? 'out' : ''} ${f.id === chosen ? 'chosen' : ''}`} onClick={() => onChoose(f.id)}>
              <title>{`${f.name}: ${of(f.now).toFixed(2)} ${unit} as it is, ${of(f.proposed).toFixed(2)} as proposed`}</title>
              <line x1={x} x2={x} y1={y(of(f.now))} y2={y(of(f.proposed))} />
              <circle cx={x} cy={y(of(f.now))} r={radius} className="now" />
              <circle cx={x} cy={y(of(f.proposed))} r={radius} className="proposed" />
              {f.id === chosen && <line className="pointer" x1={x} x2={x} y1={top} y2={top + height} />}
            </g>
          ),
        )}
      </svg>
    </figure>
  );
}
