import type { BandHandle } from '@dyepot/core';

/** What hues are turned into, each by a curve over the unrolled circle. */
export const curves = ['hue', 'chroma', 'lightness'] as const;
export type BandCurve = (typeof curves)[number];

/** Handles after the hue under the pointer is drawn up or down: the nearest handle moves, or a new one is set. */
export function pulledHandles(handles: readonly BandHandle[], hue: number, value: number): readonly BandHandle[] {
  const away = (h: BandHandle): number => Math.abs(((h[0] - hue + 540) % 360) - 180),
    near = handles.reduce((best, h, i) => (away(h) < 22 && (best < 0 || away(h) < away(handles[best]!)) ? i : best), -1);
  return near >= 0
    ? handles.map((h, i) => (i === near ? [h[0], value, h[2]] : h))
    : handles.length < 16
      ? [...handles, [Math.round(hue), value, 45]]
      : handles;
}
