import { addTube, unit, type Mesh, type Point } from '../mesh.ts';
import { noise3, normal, smoothstep } from '../random.ts';

const centre: Point = [0, 0.03, -0.012];
const scalp: Point = [0.078, 0.101, 0.096];
const knot: Point = [0, 0.02, -0.128];

/** How much hair grows at a place on the head: 0 face and neck, 1 scalp. Metres from the head's own centre. */
export function hairAt(p: Point): number {
  const front = smoothstep(0.02, 0.075, p[2]),
    back = smoothstep(0, -0.05, p[2]);
  const line = 0.024 + 0.05 * front - 0.105 * back;
  return smoothstep(line - 0.004, line + 0.006, p[1] - 0.012 * noise3(p[0] * 70, p[1] * 70, p[2] * 70));
}

/** Long hair combed back from the hairline and wound into a knot: every strand a thin tube, with strays. */
export function addHair(mesh: Mesh, random: () => number, material: number, strands: number): void {
  const towards = unit([(knot[0] - centre[0]) / scalp[0], (knot[1] - centre[1]) / scalp[1], (knot[2] - centre[2]) / scalp[2]]);
  for (let i = 0, grown = 0; grown < strands && i < strands * 6; i++) {
    const d = unit([normal(random), normal(random), normal(random)]),
      root: Point = [centre[0] + d[0] * scalp[0], centre[1] + d[1] * scalp[1], centre[2] + d[2] * scalp[2]];
    if (hairAt(root) < 0.15 + 0.6 * random()) continue;
    grown++;
    const dot = Math.max(-1, Math.min(1, d[0] * towards[0] + d[1] * towards[1] + d[2] * towards[2])),
      angle = Math.acos(dot);
    const stray = i % 29 === 0 ? 0.016 * random() : 0,
      rise = 0.002 + 0.006 * random(),
      lock = 0.007 * noise3(d[0] * 9, d[1] * 9, d[2] * 9),
      steps = 14,
      phase = random() * 20;
    const path: Point[] = [];
    for (let k = 0; k <= steps; k++) {
      const t = k / steps,
        a = Math.sin((1 - t) * angle),
        b = Math.sin(t * angle),
        s = Math.sin(angle) || 1;
      const q = [0, 1, 2].map((j) => (a * d[j]! + b * towards[j]!) / s);
      const lift = 1 + (rise + lock + stray * Math.sin(t * 3.1)) * 12 * Math.sin(Math.min(1, t * 3) * 1.57) + 0.1 * Math.max(0, t - 0.85);
      const wave = 0.0025 * (1 + 2 * (stray > 0 ? 1 : 0));
      path.push(
        [0, 1, 2].map((j) => centre[j]! + q[j]! * scalp[j]! * lift + wave * (noise3(phase + j * 7, t * 5, j) - 0.5)) as unknown as Point,
      );
    }
    addTube(mesh, path, 3, material, (t) => 0.0007 * (1 - 0.4 * t));
  }
  for (let i = 0; i < strands / 5; i++) {
    const tilt = 0.5 * normal(random),
      r = 0.036 * Math.sqrt(0.25 + 0.75 * random()),
      deep = 0.026 * (random() - 0.5),
      phase = random() * 6.28,
      path: Point[] = [];
    for (let k = 0; k <= 20; k++) {
      const a = phase + (k / 20) * 5.5,
        rr = r * (1 + 0.05 * Math.sin(a * 2 + tilt));
      path.push([
        knot[0] + rr * Math.cos(a),
        knot[1] + rr * Math.sin(a) * 0.95 + 0.006 * tilt,
        knot[2] - 0.012 + deep + 0.012 * Math.sin(a + tilt) * (1 - (r / 0.036) ** 2),
      ]);
    }
    addTube(mesh, path, 3, material, () => 0.0008);
  }
}
