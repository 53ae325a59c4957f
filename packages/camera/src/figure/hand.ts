import { along, ball, blend, egg, limb } from '../field.ts';
import { add, cross, unit, type Point } from '../mesh.ts';
import { smoothstep } from '../random.ts';

/**
 * A hand at the end of a forearm. `forward` runs from wrist to knuckles, `back` out of the back of the hand,
 * `thumb` is +1 when the thumb lies towards forward × back, `curl` 0 is flat and 1 a fist.
 */
export interface Hand {
  wrist: Point;
  forward: Point;
  back: Point;
  thumb: 1 | -1;
  curl: number;
}
interface Bone {
  from: Point;
  to: Point;
  r0: number;
  r1: number;
  nail: boolean;
}

/** The bones of four fingers and a thumb (common proportions of a hand 0.18 m long). */
export function bonesOf(hand: Hand): Bone[] {
  const f = unit(hand.forward),
    n = unit(add(hand.back, f, -(hand.back[0] * f[0] + hand.back[1] * f[1] + hand.back[2] * f[2])));
  const s = unit(cross(f, n)).map((v) => v * hand.thumb) as unknown as Point,
    c = hand.curl;
  const at = (a: number, b: number, d: number): Point =>
    [0, 1, 2].map((k) => hand.wrist[k]! + f[k]! * a + s[k]! * b + n[k]! * d) as unknown as Point;
  const towards = (angle: number, aside: number): Point =>
    unit([0, 1, 2].map((k) => f[k]! * Math.cos(angle) - n[k]! * Math.sin(angle) + s[k]! * aside) as unknown as Point);
  const bones: Bone[] = [];
  const fingers = [
    [0.028, 0.088, 0.96, 0.07],
    [0.0095, 0.093, 1.06, 0.02],
    [-0.0095, 0.089, 1, -0.03],
    [-0.028, 0.079, 0.8, -0.1],
  ] as const;
  fingers.forEach(([aside, length, size, splay], i) => {
    let from = at(length, aside, -0.002 * Math.abs(i - 1.3)),
      angle = 0.15 + c * (1.15 + 0.06 * i);
    const spread = splay * (1 - c);
    for (const [j, [l, r0, r1]] of (
      [
        [0.043, 0.0098, 0.0086],
        [0.026, 0.0087, 0.0078],
        [0.02, 0.0078, 0.006],
      ] as const
    ).entries()) {
      const to = add(from, towards(angle, spread), l * size);
      bones.push({ from, to, r0: r0 * (i === 3 ? 0.87 : 1), r1: r1 * (i === 3 ? 0.87 : 1), nail: j === 2 });
      from = to;
      angle += 0.2 + c * (j === 0 ? 1.45 : 0.85);
    }
  });
  let from = at(0.022, 0.026, -0.012);
  const ways: Point[] = [
    towards(0.5 + 0.35 * c, 0.75 - 0.35 * c),
    towards(0.45 + 0.75 * c, 0.35 - 0.55 * c),
    towards(0.5 + 0.85 * c, 0.15 - 0.75 * c),
  ];
  for (const [j, [l, r0, r1]] of (
    [
      [0.042, 0.0145, 0.0115],
      [0.03, 0.0112, 0.0098],
      [0.024, 0.0098, 0.0068],
    ] as const
  ).entries()) {
    const to = add(from, ways[j]!, l);
    bones.push({ from, to, r0, r1, nail: j === 2 });
    from = to;
  }
  return bones;
}

/** Distance to the forearm and hand; and how red (knuckles, tips) and how much of a nail the place is. */
export function handField(elbow: Point, hand: Hand): { distance: (p: Point) => number; tone: (p: Point) => [number, number] } {
  const bones = bonesOf(hand),
    f = unit(hand.forward),
    n = unit(add(hand.back, f, -(hand.back[0] * f[0] + hand.back[1] * f[1] + hand.back[2] * f[2]))),
    s = cross(f, n);
  const at = (a: number, b: number, d: number): Point =>
    [0, 1, 2].map((k) => hand.wrist[k]! + f[k]! * a + s[k]! * hand.thumb * b + n[k]! * d) as unknown as Point;
  const muscle: Point = [0, 1, 2].map((k) => elbow[k]! + (hand.wrist[k]! - elbow[k]!) * 0.3) as unknown as Point;
  const knuckles = bones.filter((_, i) => i % 3 === 0 && i < 12).map((b) => b.from);
  const joints = bones.filter((_, i) => i % 3 !== 0).map((b) => b.from);
  const heel = [at(-0.02, 0, 0), at(-0.03, 0.008, 0), at(0.01, 0.008, 0), at(-0.03, -0.01, 0.003), at(0.01, -0.01, 0.003)] as const,
    middle = at(0.1, 0, 0);
  const rays = [-1.5, -0.5, 0.5, 1.5].map((i) => [at(0.01, i * 0.012, 0), at(0.085, i * 0.019, 0)] as const),
    root = at(0.012, 0, 0.0155);
  const humps = knuckles.map((k) => add(k, n, 0.002)),
    cords = knuckles.map((k) => add(k, n, 0.0075));
  const palm = [at(0.05, 0, -0.004), at(0.03, 0.02, -0.014), at(0.045, -0.024, -0.01)] as const;
  return {
    distance: (p) => {
      let d = blend(limb(p, elbow, muscle, 0.04, 0.043), limb(p, muscle, heel[0], 0.043, 0.027), 0.02);
      d = blend(d, limb(p, heel[1], heel[2], 0.021, 0.021), 0.02);
      d = blend(d, limb(p, heel[3], heel[4], 0.02, 0.02), 0.02);
      if (along(p, hand.wrist, middle).distance > 0.16) return d;
      for (const [a, b] of rays) d = blend(d, limb(p, a, b, 0.0165, 0.0125), 0.014);
      d = blend(d, ball(p, palm[0], 0.016), 0.02);
      d = blend(d, egg(p, palm[1], [0.018, 0.018, 0.018]), 0.018);
      d = blend(d, ball(p, palm[2], 0.015), 0.016);
      for (const k of humps) d = blend(d, ball(p, k, 0.0105), 0.009);
      let fingers = 9;
      for (let i = 0; i < bones.length; i += 3) {
        let one = 9;
        for (let j = 0; j < 3; j++) {
          const b = bones[i + j]!;
          one = blend(one, limb(p, b.from, b.to, b.r0, b.r1), 0.003);
        }
        fingers = blend(fingers, one, 0.0025);
      }
      for (const j of joints) fingers = blend(fingers, ball(p, j, 0.0086), 0.002);
      // tendons on the back of the hand
      for (const k of cords) d = blend(d, limb(p, root, k, 0.002, 0.0026), 0.008);
      return blend(d, fingers, 0.009);
    },
    tone: (p) => {
      let red = 0,
        nail = 0;
      for (const k of [...knuckles, ...joints]) red = Math.max(red, smoothstep(0.02, 0.008, ball(p, k, 0)));
      for (const b of bones)
        if (b.nail) {
          const { t, distance } = along(p, b.from, b.to);
          if (distance > 0.02) continue;
          red = Math.max(red, 0.8 * smoothstep(0.3, 1, t) * smoothstep(0.014, 0.008, distance));
          const way = unit(add(b.to, b.from, -1)),
            up = unit(add(n, way, -(n[0] * way[0] + n[1] * way[1] + n[2] * way[2])));
          const lift = (p[0] - b.to[0]) * up[0] + (p[1] - b.to[1]) * up[1] + (p[2] - b.to[2]) * up[2];
          if (t > 0.45 && lift > 0.0042) nail = Math.max(nail, smoothstep(0.45, 0.6, t));
        }
      return [red, -nail];
    },
  };
}
