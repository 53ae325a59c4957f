import { smoothstep } from '../random.ts';
import type { Point } from '../mesh.ts';
import mesh from './faceMesh.json' with { type: 'json' };

// A face that is nobody's: the canonical face model of MediaPipe (Apache License 2.0; 468 corners, 898 triangles, in cm),
// made smooth by three rounds of Loop's subdivision (1987) and laid round the head's upright axis as a map of radii.

const axisZ = -0.02,
  rounds = 3;
/** The rings of corners of the model's left side (at +x), from the temple inwards: the upper and lower lid, the upper and lower edge of the brow; and the lips round. */
const rings = {
  upperLid: [263, 466, 388, 387, 386, 385, 384, 398, 362],
  lowerLid: [263, 249, 390, 373, 374, 380, 381, 382, 362],
  upperBrow: [300, 293, 334, 296, 336],
  lowerBrow: [276, 283, 282, 295, 285],
  lips: [291, 409, 270, 269, 267, 0, 17, 314, 405, 321, 375],
  mouth: [308, 415, 310, 311, 312, 13],
};
type Rings = Record<keyof typeof rings, Point[]>;

/** One round of Loop's subdivision; corners keep their numbers. */
function subdivided(points: Point[], triangles: number[]): { points: Point[]; triangles: number[] } {
  const edges = new Map<number, { a: number; b: number; opposite: number[]; at: number }>(),
    key = (a: number, b: number): number => Math.min(a, b) * 100000 + Math.max(a, b);
  for (let t = 0; t < triangles.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const [a, b, c] = [0, 1, 2].map((j) => triangles[t + ((k + j) % 3)]!) as [number, number, number],
        edge = edges.get(key(a, b));
      if (edge) edge.opposite.push(c);
      else edges.set(key(a, b), { a, b, opposite: [c], at: points.length + edges.size });
    }
  const mix = (parts: [number, number][]): Point =>
    [0, 1, 2].map((j) => parts.reduce((sum, [i, weight]) => sum + weight * points[i]![j]!, 0)) as unknown as Point;
  const around = points.map(() => ({ all: [] as number[], rim: [] as number[] }));
  for (const { a, b, opposite } of edges.values())
    for (const [from, to] of [
      [a, b],
      [b, a],
    ] as const) {
      around[from]!.all.push(to);
      if (opposite.length === 1) around[from]!.rim.push(to);
    }
  const moved = around.map(({ all, rim }, i) => {
    if (rim.length > 0) return mix([[i, 0.75], ...rim.map((r): [number, number] => [r, 0.25 / rim.length])]);
    const n = all.length,
      beta = n === 3 ? 3 / 16 : 3 / (8 * n);
    return mix([[i, 1 - n * beta], ...all.map((r): [number, number] => [r, beta])]);
  });
  for (const { a, b, opposite } of edges.values())
    moved.push(
      opposite.length === 2
        ? mix([
            [a, 0.375],
            [b, 0.375],
            [opposite[0]!, 0.125],
            [opposite[1]!, 0.125],
          ])
        : mix([
            [a, 0.5],
            [b, 0.5],
          ]),
    );
  const finer: number[] = [];
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = triangles.slice(t, t + 3) as [number, number, number],
      [ab, bc, ca] = [edges.get(key(a, b))!.at, edges.get(key(b, c))!.at, edges.get(key(c, a))!.at];
    finer.push(a, ab, ca, ab, b, bc, ca, bc, c, ab, bc, ca);
  }
  return { points: moved, triangles: finer };
}

/** The map: radius about the head's axis in metres by angle (0 ahead) and height, and how far a place lies within the model's rim. */
const cell = 0.0004,
  perRadian = 0.08,
  low = -0.115,
  wide = 330,
  high = 500;
interface FaceShape {
  rings: Rings;
  radius: Float32Array;
}
function shape(): FaceShape {
  let points = mesh.v.map(([x, y, z]): Point => [x! * 0.01, (y! - 1.45) * 0.01, z! * 0.01 + 0.028]),
    triangles = mesh.f;
  for (let k = 0; k < rounds; k++) ({ points, triangles } = subdivided(points, triangles));
  const flat = points.map(([x, y, z]) => ({
    u: (Math.atan2(x, z - axisZ) * perRadian) / cell,
    v: (y - low) / cell,
    r: Math.hypot(x, z - axisZ),
  }));
  const radius = new Float32Array(wide * high);
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => flat[triangles[t + k]!]!) as [(typeof flat)[0], (typeof flat)[0], (typeof flat)[0]],
      area = (b.u - a.u) * (c.v - a.v) - (c.u - a.u) * (b.v - a.v);
    if (area === 0) continue;
    const from = (k: 'u' | 'v'): number => Math.max(0, Math.ceil(Math.min(a[k], b[k], c[k]))),
      to = (k: 'u' | 'v', end: number): number => Math.min(end - 1, Math.floor(Math.max(a[k], b[k], c[k])));
    for (let v = from('v'); v <= to('v', high); v++)
      for (let u = from('u'); u <= to('u', wide); u++) {
        const wb = ((u - a.u) * (c.v - a.v) - (c.u - a.u) * (v - a.v)) / area,
          wc = ((b.u - a.u) * (v - a.v) - (u - a.u) * (b.v - a.v)) / area,
          wa = 1 - wb - wc;
        if (Math.min(wa, wb, wc) < -1e-6) continue;
        const at = v * wide + u;
        radius[at] = Math.max(radius[at]!, wa * a.r + wb * b.r + wc * c.r);
      }
  }
  // towards its rim the model dives under the skull, which goes on there
  const rim = new Map<number, number>();
  for (let t = 0; t < triangles.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [triangles[t + k]!, triangles[t + ((k + 1) % 3)]!],
        key = Math.min(a, b) * 100000 + Math.max(a, b);
      if (rim.has(key)) rim.delete(key);
      else rim.set(key, a);
    }
  const ends = [...rim.values()].map((i) => flat[i]!).filter((p) => p.u > -1 / cell);
  for (let v = 0; v < high; v++)
    for (let u = 0; u < wide; u++) {
      const at = v * wide + u;
      if (radius[at] === 0) continue;
      let nearest = 1e9;
      for (const p of ends) nearest = Math.min(nearest, (p.u - u) ** 2 + (p.v - v) ** 2);
      radius[at]! -= 0.011 * (1 - smoothstep(0, 0.016, Math.sqrt(nearest) * cell)) ** 2;
    }
  const ringOf = (name: keyof typeof rings): Point[] => rings[name].map((i) => points[i]!);
  return { radius, rings: Object.fromEntries(Object.keys(rings).map((n) => [n, ringOf(n as keyof typeof rings)])) as Rings };
}
let made: FaceShape | null = null;
const faceShape = (): FaceShape => (made ??= shape());

/** The rings of the face's left side, metres from the head's own centre. */
export const faceRings = (): Rings => faceShape().rings;
/** About how far a place lies before the face, in metres; far from it 9. The face is the same on both sides. */
export function beforeFace(p: Point): number {
  const { radius } = faceShape(),
    x = Math.abs(p[0]),
    u = (Math.atan2(x, p[2] - axisZ) * perRadian) / cell,
    v = (p[1] - low) / cell,
    [iu, iv] = [Math.floor(u), Math.floor(v)];
  if (iu < 0 || iv < 0 || iu >= wide - 1 || iv >= high - 1) return 9;
  const at = iv * wide + iu,
    [a, b, c, d] = [radius[at]!, radius[at + 1]!, radius[at + wide]!, radius[at + wide + 1]!];
  if (Math.min(a, b, c, d) === 0) return 9;
  const [fu, fv] = [u - iu, v - iv],
    r = (a + (b - a) * fu) * (1 - fv) + (c + (d - c) * fu) * fv;
  return 0.75 * (Math.hypot(x, p[2] - axisZ) - r);
}
/** Signed distance to a polygon in the plane of x and y, negative inside. */
export function toPolygon(x: number, y: number, ring: readonly Point[]): number {
  let nearest = 1e9,
    inside = false;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const [ax, ay] = ring[j]!,
      [bx, by] = ring[i]!,
      [ex, ey] = [bx - ax, by - ay],
      t = Math.min(1, Math.max(0, ((x - ax) * ex + (y - ay) * ey) / (ex * ex + ey * ey)));
    nearest = Math.min(nearest, Math.hypot(x - ax - ex * t, y - ay - ey * t));
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside ? -nearest : nearest;
}
