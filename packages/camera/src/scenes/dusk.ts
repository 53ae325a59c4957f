import { addFigure } from '../figure/figure.ts';
import { hair, skin } from '../figure/skin.ts';
import { dyes, linen, plain, stone, straw, wood, woven } from '../materials.ts';
import { addSurface, addTube, unit, type Point } from '../mesh.ts';
import { addChart, addGrass, use, type Stage } from '../props.ts';
import { fractal, smoothstep } from '../random.ts';
import type { Spectrum } from '../spectrum.ts';
import type { Scene } from '../scene.ts';

const sun: Point = unit([0.5, 0.06, -1]);

function sky(dx: number, dy: number, dz: number, out: { r: number; g: number; b: number }): void {
  const height = Math.max(0, dy),
    near = Math.max(0, dx * sun[0] + dy * sun[1] + dz * sun[2]),
    band = Math.exp(-height * 7);
  const towards = 0.3 + 0.7 * near * near;
  let r = 0.11 + 0.56 * band * towards,
    g = 0.2 + 0.27 * band * towards,
    b = 0.34 + 0.04 * band - 0.26 * band * towards;
  const halo = 1.3 * near ** 90 + 0.3 * near ** 12;
  r += halo * 0.9;
  g += halo * 0.5;
  b += halo * 0.14;
  if (dy > 0.015) {
    const px = dx / (dy + 0.09),
      pz = dz / (dy + 0.09);
    const cloud = smoothstep(0.44, 0.7, fractal(px * 0.55 + 3, pz * 1.6, 1.7, 6)) * smoothstep(0.015, 0.12, dy) * 0.85;
    const lit = Math.max(0, fractal(px * 0.55 + 3.2, pz * 1.6 + 0.3, 1.7, 5) - 0.4) * 2,
      under = band * towards;
    r += cloud * (0.2 + 1.1 * under - 0.5 * lit * r);
    g += cloud * (0.18 + 0.55 * under - 0.5 * lit * g);
    b += cloud * (0.18 + 0.26 * under - 0.45 * lit * b);
  }
  const k = dy < 0 ? 0.2 : 0.8;
  out.r = r * k;
  out.g = g * k;
  out.b = b * k;
}

const air = { r: 0, g: 0, b: 0 };

/** Dyed cloth on a line in a meadow, the sun just above the hills. */
export function duskScene(stage: Stage, view: number, light: Spectrum, skyLight: Spectrum): Scene {
  const { mesh, random } = stage;
  const ground = (x: number, z: number): number => 0.25 * (fractal(x * 0.25, 3, z * 0.25, 3) - 0.5) - 0.02 * Math.max(0, -z - 3);
  addSurface(mesh, 140, 200, use(stage, stone([0.12, 0.125, 0.055], 0.7, 0.2), 'foliage'), (u, v) => {
    const x = (u - 0.5) * 60,
      z = 4 - 56 * v * v;
    return [x, ground(x, z), z];
  });
  for (let i = 0; i < 3; i++) {
    const far = -60 - 70 * i;
    const tone = (
      [
        [0.045, 0.055, 0.04],
        [0.09, 0.085, 0.1],
        [0.16, 0.13, 0.155],
      ] as const
    )[i]!;
    addSurface(mesh, 700, 2, use(stage, plain(tone)), (u, v) => {
      const x = (u - 0.5) * 260 * (1 + i * 0.7),
        trees = i < 2 ? (2.2 - i) * fractal(x * 0.5, i * 9, 0, 5) : 0;
      return [x, v * (2.5 + i * 3.5 + (5 + 5 * i) * fractal(x * 0.018 + i * 3, i, 0, 3) + trees) - 2.5, far];
    });
  }
  addGrass(
    stage,
    52000,
    (q) => {
      const z = 2.2 - 11 * q() ** 1.4;
      return [(q() - 0.5) * (7 + (2.6 - z) * 1.1), z];
    },
    ground,
    0.2,
    [0.14, 0.17, 0.05],
    [0.3, 0.25, 0.09],
  );
  const post = use(stage, wood([0.26, 0.2, 0.15], true, 0.3));
  for (const x of [-2.75, 2.9])
    addTube(
      mesh,
      [
        [x, -0.3, -1.6],
        [x + 0.02, 1, -1.6],
        [x + 0.01, 2.25, -1.6],
      ],
      14,
      post,
      () => 0.045,
    );
  const sag = (x: number): number => 2.12 - 0.16 * (1 - ((x - 0.07) / 2.83) ** 2);
  addTube(
    mesh,
    Array.from({ length: 40 }, (_, i) => [-2.75 + (5.65 * i) / 39, sag(-2.75 + (5.65 * i) / 39), -1.6] as Point),
    6,
    use(stage, plain([0.3, 0.26, 0.2])),
    () => 0.006,
  );
  [dyes.madder, dyes.weld, dyes.woad, dyes.rust, dyes.orchil].forEach((paint, i) => {
    const x0 = -2.45 + i * 1.04,
      w = 0.86,
      d = 1.05 + 0.2 * random(),
      lean = 0.1 + 0.16 * random(),
      phase = random() * 9;
    addSurface(mesh, 140, 110, use(stage, woven(paint, 0.45, 1100), 'cloth'), (u, v) => {
      const x = x0 + u * w + 0.05 * Math.sin(v * 2.5 + phase) * v;
      const fold =
        (0.05 * Math.sin(u * 15 + phase + 2.2 * fractal(u * 2.5, v * 1.5, phase, 3)) + 0.02 * Math.sin(u * 37 - v * 4 + phase)) *
        (0.2 + 0.8 * v);
      return [x, sag(x0 + u * w) - v * d + 0.05 * v * Math.sin(u * 6 + phase), -1.6 + fold + lean * v * v];
    });
    for (const u of [0.04, 0.96])
      addTube(
        mesh,
        [
          [x0 + u * w, sag(x0 + u * w) - 0.05, -1.6],
          [x0 + u * w, sag(x0 + u * w) + 0.04, -1.6],
        ],
        8,
        post,
        () => 0.011,
      );
  });
  if (view === 1) {
    addFigure(
      mesh,
      random,
      {
        at: [0.62, ground(0.62, -1.2) + 0.01, -1.2],
        turn: 2.7,
        headTurn: 0.25,
        headTilt: -0.2,
        lean: 0.02,
        wears: 'hat',
        arms: [
          {
            elbow: [0.3, 1.6, 0.14],
            hand: { wrist: [0.24, 1.85, 0.22], forward: [-0.1, 0.9, 0.3], back: [0.75, 0.1, -0.5], thumb: -1, curl: 0.8 },
          },
          {
            elbow: [-0.3, 1.36, 0.2],
            hand: { wrist: [-0.26, 1.6, 0.3], forward: [0.05, 0.85, 0.4], back: [-0.8, 0.1, -0.4], thumb: 1, curl: 0.8 },
          },
        ],
      },
      {
        skin: use(stage, skin([0.58, 0.37, 0.27]), 'skin'),
        hair: use(stage, hair([0.16, 0.09, 0.045]), 'figure'),
        straw: use(stage, straw([0.6, 0.46, 0.24]), 'figure'),
        scarf: use(stage, linen(dyes.indigo), 'figure'),
        clothes: use(stage, linen([0.2, 0.115, 0.085], [0.5, 0.46, 0.38]), 'figure'),
      },
    );
  }
  if (view === 2) {
    addChart(stage, [-0.1, 0.92, -0.55], [0.1, 1.15, 3], 1.3);
    addTube(
      mesh,
      [
        [-0.12, -0.2, -0.6],
        [-0.12, 0.95, -0.6],
      ],
      10,
      post,
      () => 0.02,
    );
  }
  return {
    mesh,
    materials: stage.materials,
    sky,
    skySpectrum: skyLight,
    bounces: 2,
    // the evening's haze: what is far goes towards the sky's own colour above it
    medium: {
      spectrum: skyLight,
      reach: 260,
      steps: 4,
      at: (_x, y, z, dx, _dy, dz, out) => {
        sky(dx, 0.05, dz, air);
        out.extinction = 0.0042 * Math.exp(-Math.max(0, y) * 0.03) * smoothstep(-3, -30, z);
        out.r = air.r * 0.8;
        out.g = air.g * 0.8;
        out.b = air.b * 0.8;
      },
    },
    lamps: [{ kind: 'far', towards: sun, spread: 0.02, power: 1100, spectrum: light, visible: true }],
    eye: (
      [
        [-0.2, 1.25, 3.1],
        [-0.75, 1.5, 2.5],
        [0.15, 1.2, 1.5],
        [-0.6, 1.5, 1.25],
      ] as const
    )[view]!,
    target: (
      [
        [0.15, 1.28, -1.6],
        [0.15, 1.38, -1.4],
        [-0.05, 1.1, -0.6],
        [-1.0, 1.45, -1.2],
      ] as const
    )[view]!,
    focalMm: [30, 42, 45, 55][view]!,
    apertureF: [5.6, 3.2, 4, 2.2][view]!,
    focusAt: (
      [
        [0, 1.2, -1.5],
        [0.2, 1.5, -1.55],
        [-0.1, 1, -0.55],
        [-1.1, 1.5, -0.9],
      ] as const
    )[view]!,
  };
}
