import { plainDetail, type Detail } from '../src/groundwork/detail/detail.ts';
import type { Optics } from '../src/groundwork/detail/optics.ts';
import { detailPlate } from '../src/groundwork/detail/plate.ts';
import { usualNoise, type NoiseModel } from '../src/groundwork/noise.ts';
import type { RawFacts } from '../src/plate/mosaic.ts';
import { makePlate, plateOffset, plateScale, type Plate } from '../src/plate/plate.ts';
import { kernels } from './kernels.ts';

export function generator(seed: number): () => number {
  let a = seed;
  const uniform = (): number => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  return () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());
}
export const model: NoiseModel = usualNoise(1600);
/** A plate of light with the noise of the model on it, as a camera takes it: on a mosaic of 16 bits, demosaiced. */
export function noisy(width: number, height: number, at: (x: number, y: number, c: number) => number, noise = model, seed = 5): Plate {
  const normal = generator(seed),
    data = new Uint16Array(width * height),
    cell = [0, 1, 1, 2] as const,
    black = 4096,
    white = 65535;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const v = at(x, y, cell[(y & 1) * 2 + (x & 1)]!),
        seen = v + normal() * Math.sqrt(noise.slope * v + noise.floor);
      data[y * width + x] = Math.round(Math.min(white, Math.max(0, black + seen * (white - black))));
    }
  const facts = {
    black: [black, black, black, black],
    white,
    quarterTurns: 0,
    profile: { asShotNeutral: [1, 1, 1] },
  } as unknown as RawFacts;
  return makePlate(kernels, { width, height, data, colours: 1, cell }, facts);
}
export const light = (p: Plate, x: number, y: number, c: number): number =>
  (p.data[(c * p.height + y) * p.width + x]! - plateOffset) / plateScale;
export interface Wish {
  luma?: number;
  colour?: number;
  tones?: [number, number];
  softness?: Partial<Detail['softness']>;
  sharpness?: Partial<Detail['sharpness']>;
}
export const both = (v = 0): { fine: number; coarse: number } => ({ fine: v, coarse: v });
export const detailOf = ({ luma: l, colour: c, tones = [1, 1], softness, sharpness }: Wish): Detail => ({
  noise: { luma: both(l), colour: both(c), darks: tones[0], lights: tones[1] },
  softness: { ...plainDetail.softness, ...softness },
  sharpness: { ...plainDetail.sharpness, ...sharpness },
});
export const noOptics: Optics = { aperture: null, pitchUm: null };
export const whole = (p: Plate, d: Wish, level = 0, noise = model, mask = false): Plate =>
  detailPlate(
    kernels,
    { settings: detailOf(d), noise, optics: noOptics, mask },
    level,
    p,
    { x: 0, y: 0 },
    { x: 0, y: 0, width: p.width, height: p.height },
  );
export function spread(p: Plate, value: (x: number, y: number) => number, x0: number, x1: number): number {
  let sum = 0,
    square = 0,
    n = 0;
  for (let y = 16; y < p.height - 16; y++)
    for (let x = x0; x < x1; x++) {
      const v = value(x, y);
      sum += v;
      square += v * v;
      n++;
    }
  return Math.sqrt(square / n - (sum / n) ** 2);
}
export const luma =
  (p: Plate) =>
  (x: number, y: number): number =>
    (light(p, x, y, 0) + 2 * light(p, x, y, 1) + light(p, x, y, 2)) / 4;
export const colour =
  (p: Plate) =>
  (x: number, y: number): number =>
    light(p, x, y, 0) - light(p, x, y, 1);
