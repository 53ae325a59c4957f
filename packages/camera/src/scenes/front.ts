import { blades, brick, dyes, iron, plain, plaster, stone, wood, woven } from '../materials.ts';
import { addBox, addEllipsoid, addLathe, addQuad, addSurface, addTube, unit, type Point } from '../mesh.ts';
import { addGrass, use, type Stage } from '../props.ts';
import { fractal, smoothstep } from '../random.ts';
import type { Spectrum } from '../spectrum.ts';
import type { Scene } from '../scene.ts';

const sun: Point = unit([-0.62, 0.72, 0.55]);

/** A bright sky with thin high cloud. */
function sky(dx: number, dy: number, dz: number, out: { r: number; g: number; b: number }): void {
  const veil = smoothstep(0.38, 0.72, fractal(dx * 2.4 + 3, dy * 4, dz * 2.4, 6)),
    up = Math.max(0, dy),
    k = dy < 0 ? 0.3 : 1;
  out.r = k * (0.2 + 0.26 * (1 - up) + 0.38 * veil);
  out.g = k * (0.32 + 0.22 * (1 - up) + 0.32 * veil);
  out.b = k * (0.52 + 0.12 * (1 - up) + 0.2 * veil);
}

/** The front of the dyers' house in the morning, seen from the yard: walls, windows and a door whose verticals lean together. */
export function frontScene(stage: Stage, light: Spectrum, skyLight: Spectrum): Scene {
  const { mesh } = stage;
  const wall = use(stage, plaster([0.68, 0.61, 0.47])),
    plinth = use(stage, brick([0.42, 0.2, 0.13], 'x')),
    dressed = use(stage, stone([0.5, 0.47, 0.42], 3, 0.3)),
    frame = use(stage, plain([0.72, 0.7, 0.64], 0.03, 0.4)),
    glass = use(stage, plain([0.012, 0.015, 0.018], 0.05, 0.06)),
    curtain = use(stage, woven([0.62, 0.58, 0.5], 0.2, 500), 'cloth'),
    shutter = use(stage, wood([0.1, 0.2, 0.27], true, 0.075)),
    door = use(stage, wood([0.25, 0.085, 0.05], true, 0.11)),
    slate = use(stage, stone([0.13, 0.135, 0.15], 5, 0.5));
  // window and door openings: middle, sill, width, height
  const openings = [-3.6, -1.2, 1.2, 3.6].flatMap((x) => [
    { x, y: 1.05, w: 0.95, h: 1.45, door: x === 1.2 },
    { x, y: 3.95, w: 0.95, h: 1.35, door: false },
  ]);
  const rows = [0.6, 1.05, 2.5, 3.95, 5.3, 6.0],
    columns = [-5.2, ...[-3.6, -1.2, 1.2, 3.6].flatMap((x) => [x - 0.475, x + 0.475]), 5.2];
  // the wall in pieces around the openings, slightly uneven
  for (let j = 0; j + 1 < rows.length; j++)
    for (let i = 0; i + 1 < columns.length; i++) {
      const [x0, x1, y0, y1] = [columns[i]!, columns[i + 1]!, rows[j]!, rows[j + 1]!];
      if (i % 2 === 1 && (j === 1 || j === 3)) continue;
      if (i === 5 && j === 0) continue;
      addSurface(mesh, 40, 30, wall, (u, v) => {
        const x = x0 + (x1 - x0) * u,
          y = y0 + (y1 - y0) * v;
        return [x, y, 0.012 * (fractal(x * 0.8, y * 0.8, 2, 3) - 0.5)];
      });
    }
  addBox(mesh, [-5.25, -0.1, -0.4], [0.7, 0.6, 0.05], plinth);
  addBox(mesh, [1.7, -0.1, -0.4], [5.25, 0.6, 0.05], plinth);
  addBox(mesh, [-5.3, 0.58, -0.4], [0.68, 0.64, 0.075], dressed);
  addBox(mesh, [1.72, 0.58, -0.4], [5.3, 0.64, 0.075], dressed);
  addBox(mesh, [-5.3, 3.2, -0.3], [5.3, 3.32, 0.07], dressed);
  addBox(mesh, [-5.5, 5.98, -0.5], [5.5, 6.14, 0.34], dressed);
  for (const o of openings) {
    const [x0, x1, y0, y1] = [o.x - o.w / 2, o.x + o.w / 2, o.door ? 0 : o.y, o.y + o.h];
    // reveals, surround, sill
    addQuad(mesh, [x0, y0, -0.22], [0, 0, 0.22], [0, y1 - y0, 0], wall);
    addQuad(mesh, [x1, y0, 0], [0, 0, -0.22], [0, y1 - y0, 0], wall);
    addQuad(mesh, [x0, y1, 0], [x1 - x0, 0, 0], [0, 0, -0.22], wall);
    addBox(mesh, [x0 - 0.16, y1, -0.1], [x1 + 0.16, y1 + 0.2, 0.045], dressed);
    if (o.door) {
      addBox(mesh, [x0, 0.1, -0.24], [x1, y1, -0.21], frame);
      addBox(mesh, [x0 + 0.05, 0.16, -0.2], [x1 - 0.05, y1 - 0.35, -0.14], door);
      addBox(mesh, [x0, 0, -0.5], [x1, 0.16, 0.5], dressed);
      addQuad(mesh, [x0, y1 - 0.33, -0.17], [x1 - x0, 0, 0], [0, 0.33, 0], glass);
      addBox(mesh, [x0, y1 - 0.36, -0.2], [x1, y1 - 0.31, -0.12], frame);
      addTube(
        mesh,
        [
          [x1 - 0.14, 1.02, -0.1],
          [x1 - 0.14, 1.16, -0.1],
        ],
        10,
        use(stage, iron),
        () => 0.012,
      );
      continue;
    }
    addBox(mesh, [x0 - 0.12, y0 - 0.09, -0.2], [x1 + 0.12, y0, 0.1], dressed);
    addQuad(mesh, [x0, y0, -0.17], [x1 - x0, 0, 0], [0, y1 - y0, 0], glass);
    if (o.x !== -1.2)
      addSurface(mesh, 40, 20, curtain, (u, v) => [x0 + 0.3 * u * (1 + 0.2 * v), y0 + (y1 - y0) * v, -0.162 + 0.004 * Math.sin(u * 30)]);
    for (const t of [0, 0.5, 1]) addBox(mesh, [x0 + (x1 - x0 - 0.05) * t, y0, -0.17], [x0 + (x1 - x0 - 0.05) * t + 0.05, y1, -0.12], frame);
    for (const t of [0, 0.33, 0.67, 1])
      addBox(mesh, [x0, y0 + (y1 - y0 - 0.04) * t, -0.17], [x1, y0 + (y1 - y0 - 0.04) * t + 0.04, -0.125], frame);
    for (const side of [-1, 1]) {
      const a = side < 0 ? x0 - 0.5 : x1 + 0.02;
      addBox(mesh, [a, y0 - 0.02, 0.02], [a + 0.48, y1 + 0.02, 0.055], shutter);
      for (const t of [0.12, 0.84])
        addBox(mesh, [a + 0.02, y0 + (y1 - y0) * t, 0.055], [a + 0.46, y0 + (y1 - y0) * t + 0.06, 0.075], shutter);
    }
  }
  // roof, gutter, downpipe
  addSurface(mesh, 90, 40, slate, (u, v) => {
    const course = Math.floor(v * 40);
    return [-5.6 + 11.2 * u, 6.14 + 2.6 * v + 0.012 * (v * 40 - course), 0.42 - 3 * v + 0.006 * Math.sin(u * 300 + course * 2)];
  });
  const lead = use(stage, plain([0.2, 0.21, 0.22], 0.05, 0.4));
  addTube(
    mesh,
    [
      [-5.6, 6.1, 0.44],
      [0, 6.09, 0.44],
      [5.6, 6.08, 0.44],
    ],
    14,
    lead,
    () => 0.065,
  );
  addTube(
    mesh,
    [
      [4.95, 6.1, 0.36],
      [4.95, 5.8, 0.1],
      [4.95, 3, 0.1],
      [4.95, 0.1, 0.1],
    ],
    14,
    lead,
    () => 0.045,
  );
  // behind the house: a meadow up to a wood
  addSurface(mesh, 60, 30, use(stage, stone([0.16, 0.19, 0.07], 0.8, 0.4), 'foliage'), (u, v) => [
    (u - 0.5) * 140,
    -0.06 + 3 * v * v,
    0 - 70 * v,
  ]);
  const leaves = use(stage, blades([0.05, 0.09, 0.025], [0.12, 0.13, 0.04]), 'foliage');
  for (let i = 0; i < 60; i++) {
    const x = -60 + 2 * i + stage.random(),
      high = 5 + 5 * fractal(i * 0.17, 2, 3, 3) + 2 * stage.random();
    addEllipsoid(
      mesh,
      [x, high * 0.45, -58 - 6 * stage.random()],
      [2.6, high * 0.62, 2.4],
      40,
      leaves,
      (d) => 0.7 * (fractal(d[0] * 3 + i, d[1] * 3, d[2] * 3, 5) - 0.5),
    );
  }
  // the yard, a bench with dye pots, cloth to dry from an upper window
  const setts = use(stage, stone([0.27, 0.26, 0.24], 2.2, 0.6));
  addSurface(mesh, 420, 300, setts, (u, v) => {
    const x = (u - 0.5) * 26,
      z = 12 * v,
      cell = Math.hypot(((((x / 0.22 + (Math.floor(z / 0.16) % 2) * 0.5) % 1) + 1) % 1) - 0.5, ((((z / 0.16) % 1) + 1) % 1) - 0.5);
    return [x, 0.022 * smoothstep(0.62, 0.3, cell) + 0.05 * (fractal(x * 0.3, 1, z * 0.3, 3) - 0.5) - 0.02, z];
  });
  addGrass(
    stage,
    2500,
    (q) => [-5.2 + 10.4 * q(), 0.08 + 0.2 * q() ** 2],
    () => 0,
    0.16,
    [0.14, 0.2, 0.05],
    [0.22, 0.25, 0.09],
  );
  const bench = use(stage, wood([0.35, 0.25, 0.16], false, 0.14));
  addBox(mesh, [-2.6, 0.42, 0.35], [-0.5, 0.47, 0.75], bench);
  for (const x of [-2.5, -0.7]) addBox(mesh, [x, 0, 0.4], [x + 0.08, 0.42, 0.7], bench);
  [dyes.madder, dyes.weld, dyes.woad].forEach((paint, i) => {
    const x = -2.25 + i * 0.62;
    addLathe(
      mesh,
      [x, 0.47, 0.55],
      [
        [0.1, 0],
        [0.15, 0.06],
        [0.16, 0.2],
        [0.13, 0.27],
        [0.14, 0.29],
        [0.12, 0.27],
        [0.13, 0.2],
      ],
      48,
      use(stage, plain([0.3, 0.17, 0.1], 0.05, 0.35)),
    );
    addSurface(mesh, 30, 30, use(stage, woven(paint, 0.2, 500), 'cloth'), (u, v) => [
      x - 0.1 + 0.2 * u,
      0.77 - 0.3 * Math.max(0, v - 0.3) + 0.01 * Math.sin(u * 9),
      0.45 + 0.26 * Math.min(v, 0.75) + 0.012 * Math.sin(u * 14) * v,
    ]);
  });
  (
    [
      [-1.2, dyes.rust],
      [3.6, dyes.weld],
    ] as const
  ).forEach(([x, paint]) =>
    addSurface(mesh, 90, 80, use(stage, woven(paint, 0.15, 900), 'cloth'), (u, v) => [
      x - 0.42 + 0.84 * u + 0.02 * Math.sin(v * 4 + x),
      3.97 - 1.15 * v + 0.03 * v * Math.sin(u * 7),
      0.11 + 0.05 * Math.sin(u * 16 + 2 * fractal(u * 3, v * 2, x, 3)) * v,
    ]),
  );
  return {
    mesh,
    materials: stage.materials,
    sky,
    skySpectrum: skyLight,
    bounces: 2,
    medium: null,
    lamps: [{ kind: 'far', towards: sun, spread: 0.012, power: 14000, spectrum: light, visible: false }],
    eye: [1.3, 1.35, 8.6],
    target: [-0.2, 3.0, 0],
    focalMm: 24,
    apertureF: 8,
    focusAt: [0, 2.5, 0],
  };
}
