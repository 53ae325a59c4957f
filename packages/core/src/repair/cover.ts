import type { BrushedLine, Outline, Shape } from './repairs.ts';

export interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
}
/** How much of each pixel a shape covers (0–1), in a rectangle of the plate that holds all of it. */
export interface Cover {
  box: Area;
  alpha: Float32Array;
}
/** Rectangles begin and end at whole pixels of every smaller level, so that what is mended there is the mended picture made smaller. */
const grid = 16;
/** The rectangle from a place to another with the grid's lines round it, within the plate. */
export function gridded(x0: number, y0: number, x1: number, y1: number, size: { width: number; height: number }): Area | null {
  const left = Math.max(0, Math.floor(x0 / grid) * grid),
    top = Math.max(0, Math.floor(y0 / grid) * grid),
    right = Math.min(size.width, Math.ceil(x1 / grid) * grid),
    bottom = Math.min(size.height, Math.ceil(y1 / grid) * grid);
  return right > left && bottom > top ? { x: left, y: top, width: right - left, height: bottom - top } : null;
}
/** 0 at the edge, 1 from the feather on inwards: t²(3 − 2t). */
function rise(inside: number, feather: number): number {
  if (inside <= 0) return 0;
  const t = feather > 0 ? Math.min(1, inside / feather) : Math.min(1, inside);
  return t * t * (3 - 2 * t);
}
type Point = readonly [number, number];
/** How far along a stretch the place nearest to another lies (0–1). */
function alongStretch(x: number, y: number, ax: number, ay: number, bx: number, by: number): number {
  const dx = bx - ax,
    dy = by - ay,
    length = dx * dx + dy * dy;
  return length === 0 ? 0 : Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / length));
}
function fromStretch(x: number, y: number, ax: number, ay: number, bx: number, by: number, along: number): number {
  const u = x - ax - along * (bx - ax),
    v = y - ay - along * (by - ay);
  return Math.sqrt(u * u + v * v);
}

function lineCover(line: Pick<BrushedLine, 'points' | 'radius' | 'feather'>, size: { width: number; height: number }): Cover | null {
  const edge = Math.max(size.width, size.height),
    r = line.radius * edge,
    points = line.points.map(([x, y]): Point => [x * size.width, y * size.height]),
    xs = points.map((p) => p[0]),
    ys = points.map((p) => p[1]),
    box = gridded(Math.min(...xs) - r - 1, Math.min(...ys) - r - 1, Math.max(...xs) + r + 1, Math.max(...ys) + r + 1, size);
  if (!box) return null;
  const alpha = new Float32Array(box.width * box.height);
  for (let i = 0; i < Math.max(1, points.length - 1); i++) {
    const a = points[i]!,
      b = points[i + 1] ?? a,
      x0 = Math.max(box.x, Math.floor(Math.min(a[0], b[0]) - r)),
      x1 = Math.min(box.x + box.width, Math.ceil(Math.max(a[0], b[0]) + r)),
      y0 = Math.max(box.y, Math.floor(Math.min(a[1], b[1]) - r)),
      y1 = Math.min(box.y + box.height, Math.ceil(Math.max(a[1], b[1]) + r));
    for (let y = y0; y < y1; y++)
      for (let x = x0; x < x1; x++) {
        const k = (y - box.y) * box.width + x - box.x,
          along = alongStretch(x + 0.5, y + 0.5, a[0], a[1], b[0], b[1]),
          v = rise(r - fromStretch(x + 0.5, y + 0.5, a[0], a[1], b[0], b[1], along), line.feather * r);
        if (v > alpha[k]!) alpha[k] = v;
      }
  }
  return { box, alpha };
}
function outlineCover({ points: given }: Outline, size: { width: number; height: number }): Cover | null {
  const edge = Math.max(size.width, size.height),
    points = given.map(([x, y, f]) => [x * size.width, y * size.height, f * edge] as const),
    xs = points.map((p) => p[0]),
    ys = points.map((p) => p[1]),
    box = gridded(Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys), size);
  if (!box) return null;
  const alpha = new Float32Array(box.width * box.height);
  for (let j = 0; j < box.height; j++) {
    const y = box.y + j + 0.5,
      // crossings of the row, even and odd (Foley and van Dam)
      crossings: number[] = [];
    for (let i = 0; i < points.length; i++) {
      const a = points[i]!,
        b = points[(i + 1) % points.length]!;
      if (a[1] <= y === b[1] <= y) continue;
      crossings.push(a[0] + ((y - a[1]) / (b[1] - a[1])) * (b[0] - a[0]));
    }
    crossings.sort((p, q) => p - q);
    for (let c = 0; c + 1 < crossings.length; c += 2)
      for (let x = Math.max(box.x, Math.ceil(crossings[c]! - 0.5)); x < Math.min(box.x + box.width, crossings[c + 1]! - 0.5); x++)
        alpha[j * box.width + x - box.x] = 1;
  }
  // only near an edge it matters how far that is, and which feather the nearest place of it has
  const far = new Float32Array(alpha.length).fill(Infinity),
    feather = new Float32Array(alpha.length);
  for (let i = 0; i < points.length; i++) {
    const a = points[i]!,
      b = points[(i + 1) % points.length]!,
      reach = Math.max(...points.map((p) => p[2])) + 1,
      x0 = Math.max(box.x, Math.floor(Math.min(a[0], b[0]) - reach)),
      x1 = Math.min(box.x + box.width, Math.ceil(Math.max(a[0], b[0]) + reach)),
      y0 = Math.max(box.y, Math.floor(Math.min(a[1], b[1]) - reach)),
      y1 = Math.min(box.y + box.height, Math.ceil(Math.max(a[1], b[1]) + reach));
    for (let y = y0; y < y1; y++)
      for (let x = x0; x < x1; x++) {
        const k = (y - box.y) * box.width + x - box.x;
        if (alpha[k] === 0) continue;
        const along = alongStretch(x + 0.5, y + 0.5, a[0], a[1], b[0], b[1]),
          d = fromStretch(x + 0.5, y + 0.5, a[0], a[1], b[0], b[1], along);
        if (d >= far[k]!) continue;
        far[k] = d;
        feather[k] = a[2] + along * (b[2] - a[2]);
      }
  }
  for (let k = 0; k < alpha.length; k++) if (alpha[k]! > 0 && far[k]! < Infinity) alpha[k] = rise(far[k]! + 0.5, feather[k]!);
  return { box, alpha };
}
/** What a shape covers of a plate of this size; null where it lies outside. */
export function coverOf(shape: Shape, size: { width: number; height: number }): Cover | null {
  if (shape.kind === 'outline') return outlineCover(shape, size);
  return lineCover(shape.kind === 'spot' ? { ...shape, points: [[shape.x, shape.y]] } : shape, size);
}
/** The middle of a shape's bounds, in pixels. */
export function middleOf(shape: Shape, size: { width: number; height: number }): [number, number] {
  if (shape.kind === 'spot') return [shape.x * size.width, shape.y * size.height];
  const xs = shape.points.map((p) => p[0]),
    ys = shape.points.map((p) => p[1]);
  return [((Math.min(...xs) + Math.max(...xs)) / 2) * size.width, ((Math.min(...ys) + Math.max(...ys)) / 2) * size.height];
}
