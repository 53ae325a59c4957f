import { type Groundwork, beforeRighting, rightedBy } from '@dyepot/core';
import type { Frame } from '../types.ts';
import type { Line } from './CropOverlay.tsx';
import type { Lining } from './GeometryPart.tsx';
import { mapOf } from './mapOf.ts';

/**
 * What a line drawn over the whole picture does: one levels it; of verticals and horizontals the second of its kind rights
 * it, and the first waits.
 */
export function lineDrawn({
  line,
  lines,
  lining,
  ground,
  frame,
}: {
  line: Line;
  lines: readonly Line[];
  lining: Lining;
  ground: Groundwork;
  frame: Frame;
}): { wait: true } | { message: string } | { words: string; geometry: Groundwork['geometry'] } {
  const { geometry } = ground,
    turned = geometry.quarterTurns % 2 === 1 ? { width: frame.height, height: frame.width } : frame,
    at = (p: Line['from']): [number, number] =>
      beforeRighting(geometry, frame.width, frame.height, mapOf(frame, ground), p.x * turned.width, p.y * turned.height);
  if (lining === 'level') {
    const angle = (Math.atan2((line.to.y - line.from.y) * turned.height, (line.to.x - line.from.x) * turned.width) * 180) / Math.PI,
      straighten = Math.round(Math.min(45, Math.max(-45, geometry.straighten + Math.round(angle / 90) * 90 - angle)) * 10) / 10;
    return { words: `Straighten ${straighten.toFixed(1)}°`, geometry: { ...geometry, straighten } };
  }
  if (lines.length === 0) return { wait: true };
  const way = lining === 'verticals' ? 'upright' : 'level',
    found = rightedBy(
      [...lines, line].map((l) => ({ from: at(l.from), to: at(l.to), way })),
      geometry,
      turned.width,
      turned.height,
    );
  if (!found) return { message: 'these two lines lean too far apart to be righted together' };
  const tidy = (v: number): number => Math.round(v * 100) / 100;
  return {
    words: way === 'upright' ? 'Two uprights' : 'Two levels',
    geometry: { ...geometry, straighten: tidy(found.straighten), vertical: tidy(found.vertical), horizontal: tidy(found.horizontal) },
  };
}
