import { hueBins } from '@dyepot/core';
import { arc } from 'd3';

/** An angle of a hue as arcs count them. */
export const arcAngle = (degrees: number): number => Math.PI / 2 - (degrees * Math.PI) / 180;

/** A wedge for each hue that is counted, from `innerRadius` as far as each reaches, as one path: all of them change with the picture. */
export function hueWedges(innerRadius: number, reach: (i: number) => number): string {
  const step = 360 / hueBins,
    wedge = arc();
  return Array.from(
    { length: hueBins },
    (_, i) => wedge({ innerRadius, outerRadius: reach(i), startAngle: arcAngle((i + 1) * step), endAngle: arcAngle(i * step) }) ?? '',
  ).join('');
}
