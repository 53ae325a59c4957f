import { seeded } from './random.ts';

/** A speck on the sensor: middle in shares of width and height, radius of its shadow in shares of the long edge, the share of light it takes. */
export interface Mote {
  x: number;
  y: number;
  radius: number;
  takes: number;
}
/** So many specks, always the same for a seed. */
export function motes(count: number, seed: number): Mote[] {
  const random = seeded(seed * 7919 + 13);
  return Array.from({ length: count }, () => ({
    x: 0.03 + 0.94 * random(),
    y: 0.03 + 0.94 * random(),
    radius: 0.0022 + 0.005 * random() ** 2,
    takes: 0.1 + 0.25 * random(),
  }));
}
/** Camera light (interleaved RGB) with the shadows of specks: dark and soft, softer the smaller the opening (drawn as 1 − t², squared). */
export function underDust(camera: Float32Array, width: number, height: number, dust: readonly Mote[]): Float32Array {
  const out = Float32Array.from(camera),
    edge = Math.max(width, height);
  for (const { x, y, radius, takes } of dust) {
    const [cx, cy, r] = [x * width, y * height, radius * edge];
    for (let j = Math.max(0, Math.floor(cy - r)); j < Math.min(height, cy + r); j++)
      for (let i = Math.max(0, Math.floor(cx - r)); i < Math.min(width, cx + r); i++) {
        const t = Math.hypot(i + 0.5 - cx, j + 0.5 - cy) / r;
        if (t >= 1) continue;
        const left = 1 - takes * (1 - t * t) ** 2;
        for (let c = 0; c < 3; c++) out[(j * width + i) * 3 + c]! *= left;
      }
  }
  return out;
}
