import type { Area, Size } from '../plate/area.ts';
import type { BrushedLine, Outline, Shape, Spot } from './repairs.ts';

/** How much of each pixel a shape covers (0–1), in a rectangle of the plate that holds all of it. */
export interface Cover {
  box: Area;
  alpha: Float32Array;
}
/** Rectangles begin and end at whole pixels of every smaller level, so that what is mended there is the mended picture made smaller. */
const grid = 16;
/** The rectangle from a place to another with the grid's lines round it, within the plate. */
function gridded(x0: number, y0: number, x1: number, y1: number, size: Size): Area | null {
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

/** Calls back for every pixel of a rectangle that lies no further than `reach` from the bounds of a stretch. */
function eachNear(box: Area, a: Point, b: Point, reach: number, call: (x: number, y: number, k: number) => void): void {
  const x0 = Math.max(box.x, Math.floor(Math.min(a[0], b[0]) - reach)),
    x1 = Math.min(box.x + box.width, Math.ceil(Math.max(a[0], b[0]) + reach)),
    y0 = Math.max(box.y, Math.floor(Math.min(a[1], b[1]) - reach)),
    y1 = Math.min(box.y + box.height, Math.ceil(Math.max(a[1], b[1]) + reach));
  for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) call(x, y, (y - box.y) * box.width + x - box.x);
}
const pointsOf = (shape: Shape): readonly (readonly number[])[] => (shape.kind === 'spot' ? [[shape.x, shape.y]] : shape.points);
/** The rectangle of a plate of this size that holds a shape; null where it lies outside. */
export function boxOf(shape: Shape, size: Size): Area | null {
  const more = shape.kind === 'outline' ? 0 : shape.radius * Math.max(size.width, size.height) + 1,
    xs = pointsOf(shape).map((p) => p[0]! * size.width),
    ys = pointsOf(shape).map((p) => p[1]! * size.height);
  return gridded(Math.min(...xs) - more, Math.min(...ys) - more, Math.max(...xs) + more, Math.max(...ys) + more, size);
}

function coverLine(shape: Spot | BrushedLine, box: Area, size: Size, alpha: Float32Array): void {
  const r = shape.radius * Math.max(size.width, size.height),
    points = pointsOf(shape).map(([x, y]): Point => [x! * size.width, y! * size.height]);
  for (let i = 0; i < Math.max(1, points.length - 1); i++) {
    const a = points[i]!,
      b = points[i + 1] ?? a;
    eachNear(box, a, b, r, (x, y, k) => {
      const along = alongStretch(x + 0.5, y + 0.5, a[0], a[1], b[0], b[1]),
        v = rise(r - fromStretch(x + 0.5, y + 0.5, a[0], a[1], b[0], b[1], along), shape.feather * r);
      if (v > alpha[k]!) alpha[k] = v;
    });
  }
}
function coverOutline({ points: given }: Outline, box: Area, size: Size, alpha: Float32Array): void {
  const edge = Math.max(size.width, size.height),
    points = given.map(([x, y, f]) => ({ at: [x * size.width, y * size.height] as Point, feather: f * edge })),
    edges = points.map((p, i) => [p, points[(i + 1) % points.length]!] as const);
  for (let j = 0; j < box.height; j++) {
    // crossings of the row, even and odd (Foley and van Dam)
    const y = box.y + j + 0.5,
      crossings = edges
        .filter(([{ at: a }, { at: b }]) => a[1] <= y !== b[1] <= y)
        .map(([{ at: a }, { at: b }]) => a[0] + ((y - a[1]) / (b[1] - a[1])) * (b[0] - a[0]))
        .sort((p, q) => p - q);
    for (let c = 0; c + 1 < crossings.length; c += 2)
      for (let x = Math.max(box.x, Math.ceil(crossings[c]! - 0.5)); x < Math.min(box.x + box.width, crossings[c + 1]! - 0.5); x++)
        alpha[j * box.width + x - box.x] = 1;
  }
  // only near an edge it matters how far that is, and which feather the nearest place of it has
  const far = new Float32Array(alpha.length).fill(Infinity),
    feather = new Float32Array(alpha.length),
    reach = Math.max(...points.map((p) => p.feather)) + 1;
  for (const [a, b] of edges)
    eachNear(box, a.at, b.at, reach, (x, y, k) => {
      if (alpha[k] === 0) return;
      const along = alongStretch(x + 0.5, y + 0.5, a.at[0], a.at[1], b.at[0], b.at[1]),
        d = fromStretch(x + 0.5, y + 0.5, a.at[0], a.at[1], b.at[0], b.at[1], along);
      if (d >= far[k]!) return;
      far[k] = d;
      feather[k] = a.feather + along * (b.feather - a.feather);
    });
  for (let k = 0; k < alpha.length; k++) if (alpha[k]! > 0 && far[k]! < Infinity) alpha[k] = rise(far[k]! + 0.5, feather[k]!);
}
/** What a shape covers of a plate of this size; null where it lies outside. */
export function coverOf(shape: Shape, size: Size): Cover | null {
  const box = boxOf(shape, size);
  if (!box) return null;
  const alpha = new Float32Array(box.width * box.height);
  if (shape.kind === 'outline') coverOutline(shape, box, size, alpha);
  else coverLine(shape, box, size, alpha);
  return { box, alpha };
}
/** The middle of a shape's bounds, in pixels. */
export function middleOf(shape: Shape, size: Size): [number, number] {
  const xs = pointsOf(shape).map((p) => p[0]!),
    ys = pointsOf(shape).map((p) => p[1]!);
  return [((Math.min(...xs) + Math.max(...xs)) / 2) * size.width, ((Math.min(...ys) + Math.max(...ys)) / 2) * size.height];
}
