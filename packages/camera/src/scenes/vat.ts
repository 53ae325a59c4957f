import { addFigure } from '../figure/figure.ts';
import { hair, skin } from '../figure/skin.ts';
import { bath, brick, dyes, glow, iron, linen, plain, stone, wood, woven } from '../materials.ts';
import { addEllipsoid, addLathe, addQuad, addSurface, addTube, type Point } from '../mesh.ts';
import { addChart, use, type Stage } from '../props.ts';
import { fractal, smoothstep } from '../random.ts';
import type { Spectrum } from '../spectrum.ts';
import type { Lamp, Scene } from '../scene.ts';

/** The vat room: brick, barrels of dye, hanging lamps and steam. */
export function vatScene(stage: Stage, view: number, light: Spectrum): Scene {
  const { mesh } = stage;
  const back = use(stage, brick([0.34, 0.16, 0.1], 'x')),
    side = use(stage, brick([0.3, 0.15, 0.1], 'z'));
  addQuad(mesh, [-3.2, 0, -2.4], [6.4, 0, 0], [0, 3.2, 0], back);
  addQuad(mesh, [-3.2, 0, 3.6], [0, 0, -6], [0, 3.2, 0], side);
  addQuad(mesh, [3.2, 0, -2.4], [0, 0, 6], [0, 3.2, 0], side);
  addQuad(mesh, [-3.2, 3.2, -2.4], [6.4, 0, 0], [0, 0, 6], use(stage, wood([0.14, 0.09, 0.06], false, 0.2)));
  addQuad(mesh, [-3.2, 0, 3.6], [6.4, 0, 0], [0, 0, -6], use(stage, stone([0.17, 0.155, 0.14], 3, 0.3)));
  const staves = use(stage, wood([0.33, 0.2, 0.11], true, 0.085)),
    hoop = use(stage, iron);
  const vats: [Point, readonly [number, number, number]][] = [
    [[-1.25, 0, -0.75], dyes.woad],
    [[0.05, 0, -1.0], dyes.madder],
    [[1.3, 0, -0.7], dyes.weld],
  ];
  for (const [at, dye] of vats) {
    addLathe(
      mesh,
      at,
      [
        [0.4, 0],
        [0.45, 0.2],
        [0.475, 0.45],
        [0.47, 0.65],
        [0.45, 0.86],
        [0.425, 0.86],
        [0.44, 0.7],
        [0.44, 0.5],
      ],
      96,
      staves,
    );
    for (const [h, r] of [
      [0.14, 0.442],
      [0.36, 0.474],
      [0.62, 0.477],
      [0.8, 0.46],
    ] as const)
      addLathe(
        mesh,
        at,
        [
          [r, h],
          [r + 0.006, h + 0.004],
          [r + 0.006, h + 0.034],
          [r, h + 0.038],
        ],
        96,
        hoop,
      );
    addLathe(
      mesh,
      at,
      [
        [0.44, 0.77],
        [0.0, 0.77],
      ],
      64,
      use(stage, bath([dye[0] * 0.5, dye[1] * 0.5, dye[2] * 0.5])),
    );
  }
  addTube(
    mesh,
    [
      [1.5, 0.55, -0.75],
      [1.25, 1.55, -0.5],
    ],
    12,
    use(stage, wood([0.5, 0.36, 0.22], true, 0.5)),
    () => 0.017,
  );
  const line = use(stage, plain([0.3, 0.26, 0.2]));
  addTube(
    mesh,
    [
      [-3.1, 2.3, -1.9],
      [-1, 2.22, -1.9],
      [1, 2.22, -1.9],
      [3.1, 2.3, -1.9],
    ],
    8,
    line,
    () => 0.006,
  );
  [dyes.orchil, dyes.rust, dyes.indigo, dyes.fern, dyes.cream].forEach((paint, i) => {
    const x0 = -2.3 + i * 1.0,
      w = 0.62,
      d = 0.75 + 0.15 * stage.random();
    addSurface(mesh, 90, 60, use(stage, woven(paint, 0.25, 800), 'cloth'), (u, v) => {
      const fold = 0.045 * Math.sin(u * 19 + 3 * fractal(u * 3, i * 7, v, 2)) * (0.3 + 0.7 * v);
      return [x0 + u * w + 0.02 * Math.sin(v * 5 + i), 2.24 - v * d - 0.02 * Math.sin(u * 3.14), -1.9 + fold];
    });
  });
  const bulbs: Point[] = [
    [-1.0, 1.98, -0.35],
    [0.95, 2.05, -0.9],
  ];
  const shade = use(stage, plain([0.05, 0.09, 0.08], 0.05, 0.3)),
    lit = use(stage, glow(260), 'light');
  for (const b of bulbs) {
    addEllipsoid(mesh, b, [0.032, 0.042, 0.032], 20, lit);
    addLathe(
      mesh,
      [b[0], b[1] + 0.02, b[2]],
      [
        [0.2, 0.0],
        [0.13, 0.07],
        [0.045, 0.1],
        [0.03, 0.16],
      ],
      48,
      shade,
    );
    addTube(
      mesh,
      [
        [b[0], b[1] + 0.17, b[2]],
        [b[0], 3.2, b[2]],
      ],
      6,
      line,
      () => 0.004,
    );
  }
  if (view === 1 || view === 2) {
    addFigure(
      mesh,
      stage.random,
      {
        at: [-0.5, 0.02, -1.5],
        turn: 0.5,
        headTurn: 0.1,
        headTilt: 0.5,
        lean: 0.14,
        wears: 'kerchief',
        arms: [
          {
            elbow: [0.28, 1.12, 0.22],
            hand: { wrist: [0.13, 1.08, 0.4], forward: [-0.62, -0.1, 0.78], back: [0.646, 0.486, 0.576], thumb: 1, curl: 0.95 },
          },
          {
            elbow: [-0.27, 1.14, 0.2],
            hand: { wrist: [-0.12, 1.24, 0.37], forward: [0.62, 0.25, 0.74], back: [-0.66, -0.3, 0.65], thumb: -1, curl: 0.95 },
          },
        ],
      },
      {
        skin: use(stage, skin([0.5, 0.29, 0.19]), 'skin'),
        hair: use(stage, hair([0.06, 0.04, 0.03]), 'figure'),
        scarf: use(stage, linen([0.4, 0.12, 0.07]), 'figure'),
        clothes: use(stage, linen([0.36, 0.38, 0.4], [0.25, 0.15, 0.09]), 'figure'),
      },
    );
    addTube(
      mesh,
      [
        [0.093, 0.438, -1.19],
        [-0.234, 1.077, -1.134],
        [-0.41, 1.42, -1.1],
      ],
      14,
      use(stage, wood([0.5, 0.36, 0.22], true, 0.5)),
      () => 0.0155,
    );
  }
  if (view === 3) addChart(stage, [0.0, 0.868, -0.5], [0.05, 1.3, 2], 1.1);
  const lamps: Lamp[] = bulbs.map((centre) => ({ kind: 'ball', centre, radius: 0.045, power: 260, spectrum: light }));
  lamps.push({
    kind: 'window',
    corner: [-1.5, 2.9, 2.6],
    edge1: [3, 0, 0],
    edge2: [0, 0, 0.9],
    power: view === 3 ? 1.6 : 0.45,
    spectrum: light,
  });
  return {
    mesh,
    materials: stage.materials,
    sky: null,
    skySpectrum: light,
    lamps,
    bounces: 3,
    medium: {
      spectrum: light,
      reach: 6,
      steps: 14,
      at: (x, y, z, dx, dy, dz, out) => {
        let density = 0.012 * smoothstep(0.2, -1.2, z);
        for (const [at] of vats) {
          const rise = y - 0.75,
            spread = 0.42 + 0.28 * Math.max(0, rise);
          const q = ((x - at[0]) ** 2 + (z - at[2]) ** 2) / (spread * spread);
          if (rise > 0 && q < 4)
            density +=
              0.9 *
              smoothstep(-0.3, -0.9, z) *
              Math.exp(-q * 1.5) *
              Math.exp(-rise * 0.75) *
              smoothstep(0, 0.1, rise) *
              Math.max(0, fractal(x * 3.2 + y, y * 2.1 - 1.4 * rise, z * 3.2 + at[0], 5) - 0.36) *
              4.5;
        }
        let glowing = 0.035;
        for (const b of bulbs) {
          const lx = b[0] - x,
            ly = b[1] - y,
            lz = b[2] - z,
            d2 = lx * lx + ly * ly + lz * lz + 0.02,
            cosine = (dx * lx + dy * ly + dz * lz) / Math.sqrt(d2);
          glowing += ((0.13 * (0.55 + 0.9 * Math.max(0, cosine) ** 3)) / d2) * (ly > -0.02 ? 1 : 0.25);
        }
        out.extinction = density;
        out.r = out.g = out.b = glowing;
      },
    },
    eye: (
      [
        [0.3, 1.55, 2.9],
        [0.62, 1.42, 0.2],
        [0.95, 1.5, 1.5],
        [0.2, 1.32, 1.15],
      ] as const
    )[view]!,
    target: (
      [
        [0.05, 1.1, -1.2],
        [-0.2, 1.1, -1.05],
        [-0.25, 1.12, -1.25],
        [0.0, 0.95, -0.7],
      ] as const
    )[view]!,
    focalMm: [28, 55, 38, 50][view]!,
    apertureF: [4, 2.2, 2.8, 4][view]!,
    focusAt: (
      [
        [0, 0.8, -0.8],
        [-0.12, 1.1, -1.0],
        [0.05, 0.87, -0.6],
        [0, 0.95, -0.5],
      ] as const
    )[view]!,
  };
}
