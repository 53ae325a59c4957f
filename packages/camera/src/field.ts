import type { Point } from './mesh.ts';

/** Signed distances in metres, negative inside: the shapes a body is blended from. */
export const ball = (p: Point, c: Point, r: number): number => Math.hypot(p[0] - c[0], p[1] - c[1], p[2] - c[2]) - r;
export function egg(p: Point, c: Point, r: Point): number {
  const x = (p[0] - c[0]) / r[0],
    y = (p[1] - c[1]) / r[1],
    z = (p[2] - c[2]) / r[2];
  const k = Math.hypot(x, y, z),
    g = Math.hypot(x / r[0], y / r[1], z / r[2]);
  return g < 1e-9 ? -Math.min(...r) : (k * (k - 1)) / g;
}
/** Where along a segment the nearest point lies (0–1), and how far away it is. */
export function along(p: Point, a: Point, b: Point): { t: number; distance: number } {
  const bx = b[0] - a[0],
    by = b[1] - a[1],
    bz = b[2] - a[2],
    ax = p[0] - a[0],
    ay = p[1] - a[1],
    az = p[2] - a[2];
  const t = Math.min(1, Math.max(0, (ax * bx + ay * by + az * bz) / (bx * bx + by * by + bz * bz)));
  return { t, distance: Math.hypot(ax - bx * t, ay - by * t, az - bz * t) };
}
export function limb(p: Point, a: Point, b: Point, ra: number, rb: number): number {
  const { t, distance } = along(p, a, b);
  return distance - (ra + (rb - ra) * t);
}
/** Smooth union over a width k (Quilez's polynomial minimum). */
export const blend = (a: number, b: number, k: number): number => {
  const h = Math.max(0, k - Math.abs(a - b)) / k;
  return Math.min(a, b) - h * h * k * 0.25;
};
export const carve = (a: number, b: number, k: number): number => -blend(-a, b, k);
