import { area, max, scaleLinear, scaleLog } from 'd3';
import { memo } from 'react';
import { clippedShare, type Histogram } from '@dyepot/core';

/** Memoised, since a page is drawn anew with every move of a control. Red, green, blue and luma counts of what is on screen, with what is clipped at each end. */
export const HistogramChart = memo(function HistogramChart({
  histogram,
  width = 276,
  height = 96,
  log = false,
  onLog,
}: {
  histogram: Histogram | null;
  width?: number;
  height?: number;
  log?: boolean;
  onLog?: (log: boolean) => void;
}): React.JSX.Element {
  if (!histogram) return <div style={{ height }} className="histogram" />;
  const inner = (h: Uint32Array): number => max(Array.from(h.subarray(2, 254))) ?? 1;
  const tops = [inner(histogram.red), inner(histogram.green), inner(histogram.blue), inner(histogram.luma)].sort((a, b) => a - b);
  const linear = scaleLinear([0, Math.max(1, tops[2]! * 1.05)], [height, 2]).clamp(true),
    logarithmic = scaleLog([1, Math.max(10, tops[3]! * 1.2)], [height, 2]).clamp(true),
    y = (v: number): number => (log ? logarithmic(Math.max(1, v)) : linear(v)),
    x = scaleLinear([0, 255], [0, width]);
  const shape = area<number>()
    .x((_, i) => x(i))
    .y0(height)
    .y1((v) => y(v));
  const line = (h: Uint32Array): string => shape(Array.from(h)) ?? '';
  const dark = clippedShare(histogram, 'black'),
    light = clippedShare(histogram, 'white');
  const share = (v: number): string => (v === 0 ? '0 %' : v < 0.001 ? '<0.1 %' : `${(v * 100).toFixed(1)} %`);
  return (
    <figure className="histogram" aria-label={`Histogram. Clipped: dark ${share(dark)}, light ${share(light)}`}>
      <svg viewBox={`0 0 ${width} ${height}`} width="100%" height={height} preserveAspectRatio="none">
        {[0.25, 0.5, 0.75].map((t) => (
          <line key={t} x1={t * width} x2={t * width} y1="0" y2={height} stroke="#3a3a3a" />
        ))}
        <path d={line(histogram.luma)} fill="#8a8886" opacity="0.55" />
        <g style={{ mixBlendMode: 'screen' }}>
          <path d={line(histogram.red)} fill="#a8483c" opacity="0.75" />
          <path d={line(histogram.green)} fill="#3f8a52" opacity="0.75" />
          <path d={line(histogram.blue)} fill="#3c62b0" opacity="0.75" />
        </g>
      </svg>
      <figcaption>
        <span className={dark > 0.001 ? 'clips' : ''}>dark clipped {share(dark)}</span>
        {onLog && (
          <button type="button" className="text-button" aria-pressed={log} onClick={() => onLog(!log)}>
            {log ? 'logarithmic' : 'linear'}
          </button>
        )}
        <span className={light > 0.001 ? 'clips' : ''}>light clipped {share(light)}</span>
      </figcaption>
    </figure>
  );
});
