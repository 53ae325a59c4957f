import { addFigure } from '../figure/figure.ts';
import { hair, skin } from '../figure/skin.ts';
import { dyes, fleece, linen, plain, stone, wood } from '../materials.ts';
import { addSurface, addTube, cross, subtract, unit, type Point } from '../mesh.ts';
import { addChart, addGrass, use, type Stage } from '../props.ts';
import { fractal, noise3, normal, smoothstep } from '../random.ts';
import type { Spectrum } from '../spectrum.ts';
import type { Scene } from '../scene.ts';

const sun: Point = unit([-0.95, 0.3, -0.5]);

/** Locks of wool growing out of a surface: curled tapering tubes. */
function addLocks({ mesh, random }: Stage, surface: (u: number, v: number) => Point, wool: number, count: number, fine: number): void {
  for (let i = 0; i < count; i++) {
    const u = random(),
      v = 0.05 + 0.95 * random(),
      p = surface(u, v),
      q = surface(Math.min(1, u + 0.01), v),
      r = surface(u, Math.min(1, v + 0.01));
    let n = unit(cross(subtract(q, p), subtract(r, p)));
    if (n[2] + n[1] < 0) n = [-n[0], -n[1], -n[2]];
    const len = (0.035 + 0.045 * random()) * (0.4 + 0.6 * fine),
      curl = (0.006 + 0.006 * random()) * fine,
      turn = random() * 6,
      sx = 0.6 * normal(random),
      sy = 0.5 * normal(random);
    const path: Point[] = [];
    for (let k = 0; k <= 7; k++) {
      const t = k / 7,
        w = t * 9 + turn;
      path.push([
        p[0] + n[0] * len * t * 0.7 + sx * len * t * 0.6 + curl * Math.cos(w) * t,
        p[1] + n[1] * len * t * 0.7 - 0.75 * len * t * t + sy * len * t * 0.3 + curl * Math.sin(w) * t,
        p[2] + n[2] * len * t * 0.8 + curl * Math.sin(w + 1) * t,
      ]);
    }
    addTube(mesh, path, 4, wool, (t) => 0.0042 * fine * (1 - 0.75 * t));
  }
}

/** Fleeces over a drystone wall on a moor, in fog with a low sun behind it. */
export function moorScene(stage: Stage, view: number, light: Spectrum, skyLight: Spectrum): Scene {
  const { mesh, random } = stage;
  const ground = (x: number, z: number): number =>
    0.5 * (fractal(x * 0.22, 1, z * 0.22, 4) - 0.5) +
    3.2 * (fractal(x * 0.021 + 4, 6, z * 0.021, 3) - 0.45) * Math.min(1, Math.max(0, (-z - 3) / 30));
  addSurface(mesh, 240, 260, use(stage, stone([0.16, 0.15, 0.075], 0.9, 0.25)), (u, v) => {
    const z = 4 - 130 * v * v,
      x = (u - 0.5) * (24 + (4 - z) * 1.2);
    return [x, ground(x, z), z];
  });
  addGrass(
    stage,
    60000,
    (q) => {
      const z = 2.4 - 13 * q() ** 1.5;
      return [(q() - 0.5) * (6 + (3 - z) * 1.2), z];
    },
    ground,
    0.26,
    [0.24, 0.2, 0.075],
    [0.2, 0.11, 0.1],
  );
  const stones = [
    use(stage, stone([0.33, 0.315, 0.29], 5, 0.5)),
    use(stage, stone([0.25, 0.25, 0.245], 6, 0.5)),
    use(stage, stone([0.36, 0.335, 0.28], 4, 0.5)),
  ];
  const wallZ = -1.5,
    top = 0.92;
  for (let row = 0; row < 8; row++) {
    let x = -5 + random() * 0.3;
    while (x < 5) {
      const w = 0.16 + 0.26 * random(),
        h = 0.125,
        cx = x + w / 2,
        cy = 0.03 + row * 0.118 + 0.02 * normal(random) * 0.4 + ground(cx, wallZ) * 0.6,
        seed = random() * 99,
        depth = 0.2 + 0.04 * random();
      addSurface(mesh, 20, 12, stones[Math.floor(random() * 3)]!, (u, v) => {
        const phi = u * 2 * Math.PI,
          theta = v * Math.PI,
          p = (c: number): number => Math.sign(c) * Math.pow(Math.abs(c), 0.32);
        const dx = p(Math.sin(theta) > 0 ? Math.cos(phi) : 0) * Math.pow(Math.sin(theta), 0.32),
          dz = p(Math.sin(phi)) * Math.pow(Math.sin(theta), 0.32),
          dy = p(Math.cos(theta));
        const k = 1 + 0.18 * (noise3(dx * 1.6 + seed, dy * 1.6, dz * 1.6) - 0.5) + 0.05 * (noise3(dx * 6 + seed, dy * 6, dz * 6) - 0.5);
        return [cx + (dx * w * k) / 2, cy + (dy * h * k) / 2, wallZ + dz * depth * k];
      });
      x += w * 0.97;
    }
  }
  const wools = [
    use(stage, fleece([0.85, 0.8, 0.69]), 'cloth'),
    use(stage, fleece([0.62, 0.52, 0.41]), 'cloth'),
    use(stage, fleece([0.32, 0.25, 0.2]), 'cloth'),
  ];
  const spots = [
    [-1.75, 0],
    [-0.62, 1],
    [0.5, 0],
    [1.6, 2],
  ] as const;
  for (const [x0, kind] of spots) {
    const width = 0.86,
      base = top + ground(x0, wallZ) * 0.6 + 0.02,
      seed = random() * 50;
    const drape = (u: number, v: number): Point => {
      const ragged = fractal(u * 5 + seed, v * 4, 1, 3) - 0.5,
        hang = 0.75 + 0.5 * fractal(u * 2.6 + seed, 7, 0, 3) - 0.55 * (2 * u - 1) ** 4;
      const x = x0 + (u - 0.5) * width * (1 - 0.3 * (2 * v - 1) ** 2) + 0.14 * ragged,
        s = (v - 0.42) * 1.25,
        over = 0.2;
      const thick = (0.03 + 0.12 * fractal(u * 6 + seed, v * 7, 2, 4)) * (1 - (2 * u - 1) ** 6);
      if (s < -over) return [x, base + thick - (-over - s), wallZ - 0.25 - thick];
      const bend = Math.min(1, Math.max(0, (s + over) / (2 * over))),
        round = Math.sin(bend * Math.PI);
      if (s < over) return [x, base + thick * (0.5 + 0.5 * round) + 0.045 * round, wallZ + (bend - 0.5) * 0.5 + (bend - 0.5) * thick];
      return [x + 0.04 * Math.sin(u * 9 + seed), base + thick * 0.5 - (s - over) * hang, wallZ + 0.25 + thick * 0.9];
    };
    addSurface(mesh, 90, 90, wools[kind]!, drape);
    // a close view needs finer and more locks
    const close = view === 3 && x0 === 0.5;
    addLocks(stage, drape, wools[kind]!, close ? 30000 : 5200, close ? 0.75 : 1);
  }
  const dead = use(stage, plain([0.05, 0.04, 0.035]));
  for (const [tx, tz, scale] of [
    [3.6, -11, 1],
    [-7.5, -19, 1.3],
    [8, -27, 1.6],
  ] as const) {
    const branch = (from: Point, way: Point, len: number, r: number, depth: number): void => {
      const path: Point[] = Array.from({ length: 6 }, (_, k) => [
        from[0] + way[0] * len * (k / 5) + 0.06 * len * (noise3(from[0] * 5, k, depth) - 0.5) * k,
        from[1] + way[1] * len * (k / 5),
        from[2] + way[2] * len * (k / 5),
      ]);
      addTube(mesh, path, 5, dead, (t) => r * (1 - 0.45 * t));
      if (depth > 0)
        for (let i = 0; i < 3 + (depth > 3 ? 1 : 0); i++)
          branch(
            path[3 + Math.floor(random() * 3)]!,
            unit([way[0] + 0.7 * normal(random) + 0.25, way[1] + 0.35 * normal(random) + 0.12, way[2] + 0.7 * normal(random)]),
            len * (0.55 + 0.2 * random()),
            r * 0.55,
            depth - 1,
          );
    };
    branch([tx, ground(tx, tz) - 0.2, tz], unit([0.18, 1, 0]), 1.5 * scale, 0.13 * scale, 5);
  }
  if (view === 1) {
    const at: Point = [0.75, ground(0.75, -4.4) - 0.02, -4.4];
    addFigure(
      mesh,
      random,
      {
        at,
        turn: -0.75,
        headTurn: -0.2,
        headTilt: 0.15,
        lean: 0.05,
        wears: 'kerchief',
        arms: [
          {
            elbow: [0.29, 1.08, 0.1],
            hand: { wrist: [0.2, 1.02, 0.34], forward: [-0.7, 0, 0.6], back: [0.5, -0.6, 0.6], thumb: -1, curl: 0.4 },
          },
          {
            elbow: [-0.29, 1.08, 0.1],
            hand: { wrist: [-0.2, 1.0, 0.34], forward: [0.7, 0, 0.6], back: [-0.5, -0.6, 0.6], thumb: 1, curl: 0.4 },
          },
        ],
      },
      {
        skin: use(stage, skin([0.57, 0.37, 0.27]), 'skin'),
        hair: use(stage, hair([0.05, 0.035, 0.03]), 'figure'),
        scarf: use(stage, linen(dyes.madder), 'figure'),
        clothes: use(stage, linen([0.16, 0.17, 0.17], dyes.oakgall), 'figure'),
      },
    );
    const c = Math.cos(-0.75),
      s = Math.sin(-0.75);
    const bundle = (u: number, v: number): Point => {
      const phi = u * 2 * Math.PI,
        theta = Math.PI * v,
        d: Point = [Math.sin(theta) * Math.cos(phi), Math.cos(theta), Math.sin(theta) * Math.sin(phi)],
        r = 1 + 0.4 * (fractal(d[0] * 3.5, d[1] * 3.5, d[2] * 3.5, 4) - 0.5);
      return [at[0] + 0.33 * s + d[0] * 0.27 * r, at[1] + 1.13 + d[1] * 0.16 * r, at[2] + 0.33 * c + d[2] * 0.24 * r];
    };
    addSurface(mesh, 80, 50, wools[0]!, bundle);
    addLocks(stage, bundle, wools[0]!, 6000, 0.9);
  }
  if (view === 3) {
    addFigure(
      mesh,
      random,
      {
        at: [0.5, 0.02, -2.05],
        turn: -0.1,
        headTurn: 0,
        headTilt: 0.4,
        lean: 0.16,
        wears: 'kerchief',
        arms: [
          {
            elbow: [0.26, 1.12, 0.3],
            rolled: 0.25,
            hand: { wrist: [0.15, 1.07, 0.52], forward: [-0.35, -0.2, 0.85], back: [0.2, 0.95, 0.2], thumb: -1, curl: 0.3 },
          },
          {
            elbow: [-0.27, 1.13, 0.28],
            rolled: 0.25,
            hand: { wrist: [-0.14, 1.09, 0.48], forward: [0.45, -0.22, 0.8], back: [-0.2, 0.95, 0.25], thumb: 1, curl: 0.42 },
          },
        ],
      },
      {
        skin: use(stage, skin([0.57, 0.37, 0.27]), 'skin'),
        hair: use(stage, hair([0.05, 0.035, 0.03]), 'figure'),
        scarf: use(stage, linen(dyes.madder), 'figure'),
        clothes: use(stage, linen([0.2, 0.24, 0.27], dyes.walnut), 'figure'),
      },
    );
  }
  if (view === 2) {
    addTube(
      mesh,
      [
        [0.02, 0, -0.98],
        [0.02, 1.02, -0.98],
      ],
      10,
      use(stage, wood([0.3, 0.22, 0.15], true, 0.3)),
      () => 0.02,
    );
    addChart(stage, [0.05, 0.88, -0.92], [0.1, 1.15, 3], 1.2);
  }
  const haze = (dx: number, dy: number, dz: number): number => {
    const near = Math.max(0, dx * sun[0] + dy * sun[1] + dz * sun[2]);
    return 0.34 + 0.75 * near ** 2 + 0.9 * near ** 14 + 2.5 * near ** 420 + 14 * near ** 4200;
  };
  return {
    mesh,
    materials: stage.materials,
    skySpectrum: skyLight,
    bounces: 2,
    sky: (dx, dy, dz, out) => {
      const k = haze(dx, dy, dz),
        warm = Math.max(0, dx * sun[0] + dy * sun[1] + dz * sun[2]) ** 2,
        clear = Math.max(0, dy),
        streak = 1 + 0.12 * (fractal((dx * 3) / (clear + 0.25), clear * 6, dz, 4) - 0.5);
      out.r = streak * k * (0.84 + 0.4 * warm - 0.2 * clear);
      out.g = streak * k * (0.86 + 0.14 * warm - 0.08 * clear);
      out.b = streak * k * (0.92 - 0.16 * warm + 0.1 * clear);
    },
    lamps: [{ kind: 'far', towards: sun, spread: 0.1, power: 150, spectrum: light, visible: false }],
    medium: {
      spectrum: skyLight,
      reach: 120,
      steps: 6,
      at: (x, y, z, dx, dy, dz, out) => {
        out.extinction =
          0.055 * Math.exp(-Math.max(0, y) * 0.045) * (0.55 + 0.9 * fractal(x * 0.11, y * 0.2, z * 0.11, 3)) * smoothstep(0.5, -9, z);
        const k = haze(dx, dy, dz),
          warm = Math.max(0, dx * sun[0] + dy * sun[1] + dz * sun[2]) ** 2;
        out.r = k * (0.84 + 0.4 * warm);
        out.g = k * (0.86 + 0.14 * warm);
        out.b = k * (0.92 - 0.16 * warm);
      },
    },
    eye: (
      [
        [0.3, 1.35, 2.0],
        [0.2, 1.5, 1.3],
        [0.15, 1.2, 1.3],
        [0.05, 1.38, -0.3],
      ] as const
    )[view]!,
    target: (
      [
        [-0.1, 0.98, -1.5],
        [0.15, 1.22, -2.2],
        [-0.05, 1.0, -1.1],
        [0.42, 1.07, -1.65],
      ] as const
    )[view]!,
    focalMm: [32, 36, 45, 50][view]!,
    apertureF: [5.6, 4, 4, 3.5][view]!,
    focusAt: (
      [
        [0, 1, -1.2],
        [0.4, 1.1, -2.4],
        [0, 1, -0.92],
        [0.45, 1.06, -1.5],
      ] as const
    )[view]!,
  };
}
