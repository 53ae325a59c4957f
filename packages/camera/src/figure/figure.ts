import { along, blend, carve, egg, limb } from '../field.ts';
import { addEyes, complexion, faceField } from './face.ts';
import { addHair } from './hair.ts';
import { handField, type Hand } from './hand.ts';
import { addField, addLathe, addSurface, emptyMesh, type Mesh, type Point } from '../mesh.ts';
import { fractal, noise3, smoothstep } from '../random.ts';

/** A person of 1.7 m, facing +z before turning. Joints are in the body's own metres, feet at the origin. */
export interface Pose {
  at: Point;
  turn: number;
  headTurn: number;
  headTilt: number;
  lean: number;
  /** left arm (at +x), right arm */
  arms: readonly [Arm, Arm];
  wears: 'knot' | 'kerchief' | 'hat';
  /** where the eyes look, in radians to the body's left of where the head does */
  gaze?: number;
  /** seen from near: open eyes, single hairs of brows and lashes */
  near?: boolean;
}
export interface Arm {
  elbow: Point;
  hand: Hand;
  rolled?: number;
}
export interface FigureMaterials {
  skin: number;
  hair: number;
  scarf: number;
  /** shirt, and apron where u is over a half */ clothes: number;
  /** the eyeballs, of one seen from near */
  eye?: number;
}

/** A kerchief over the hair, pulled back in folds to a knot at the nape. */
function kerchief(p: Point): number {
  const around = Math.atan2(p[0], p[1] + 0.04),
    back = smoothstep(0.07, -0.1, p[2]);
  const fold =
    0.0035 * (1 - Math.abs(2 * noise3(around * 7, p[2] * 9, 3) - 1)) * (0.4 + 1.5 * back) +
    0.0025 * noise3(p[0] * 60, p[1] * 60, p[2] * 30);
  const cap = egg(p, [0, 0.034, -0.018], [0.084, 0.106, 0.106]) + 0.004 - fold;
  const line = 0.04 + 0.045 * smoothstep(0, 0.075, p[2]) - 0.1 * smoothstep(0.01, -0.07, p[2]);
  const tie = Math.min(
    egg(p, [0, -0.05, -0.118], [0.02, 0.015, 0.014]),
    limb(p, [0.006, -0.05, -0.118], [0.026, -0.14, -0.125], 0.006, 0.015),
    limb(p, [-0.006, -0.05, -0.118], [-0.012, -0.155, -0.12], 0.006, 0.016),
  );
  return Math.min(Math.max(cap, line - p[1]), tie + 0.6 * fold);
}
/** A straw hat with a worn, waving brim. */
function addHat(mesh: Mesh, material: number, band: number): void {
  addSurface(mesh, 120, 40, material, (u, v) => {
    const a = u * 2 * Math.PI,
      t = v,
      r = t < 0.45 ? 0.098 * Math.pow(t / 0.45, 0.5) : 0.1 + 0.13 * ((t - 0.45) / 0.55);
    const y =
      t < 0.45
        ? 0.155 - 0.075 * Math.pow(t / 0.45, 3)
        : 0.08 - 0.05 * ((t - 0.45) / 0.55) ** 1.4 + 0.02 * Math.max(0, t - 0.45) * (Math.sin(2 * a + 0.6) + 0.8 * Math.sin(3 * a + 2));
    return [Math.sin(a) * r * 0.95, y + 0.01, -0.012 + Math.cos(a) * r * 1.08];
  });
  addLathe(
    mesh,
    [0, 0.01, -0.012],
    [
      [0.1, 0.082],
      [0.1035, 0.086],
      [0.1025, 0.112],
      [0.099, 0.116],
    ],
    72,
    band,
  );
}

const ridge = (n: number): number => 1 - Math.abs(2 * n - 1);

/** Adds the person to the mesh. */
export function addFigure(mesh: Mesh, random: () => number, pose: Pose, materials: FigureMaterials & { straw?: number }): void {
  const append = (piece: Mesh, origin: Point, turn: number, tilt: number): void => {
    const base = mesh.positions.length / 3;
    for (const name of ['positions', 'normals'] as const) {
      const list = piece[name];
      for (let i = 0; i < list.length; i += 3) {
        let x = list[i]!,
          y = list[i + 1]!,
          z = list[i + 2]!;
        [y, z] = [y * Math.cos(tilt) - z * Math.sin(tilt), y * Math.sin(tilt) + z * Math.cos(tilt)];
        [x, z] = [x * Math.cos(turn) + z * Math.sin(turn), -x * Math.sin(turn) + z * Math.cos(turn)];
        if (name === 'positions') {
          x += origin[0];
          y += origin[1];
          z += origin[2];
        }
        [x, z] = [x * Math.cos(pose.turn) + z * Math.sin(pose.turn), -x * Math.sin(pose.turn) + z * Math.cos(pose.turn)];
        const own = name === 'positions' ? pose.at : [0, 0, 0];
        mesh[name].push(x + own[0]!, y + own[1]!, z + own[2]!);
      }
    }
    for (const v of piece.uvs) mesh.uvs.push(v);
    for (const v of piece.index) mesh.index.push(v + base);
    for (const v of piece.material) mesh.material.push(v);
  };

  const headAt: Point = [0, 1.57, pose.lean + 0.035],
    head = emptyMesh();
  const face = faceField(pose.near ?? false);
  const covered = (p: Point): number => (pose.wears === 'kerchief' ? kerchief(p) : 9);
  addField(
    head,
    [-0.15, -0.25, -0.17],
    [0.15, 0.17, 0.14],
    pose.near ? 0.0014 : 0.0029,
    (p) => Math.min(face(p), covered(p)),
    (p) => (covered(p) < face(p) + 0.001 ? materials.scarf : materials.skin),
    (p) => complexion(p, pose.near ?? false),
  );
  if (pose.near) addEyes(head, random, materials.eye!, materials.hair, pose.gaze ?? 0);
  if (pose.wears !== 'kerchief') addHair(head, random, materials.hair, pose.near ? 16000 : 4200);
  if (pose.wears === 'hat') addHat(head, materials.straw ?? materials.scarf, materials.scarf);
  append(head, headAt, pose.headTurn, pose.headTilt);

  for (const { elbow, hand } of pose.arms) {
    const piece = emptyMesh(),
      field = handField(elbow, hand),
      ends = [elbow, hand.wrist, hand.wrist.map((v, k) => v + hand.forward[k]! * 0.2) as unknown as Point];
    const low = [0, 1, 2].map((k) => Math.min(...ends.map((e) => e[k]!)) - 0.075) as unknown as Point,
      high = [0, 1, 2].map((k) => Math.max(...ends.map((e) => e[k]!)) + 0.075) as unknown as Point;
    addField(piece, low, high, 0.0027, field.distance, () => materials.skin, field.tone);
    append(piece, [0, 0, 0], 0, 0);
  }

  const straight = (p: Point): Point => [p[0], p[1], p[2] - pose.lean * smoothstep(0.85, 1.5, p[1])];
  const shoulders: Point[] = [
    [0.168, 1.375, pose.lean * 0.92 - 0.005],
    [-0.168, 1.375, pose.lean * 0.92 - 0.005],
  ];
  const creases = (p: Point, a: Point, b: Point, near: number): number => {
    const l = Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]),
      s = ((p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1]) + (p[2] - a[2]) * (b[2] - a[2])) / (l * l);
    const warp = 0.25 * noise3(p[0] * 14, p[1] * 14, p[2] * 14);
    return (
      (0.011 * Math.exp(-(((s - near) / 0.38) ** 2)) + 0.003) *
      (ridge(noise3(s * l * 34 + warp * 5, (p[0] - a[0]) * 7 + 3, (p[2] - a[2]) * 7)) ** 2 - 0.3)
    );
  };
  const sleeve = (p: Point): number => {
    let d = 9;
    for (let i = 0; i < 2; i++) {
      const { elbow, hand, rolled = 0.3 } = pose.arms[i]!,
        s = shoulders[i]!,
        w = hand.wrist;
      const cuff = [0, 1, 2].map((k) => elbow[k]! + (w[k]! - elbow[k]!) * rolled) as unknown as Point;
      const roll = [0, 1, 2].map((k) => elbow[k]! + (w[k]! - elbow[k]!) * (rolled - 0.09)) as unknown as Point;
      const upper = limb(p, s, elbow, 0.066, 0.056) - creases(p, s, elbow, 0.95),
        lower = limb(p, elbow, cuff, 0.055, 0.052) - creases(p, elbow, cuff, 0.1);
      d = Math.min(
        d,
        blend(blend(upper, lower, 0.03), limb(p, roll, cuff, 0.055, 0.058) - 0.003 * noise3(p[0] * 70, p[1] * 70, p[2] * 70), 0.006),
      );
    }
    return d;
  };
  const torso = (p: Point): number => {
    const q = straight(p),
      a = Math.atan2(q[0], q[2]);
    let d = blend(egg(q, [0, 1.2, 0.005], [0.165, 0.25, 0.112]), egg(q, [0, 0.97, 0], [0.158, 0.19, 0.125]), 0.1);
    d = blend(d, limb(q, [-0.14, 1.385, -0.008], [0.14, 1.385, -0.008], 0.058, 0.058), 0.1);
    d = blend(d, limb(q, [0, 1.38, -0.01], [0, 1.46, 0], 0.085, 0.058), 0.05);
    const drape = ridge(noise3(a * 4.2 + 0.4 * noise3(q[0] * 6, q[1] * 3, 8), q[1] * 1.6, 5)) ** 1.5;
    const skirt =
      Math.max(
        Math.hypot(q[0], q[2] * 1.2) - (0.15 + 0.15 * (1.02 - q[1]) + (0.012 + 0.05 * Math.max(0, 0.95 - q[1])) * drape),
        Math.max(q[1] - 1.02, 0.05 - q[1]),
      ) * 0.8;
    // drawn in at the waist by the apron's string, with creases above it
    const waist = 0.016 * Math.exp(-(((q[1] - 1.03) / 0.035) ** 2));
    const chest = 0.011 * (ridge(noise3(q[0] * 11 + q[1] * 9, q[1] * 7 - q[0] * 4, q[2] * 12)) ** 2 - 0.4) * smoothstep(1.46, 1.36, q[1]);
    return blend(d, skirt, 0.1) + waist - chest;
  };
  const cloth = (p: Point): number => {
    const t = torso(p),
      s = sleeve(p);
    return t > 0.2 && s > 0.2 ? Math.min(t, s) : blend(t, s, 0.035) + 0.003 * (fractal(p[0] * 26, p[1] * 22, p[2] * 26, 2) - 0.5);
  };
  /** Distance to the edge of the apron over the body, below zero where it lies. */
  const bib = (p: Point): number => {
    const q = straight(p),
      half = q[1] > 1.03 ? 0.115 + 0.02 * (1.33 - q[1]) : 0.115 + 0.9 * Math.min(0.1, 1.03 - q[1]) + 0.05 * (1.03 - q[1]),
      wavy = 0.006 * noise3(q[1] * 9, q[0] > 0 ? 3 : 8, 1);
    // over the shoulders and, drawing together, down the back to the string
    const back = q[2] < 0.02 && q[1] < 1.36 ? 0.022 + 0.078 * smoothstep(1.02, 1.36, q[1]) : 0.1 - 0.25 * Math.max(0, q[1] - 1.33);
    const strap = q[1] > 1.3 || q[2] < 0.02 ? Math.max(Math.abs(Math.abs(q[0]) - back) - 0.013, 1.035 - q[1]) : 9,
      string = Math.abs(q[1] - 1.032) - 0.013;
    const front = q[2] > 0.02 ? Math.max(Math.abs(q[0]) - half + wavy, q[1] - 1.33) : 9;
    return Math.max(Math.min(front, strap, string), torso(p) - sleeve(p) + 0.01);
  };
  // the opening at the neck, and room for the forearms in the rolled sleeves
  const hollow = (p: Point): number => {
    const q = straight(p);
    let d = limb(q, [0, 1.43, 0.03], [0, 1.6, 0.03], 0.052, 0.07);
    for (const { elbow, hand, rolled = 0.3 } of pose.arms) {
      const inside = along(p, elbow, hand.wrist);
      if (inside.t > rolled - 0.12) d = Math.min(d, inside.distance - 0.047);
    }
    return d;
  };
  const ends = pose.arms.flatMap((a) => [a.elbow, a.hand.wrist]),
    body = emptyMesh();
  const low: Point = [Math.min(-0.36, ...ends.map((e) => e[0] - 0.1)), 0.04, Math.min(-0.32, ...ends.map((e) => e[2] - 0.1))];
  const high: Point = [
    Math.max(0.36, ...ends.map((e) => e[0] + 0.1)),
    Math.max(1.5, ...ends.map((e) => e[1] + 0.1)),
    Math.max(0.36, ...ends.map((e) => e[2] + 0.1)),
  ];
  addField(
    body,
    low,
    high,
    0.0055,
    (p) => {
      const c = cloth(p);
      return c > 0.05 ? c : carve(c - 0.004 * smoothstep(0.003, -0.003, bib(p)), hollow(p), 0.006);
    },
    () => materials.clothes,
    (p) => [cloth(p) < 0.03 ? Math.min(1, Math.max(0, 0.5 - 25 * bib(p))) : 0, 0],
  );
  append(body, [0, 0, 0], 0, 0);
}
