import type { Shape } from '@dyepot/core';

export type Point = readonly [number, number];
/** A shape moved by shares of width and height. */
export const moved = (shape: Shape, dx: number, dy: number): Shape => {
  const clamp = (v: number): number => Math.min(1, Math.max(0, v));
  if (shape.kind === 'spot') return { ...shape, x: clamp(shape.x + dx), y: clamp(shape.y + dy) };
  if (shape.kind === 'line') return { ...shape, points: shape.points.map(([x, y]) => [clamp(x + dx), clamp(y + dy)] as const) };
  return { ...shape, points: shape.points.map(([x, y, f]) => [clamp(x + dx), clamp(y + dy), f] as const) };
};
/** Points of a drag thinned out: those nearer than `least` to the one before are left. */
export const thinned = (points: readonly Point[], least: number, size: { width: number; height: number }): Point[] => {
  const out: Point[] = [points[0]!];
  for (const p of points.slice(1)) {
    const last = out[out.length - 1]!;
    if (Math.hypot((p[0] - last[0]) * size.width, (p[1] - last[1]) * size.height) >= least) out.push(p);
  }
  return out;
};

/** The middle of a shape’s bounds. */
export const middle = (shape: Shape): Point => {
  if (shape.kind === 'spot') return [shape.x, shape.y];
  const xs = shape.points.map((p) => p[0]),
    ys = shape.points.map((p) => p[1]);
  return [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2];
};
