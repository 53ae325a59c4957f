import { number, spectralBell, type StockSheet } from '@dyepot/core';
import { line, range, scaleLinear } from 'd3';
import { memo } from 'react';
import { Handle } from '../kit/Handle.tsx';
import { inksOf, layerNames } from './charting.ts';

const W = 320,
  H = 92,
  x = scaleLinear([380, 730], [8, W - 8]),
  y = scaleLinear([0, 1.08], [H - 16, 6]),
  peak = number('Peak', 'nm', 380, 730, 550, 1, 0),
  nanometres = range(380, 731, 5);
/** The spectrum under a chart, as light of each wavelength comes near to. */
const hues = [
  [380, '#5b3a8e'],
  [440, '#3d55c8'],
  [490, '#2f93b8'],
  [530, '#3f9e57'],
  [570, '#a8a83a'],
  [600, '#c8823a'],
  [650, '#b04338'],
  [730, '#5a221e'],
] as const;

interface Spectrum {
  of: (nm: number) => number;
  peak: number;
}
/** What a chart shows: curves, and those of another sheet. */
interface Spectra {
  title: string;
  label: (i: number) => string;
  curves: readonly Spectrum[];
  over: readonly Spectrum[];
  inks: readonly string[];
}
/** Curves over wavelength that can be pulled along by their peaks; another sheet's dashed over them. */
export const SpectrumChart = memo(function SpectrumChart({
  title,
  label,
  curves,
  over,
  inks,
  onPeak,
}: Spectra & {
  onPeak: (i: number, peak: number, gesture: string) => void;
}): React.JSX.Element {
  const path = (of: (nm: number) => number): string =>
    line<number>()
      .x(x)
      .y((nm) => y(of(nm)))(nanometres) ?? '';
  return (
    <figure className="spectrum">
      <figcaption>{title}</figcaption>
      <svg viewBox={`0 0 ${W} ${H}`} role="group" aria-label={title}>
        <defs>
          <linearGradient id="spectrum">
            {hues.map(([nm, colour]) => (
              <stop key={nm} offset={(nm - 380) / 350} stopColor={colour} />
            ))}
          </linearGradient>
        </defs>
        <rect width={W} height={H} fill="#1f1f1f" />
        <rect x={x(380)} width={x(730) - x(380)} y={H - 14} height="3" fill="url(#spectrum)" />
        {[400, 500, 600, 700].map((nm) => (
          <text key={nm} x={x(nm)} y={H - 2} textAnchor="middle" className="on-dark small">
            {nm}
          </text>
        ))}
        {over.map((c, i) => (
          <path key={`over-${i}`} d={path(c.of)} fill="none" stroke={inks[i]} strokeWidth="1.2" strokeDasharray="4 3" opacity="0.75" />
        ))}
        {curves.map((c, i) => (
          <path key={i} d={path(c.of)} fill="none" stroke={inks[i]} strokeWidth="1.8" />
        ))}
        {curves.map((c, i) => (
          <Handle
            key={`handle-${i}`}
            x={x(c.peak)}
            y={y(Math.min(1, c.of(c.peak)))}
            fill={inks[i]}
            label={`${label(i)}, on the chart`}
            along={{ name: 'peak', parameter: peak, value: c.peak, at: x.invert }}
            onSet={(values, gesture) => onPeak(i, values['peak']!, gesture)}
          />
        ))}
      </svg>
    </figure>
  );
});
type Layer = StockSheet['layers'][number];
type Dye = StockSheet['dyes'][number];
/** What a layer sees, over wavelength, 1 at the most. */
const seesOf = (layer: Layer): Spectrum => ({
  of: (nm) => spectralBell(layer, nm) * (layer.cut > 0 ? 1 / (1 + Math.exp((layer.cut - nm) / 7)) : 1),
  peak: layer.peak,
});
/** What a dye holds back, over wavelength. */
const holdsOf = (dye: Dye): Spectrum => ({
  of: (nm) => spectralBell(dye, nm) + dye.sides.reduce((sum, s) => sum + s.share * spectralBell(s, nm), 0),
  peak: dye.peak,
});
export const chartOfLayers = (layers: readonly Layer[], over: readonly Layer[]): Spectra => ({
  title: 'Layers see · nm',
  label: (i) => (layers.length === 3 ? `The ${layerNames[i]} layer’s peak` : 'The layer’s peak'),
  curves: layers.map(seesOf),
  over: over.map(seesOf),
  inks: inksOf(layers),
});
export const chartOfDyes = (dyes: readonly Dye[], over: readonly Dye[]): Spectra => ({
  title: 'Dyes hold back · nm',
  label: (i) => `The ${['cyan', 'magenta', 'yellow'][i]} dye’s peak`,
  curves: dyes.map(holdsOf),
  over: over.map(holdsOf),
  inks: ['#54b8c4', '#c96ab4', '#d0b94c'],
});
