import { frameView, gainAt, lensGainOf, type Groundwork } from '@dyepot/core';
import { contours, geoPath } from 'd3';
import { useMemo } from 'react';
import type { Frame } from '../types.ts';
import type { Placed } from '../view/FrameView.tsx';
import type { LensShown } from './LensPart.tsx';

const columns = 60, rows = 40;

/** What is done about the lens, drawn over the picture while its control is held: straight lines, or lines of equal gain. */
export function LensOverlay({ placed, shows, frame, ground }: { placed: Placed; shows: Exclude<LensShown, 'off'>; frame: Frame; ground: Groundwork }): React.JSX.Element {
  const { box } = placed, lines = useMemo(() => {
    if (shows !== 'light') return [];
    const gain = lensGainOf(ground.lens, frame.fileLens, frame), view = frameView(ground, frame);
    if (!gain) return [];
    const ev = Array.from({ length: columns * rows }, (_, i) => Math.log2(gainAt(gain, frame, view, (((i % columns) + 0.5) / columns) * view.width, ((Math.floor(i / columns) + 0.5) / rows) * view.height)));
    return contours().size([columns, rows]).thresholds([-2, -1.5, -1, -0.5, -0.25, 0.25, 0.5, 1, 1.5, 2, 2.5])(ev).map((c) => ({ ev: c.value, path: geoPath()(c) ?? '', at: c.coordinates.flat(2).sort((a, b) => a[0]! - b[0]! || a[1]! - b[1]!)[0] }));
  }, [shows, frame, ground]);
  return (
    <svg className="lens-overlay" data-testid={`lens-${shows}`} style={{ left: box.left, top: box.top, width: box.width, height: box.height }} viewBox={`0 0 ${columns} ${rows}`} preserveAspectRatio="none" aria-hidden="true">
      {shows === 'grid' && [...Array.from({ length: 11 }, (_, i) => <line key={`x${i}`} x1={((i + 1) * columns) / 12} x2={((i + 1) * columns) / 12} y1="0" y2={rows} vectorEffect="non-scaling-stroke" />), ...Array.from({ length: 7 }, (_, i) => <line key={`y${i}`} x1="0" x2={columns} y1={((i + 1) * rows) / 8} y2={((i + 1) * rows) / 8} vectorEffect="non-scaling-stroke" />)]}
      {lines.map((l) => <path key={l.ev} d={l.path} vectorEffect="non-scaling-stroke"><title>{l.ev} EV</title></path>)}
    </svg>
  );
}
