import type { Paint } from '../materials.ts';
import { fractal, noise3, smoothstep } from '../random.ts';
import type { Material } from '../scene.ts';

/** Skin: u is how red the place is (lips, knuckles; below 0 a nail), v how far hair covers it. Light creeps round the edge of shade in red. */
export const skin =
  (paint: Paint): Material =>
  (s, o) => {
    const mottle = fractal(s.x * 34, s.y * 34, s.z * 34, 4) - 0.5,
      pore = noise3(s.x * 900, s.y * 900, s.z * 900) - 0.5;
    const bend = 0.004 * (noise3(s.x * 130, s.y * 130, s.z * 130) - 0.5),
      many = smoothstep(0.35, 0.75, fractal(s.x * 16 + 3, s.y * 16, s.z * 16, 2));
    const freckle = 0.12 * many * smoothstep(0.6, 0.74, fractal((s.x + bend) * 430, (s.y - bend) * 430, (s.z + bend) * 430, 2)),
      red = Math.max(0, s.u),
      nail = Math.max(0, -s.v),
      hair = Math.max(0, s.v);
    const k = (1 + 0.07 * pore) * (1 - freckle);
    o.r = paint[0] * k * (1 + 0.1 * mottle) * (1 - 0.06 * red);
    o.g = paint[1] * k * (1 - 0.28 * mottle) * (1 - freckle) * (1 - 0.36 * red);
    o.b = paint[2] * k * (1 - 0.26 * mottle) * (1 - freckle) * (1 - 0.34 * red);
    o.g += nail * 0.05;
    o.b += nail * 0.05;
    o.r += (0.045 - o.r) * hair;
    o.g += (0.03 - o.g) * hair;
    o.b += (0.02 - o.b) * hair;
    o.gloss = 0.03 + 0.02 * nail;
    o.roughness = 0.46 + 0.1 * mottle - 0.16 * nail;
    o.wrap = 0.28 * (1 - hair);
    o.nx += 0.1 * pore + 0.12 * (noise3(s.x * 260, s.y * 420, s.z * 260) - 0.5);
    o.ny += 0.16 * (noise3(s.x * 250 + 7, s.y * 400, s.z * 250) - 0.5);
  };
export const hair =
  (paint: Paint): Material =>
  (s, o) => {
    const k = 0.7 + 0.6 * noise3(s.x * 120, s.y * 120, s.z * 120);
    o.r = paint[0] * k;
    o.g = paint[1] * k;
    o.b = paint[2] * k;
    o.gloss = 0.05;
    o.roughness = 0.4;
    o.through = 0.2;
  };
/** An eyeball: v runs from the middle of the pupil to the back; wet. */
export const eyeball =
  (iris: Paint): Material =>
  (s, o) => {
    const a = s.v * 3.1416,
      rays = fractal(Math.cos(s.u * 6.283) * 6 + 9, Math.sin(s.u * 6.283) * 6, a * 3, 3),
      pupil = smoothstep(0.2, 0.17, a),
      inIris = smoothstep(0.52, 0.48, a),
      rim = smoothstep(0.36, 0.5, a) * inIris,
      vein = 0.1 * smoothstep(0.55, 0.75, fractal(s.u * 30, a * 9, 1, 3));
    const k = (0.55 + 0.9 * rays) * (1 - 0.75 * rim);
    const white: Paint = [0.62, 0.56 - vein, 0.52 - vein];
    const own = [0, 1, 2].map((c) => (white[c]! + (iris[c]! * k - white[c]!) * inIris) * (1 - pupil) + 0.004 * pupil) as [
      number,
      number,
      number,
    ];
    o.r = own[0];
    o.g = own[1];
    o.b = own[2];
    o.gloss = 0.035;
    o.roughness = 0.12;
  };
