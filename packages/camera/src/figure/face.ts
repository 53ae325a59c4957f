import { ball, blend, carve, egg, limb } from '../field.ts';
import { addSurface, addTube, type Mesh, type Point } from '../mesh.ts';
import { noise3, smoothstep } from '../random.ts';
import { hairAt } from './hair.ts';

/** The eyeball of the left side (at +x), metres from the head's own centre. */
const eye: Point = [0.031, 0.0105, 0.0685],
  eyeRadius = 0.0122;

/** Height of the lids' edges over the eye's middle at a distance from it towards the temple; the opening is almond shaped. */
function lidsAt(x: number): { upper: number; lower: number } {
  const t = (x - eye[0]) / 0.0138,
    arch = Math.max(0, 1 - t * t);
  return { upper: eye[1] + 0.0047 * arch ** 0.75 + 0.0006 * t, lower: eye[1] - 0.0037 * arch ** 0.85 + 0.0006 * t };
}
/** Distance to the opening between the lids, negative in it. */
function opening(p: Point): number {
  const { upper, lower } = lidsAt(p[0]);
  return Math.max(Math.max(p[1] - upper, lower - p[1]), 0.062 - p[2], Math.abs(p[0] - eye[0]) - 0.0138);
}

/** The head and neck; with open eyes when seen from near. */
export const faceField =
  (near: boolean) =>
  (q: Point): number => {
    // no face is the same on both sides
    const p: Point = [
      Math.abs(q[0]) * (near ? 1.07 : 1),
      q[1] + (near ? 0.0012 * Math.sign(q[0]) * smoothstep(0, 0.03, Math.abs(q[0])) : 0),
      q[2],
    ];
    let d = egg(p, [0, 0.03, -0.012], [0.074, 0.098, 0.092]);
    d = blend(d, egg(p, [0, -0.035, 0.02], [0.056, 0.084, 0.066]), 0.04);
    d = blend(d, ball(p, [0, -0.101, near ? 0.061 : 0.056], 0.018), 0.04);
    d = blend(d, ball(p, [0.038, -0.02, 0.055], 0.024), 0.035);
    d = blend(d, limb(p, [0.047, -0.045, -0.005], [0.018, -0.099, 0.044], 0.015, 0.014), 0.03);
    d = blend(d, limb(p, [0.012, 0.03, 0.08], [0.042, 0.03, 0.064], 0.007, 0.006), 0.024);
    d = carve(d, ball(p, [0.031, 0.012, 0.095], 0.016), 0.02);
    d = blend(d, egg(p, [0.031, 0.011, 0.07], [0.015, 0.0105, 0.0125]), 0.005);
    d = blend(d, limb(p, [0, 0.02, 0.079], [0, -0.02, 0.1], 0.006, 0.0095), 0.018);
    d = blend(d, ball(p, [0.0105, -0.0245, 0.089], 0.0068), 0.008);
    // nostrils, the groove above the lip, the lips with their corners
    d = carve(d, egg(p, [0.0064, -0.032, 0.0895], [0.0024, 0.002, 0.004]), 0.004);
    d = carve(d, limb(p, [0, -0.037, 0.0925], [0, -0.049, 0.0895], 0.0018, 0.0026), 0.006);
    d = blend(d, limb(p, [0.004, -0.0535, 0.0835], [0.0245, -0.0587, 0.0765], 0.0046, 0.0022), 0.007);
    d = blend(d, limb(p, [0, -0.0648, 0.083], [0.0205, -0.0612, 0.0775], 0.0056, 0.0026), 0.007);
    d = carve(d, limb(p, [0, -0.0588, 0.0885], [0.025, -0.0593, 0.0785], 0.0007, 0.0005), 0.0024);
    d = blend(d, egg(p, [0.076, 0.0, -0.012], [0.009, 0.031, 0.019]), 0.009);
    d = carve(d, egg(p, [0.084, 0.002, -0.006], [0.006, 0.018, 0.009]), 0.006);
    d = blend(d, limb(q, [0, -0.08, -0.022], [0, -0.22, -0.03], near ? 0.046 : 0.05, 0.05), near ? 0.02 : 0.035);
    // the two muscles that run from behind the ear to the pit of the neck
    d = blend(d, limb(p, [0.05, -0.06, -0.02], [0.014, -0.21, 0.012], 0.014, 0.011), 0.03);
    if (!near) return d;
    // the fold of the upper lid and what is uneven in a living face
    d = carve(d, limb(p, [0.019, 0.0182, 0.0835], [0.042, 0.0175, 0.0765], 0.0012, 0.0012), 0.004);
    d += 0.0007 * (noise3(q[0] * 60, q[1] * 60, q[2] * 60) - 0.5) + 0.0002 * (noise3(q[0] * 300, q[1] * 300, q[2] * 300) - 0.5);
    const inOpening = opening(p);
    return inOpening > 0.012 ? d : carve(d, inOpening, 0.0016);
  };

/** Redness and hair of the face: lips, cheeks, nose, ears and the rims of the eyes redder; brows, lashes and scalp dark. */
export function complexion(q: Point, near: boolean): [number, number] {
  const x = Math.abs(q[0]),
    y = q[1],
    z = q[2],
    p: Point = [x, y, z];
  const spot = (c: Point, r: number): number => smoothstep(r, r * 0.3, Math.hypot(x - c[0], y - c[1], z - c[2]));
  const lips = Math.min(
    limb(p, [0, -0.0547, 0.0868], [0.0242, -0.0589, 0.0782], 0.0048, 0.0014),
    limb(p, [0, -0.0638, 0.0868], [0.0215, -0.0607, 0.0792], 0.006, 0.0016),
  );
  const red = Math.max(
    0.3 * spot([0.042, -0.025, 0.07], 0.045),
    0.4 * spot([0, -0.02, 0.105], 0.022),
    0.7 * spot([0.078, 0, -0.012], 0.035),
    smoothstep(0.0022, -0.0006, lips),
    near ? 0.7 * smoothstep(0.0022, 0.0004, Math.abs(opening(p))) * smoothstep(0.06, 0.066, z) : 0,
  );
  const dark = Math.max(
    (near ? 0.3 : 0.8) * smoothstep(0.004, 0, limb(p, [0.016, 0.029, 0.084], [0.046, 0.03, 0.064], 0.0035, 0.002)),
    near ? 0 : 0.75 * smoothstep(0.0032, 0, limb(p, [0.02, 0.009, 0.082], [0.043, 0.0085, 0.073], 0.0022, 0.0015)),
    hairAt(q),
  );
  return [red, dark];
}

/** Eyeballs that look ahead, and the single hairs of lashes and brows. */
export function addEyes(mesh: Mesh, random: () => number, material: number, hair: number): void {
  for (const side of [1, -1]) {
    addSurface(mesh, 48, 64, material, (u, v) => {
      const a = v * Math.PI,
        w = side * u * 2 * Math.PI,
        // the cornea stands out a little
        r = eyeRadius * (1 + 0.035 * smoothstep(0.5, 0.2, a));
      return [side * eye[0] + r * Math.sin(a) * Math.cos(w), eye[1] + r * Math.sin(a) * Math.sin(w), eye[2] + r * Math.cos(a)];
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
    for (let i = 0; i < 110; i++) {
      const x = eye[0] + 0.0132 * (2 * random() - 1),
        { upper, lower } = lidsAt(x),
        out = (x - eye[0]) / 0.0138,
        above = i % 4 !== 0,
        y = above ? upper + 0.0004 : lower - 0.0003,
        z = eye[2] + Math.sqrt(Math.max(0, eyeRadius ** 2 - (x - eye[0]) ** 2 - (y - eye[1]) ** 2)) + 0.001;
      grow([x, y, z], [0.45 * out, above ? 0.05 : -0.3, 0.8], above ? 0.0055 + 0.002 * random() : 0.003, above ? 0.9 : -0.3, 0.00011);
    }
    for (let i = 0; i < 340; i++) {
      const t = random(),
        x = 0.014 + 0.036 * t,
        y = 0.0285 + 0.005 * Math.sin(t * 2.2) - 0.004 * t * t + 0.0052 * (random() - 0.5) * (1 - 0.6 * t),
        z = 0.0925 - 0.0035 * t - 0.0165 * t * t;
      grow([x, y, z - 0.0035], [0.75 + 0.2 * t, 0.55 * (1 - 1.4 * t), 0.2 - 0.5 * t], 0.006 + 0.003 * random(), -0.2, 0.00016);
    }
  }
}
