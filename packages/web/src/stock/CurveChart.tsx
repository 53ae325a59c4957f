import { densityAt, type Film, type StockSheet } from '@dyepot/core';
import { area, line, max, range, scaleLinear } from 'd3';
import { memo } from 'react';
import { Handle } from '../kit/Handle.tsx';
import { useSize } from './useSize.ts';
import { curveNumbers, inksOf, withNumber, type CurveNumber } from './charting.ts';

export type Side = 'film' | 'print' | 'whole';
const margin = { left: 46, right: 16, top: 22, bottom: 34 },
  stop = Math.log10(2),
  greyPath = 'none';
interface Props {
  sheet: StockSheet;
  film: Film;
  over: { sheet: StockSheet; film: Film } | null;
  side: Side;
  hand: number | 'all';
  /** how many pixels the frame has at each EV from middle grey, −8 on, in steps of a quarter */
  light: readonly number[] | null;
  onCurves: (curves: StockSheet['curves'], words: string, gesture: string) => void;
}

/** Characteristic curves, with the frame's own light under them and handles on the one in hand. */
export const CurveChart = memo(function CurveChart({ sheet, film, over, side, hand, light, onCurves }: Props): React.JSX.Element {
  const [box, { width: W, height: H }] = useSize(),
    reversal = sheet.kind === 'reversal',
    ofPrint = side === 'print' && sheet.print !== null,
    curves = ofPrint ? sheet.print!.curves : sheet.curves,
    middle = film.logWhite + Math.log10(0.18),
    inks = inksOf(sheet.layers);
  const spanned = (c: StockSheet['curves'][number]): [number, number] => {
    const end = (c.dmax - c.dmin) / c.gamma;
    return reversal && !ofPrint
      ? [c.start - end - 2 * c.shoulder, c.start + 3 * c.toe]
      : [c.start - 3 * c.toe, c.start + end + 3 * c.shoulder];
  };
  const spans = curves.map(spanned),
    [from, to] =
      side === 'whole'
        ? [middle - 7 * stop, middle + 7 * stop]
        : [Math.min(...spans.map((s) => s[0])), Math.max(...spans.map((s) => s[1]), ofPrint ? -9 : middle + 4 * stop)],
    x = scaleLinear([from, to], [margin.left, W - margin.right]),
    most = Math.max(2.5, ...curves.map((c) => c.dmax), ...(sheet.print?.curves.map((c) => c.dmax) ?? [])) + 0.2,
    y = scaleLinear([0, most], [H - margin.bottom, margin.top]),
    places = range(from, to + 1e-6, (to - from) / 160);
  const drawn = (densities: (at: number) => number[]): number[][] => {
      const rows = places.map(densities);
      return rows[0]!.map((_, layer) => rows.map((r) => r[layer]!));
    },
    path = (values: readonly number[]): string =>
      line<number>()
        .x((_, i) => x(places[i]!))
        .y((d) => y(d))(values) ?? '';
  const densitiesOf = (s: StockSheet, f: Film): ((at: number) => number[]) => {
    if (side === 'print' && s.print) return (at) => s.print!.curves.map((c) => densityAt(c, at));
    if (side === 'film') return (at) => s.curves.map((c) => densityAt(c, at, s.kind === 'reversal'));
    // the whole way: what a grey of the scene is as density of what is seen
    const shift = f.logWhite - film.logWhite;
    return (at) => f.seen(f.printed(f.densities(s.layers.map(() => at + shift)))).map((v) => -Math.log10(Math.max(1e-4, v)));
  };
  const own = drawn(densitiesOf(sheet, film)),
    laid = over ? drawn(densitiesOf(over.sheet, over.film)) : [],
    inHand = curves[hand === 'all' ? Math.min(1, curves.length - 1) : hand],
    mirrored = reversal && !ofPrint;
  /** From a curve's own way to the chart's. */
  const across = (v: number): number => x(mirrored ? -v : v),
    back = (place: number): number => (mirrored ? -x.invert(place) : x.invert(place)),
    set = (values: Record<string, number>, words: string, gesture: string): void =>
      onCurves(
        Object.entries(values).reduce((all, [name, v]) => withNumber(all, hand, name as CurveNumber, v), curves),
        words,
        gesture,
      );
  const handle = (
    label: string,
    at: { x: number; y: number },
    along: { name: CurveNumber; at: (place: number) => number } | null,
    up: { name: CurveNumber; at: (place: number) => number } | null,
    fill = '#2b2b2b',
  ): React.JSX.Element => (
    <Handle
      key={label}
      x={at.x}
      y={at.y}
      fill={fill}
      label={`${label}, on the curve`}
      {...(along ? { along: { name: along.name, parameter: curveNumbers[along.name], value: inHand![along.name], at: along.at } } : {})}
      {...(up ? { up: { name: up.name, parameter: curveNumbers[up.name], value: inHand![up.name], at: up.at } } : {})}
      onSet={(values, gesture) => set(values, `${ofPrint ? 'Print: ' : ''}${label.toLowerCase()}`, gesture)}
    />
  );
  const handles = (): React.JSX.Element[] => {
    const c = inHand!,
      start = mirrored ? -c.start : c.start,
      length = (c.dmax - c.dmin) / c.gamma,
      half = c.dmin + (c.dmax - c.dmin) / 2;
    return [
      handle(
        'Foot',
        { x: across(start), y: y(c.dmin) },
        { name: 'start', at: (place) => (mirrored ? x.invert(place) : back(place)) },
        { name: 'dmin', at: y.invert },
      ),
      handle(
        'Toe',
        { x: across(start - 1.6 * c.toe), y: y(densityAt(c, mirrored ? -(start - 1.6 * c.toe) : start - 1.6 * c.toe, mirrored)) },
        { name: 'toe', at: (place) => (start - back(place)) / 1.6 },
        null,
        '#8a8886',
      ),
      handle(
        'Straight part',
        { x: across(start + length / 2), y: y(half) },
        null,
        { name: 'gamma', at: (place) => c.gamma + ((y.invert(place) - half) / Math.max(0.2, length)) * 2 },
        '#f1f0ef',
      ),
      handle('Top', { x: across(start + length), y: y(c.dmax) }, null, { name: 'dmax', at: y.invert }),
      handle(
        'Shoulder',
        {
          x: across(start + length + 1.6 * c.shoulder),
          y: y(densityAt(c, mirrored ? -(start + length + 1.6 * c.shoulder) : start + length + 1.6 * c.shoulder, mirrored)),
        },
        { name: 'shoulder', at: (place) => (back(place) - start - length) / 1.6 },
        null,
        '#8a8886',
      ),
    ];
  };
  const evs = range(-8, 8.01, 2).filter((ev) => x(middle + ev * stop) > 84 && middle + ev * stop < to),
    tallest = light ? (max(light) ?? 1) : 1;
  return (
    <div ref={box} className="stock-chart">
      <svg width={W} height={H} role="group" aria-label={`Characteristic curves of ${sheet.name}`}>
        <rect width={W} height={H} fill="#1f1f1f" />
        {light && side !== 'print' && (
          <path
            fill="#3d3c3a"
            stroke={greyPath}
            d={
              area<number>()
                .x((_, i) => x(middle + (-8 + (i + 0.5) / 4) * stop))
                .y0(y(0))
                .y1((n) => y(0) - Math.sqrt(n / tallest) * (H - margin.top - margin.bottom) * 0.34)
                .defined((_, i) => middle + (-8 + (i + 0.5) / 4) * stop > from && middle + (-8 + (i + 0.5) / 4) * stop < to)(light) ?? ''
            }
          />
        )}
        {range(0, most, 0.5).map((d) => (
          <g key={d}>
            <path d={`M${margin.left},${y(d)}H${W - margin.right}`} stroke={d % 1 === 0 ? '#3a3a3a' : '#2b2b2b'} />
            {d % 1 === 0 && (
              <text x={margin.left - 8} y={y(d) + 4} textAnchor="end" className="on-dark">
                {d.toFixed(1)}
              </text>
            )}
          </g>
        ))}
        {x.ticks(8).map((v) => (
          <text key={v} x={x(v)} y={H - margin.bottom + 16} textAnchor="middle" className="on-dark">
            {v < 0 ? `−${Math.abs(v).toFixed(1)}` : v.toFixed(1)}
          </text>
        ))}
        <text x={W - margin.right} y={H - 5} textAnchor="end" className="on-dark">
          {ofPrint ? 'exposure of the print, log₁₀' : 'exposure, log₁₀ lux·s'}
        </text>
        <text x={8} y={14} className="on-dark">
          density
        </text>
        {side !== 'print' &&
          evs.map((ev) => (
            <g key={ev}>
              <path d={`M${x(middle + ev * stop)},${margin.top}V${H - margin.bottom}`} stroke={ev === 0 ? '#5a5856' : '#2e2e2e'} />
              <text x={x(middle + ev * stop)} y={14} textAnchor="middle" className="on-dark">
                {ev > 0 ? `+${ev}` : ev < 0 ? `−${-ev}` : '0 EV'}
              </text>
            </g>
          ))}
        {laid.map((values, i) => (
          <path
            key={`over-${i}`}
            d={path(values)}
            fill="none"
            stroke={inksOf(over!.sheet.layers)[i]}
            strokeWidth="1.4"
            strokeDasharray="5 4"
            opacity="0.75"
          />
        ))}
        {own.map((values, i) => (
          <path
            key={i}
            d={path(values)}
            fill="none"
            stroke={inks[i] ?? '#f1f0ef'}
            // where curves lie on one another, each is still seen
            strokeWidth={hand === i ? 2.6 : own.length === 3 ? 5.4 - 1.8 * i : 1.9}
            opacity={hand === 'all' || hand === i || side === 'whole' ? 1 : 0.5}
          />
        ))}
        {side !== 'whole' && inHand && (!ofPrint ? true : sheet.print) && handles()}
      </svg>
    </div>
  );
});
