import {
  hueTurnOf,
  nearestSpeed,
  oklabToRec2020,
  rec2020ToOklab,
  stockReadoutsOf,
  throughFilm,
  type Film,
  type StockSheet,
  type Vector3,
} from '@dyepot/core';
import { memo, useMemo } from 'react';
import { cssLight } from '../kit/cssLight.ts';

const signed = (v: number, decimals = 2): string => `${v < 0 ? '−' : ''}${Math.abs(v).toFixed(decimals)}`;
/** How neutral greys come out from −4 to +4 EV: the greatest OKLab chroma. */
const greyChroma = (film: Film): number =>
  Math.max(
    ...[-4, -3, -2, -1, 0, 1, 2, 3, 4].map((ev) => {
      const [, a, b] = rec2020ToOklab(throughFilm(film, [0.18 * 2 ** ev, 0.18 * 2 ** ev, 0.18 * 2 ** ev]));
      return Math.hypot(a, b);
    }),
  );
/** What the sheet says of itself, each number computed from it. */
export const Computed = memo(function Computed({
  sheet,
  film,
  other,
}: {
  sheet: StockSheet;
  film: Film;
  other: StockSheet | null;
}): React.JSX.Element {
  const said = useMemo(() => stockReadoutsOf(sheet), [sheet]),
    over = useMemo(() => other && stockReadoutsOf(other), [other]),
    grey = useMemo(() => greyChroma(film), [film]),
    turns = useMemo(() => hueTurnOf(film), [film]),
    list = (values: readonly number[]): string => [...new Set(values.map((v) => v.toFixed(2)))].join(' · ');
  const rows: [string, string, string | null][] = [
    ['ISO speed', `${nearestSpeed(said.iso)}`, over && `${nearestSpeed(over.iso)}`],
    ['average gradient', signed(said.averageGradient), over && signed(over.averageGradient)],
    ['latitude', `${said.latitudeStops.toFixed(1)} stops`, over && `${over.latitudeStops.toFixed(1)} stops`],
    ['Dmin', list(said.dmin), over && list(over.dmin)],
    ['Dmax', list(said.dmax), over && list(over.dmax)],
    ['greys’ chroma, ±4 EV', grey.toFixed(3), null],
    ...(turns
      ? ([
          ['hues turn, mean · worst', `${turns.meanDegrees.toFixed(1)}° · ${turns.worstDegrees.toFixed(1)}°`, null],
          ['skins turn', `${turns.skinsDegrees.toFixed(1)}°`, null],
        ] as [string, string, null][])
      : []),
  ];
  return (
    <table className="stock-computed" aria-label="Computed from the sheet">
      <tbody>
        {rows.map(([name, value, laid]) => (
          <tr key={name}>
            <th scope="row">{name}</th>
            <td>{value}</td>
            {over && <td className="over">{laid}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  );
});

const wedgeSteps = Array.from({ length: 21 }, (_, i) => -6 + 0.5 * i),
  hues = Array.from({ length: 24 }, (_, i) => i * 15),
  ring = (chroma: number): Vector3[] =>
    hues.map(
      (h) =>
        oklabToRec2020([0.62, chroma * Math.cos((h * Math.PI) / 180), chroma * Math.sin((h * Math.PI) / 180)]).map((v) =>
          Math.max(0, v),
        ) as unknown as Vector3,
    ),
  rings = [
    { colours: ring(0.12), inner: 34, outer: 52 },
    { colours: ring(0.06), inner: 16, outer: 34 },
  ];
const sector = (i: number, inner: number, outer: number): string => {
  const a = ((-i * 15 - 7.5) * Math.PI) / 180,
    b = ((-i * 15 + 7.5) * Math.PI) / 180;
  return `M${inner * Math.cos(a)},${inner * Math.sin(a)}L${outer * Math.cos(a)},${outer * Math.sin(a)}L${outer * Math.cos(b)},${outer * Math.sin(b)}L${inner * Math.cos(b)},${inner * Math.sin(b)}Z`;
};
/** A wheel of hues at two chromas as they are, and as the stock makes them beside it; a grey wedge under both. */
export const WheelAndWedge = memo(function WheelAndWedge({ film }: { film: Film }): React.JSX.Element {
  const through = useMemo(() => rings.map((r) => r.colours.map((c) => throughFilm(film, c))), [film]),
    wedge = useMemo(() => wedgeSteps.map((ev) => throughFilm(film, [0.18 * 2 ** ev, 0.18 * 2 ** ev, 0.18 * 2 ** ev])), [film]);
  return (
    <svg className="stock-wheel" viewBox="0 0 320 146" role="img" aria-label="Hues and greys through the stock">
      <rect width="320" height="146" fill="#1f1f1f" />
      <g transform="translate(76 58)">
        {rings.map((r) => r.colours.map((c, i) => <path key={`${r.inner}-${i}`} d={sector(i, r.inner, r.outer)} fill={cssLight(c)} />))}
        <text y="-1" textAnchor="middle" className="on-dark small">
          scene
        </text>
      </g>
      <g transform="translate(244 58)">
        {rings.map((r, k) =>
          through[k]!.map((c, i) => <path key={`${r.inner}-${i}`} d={sector(i, r.inner, r.outer)} fill={cssLight(c)} />),
        )}
        <text y="-1" textAnchor="middle" className="on-dark small">
          film
        </text>
      </g>
      {wedge.map((c, i) => (
        <rect key={i} x={8 + i * (304 / wedge.length)} width={304 / wedge.length + 0.5} y="120" height="20" fill={cssLight(c)} />
      ))}
    </svg>
  );
});
