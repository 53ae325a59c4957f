import { cross, unit } from './mesh.ts';
import type { Lamp } from './scene.ts';

/** A direction toward a lamp, how far it is, and the solid angle that the sample stands for. */
export interface Toward {
  x: number;
  y: number;
  z: number;
  distance: number;
  weight: number;
}

/** Chooses a place of a lamp at random, as seen from a point, and writes where it lies into `out`. */
export function toward(lamp: Lamp, px: number, py: number, pz: number, random: () => number, out: Toward): void {
  let tx = 0,
    ty = 0,
    tz = 0,
    distance = 1e5,
    weight = 0;
  if (lamp.kind === 'far') {
    const r = lamp.spread * Math.sqrt(random()),
      angle = 2 * Math.PI * random();
    const side = unit(cross(lamp.towards, [0.3, 1, 0.1])),
      top = cross(side, lamp.towards);
    tx = lamp.towards[0] + r * (side[0] * Math.cos(angle) + top[0] * Math.sin(angle));
    ty = lamp.towards[1] + r * (side[1] * Math.cos(angle) + top[1] * Math.sin(angle));
    tz = lamp.towards[2] + r * (side[2] * Math.cos(angle) + top[2] * Math.sin(angle));
    const n = 1 / Math.hypot(tx, ty, tz);
    tx *= n;
    ty *= n;
    tz *= n;
    weight = Math.PI * lamp.spread * lamp.spread;
  } else if (lamp.kind === 'window') {
    const u = random(),
      v = random();
    tx = lamp.corner[0] + lamp.edge1[0] * u + lamp.edge2[0] * v - px;
    ty = lamp.corner[1] + lamp.edge1[1] * u + lamp.edge2[1] * v - py;
    tz = lamp.corner[2] + lamp.edge1[2] * u + lamp.edge2[2] * v - pz;
    distance = Math.hypot(tx, ty, tz);
    tx /= distance;
    ty /= distance;
    tz /= distance;
    const face = cross(lamp.edge1, lamp.edge2);
    weight = Math.abs(face[0] * tx + face[1] * ty + face[2] * tz) / (distance * distance);
  } else {
    const z = 2 * random() - 1,
      angle = 2 * Math.PI * random(),
      r = Math.sqrt(1 - z * z) * lamp.radius;
    tx = lamp.centre[0] + r * Math.cos(angle) - px;
    ty = lamp.centre[1] + z * lamp.radius - py;
    tz = lamp.centre[2] + r * Math.sin(angle) - pz;
    distance = Math.hypot(tx, ty, tz);
    tx /= distance;
    ty /= distance;
    tz /= distance;
    weight = (Math.PI * lamp.radius * lamp.radius) / (distance * distance);
    distance -= lamp.radius * 2.2;
  }
  out.x = tx;
  out.y = ty;
  out.z = tz;
  out.distance = distance;
  out.weight = weight;
}
