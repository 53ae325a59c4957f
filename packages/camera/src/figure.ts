import { addField, type Mesh, type Point } from './mesh.ts';
import { fractal, noise3, smoothstep } from './random.ts';

/** A person of 1.7 m, facing +z before turning. Joints are in the body's own metres, feet at the origin. */
export interface Pose {
  at: Point;
  turn: number;
  headTurn: number;
  headTilt: number;
  lean: number;
  leftElbow: Point; leftHand: Point; rightElbow: Point; rightHand: Point;
}
export interface FigureMaterials { skin: number; scarf: number; shirt: number; apron: number }

const ball = (p: Point, c: Point, r: number): number => Math.hypot(p[0] - c[0], p[1] - c[1], p[2] - c[2]) - r;
function egg(p: Point, c: Point, r: Point): number {
  const x = (p[0] - c[0]) / r[0], y = (p[1] - c[1]) / r[1], z = (p[2] - c[2]) / r[2];
  const k = Math.hypot(x, y, z), g = Math.hypot(x / r[0], y / r[1], z / r[2]);
  return g < 1e-9 ? -Math.min(...r) : (k * (k - 1)) / g;
}
function limb(p: Point, a: Point, b: Point, ra: number, rb: number): number {
  const ab: Point = [b[0] - a[0], b[1] - a[1], b[2] - a[2]], ap: Point = [p[0] - a[0], p[1] - a[1], p[2] - a[2]];
  const t = Math.min(1, Math.max(0, (ap[0] * ab[0] + ap[1] * ab[1] + ap[2] * ab[2]) / (ab[0] ** 2 + ab[1] ** 2 + ab[2] ** 2)));
  return Math.hypot(ap[0] - ab[0] * t, ap[1] - ab[1] * t, ap[2] - ab[2] * t) - (ra + (rb - ra) * t);
}
const blend = (a: number, b: number, k: number): number => {
  const h = Math.max(0, k - Math.abs(a - b)) / k;
  return Math.min(a, b) - h * h * k * 0.25;
};
const carve = (a: number, b: number, k: number): number => -blend(-a, b, k);

function face(q: Point): number {
  const p: Point = [Math.abs(q[0]), q[1], q[2]];
  let d = egg(p, [0, 0.03, -0.012], [0.075, 0.098, 0.092]);
  d = blend(d, egg(p, [0, -0.035, 0.022], [0.06, 0.085, 0.068]), 0.04);
  d = blend(d, ball(p, [0, -0.1, 0.058], 0.02), 0.04);
  d = blend(d, ball(p, [0.04, -0.02, 0.058], 0.024), 0.035);
  d = blend(d, limb(p, [0.048, -0.045, -0.0], [0.02, -0.098, 0.045], 0.017, 0.015), 0.03);
  d = blend(d, limb(p, [0.012, 0.032, 0.083], [0.042, 0.03, 0.066], 0.008, 0.007), 0.02);
  d = carve(d, ball(p, [0.031, 0.012, 0.097], 0.017), 0.018);
  d = blend(d, ball(p, [0.031, 0.011, 0.071], 0.0135), 0.004);
  d = blend(d, limb(p, [0, 0.022, 0.083], [0, -0.022, 0.105], 0.007, 0.011), 0.016);
  d = blend(d, ball(p, [0.012, -0.026, 0.094], 0.0075), 0.008);
  d = blend(d, limb(p, [0, -0.0535, 0.0895], [0.017, -0.0575, 0.081], 0.0055, 0.003), 0.006);
  d = blend(d, limb(p, [0, -0.063, 0.0885], [0.015, -0.0605, 0.081], 0.0065, 0.003), 0.006);
  d = blend(d, egg(p, [0.074, 0.0, -0.008], [0.01, 0.03, 0.018]), 0.01);
  return blend(d, limb(q, [0, -0.08, -0.02], [0, -0.21, -0.035], 0.05, 0.058), 0.035);
}
function scarf(p: Point): number {
  const fold = 0.004 * Math.sin(p[1] * 95 + p[0] * 34 + 6 * noise3(p[0] * 16, p[1] * 16, p[2] * 16)) + 0.004 * noise3(p[0] * 40, p[1] * 40, p[2] * 40);
  const cap = egg(p, [0, 0.036, -0.014], [0.085, 0.107, 0.104]) + fold;
  const edge = 0.055 - p[1] + (p[2] > 0 ? p[2] * 0.12 : p[2] * 0.95);
  const knot = egg(p, [0, -0.045, -0.105], [0.035, 0.03, 0.032]) + fold;
  return Math.min(Math.max(cap, edge), knot);
}
function hand(p: Point, wrist: Point, tip: Point): number {
  const d: Point = [tip[0] - wrist[0], tip[1] - wrist[1], tip[2] - wrist[2]];
  const l = Math.hypot(...d) || 1, f: Point = [d[0] / l, d[1] / l, d[2] / l], s: Point = [f[2], 0, -f[0]];
  const at = (along: number, aside: number, drop = 0): Point => [wrist[0] + f[0] * along + s[0] * aside, wrist[1] + f[1] * along + s[1] * aside - drop, wrist[2] + f[2] * along + s[2] * aside];
  let r = limb(p, at(0.01, 0), at(0.07, 0), 0.026, 0.034);
  for (let i = 0; i < 4; i++) r = blend(r, limb(p, at(0.08, (i - 1.5) * 0.019), at(0.12, (i - 1.5) * 0.018, 0.035), 0.0095, 0.008), 0.008);
  return blend(r, limb(p, at(0.03, 0.03), at(0.085, 0.045, 0.02), 0.011, 0.009), 0.012);
}

/** Adds the person to the mesh. */
export function addFigure(mesh: Mesh, pose: Pose, materials: FigureMaterials): void {
  const part = (low: Point, high: Point, cell: number, origin: Point, turn: number, tilt: number, field: (p: Point) => number, materialAt: (p: Point) => number): void => {
    const start = mesh.positions.length;
    addField(mesh, low, high, cell, field, materialAt);
    for (const list of [mesh.positions, mesh.normals]) {
      for (let i = start; i < list.length; i += 3) {
        let x = list[i]!, y = list[i + 1]!, z = list[i + 2]!;
        [y, z] = [y * Math.cos(tilt) - z * Math.sin(tilt), y * Math.sin(tilt) + z * Math.cos(tilt)];
        [x, z] = [x * Math.cos(turn) + z * Math.sin(turn), -x * Math.sin(turn) + z * Math.cos(turn)];
        if (list === mesh.positions) { x += origin[0]; y += origin[1]; z += origin[2]; }
        [x, z] = [x * Math.cos(pose.turn) + z * Math.sin(pose.turn), -x * Math.sin(pose.turn) + z * Math.cos(pose.turn)];
        const own = list === mesh.positions ? pose.at : [0, 0, 0];
        list[i] = x + own[0]!; list[i + 1] = y + own[1]!; list[i + 2] = z + own[2]!;
      }
    }
  };
  const headAt: Point = [0, 1.58, pose.lean * 1.0 + 0.02];
  part([-0.14, -0.24, -0.17], [0.14, 0.17, 0.14], 0.0034, headAt, pose.headTurn, pose.headTilt,
    (p) => Math.min(face(p), scarf(p)), (p) => (scarf(p) < face(p) + 0.001 ? materials.scarf : materials.skin));
  const leanAt = (p: Point): Point => [p[0], p[1], p[2] - pose.lean * smoothstep(0.85, 1.5, p[1])];
  const elbows = [pose.leftElbow, pose.rightElbow], hands = [pose.leftHand, pose.rightHand];
  const sleeve = (p: Point): number => {
    let d = 9;
    for (let i = 0; i < 2; i++) {
      const shoulder: Point = [i === 0 ? 0.175 : -0.175, 1.36, pose.lean * 0.9], e = elbows[i]!, h = hands[i]!;
      const rolled: Point = [e[0] + (h[0] - e[0]) * 0.28, e[1] + (h[1] - e[1]) * 0.28, e[2] + (h[2] - e[2]) * 0.28];
      d = Math.min(d, blend(limb(p, shoulder, e, 0.062, 0.056), limb(p, e, rolled, 0.056, 0.06), 0.05));
    }
    return d;
  };
  const arms = (p: Point): number => Math.min(...[0, 1].map((i) => {
    const e = elbows[i]!, h = hands[i]!;
    const wrist: Point = [h[0] + (e[0] - h[0]) * 0.28, h[1] + (e[1] - h[1]) * 0.28, h[2] + (e[2] - h[2]) * 0.28];
    return blend(limb(p, e, wrist, 0.042, 0.026), hand(p, wrist, h), 0.02);
  }));
  const torso = (p: Point): number => {
    const q = leanAt(p);
    let d = blend(egg(q, [0, 1.22, 0], [0.175, 0.24, 0.115]), egg(q, [0, 0.95, 0], [0.165, 0.2, 0.13]), 0.1);
    d = blend(d, limb(q, [-0.15, 1.38, 0], [0.15, 1.38, 0], 0.062, 0.062), 0.09);
    const skirt = Math.max(Math.hypot(q[0], q[2] * 1.25) - (0.15 + 0.17 * (1.0 - q[1]) + 0.012 * Math.sin(Math.atan2(q[0], q[2]) * 13)), Math.max(q[1] - 1.0, 0.05 - q[1])) * 0.8;
    return blend(d, skirt, 0.12) + 0.012 * (fractal(q[0] * 9, q[1] * 5, q[2] * 9, 3) - 0.5);
  };
  const clothed = (p: Point): number => blend(torso(p), sleeve(p) + 0.012 * (fractal(p[0] * 13, p[1] * 17, p[2] * 13, 2) - 0.5), 0.03);
  const bib = (p: Point): boolean => {
    const q = leanAt(p);
    return q[2] > 0.035 && q[1] < 1.3 && sleeve(p) > torso(p) + 0.012 && (q[1] < 0.98 || Math.abs(q[0]) < 0.12);
  };
  const xs = [...hands, ...elbows].map((h) => h[0]), zs = [...hands, ...elbows].map((h) => h[2]), ys = hands.map((h) => h[1]);
  part([Math.min(-0.36, ...xs) - 0.12, 0, Math.min(-0.32, ...zs) - 0.12], [Math.max(0.36, ...xs) + 0.12, Math.max(1.48, ...ys) + 0.12, Math.max(0.34, ...zs) + 0.14], 0.0085, [0, 0, 0], 0, 0,
    (p) => Math.min(clothed(p), arms(p)), (p) => (arms(p) < clothed(p) ? materials.skin : bib(p) ? materials.apron : materials.shirt));
}
