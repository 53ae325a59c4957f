import { addFigure } from '../figure/figure.ts';
import { hair, eyeball, skin } from '../figure/skin.ts';
import { dyes, iron, linen, plain, plaster, wood, woven, yarn } from '../materials.ts';
import { addBox, addLathe, addQuad, addSurface, addTube } from '../mesh.ts';
import { addBallOfYarn, addChart, addHank, use, type Stage } from '../props.ts';
import { fractal } from '../random.ts';
import type { Spectrum } from '../spectrum.ts';
import type { Scene } from '../scene.ts';

/** Skeins drying in a stone room by a north window at the left. */
export function windowScene(stage: Stage, view: number, light: Spectrum): Scene {
  const { mesh } = stage;
  const wall = use(stage, plaster([0.45, 0.435, 0.4])),
    side = use(stage, plaster([0.5, 0.48, 0.44]));
  addSurface(mesh, 200, 120, wall, (u, v) => {
    const x = -2.4 + 5 * u,
      y = 2.9 * v,
      bend = fractal(x * 0.9, y * 0.9, 3, 2);
    return [x, y, -1.6 + 0.02 * fractal(x * 1.3 + bend, y * 1.6 - bend, 1, 3)];
  });
  addQuad(mesh, [2.6, 0, -1.7], [0, 0, 5], [0, 2.9, 0], side);
  addQuad(mesh, [-2.4, 0, 3.3], [0, 0, -5], [0, 2.9, 0], side);
  addQuad(mesh, [-2.4, 2.9, -1.7], [5, 0, 0], [0, 0, 5], use(stage, plain([0.5, 0.48, 0.43])));
  addQuad(mesh, [-2.4, 0, 3.3], [5, 0, 0], [0, 0, -5], use(stage, wood([0.24, 0.17, 0.11], false, 0.16)));
  addBox(mesh, [-1.15, 0.71, -1.35], [1.75, 0.755, -0.45], use(stage, wood([0.42, 0.27, 0.15], false, 0.18)));
  addBox(mesh, [-1.15, 0.0, -1.3], [-1.05, 0.71, -0.5], use(stage, wood([0.3, 0.2, 0.12], true, 0.2)));
  const rail = use(stage, wood([0.34, 0.22, 0.13], false, 0.5)),
    peg = use(stage, wood([0.5, 0.36, 0.22], false, 0.5));
  addBox(mesh, [-1.35, 1.74, -1.58], [1.75, 1.81, -1.53], rail);
  const colours = [dyes.madder, dyes.weld, dyes.woad, dyes.walnut, dyes.orchil, dyes.fern, dyes.indigo, dyes.cream];
  colours.forEach((paint, i) => {
    const x = -1.12 + i * 0.36;
    addTube(
      mesh,
      [
        [x, 1.775, -1.55],
        [x, 1.785, -1.45],
        [x, 1.8, -1.38],
      ],
      10,
      peg,
      () => 0.012,
    );
    addHank(
      stage,
      [x, 1.78, -1.45],
      0.62 + 0.06 * stage.random(),
      0.034,
      view === 1 ? 190 : 170,
      use(stage, yarn(paint), 'cloth'),
      0.5 * (stage.random() - 0.5),
    );
  });
  addLathe(
    mesh,
    [0.55, 0.755, -0.86],
    [
      [0.05, 0],
      [0.09, 0.01],
      [0.14, 0.06],
      [0.165, 0.11],
      [0.16, 0.112],
      [0.13, 0.06],
      [0.0, 0.02],
    ],
    64,
    use(stage, plain([0.42, 0.44, 0.42], 0.05, 0.25)),
  );
  const balls = [dyes.rust, dyes.weld, dyes.orchil].map((paint) => use(stage, yarn(paint), 'cloth'));
  addBallOfYarn(stage, [0.5, 0.85, -0.86], 0.055, 130, balls[0]!);
  addBallOfYarn(stage, [0.61, 0.845, -0.85], 0.05, 120, balls[1]!);
  addBallOfYarn(stage, [0.86, 0.8, -0.75], 0.047, 120, balls[2]!);
  addSurface(mesh, 120, 60, use(stage, woven([0.62, 0.58, 0.5], 0.1, 700), 'cloth'), (u, v) => [
    -0.95 + 0.75 * u,
    0.762 + 0.02 * fractal(u * 6, v * 5, 4, 3) + (v > 0.75 ? -(v - 0.75) * 1.1 : 0),
    -1.15 + 0.7 * Math.min(v, 0.76) + 0.012 * Math.sin(u * 25) * Math.max(0, v - 0.7),
  ]);
  addTube(
    mesh,
    [
      [0.05, 0.765, -0.8],
      [0.33, 0.765, -0.72],
    ],
    10,
    use(stage, iron),
    () => 0.006,
  );
  if (view === 2) {
    addFigure(
      mesh,
      stage.random,
      {
        at: [-0.5, 0, -0.62],
        turn: -1.95,
        headTurn: 0.15,
        headTilt: 0.3,
        lean: 0.05,
        wears: 'knot',
        arms: [
          {
            elbow: [0.27, 1.13, 0.1],
            hand: { wrist: [0.15, 1.24, 0.32], forward: [-0.35, 0.35, 0.85], back: [0.55, 0.75, -0.1], thumb: -1, curl: 0.62 },
          },
          {
            elbow: [-0.27, 1.12, 0.1],
            hand: { wrist: [-0.12, 1.2, 0.34], forward: [0.35, 0.25, 0.85], back: [-0.45, 0.85, -0.1], thumb: 1, curl: 0.62 },
          },
        ],
      },
      {
        skin: use(stage, skin([0.57, 0.35, 0.25]), 'skin'),
        hair: use(stage, hair([0.09, 0.05, 0.03]), 'figure'),
        scarf: use(stage, linen(dyes.madder), 'figure'),
        clothes: use(stage, linen([0.6, 0.565, 0.49], dyes.indigo), 'figure'),
      },
    );
    addHank(stage, [-0.9, 1.27, -0.78], 0.5, 0.05, 120, use(stage, yarn(dyes.weld), 'cloth'), -0.4);
    addHank(stage, [0.24, 1.86, 0.02], 0.75, 0.045, 210, use(stage, yarn(dyes.madder), 'cloth'), 0.3);
    addHank(stage, [0.42, 1.84, -0.08], 0.72, 0.045, 190, use(stage, yarn(dyes.indigo), 'cloth'), -0.3);
  }
  if (view === 4)
    addFigure(
      mesh,
      stage.random,
      {
        at: [-0.55, 0, -0.35],
        turn: 0.1,
        headTurn: -0.22,
        headTilt: -0.09,
        lean: 0.02,
        wears: 'knot',
        near: true,
        gaze: 0.2,
        arms: [
          {
            elbow: [0.28, 1.1, 0.1],
            hand: { wrist: [0.12, 1.02, 0.3], forward: [-0.8, 0.1, 0.3], back: [0.2, 0.8, 0.5], thumb: -1, curl: 0.4 },
          },
          {
            elbow: [-0.28, 1.1, 0.1],
            hand: { wrist: [-0.1, 1.0, 0.32], forward: [0.8, 0.1, 0.3], back: [-0.2, 0.8, 0.5], thumb: 1, curl: 0.4 },
          },
        ],
      },
      {
        skin: use(stage, skin([0.53, 0.345, 0.255]), 'skin'),
        hair: use(stage, hair([0.17, 0.085, 0.04]), 'figure'),
        scarf: use(stage, linen(dyes.madder), 'figure'),
        clothes: use(stage, linen([0.1, 0.17, 0.2], dyes.walnut), 'figure'),
        eye: use(stage, eyeball([0.13, 0.12, 0.07]), 'figure'),
      },
    );
  const eye = (
    [
      [0.35, 1.35, 2.25],
      [-0.35, 1.42, 0.55],
      [0.1, 1.42, 1.12],
      [0.62, 1.1, 0.85],
      [-0.4, 1.6, 1.42],
    ] as const
  )[view]!;
  const target = (
    [
      [0.12, 1.22, -1.4],
      [-0.38, 1.42, -1.45],
      [-0.22, 1.36, -0.6],
      [0.3, 1.02, -0.9],
      [-0.49, 1.565, -0.3],
    ] as const
  )[view]!;
  if (view === 3) addChart(stage, [0.2, 0.757, -0.68], [0.1, 1.1, 0.85]);
  return {
    mesh,
    materials: stage.materials,
    sky: null,
    skySpectrum: light,
    medium: null,
    bounces: 3,
    lamps: [{ kind: 'window', corner: [-2.35, 0.95, -1.1], edge1: [0, 0, 1.7], edge2: [0, 1.45, 0], power: 6, spectrum: light }],
    eye,
    target,
    focalMm: [38, 50, 45, 45, 85][view]!,
    apertureF: [5.6, 2.8, 2.8, 4, 4][view]!,
    focusAt: (
      [
        [0, 1.4, -1.4],
        [-0.42, 1.4, -1.42],
        [0.33, 1.5, 0.05],
        [0.2, 0.85, -0.7],
        [-0.5, 1.58, -0.22],
      ] as const
    )[view]!,
  };
}
