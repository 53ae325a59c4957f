import type { Shape } from '@dyepot/core';
import type { Point } from './drawn.ts';

/** A shape in pixels of the stage, moved by shares of the plate: `unit` is how long the plate’s long edge is there. */
export function onStage(shape: Shape, stageAt: (p: Point) => Point, unit: number, [dx, dy]: Point = [0, 0]): Shape {
  const at = (p: readonly number[]): Point => stageAt([p[0]! + dx, p[1]! + dy]);
  if (shape.kind === 'spot') {
    const [x, y] = at([shape.x, shape.y]);
    return { ...shape, x, y, radius: shape.radius * unit };
  }
  if (shape.kind === 'line') return { ...shape, points: shape.points.map(at), radius: shape.radius * unit };
  return { ...shape, points: shape.points.map((p) => [...at(p), p[2] * unit] as const) };
}
/** How a shape on the stage is drawn. */
export function pathOf(shape: Shape): React.SVGProps<SVGPathElement> {
  if (shape.kind === 'spot') {
    const { x, y, radius: r } = shape;
    return { d: `M${x - r},${y}a${r},${r} 0 1 0 ${2 * r},0a${r},${r} 0 1 0 ${-2 * r},0z` };
  }
  const d = `M${shape.points.map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`).join('L')}`;
  return shape.kind === 'outline'
    ? { d: `${d}z` }
    : { d, strokeWidth: 2 * shape.radius, strokeLinecap: 'round', strokeLinejoin: 'round', className: 'broad', fill: 'none' };
}
