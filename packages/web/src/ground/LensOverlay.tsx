import { frameView, gainAt, lensGainOf, type Groundwork } from '@dyepot/core';
import { contours, geoPath } from 'd3';
import { useMemo } from 'react';
import type { Frame } from '../types.ts';
import type { Placed } from '../view/FrameView.tsx';
import type { LensShown } from './LensPart.tsx';

const columns = 60,
  rows = 40,
  margin = 3;
const steps = [-2, -1.5, -1, -0.5, -0.25, 0.25, 0.5, 1, 1.5, 2, 2.5];
const words = (ev: number): string => `${ev < 0 ? '−' : '+'}${Math.abs(ev)} EV`;

/** What is done about the lens, drawn over the picture while its control is held: straight lines, or lines of equal gain. */
export function LensOverlay({
  placed,
  shows,
  frame,
  ground,
}: {
  placed: Placed;
  shows: Exclude<LensShown, 'off'>;
  frame: Frame;
  ground: Groundwork;
}): React.JSX.Element {
  const { box } = placed,
    { lines, labels } = useMemo(() => {
      const gain = shows === 'light' ? lensGainOf(ground.lens, frame.fileLens, frame) : null,
        view = frameView(ground, frame);
      if (!gain) return { lines: [], labels: [] };
      // a little beyond the picture, so that a line's way round its border is not seen
      const w = columns + 2 * margin,
        h = rows + 2 * margin,
        evAt = (x: number, y: number): number => Math.log2(gainAt(gain, frame, view, x * view.width, y * view.height));
      const ev = Array.from({ length: w * h }, (_, i) =>
        evAt(((i % w) - margin + 0.5) / columns, (Math.floor(i / w) - margin + 0.5) / rows),
      );
      const along = Array.from({ length: 200 }, (_, i) => ({ t: 0.5 + i / 400, ev: evAt(0.5 + i / 400, 0.5 + i / 400) }));
      const marks = steps.flatMap((step) => {
        const i = along.findIndex((p, k) => k > 0 && (p.ev - step) * (along[k - 1]!.ev - step) <= 0);
        return i > 0 && along[i]!.t < 0.97 ? [{ ev: step, t: along[i]!.t }] : [];
      });
      return {
        lines: contours()
          .size([w, h])
          .thresholds(steps)(ev)
          .map((c) => ({ ev: c.value, path: geoPath()(c) ?? '' })),
        labels: marks,
      };
    }, [shows, frame, ground]);
  return (
    <>
      <svg
        className="lens-overlay"
        data-testid={`lens-${shows}`}
        style={{ left: box.left, top: box.top, width: box.width, height: box.height }}
        viewBox={shows === 'light' ? `${margin} ${margin} ${columns} ${rows}` : `0 0 ${columns} ${rows}`}
        preserveAspectRatio="none"
        aria-hidden="true"
      >
        {shows === 'grid' && [
          ...Array.from({ length: 11 }, (_, i) => (
            <line
              key={`x${i}`}
              x1={((i + 1) * columns) / 12}
              x2={((i + 1) * columns) / 12}
              y1="0"
              y2={rows}
              vectorEffect="non-scaling-stroke"
            />
          )),
          ...Array.from({ length: 7 }, (_, i) => (
            <line key={`y${i}`} x1="0" x2={columns} y1={((i + 1) * rows) / 8} y2={((i + 1) * rows) / 8} vectorEffect="non-scaling-stroke" />
          )),
        ]}
        {lines.map((l) => (
          <path key={l.ev} d={l.path} vectorEffect="non-scaling-stroke" />
        ))}
      </svg>
      {labels.map((l) => (
        <b key={l.ev} className="lens-label" style={{ left: box.left + l.t * box.width, top: box.top + l.t * box.height }}>
          {words(l.ev)}
        </b>
      ))}
    </>
  );
}
