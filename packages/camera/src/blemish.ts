import { seeded } from './random.ts';

/** A stain on what is seen: middle in shares of width and height, radius in shares of the long edge, the share of each light it takes. */
export interface Mark {
  x: number;
  y: number;
  radius: number;
  takes: [number, number, number];
}
/** A wire across what is seen: points in shares of width and height, half its width in shares of the long edge, the share of light it takes. */
export interface Wire {
  points: [number, number][];
  radius: number;
  takes: number;
}
/** So many marks, always the same for a seed: some dark, some light, none quite grey. */
export function marks(count: number, seed: number): Mark[] {
  const random = seeded(seed * 6151 + 5);
  return Array.from({ length: count }, () => {
    const takes = random() < 0.7 ? 0.2 + 0.45 * random() : -0.15 - 0.3 * random(),
      tinged = (): number => takes * (0.85 + 0.3 * random());
    return {
      x: 0.05 + 0.9 * random(),
      y: 0.05 + 0.9 * random(),
      radius: 0.003 + 0.008 * random(),
      takes: [tinged(), tinged(), tinged()],
    };
  });
}
/** So many wires, from side to side, hanging a little (a parabola, as a tight chain does nearly). */
export function wires(count: number, seed: number): Wire[] {
  const random = seeded(seed * 4099 + 11);
  return Array.from({ length: count }, () => {
    const [left, right, sag] = [0.08 + 0.5 * random(), 0.08 + 0.5 * random(), 0.02 + 0.08 * random()];
    return {
      points: Array.from({ length: 17 }, (_, i): [number, number] => {
        const t = i / 16;
        return [t, left + t * (right - left) + 4 * sag * t * (1 - t)];
      }),
      radius: 0.0006 + 0.0008 * random(),
      takes: 0.6 + 0.3 * random(),
    };
  });
}
/** How much of a pixel lies within so far of something, from its distance: an edge one pixel wide. */
const covered = (within: number, distance: number): number => Math.min(1, Math.max(0, within - distance + 0.5));
/** How far a place lies from a stretch. */
function fromStretch(x: number, y: number, [ax, ay]: readonly [number, number], [bx, by]: readonly [number, number]): number {
  const [dx, dy] = [bx - ax, by - ay],
    t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy)));
  return Math.hypot(x - ax - t * dx, y - ay - t * dy);
}
/** Camera light (interleaved RGB) with marks and wires upon what is seen. */
export function blemished(
  camera: Float32Array,
  width: number,
  height: number,
  { marks: some = [], wires: across = [] }: { marks?: readonly Mark[]; wires?: readonly Wire[] },
): Float32Array {
  const out = Float32Array.from(camera),
    edge = Math.max(width, height);
  const take = (
    x0: number,
    y0: number,
    x1: number,
    y1: number,
    shareAt: (x: number, y: number) => number,
    takes: readonly number[],
  ): void => {
    for (let j = Math.max(0, Math.floor(y0)); j < Math.min(height, y1); j++)
      for (let i = Math.max(0, Math.floor(x0)); i < Math.min(width, x1); i++) {
        const share = shareAt(i + 0.5, j + 0.5);
        if (share > 0) for (let c = 0; c < 3; c++) out[(j * width + i) * 3 + c]! *= 1 - share * takes[c]!;
      }
  };
  for (const { x, y, radius, takes } of some) {
    const [cx, cy, r] = [x * width, y * height, radius * edge];
    take(cx - r - 1, cy - r - 1, cx + r + 1, cy + r + 1, (u, v) => covered(r, Math.hypot(u - cx, v - cy)), takes);
  }
  for (const { points, radius, takes } of across) {
    const at = points.map(([x, y]): [number, number] => [x * width, y * height]),
      r = radius * edge,
      share = new Float32Array(width * height);
    // where two stretches meet a place is covered once
    at.slice(1).forEach((b, k) => {
      const a = at[k]!,
        [low, high] = [Math.min(a[1], b[1]) - r - 1, Math.max(a[1], b[1]) + r + 1];
      for (let j = Math.max(0, Math.floor(low)); j < Math.min(height, high); j++)
        for (let i = Math.max(0, Math.floor(a[0] - r - 1)); i < Math.min(width, b[0] + r + 1); i++)
          share[j * width + i] = Math.max(share[j * width + i]!, covered(r, fromStretch(i + 0.5, j + 0.5, a, b)));
    });
    take(0, 0, width, height, (u, v) => share[Math.floor(v) * width + Math.floor(u)]!, [takes, takes, takes]);
  }
  return out;
}
