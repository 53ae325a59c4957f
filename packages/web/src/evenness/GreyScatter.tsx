import { mean, scaleLinear, deviation } from 'd3';
import type { Evenness } from './evennessApi.ts';

const size = 268,
  room = 0.94;
/** The principal axes of a cloud of points: half lengths of two deviations, and the turn in degrees. */
function ellipseOf(points: readonly (readonly [number, number])[]): { x: number; y: number; rx: number; ry: number; turn: number } | null {
  if (points.length < 3) return null;
  const x = mean(points, (p) => p[0])!,
    y = mean(points, (p) => p[1])!,
    xx = (deviation(points, (p) => p[0]) ?? 0) ** 2,
    yy = (deviation(points, (p) => p[1]) ?? 0) ** 2,
    xy = points.reduce((sum, p) => sum + (p[0] - x) * (p[1] - y), 0) / (points.length - 1),
    off = Math.hypot((xx - yy) / 2, xy),
    middle = (xx + yy) / 2;
  return {
    x,
    y,
    rx: 2 * Math.sqrt(middle + off),
    ry: 2 * Math.sqrt(Math.max(0, middle - off)),
    turn: (Math.atan2(2 * xy, xx - yy) * 90) / Math.PI,
  };
}

/** Where each frame puts the anchor's middle grey: a* to the right, b* upwards; hollow as it is, filled as proposed; a light's spread as an ellipse of two deviations. */
export function GreyScatter({
  even,
  chosen,
  onChoose,
}: {
  even: Evenness;
  chosen: number | null;
  onChoose: (id: number) => void;
}): React.JSX.Element {
  const groups = even.groups.map((g) => {
      const anchor = g.frames.find((f) => f.id === g.anchorId)?.now?.grey ?? [0, 0];
      const off = (grey: readonly [number, number]): [number, number] => [grey[0] - anchor[0], grey[1] - anchor[1]];
      return {
        g,
        points: g.frames.flatMap((f) => (f.now && f.proposed ? [{ f, now: off(f.now.grey), proposed: off(f.proposed.grey) }] : [])),
      };
    }),
    ellipses = groups.map(({ points }) => ellipseOf(points.map((p) => p.now))),
    reach =
      Math.max(
        4,
        ...groups.flatMap(({ points }) => points.flatMap((p) => [...p.now, ...p.proposed].map(Math.abs))),
        ...ellipses.flatMap((e) => (e ? [Math.abs(e.x) + Math.max(e.rx, e.ry), Math.abs(e.y) + Math.max(e.rx, e.ry)] : [])),
      ) / room,
    at = scaleLinear([-reach, reach], [0, size]),
    px = (v: number): number => at(v),
    py = (v: number): number => size - at(v),
    unit = size / (2 * reach);
  return (
    <figure className="grey-scatter" aria-label="Where each frame puts its anchor's grey, a* and b*">
      <figcaption>
        <b>Spread of a*b*</b> <span>ring: {even.tolerance.toFixed(1)} ΔE</span>
      </figcaption>
      <svg width={size} height={size} role="img" aria-label="a* to the right, b* upwards, from the anchor's grey">
        <line x1={0} x2={size} y1={size / 2} y2={size / 2} className="zero" />
        <line x1={size / 2} x2={size / 2} y1={0} y2={size} className="zero" />
        <circle cx={size / 2} cy={size / 2} r={even.tolerance * unit} className="ring" />
        {groups.map(({ g }, i) => {
          const e = ellipses[i];
          return (
            e && (
              <ellipse
                key={g.light}
                cx={px(e.x)}
                cy={py(e.y)}
                rx={Math.max(1, e.rx * unit)}
                ry={Math.max(1, e.ry * unit)}
                transform={`rotate(${-e.turn} ${px(e.x)} ${py(e.y)})`}
                className="spread"
              >
                <title>{g.light}</title>
              </ellipse>
            )
          );
        })}
        {groups.flatMap(({ points }) =>
          points.map(({ f, now, proposed }) => (
            <g key={f.id} className={f.id === chosen ? 'chosen' : ''} onClick={() => onChoose(f.id)}>
              <title>{f.name}</title>
              <line x1={px(now[0])} y1={py(now[1])} x2={px(proposed[0])} y2={py(proposed[1])} />
              <circle cx={px(now[0])} cy={py(now[1])} r={4} className="now" />
              <circle cx={px(proposed[0])} cy={py(proposed[1])} r={3.2} className="proposed" />
            </g>
          )),
        )}
      </svg>
      <p className="hint">more a*: redder · more b*: yellower</p>
    </figure>
  );
}
