import { fractal, noise3, smoothstep } from './random.ts';
import type { Spectrum } from './spectrum.ts';
import type { Material } from './scene.ts';

export type Paint = readonly [number, number, number];
/** The dyers' colours, as paint weights. */
export const dyes = {
  madder: [0.46, 0.085, 0.055],
  weld: [0.72, 0.52, 0.07],
  woad: [0.09, 0.2, 0.36],
  walnut: [0.27, 0.155, 0.085],
  orchil: [0.45, 0.16, 0.27],
  oakgall: [0.075, 0.075, 0.085],
  fern: [0.2, 0.27, 0.08],
  indigo: [0.035, 0.06, 0.18],
  cream: [0.72, 0.66, 0.54],
  rust: [0.5, 0.2, 0.07],
} satisfies Record<string, Paint>;

/** Plied yarn: the twist is seen as slanting light and dark along the strand. */
export const yarn =
  (paint: Paint): Material =>
  (s, o) => {
    const twist = 0.5 + 0.5 * Math.sin(s.u * 6.283 + s.v * 420);
    const k = (0.72 + 0.36 * twist) * (0.85 + 0.3 * noise3(s.x * 60, s.y * 60, s.z * 60));
    o.r = paint[0] * k;
    o.g = paint[1] * k;
    o.b = paint[2] * k;
    o.gloss = 0.025;
    o.roughness = 0.55;
    o.through = 0.15;
  };

/** Woven cloth: a fine weave, uneven dye, light coming through. */
export const woven =
  (paint: Paint, through: number, threads = 900): Material =>
  (s, o) => {
    const warp = Math.sin(s.u * threads) * Math.sin(s.v * threads);
    const k = (0.93 + 0.07 * warp) * (0.82 + 0.36 * fractal(s.u * 7 + paint[0] * 50, s.v * 9, 3.1, 4));
    o.r = paint[0] * k;
    o.g = paint[1] * k;
    o.b = paint[2] * k;
    o.through = through;
    o.gloss = 0.02;
    o.roughness = 0.7;
  };

/** Clothes in space: linen with slubs and small creases; another colour where u is over a half. */
export const linen =
  (shirt: Paint, apron: Paint = shirt): Material =>
  (s, o) => {
    const over = smoothstep(0.48, 0.52, s.u),
      paint = shirt.map((v, k) => v + (apron[k]! - v) * over) as unknown as Paint;
    const weave =
      Math.sin(s.x * 2100 + 3 * noise3(s.x * 90, s.y * 30, s.z * 90)) * Math.sin(s.y * 2100 + 2 * noise3(s.x * 50, s.y * 90, s.z * 50));
    const worn = fractal(s.x * 11, s.y * 11, s.z * 11, 4) - 0.5,
      k = 0.92 + 0.1 * weave + 0.16 * worn;
    o.r = paint[0] * k;
    o.g = paint[1] * k;
    o.b = paint[2] * k;
    o.nx += crease(s.x, s.y, s.z);
    o.ny += crease(s.x + 9, s.y, s.z);
    o.nz += crease(s.x, s.y + 9, s.z);
    o.through = 0.04;
  };
const crease = (x: number, y: number, z: number): number =>
  0.5 * (fractal(x * 45, y * 33, z * 45, 3) - 0.5) + 0.16 * (noise3(x * 330, y * 330, z * 330) - 0.5);

/** Plaited straw: rings of braid. */
export const straw =
  (paint: Paint): Material =>
  (s, o) => {
    const braid = Math.abs(Math.sin(s.v * 75)),
      strand = noise3(s.u * 320 + s.v * 40, s.v * 160, 3),
      k = 0.55 + 0.3 * braid + 0.35 * strand;
    o.r = paint[0] * k;
    o.g = paint[1] * k;
    o.b = paint[2] * k;
    o.gloss = 0.03;
    o.roughness = 0.5;
    o.through = 0.12;
    o.ny += 0.5 * (braid - 0.5);
  };

/** Rough stone or plaster, mottled over two scales and lightly bumped. */
export const stone =
  (paint: Paint, scale: number, bump = 0.35): Material =>
  (s, o) => {
    const broad = fractal(s.x * scale, s.y * scale, s.z * scale, 5),
      fine = fractal(s.x * scale * 14, s.y * scale * 14, s.z * scale * 14, 3);
    const k = 0.55 + 0.6 * broad + 0.3 * (fine - 0.5);
    o.r = paint[0] * k * (0.96 + 0.1 * broad);
    o.g = paint[1] * k;
    o.b = paint[2] * k * (1.05 - 0.12 * broad);
    const q = scale * 9;
    o.nx += bump * (noise3(s.x * q, s.y * q, s.z * q) - 0.5);
    o.ny += bump * (noise3(s.x * q + 40, s.y * q, s.z * q) - 0.5);
    o.nz += bump * (noise3(s.x * q, s.y * q + 40, s.z * q) - 0.5);
  };

/** Lime plaster laid on by hand: broad uneven tone, strokes of the trowel, sand, a few pits and hair cracks. */
export const plaster =
  (paint: Paint): Material =>
  (s, o) => {
    const bend = fractal(s.x * 1.7, s.y * 1.7, s.z * 1.7, 3) - 0.5,
      // the lattice of a noise is never seen straight on
      x = s.x + 0.8 * bend,
      y = s.y + 0.6 * (fractal(s.y * 1.3 + 9, s.z * 1.3, s.x * 1.3, 3) - 0.5),
      z = s.z + 0.7 * bend;
    const broad = fractal(x * 0.9, y * 1.1, z * 0.9, 5) - 0.5,
      stroke = fractal(x * 5 + 2.2 * bend, y * 17 + 6 * bend, z * 5, 4) - 0.5,
      sand = noise3(s.x * 640, s.y * 640, s.z * 640) - 0.5,
      pit = smoothstep(0.86, 0.93, noise3(x * 130, y * 130, z * 130));
    const crack = smoothstep(0.006, 0.0015, Math.abs(fractal(x * 1.2 + 30, y * 1.2, z * 1.2, 5) - 0.5)) * smoothstep(0.05, 0.2, broad);
    const k = (0.86 + 0.3 * broad + 0.1 * stroke + 0.08 * sand) * (1 - 0.3 * pit) * (1 - 0.35 * crack);
    o.r = paint[0] * k * (1 + 0.05 * broad);
    o.g = paint[1] * k;
    o.b = paint[2] * k * (1 - 0.08 * broad);
    const relief = (dx: number, dy: number, dz: number): number =>
      0.5 * (fractal(x * 6 + dx, y * 16 + dy, z * 6 + dz, 3) - 0.5) + 0.28 * (noise3(s.x * 420 + dx, s.y * 420 + dy, s.z * 420 + dz) - 0.5);
    o.nx += 0.34 * relief(0, 0, 0);
    o.ny += 0.34 * relief(40, 0, 0);
    o.nz += 0.34 * relief(0, 40, 0);
  };

/** Planks with grain along x (or along y when upright). */
export const wood =
  (paint: Paint, upright: boolean, plank: number): Material =>
  (s, o) => {
    const along = upright ? s.y : s.x,
      across = upright ? Math.atan2(s.z, s.x) * 0.3 + s.x : s.z;
    const board = Math.floor(across / plank),
      inBoard = across / plank - board;
    const tone = 0.75 + 0.5 * noise3(board * 7.3, 1.1, 0);
    const ring = fractal(along * 2.2 + board * 13, across * 60, s.z * (upright ? 3 : 0.1), 4),
      grain = noise3(along * 14 + board * 5, across * 420, 2);
    const gap = smoothstep(0, 0.025, inBoard) * smoothstep(1, 0.975, inBoard);
    const k = tone * (0.55 + 0.7 * ring) * (0.85 + 0.3 * grain) * (0.25 + 0.75 * gap);
    o.r = paint[0] * k;
    o.g = paint[1] * k;
    o.b = paint[2] * k;
    o.gloss = 0.03;
    o.roughness = 0.45 + 0.25 * grain;
  };

/** Bricks in running bond on an upright wall, with lime mortar. */
export const brick =
  (paint: Paint, axis: 'x' | 'z'): Material =>
  (s, o) => {
    const along = axis === 'x' ? s.x : s.z,
      row = Math.floor(s.y / 0.075),
      x = along / 0.225 + (row & 1) * 0.5,
      column = Math.floor(x);
    const inX = Math.abs(x - column - 0.5) * 0.225 + 0.006 * (noise3(s.x * 40, s.y * 40, s.z * 40) - 0.5),
      inY = Math.abs(s.y / 0.075 - row - 0.5) * 0.075;
    const mortar = Math.max(smoothstep(0.103, 0.108, inX), smoothstep(0.029, 0.033, inY));
    const tone = 0.55 + 0.8 * noise3(column * 5.1, row * 3.7, 0.5),
      wear = 0.6 + 0.8 * fractal(s.x * 22, s.y * 22, s.z * 22, 4);
    const k = tone * wear;
    o.r = paint[0] * k * (1 - mortar) + 0.3 * mortar * wear;
    o.g = paint[1] * k * (1 - mortar) + 0.27 * mortar * wear;
    o.b = paint[2] * k * (1 - mortar) + 0.22 * mortar * wear;
    o.nx += 0.3 * (noise3(s.x * 90, s.y * 90, s.z * 90) - 0.5);
    o.ny += (s.y / 0.075 - row - 0.5 > 0 ? 0.5 : -0.5) * mortar;
  };

/** Open water with a breeze on it: waves of several lengths, all clear and glossy. */
export const water =
  (deep: Paint): Material =>
  (s, o) => {
    o.r = deep[0];
    o.g = deep[1];
    o.b = deep[2];
    o.gloss = 0.02;
    o.roughness = 0.09;
    const wave = (k: number): number => {
      const x = s.x + 0.7 * fractal(s.x * 0.3, s.z * 0.3, 2 + k, 2);
      return (
        0.6 * (fractal(x * 0.5 + k, s.z * 0.9, 1, 3) - 0.5) +
        0.6 * (fractal(x * 2.3, s.z * 4.2 + k, 5, 3) - 0.5) +
        0.35 * (fractal(x * 9 + k, s.z * 17, 8, 2) - 0.5)
      );
    };
    // far off, many waves share a pixel: their slopes cancel
    const near = 1 / (1 + Math.abs(s.z) * 0.012);
    o.nx += 0.24 * near * wave(0);
    o.nz += 0.34 * near * wave(31);
  };
/** A still dye bath: dark and glossy, with small waves. */
export const bath =
  (paint: Paint): Material =>
  (s, o) => {
    const scum = smoothstep(0.55, 0.75, fractal(s.x * 14, s.z * 14, paint[0] * 9, 4));
    const k = 0.6 + 2.2 * scum;
    o.r = paint[0] * k;
    o.g = paint[1] * k;
    o.b = paint[2] * k;
    o.gloss = 0.03 * (1 - scum) + 0.01;
    o.roughness = 0.1 + 0.4 * scum;
    o.nx += 0.12 * (fractal(s.x * 24, s.z * 24, 4.2, 2) - 0.5);
    o.nz += 0.12 * (fractal(s.x * 24, s.z * 24, 8.7, 2) - 0.5);
  };

/** Raw wool: cream, greasy in the hollows, locks in waves. */
export const fleece =
  (paint: Paint): Material =>
  (s, o) => {
    const dirt = fractal(s.x * 13, s.y * 13, s.z * 13, 4),
      curl = noise3(s.x * 180, s.y * 70, s.z * 180);
    const k = (0.62 + 0.5 * dirt) * (0.78 + 0.34 * curl);
    o.r = paint[0] * k;
    o.g = paint[1] * k * (0.95 + 0.05 * dirt);
    o.b = paint[2] * k * (0.82 + 0.2 * dirt);
    o.through = 0.3;
  };

export const plain =
  (paint: Paint, gloss = 0, roughness = 0.6, through = 0): Material =>
  (_s, o) => {
    o.r = paint[0];
    o.g = paint[1];
    o.b = paint[2];
    o.gloss = gloss;
    o.roughness = roughness;
    o.through = through;
  };
export const iron: Material = (s, o) => {
  const k = 0.35 + 0.5 * fractal(s.x * 60, s.y * 60, s.z * 60, 3);
  o.r = 0.3 * k;
  o.g = 0.27 * k;
  o.b = 0.25 * k;
  o.metal = 0.35;
  o.gloss = 0.3;
  o.roughness = 0.55;
};
export const glow =
  (power: number): Material =>
  (_s, o) => {
    o.r = o.g = o.b = 0;
    o.glow = power;
  };

/** Grass and heather blades: colour by place along the blade and by patch. */
export const blades =
  (low: Paint, high: Paint): Material =>
  (s, o) => {
    const patch = fractal(s.x * 0.9, s.z * 0.9, 2.2, 3),
      k = 0.45 + 0.75 * s.v,
      m = smoothstep(0.35, 0.65, patch);
    o.r = (low[0] + (high[0] - low[0]) * m) * k;
    o.g = (low[1] + (high[1] - low[1]) * m) * k;
    o.b = (low[2] + (high[2] - low[2]) * m) * k;
    o.through = 0.35;
  };

/** Rows and columns of the 24-patch chart on a black board; u and v run over the board, v upward. */
export const chartBoard = (patches: readonly Spectrum[]): Material => {
  const board = new Float64Array(16).fill(0.035);
  return (s, o) => {
    const x = ((s.u - 0.02) / 0.96) * 6,
      y = ((1 - s.v - 0.03) / 0.94) * 4;
    const i = Math.floor(x),
      j = Math.floor(y);
    const inside = i >= 0 && i < 6 && j >= 0 && j < 4 && Math.abs(x - i - 0.5) < 0.43 && Math.abs(y - j - 0.5) < 0.43;
    o.spectrum = inside ? patches[j * 6 + i]! : board;
  };
};
export const solid =
  (reflectance: Spectrum): Material =>
  (_s, o) => {
    o.spectrum = reflectance;
  };
