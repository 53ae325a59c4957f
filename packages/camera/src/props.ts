import { patchReflectances } from './chart.ts';
import { blades, chartBoard, solid, type Paint } from './materials.ts';
import { add, addQuad, addSurface, addTube, subtract, unit, cross, type Mesh, type Point } from './mesh.ts';
import { noise3, normal } from './random.ts';
import type { Material } from './scene.ts';

/** Sorts of things there are in a scene, beside the sky. */
export type Thing = 'figure' | 'skin' | 'foliage' | 'light' | 'cloth' | 'ground';
/** A mesh and its materials while a scene is being built. */
export interface Stage {
  mesh: Mesh;
  materials: Material[];
  /** what each material makes */
  things: Thing[];
  random: () => number;
  /** Where the chart stands, for the truth file: the board's corner and edges in scene metres. */
  chart: { corner: Point; edge1: Point; edge2: Point; cardCorner: Point; cardEdge1: Point; cardEdge2: Point } | null;
}
export function use(stage: Stage, material: Material, thing: Thing = 'ground'): number {
  stage.materials.push(material);
  stage.things.push(thing);
  return stage.materials.length - 1;
}

/** The 24-patch chart (0.29 × 0.2 m) and a grey card beside it, facing `towards`. */
export function addChart(stage: Stage, foot: Point, towards: Point, size = 1): void {
  const face = unit(subtract(towards, foot)),
    side = unit(cross([0, 1, 0], face)),
    up = unit(cross(face, side));
  const patches = patchReflectances();
  const edge1: Point = [side[0] * 0.3 * size, side[1] * 0.3 * size, side[2] * 0.3 * size],
    edge2: Point = [up[0] * 0.2 * size, up[1] * 0.2 * size, up[2] * 0.2 * size];
  const corner = add(foot, side, -0.26 * size),
    cardCorner = add(foot, side, 0.07 * size);
  const cardEdge1: Point = [side[0] * 0.16 * size, side[1] * 0.16 * size, side[2] * 0.16 * size];
  addQuad(stage.mesh, corner, edge1, edge2, use(stage, chartBoard(patches)));
  addQuad(stage.mesh, cardCorner, cardEdge1, edge2, use(stage, solid(patches[24]!)));
  stage.chart = { corner, edge1, edge2, cardCorner, cardEdge1, cardEdge2: edge2 };
}

/** A hank of yarn hanging from a peg: a long loop of many strands with strays. */
export function addHank(stage: Stage, peg: Point, drop: number, width: number, strands: number, material: number, turn = 0): void {
  const { random } = stage,
    seed = random() * 100;
  for (let i = 0; i < strands; i++) {
    const r = 0.036 * Math.sqrt(random()) * (i % 23 === 0 ? 1.35 : 1),
      a = 2 * Math.PI * random(),
      slack = 1 + 0.02 * normal(random) + (i % 17 === 0 ? 0.03 : 0),
      phase = random();
    const path: Point[] = [];
    const steps = 84;
    for (let k = 0; k <= steps; k++) {
      const t = (k / steps + phase) * 2 * Math.PI,
        s = Math.sin(t),
        c = Math.cos(t);
      const twist = a + 1.6 * (1 - c) + 0.5 * noise3(seed, c * 2 + i * 0.13, s);
      const narrow = width * (0.55 + 0.45 * Math.sin(((1 - c) / 2) * Math.PI * 0.8));
      const wob = 0.004 * (noise3(i * 1.7, t * 2.2, seed) - 0.5);
      const x = narrow * Math.sign(s) * Math.pow(Math.abs(s), 0.55) + r * Math.cos(twist) + wob;
      const z = r * Math.sin(twist) * 0.85 + wob + 0.03;
      path.push([
        peg[0] + x * Math.cos(turn) + z * Math.sin(turn),
        peg[1] - ((1 - c) / 2) * drop * slack + r * 0.6 * c * Math.sin(twist),
        peg[2] - x * Math.sin(turn) + z * Math.cos(turn),
      ]);
    }
    addTube(stage.mesh, path, 5, material, () => 0.0019);
  }
}

/** A ball of wound yarn or a heap of loose loops lying on a table. */
export function addBallOfYarn(stage: Stage, centre: Point, radius: number, turns: number, material: number): void {
  const { random } = stage;
  for (let i = 0; i < turns; i++) {
    const n = unit([normal(random), normal(random), normal(random)]),
      a = unit(cross(n, [0.31, 0.9, 0.2])),
      b = cross(n, a),
      r = radius * (0.94 + 0.06 * random()),
      off = (random() - 0.5) * radius * 0.9,
      rr = Math.sqrt(Math.max(0, r * r - off * off));
    const path: Point[] = [];
    for (let k = 0; k <= 40; k++) {
      const t = (k / 40) * 2 * Math.PI;
      path.push(add(add(add(centre, n, off), a, rr * Math.cos(t)), b, rr * Math.sin(t)));
    }
    addTube(stage.mesh, path, 5, material, () => 0.0021);
  }
}

/** Grass over a patch of ground: single bent blades standing on `ground(x, z)`. */
export function addGrass(
  stage: Stage,
  count: number,
  area: (random: () => number) => readonly [number, number],
  ground: (x: number, z: number) => number,
  height: number,
  low: Paint,
  high: Paint,
): void {
  const material = use(stage, blades(low, high), 'foliage');
  const { random } = stage;
  for (let i = 0; i < count; i++) {
    const [x, z] = area(random),
      y = ground(x, z),
      h = height * (0.45 + 0.9 * random()) * (0.5 + noise3(x * 0.8, 3, z * 0.8)),
      bend = h * (0.2 + 0.6 * random()),
      angle = 2 * Math.PI * random(),
      w = 0.0035 + 0.003 * random();
    const ca = Math.cos(angle),
      sa = Math.sin(angle);
    addSurface(stage.mesh, 1, 2, material, (u, v) => [
      x + ca * bend * v * v + (u - 0.5) * w * (1 - v * 0.9) * sa,
      y + h * v,
      z + sa * bend * v * v - (u - 0.5) * w * (1 - v * 0.9) * ca,
    ]);
  }
}
