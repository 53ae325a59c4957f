import { blend, carve, egg, limb } from '../field.ts';
import { addSurface, addTube, type Mesh, type Point } from '../mesh.ts';
import { noise3, smoothstep } from '../random.ts';
import { beforeFace, faceRings, toPolygon } from './faceShape.ts';
import { hairAt } from './hair.ts';

/** The eyeball of the left side (at +x), metres from the head's own centre. */
const eye: Point = [0.0312, 0.0121, 0.0556],
  eyeRadius = 0.0122,
  /** the model's lids stand half closed */
  lidsOpen = 1.5;

let almond: Point[] | null = null;
/** The opening between the lids, round, as a polygon. */
function lids(): Point[] {
  if (almond) return almond;
  const { upperLid, lowerLid } = faceRings();
  return (almond = [...upperLid, ...lowerLid.slice(1, -1).reverse()].map(([x, y, z]): Point => [x, eye[1] + (y - eye[1]) * lidsOpen, z]));
}
/** Distance to the opening between the lids, negative in it. */
const opening = (p: Point): number => Math.max(toPolygon(Math.abs(p[0]), p[1], lids()), 0.05 - p[2]);

/** The head and neck; with open eyes when seen from near. */
export const faceField =
  (near: boolean) =>
  (q: Point): number => {
    // no face is the same on both sides
    const p: Point = [
      Math.abs(q[0]),
      q[1] + (near ? 0.0009 * Math.sign(q[0]) * smoothstep(0, 0.03, Math.abs(q[0])) : 0),
      q[2] - (near ? 0.0006 * Math.sign(q[0]) * smoothstep(0.01, 0.05, Math.abs(q[0])) : 0),
    ];
    let d = egg(p, [0, 0.03, -0.014], [0.0735, 0.098, 0.09]);
    d = blend(d, egg(p, [0, -0.032, 0.01], [0.052, 0.07, 0.06]), 0.04);
    // the jaw from the ear to the chin
    d = blend(d, limb(p, [0.056, -0.035, -0.012], [0.05, -0.062, 0.006], 0.012, 0.011), 0.02);
    d = blend(d, limb(p, [0.05, -0.062, 0.006], [0.012, -0.097, 0.052], 0.011, 0.012), 0.02);
    d = blend(d, beforeFace(p), 0.006);
    // nostrils
    d = carve(d, limb(p, [0.0052, -0.0305, 0.0885], [0.0078, -0.028, 0.0945], 0.0022, 0.0028), 0.003);
    // ears
    d = blend(d, egg(p, [0.0755, 0.0, -0.014], [0.008, 0.031, 0.018]), 0.007);
    d = carve(d, egg(p, [0.083, 0.002, -0.008], [0.006, 0.018, 0.009]), 0.006);
    d = blend(d, limb(q, [0, -0.07, -0.03], [0, -0.22, -0.034], 0.048, 0.053), 0.022);
    // the two muscles that run from behind the ear to the pit of the neck
    d = blend(d, limb(p, [0.05, -0.06, -0.026], [0.014, -0.21, 0.012], 0.013, 0.01), 0.03);
    if (!near) return d;
    // what is uneven in a living face
    d += 0.0006 * (noise3(q[0] * 60, q[1] * 60, q[2] * 60) - 0.5) + 0.00018 * (noise3(q[0] * 300, q[1] * 300, q[2] * 300) - 0.5);
    if (Math.hypot(p[0] - eye[0], p[1] - eye[1]) > 0.03) return d;
    const inOpening = opening(p);
    return inOpening > 0.012 ? d : carve(d, inOpening, 0.0016);
  };

/** Redness and hair of the face: lips, cheeks, nose, ears and the rims of the eyes redder; brows, lashes and scalp dark. */
export function complexion(q: Point, near: boolean): [number, number] {
  const x = Math.abs(q[0]),
    y = q[1],
    z = q[2];
  const spot = (c: Point, r: number): number => smoothstep(r, r * 0.3, Math.hypot(x - c[0], y - c[1], z - c[2])),
    onFace = z > 0.04,
    lips = onFace ? toPolygon(x, y, lipsRing()) : 1;
  const red = Math.max(
    0.34 * spot([0.042, -0.022, 0.065], 0.045),
    0.4 * spot([0, -0.022, 0.102], 0.024),
    0.7 * spot([0.078, 0, -0.012], 0.035),
    0.95 * smoothstep(0.0009, -0.0016, lips),
    near && onFace ? 0.6 * smoothstep(0.0024, 0.0004, Math.abs(opening(q))) : 0,
  );
  const dark = Math.max(
    onFace ? (near ? 0.42 : 0.75) * smoothstep(0.0015, -0.002, toPolygon(x, y, browRing())) : 0,
    near || !onFace ? 0 : 0.8 * smoothstep(0.0012, -0.0006, toPolygon(x, y, lids())),
    // single hairs make their own line
    near ? hairAt([q[0], y - 0.009, z]) : hairAt(q),
  );
  return [red, dark];
}
/** Lips and brow as polygons; the lips closed at the middle of the face. */
const lipsRing = (): Point[] => faceRings().lips;
function browRing(): Point[] {
  const { upperBrow, lowerBrow } = faceRings();
  return [...upperBrow, ...[...lowerBrow].reverse()];
}

/** Eyeballs that look aside by an angle in radians, and the single hairs of lashes and brows. */
export function addEyes(mesh: Mesh, random: () => number, material: number, hair: number, gaze: number): void {
  const { upperLid, lowerLid, upperBrow, lowerBrow } = faceRings(),
    /** a place along a ring, 0 at the temple, 1 at the nose */
    along = (ring: readonly Point[], t: number): Point => {
      const s = t * (ring.length - 1),
        i = Math.min(ring.length - 2, Math.floor(s)),
        f = s - i;
      return [0, 1, 2].map((k) => ring[i]![k]! * (1 - f) + ring[i + 1]![k]! * f) as unknown as Point;
    };
  for (const side of [1, -1]) {
    addSurface(mesh, 48, 64, material, (u, v) => {
      const a = v * Math.PI,
        w = side * u * 2 * Math.PI,
        // the cornea stands out a little
        r = eyeRadius * (1 + 0.035 * smoothstep(0.5, 0.2, a)),
        [x, z] = [r * Math.sin(a) * Math.cos(w), r * Math.cos(a)];
      return [
        side * eye[0] + x * Math.cos(gaze) + z * Math.sin(gaze),
        eye[1] + r * Math.sin(a) * Math.sin(w),
        eye[2] - x * Math.sin(gaze) + z * Math.cos(gaze),
      ];
    });
    const grow = (root: Point, way: Point, length: number, curl: number, thick: number): void =>
      addTube(
        mesh,
        Array.from({ length: 6 }, (_, k): Point => {
          const t = k / 5;
          return [
            side * (root[0] + way[0] * length * t),
            root[1] + way[1] * length * t + curl * length * t * t,
            root[2] + way[2] * length * (t - 0.3 * t * t),
          ];
        }),
        3,
        hair,
        (t) => thick * (1 - 0.75 * t),
      );
    for (let i = 0; i < 150; i++) {
      const t = 0.04 + 0.86 * random(),
        above = i % 3 !== 0,
        [x, y, z] = along(above ? upperLid : lowerLid, t),
        out = 1 - 2 * t;
      grow(
        [x, eye[1] + (y - eye[1]) * lidsOpen + (above ? 0.0003 : -0.0002), z + 0.0004],
        [0.5 * out, above ? -0.12 : -0.35, 0.8],
        above ? 0.0052 + 0.0022 * random() + 0.0012 * out : 0.0028,
        above ? 0.85 : -0.25,
        above ? 0.00011 : 0.00007,
      );
    }
    for (let i = 0; i < 700; i++) {
      const t = random(),
        across = random(),
        [a, b] = [along(upperBrow, t), along(lowerBrow, t)],
        root = [0, 1, 2].map((k) => a[k]! + (b[k]! - a[k]!) * (0.12 + 0.76 * across)) as unknown as Point,
        // hairs lie out towards the temple; at the nose's end they stand up
        up = 0.75 * t * t + 0.25 * (across - 0.4);
      grow([root[0], root[1], root[2] - 0.0003], [0.8, up, -0.15 - 0.3 * (1 - t)], 0.0055 + 0.003 * random(), -0.25, 0.00017);
    }
  }
}
