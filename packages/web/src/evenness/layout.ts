import type { EvenFrame, EvenGroup } from './evennessApi.ts';

/** A frame where it stands in the charts: `x` in pixels. */
export interface Stand {
  frame: EvenFrame;
  group: EvenGroup;
  isAnchor: boolean;
  x: number;
}
export interface Band {
  light: string;
  from: number;
  to: number;
}
/** Frames in shooting order, light by light, over a width: each light is a band of its own. */
export function standing(groups: readonly EvenGroup[], width: number): { stands: Stand[]; bands: Band[] } {
  const gap = 14,
    edge = 30,
    count = groups.reduce((n, g) => n + g.frames.length, 0),
    step = (width - edge - gap * groups.length) / Math.max(1, count),
    stands: Stand[] = [],
    bands: Band[] = [];
  let x = edge;
  for (const group of groups) {
    bands.push({ light: group.light, from: x, to: x + step * group.frames.length });
    for (const frame of group.frames) {
      stands.push({ frame, group, isAnchor: frame.id === group.anchorId, x: x + step / 2 });
      x += step;
    }
    x += gap;
  }
  return { stands, bands };
}
