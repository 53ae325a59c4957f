import { blades, plain, stone, water } from '../materials.ts';
import { addSurface, unit, type Point } from '../mesh.ts';
import { use, type Stage } from '../props.ts';
import { fractal, noise3, smoothstep } from '../random.ts';
import type { Spectrum } from '../spectrum.ts';
import type { Scene } from '../scene.ts';

const sun: Point = unit([-0.75, 0.42, -0.35]);

/** A clear sky, darker overhead, with fair-weather clouds lit from one side. */
function sky(dx: number, dy: number, dz: number, out: { r: number; g: number; b: number }): void {
  const height = Math.max(0, dy),
    near = Math.max(0, dx * sun[0] + dy * sun[1] + dz * sun[2]),
    low = Math.exp(-height * 5.5);
  let r = 0.13 + 0.34 * low,
    g = 0.23 + 0.3 * low,
    b = 0.42 + 0.2 * low;
  r += 0.35 * near ** 10 + 1.2 * near ** 160;
  g += 0.3 * near ** 10 + 1.1 * near ** 160;
  b += 0.22 * near ** 10 + 0.9 * near ** 160;
  if (dy > 0.004) {
    const px = dx / (dy + 0.16),
      pz = dz / (dy + 0.16);
    const shape = (x: number, z: number): number => fractal(x * 1.05 + 7, z * 1.5 + 2, 4.4, 7),
      cloud = smoothstep(0.5, 0.68, shape(px, pz)) * smoothstep(0.004, 0.05, dy),
      // how much cloud lies towards the sun: the far side is in shade
      shade = smoothstep(0.45, 0.75, shape(px + sun[0] * 0.12, pz + sun[2] * 0.12));
    const light = 1.05 - 0.6 * shade;
    r += cloud * (light * 0.98 - r);
    g += cloud * (light * 0.97 - g);
    b += cloud * (light * 1.0 + 0.05 * shade - b);
  }
  out.r = r;
  out.g = g;
  out.b = b;
}
/** A far coast in clear weather: sea with a breeze, rocks before it, headlands growing pale with distance. */
export function shoreScene(stage: Stage, light: Spectrum, skyLight: Spectrum): Scene {
  const { mesh, random } = stage;
  const sea = use(stage, water([0.008, 0.03, 0.038]));
  addSurface(mesh, 2, 2, sea, (u, v) => [(u - 0.5) * 6000, 0, 8 - 4000 * v]);
  const rocks = [
    use(stage, stone([0.3, 0.27, 0.23], 1.6, 0.6)),
    use(stage, stone([0.22, 0.21, 0.2], 2.1, 0.6)),
    use(stage, stone([0.34, 0.29, 0.22], 1.2, 0.6)),
  ];
  const boulder = (cx: number, cz: number, size: number, high: number, material: number): void => {
    const seed = cx * 3.1 + cz * 1.7;
    addSurface(mesh, 130, 80, material, (u, v) => {
      const phi = u * 2 * Math.PI,
        theta = v * Math.PI,
        d: Point = [Math.sin(theta) * Math.cos(phi), Math.cos(theta), Math.sin(theta) * Math.sin(phi)];
      // layers of rock, split and worn
      const layer = fractal(d[0] * 1.4 + seed, d[1] * 6, d[2] * 1.4, 4) - 0.5,
        lump = fractal(d[0] * 2.2 + seed, d[1] * 2.2 + 9, d[2] * 2.2, 6) - 0.5,
        edge = Math.abs(fractal(d[0] * 3 + seed, d[1] * 3, d[2] * 3 + 5, 4) - 0.5);
      const k = 1 + 0.65 * lump + 0.16 * layer - 0.35 * smoothstep(0.05, 0, edge);
      return [cx + d[0] * size * k, d[1] * high * k - 0.15 * high, cz + d[2] * size * k];
    });
  };
  for (const [x, z, size, high, kind] of [
    [-2.1, -3.4, 1.7, 0.85, 0],
    [-4.6, -5.2, 2.6, 1.5, 1],
    [1.9, -3.2, 1.1, 0.42, 2],
    [3.9, -4.7, 1.5, 0.62, 0],
    [0.2, -5.4, 0.8, 0.3, 1],
    [-7.8, -9.5, 4.4, 3.2, 0],
    [5.4, -12, 1.9, 0.9, 1],
    [-2.6, -13, 1.2, 0.5, 2],
    [8.5, -24, 2.6, 1.5, 0],
    [-1.5, -31, 2.2, 0.9, 1],
  ] as const)
    boulder(x, z, size, high, rocks[kind]!);
  for (let i = 0; i < 46; i++) {
    const x = -5 + 10 * random(),
      z = -1.6 - 3.2 * random();
    boulder(x, z, 0.14 + 0.32 * random() ** 2, 0.1 + 0.16 * random() ** 2, rocks[Math.floor(random() * 3)]!);
  }
  // headlands: turf over cliffs, the nearest at the left
  for (const [near, far, from, to, high, seed] of [
    [-70, -150, -190, -22, 26, 3],
    [-260, -420, -60, 330, 52, 11],
    [-700, -1000, -900, 240, 120, 23],
  ] as const) {
    const turf = use(stage, near > -100 ? stone([0.16, 0.17, 0.07], 0.16, 0.4) : plain([0.15, 0.15, 0.09])),
      cliff = use(stage, near > -300 ? stone([0.28, 0.24, 0.19], 0.12, 0.8) : plain([0.22, 0.19, 0.16]));
    const crest = (x: number): number => {
      const t = (x - from) / (to - from);
      return high * Math.sin(Math.PI * Math.min(1, Math.max(0, t))) ** 0.6 * (0.35 + 0.9 * fractal(x / (high * 1.7) + seed, seed, 1, 5));
    };
    addSurface(mesh, 500, 40, cliff, (u, v) => {
      const x = from + (to - from) * u,
        rough = high * 0.16 * (fractal(x / (high * 0.22), v * 5, seed, 5) - 0.5);
      return [x, crest(x) * v - 0.5, near - 6 * v + rough];
    });
    addSurface(mesh, 400, 30, turf, (u, v) => {
      const x = from + (to - from) * u;
      return [x, crest(x) * (1 + 0.35 * v * fractal(x / high + 5, v * 3, seed, 3)) - 0.5, near - 6 + (far - near) * v];
    });
  }
  const heath = use(stage, blades([0.12, 0.15, 0.05], [0.28, 0.2, 0.12]), 'foliage');
  for (let i = 0; i < 9000; i++) {
    const x = -9.5 + 5.2 * random(),
      z = -10.8 + 2.6 * random(),
      lift = 2.1 + 0.75 * noise3(x * 0.9, 4, z * 0.9) - 0.42 * (x + 8) ** 2 * 0.2,
      a = random() * 6.28,
      h = 0.12 + 0.14 * random();
    addSurface(mesh, 1, 2, heath, (u, v) => [
      x + Math.cos(a) * h * 0.5 * v * v + (u - 0.5) * 0.012 * (1 - v),
      lift + h * v,
      z + Math.sin(a) * h * 0.5 * v * v,
    ]);
  }
  return {
    mesh,
    materials: stage.materials,
    sky,
    skySpectrum: skyLight,
    bounces: 2,
    // distance goes blue and pale
    medium: {
      spectrum: skyLight,
      reach: 1600,
      steps: 4,
      at: (_x, y, _z, dx, _dy, dz, out) => {
        // the light of the low sky without its clouds
        const towards = 1 + 0.25 * Math.max(0, dx * sun[0] + dz * sun[2]) ** 3;
        out.extinction = 0.0011 * Math.exp(-Math.max(0, y) * 0.006);
        out.r = 0.36 * towards;
        out.g = 0.45 * towards;
        out.b = 0.58;
      },
    },
    lamps: [{ kind: 'far', towards: sun, spread: 0.012, power: 14000, spectrum: light, visible: false }],
    eye: [0.4, 1.75, 3.4],
    target: [-0.5, 1.55, -8],
    focalMm: 28,
    apertureF: 9,
    focusAt: [0, 0.5, -6],
  };
}
