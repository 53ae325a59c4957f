import { neutralToXy, xyToNeutral, type CameraProfile } from '../colour/cameraProfile.ts';
import type { Vector3 } from '../colour/matrix.ts';
import { chromaticityOf, temperatureOf } from '../colour/temperature.ts';
import { plateOffset, plateScale, type Plate } from '../plate/plate.ts';
import type { Groundwork, LightKind } from './groundwork.ts';

/** Chromaticities of the kinds of light, warm first: CIE illuminants A, F2, D55, D65, D75 (CIE 015); a flash by its usual 6000 K (common practice). */
export const kindsOfLight: readonly { kind: LightKind; name: string; xy: readonly [number, number] }[] = [
  { kind: 'tungsten', name: 'Tungsten', xy: [0.44758, 0.40745] },
  { kind: 'fluorescent', name: 'Fluorescent', xy: [0.37208, 0.37529] },
  { kind: 'daylight', name: 'Daylight', xy: [0.33243, 0.34744] },
  { kind: 'flash', name: 'Flash', xy: [0.32168, 0.33767] },
  { kind: 'cloudy', name: 'Cloudy', xy: [0.31272, 0.32903] },
  { kind: 'shade', name: 'Shade', xy: [0.29903, 0.31488] },
];

/** Kelvin and tint (Duv) that a balance stands for on a frame. */
export function temperatureOfBalance(balance: Groundwork['balance'], profile: CameraProfile): { kelvin: number; tintDuv: number } {
  if (balance.kind === 'own' || balance.kind === 'camera') return { kelvin: balance.kelvin, tintDuv: balance.tintDuv };
  return temperatureOf(kindsOfLight.find((k) => k.kind === balance.kind)?.xy ?? neutralToXy(profile, profile.asShotNeutral));
}

/** Camera RGB of a neutral under a balance, largest 1: what camera RGB is divided by, before the matrix. */
export function neutralOf(balance: Groundwork['balance'], profile: CameraProfile): Vector3 {
  if (balance.kind === 'asShot') {
    const top = Math.max(...profile.asShotNeutral);
    return profile.asShotNeutral.map((v) => v / top) as unknown as Vector3;
  }
  const neutral = xyToNeutral(
      profile,
      balance.kind === 'own' || balance.kind === 'camera'
        ? chromaticityOf(balance.kelvin, balance.tintDuv)
        : kindsOfLight.find((k) => k.kind === balance.kind)!.xy,
    ),
    top = Math.max(...neutral);
  return neutral.map((v) => Math.max(v, 0.02) / top) as unknown as Vector3;
}

export interface Picked {
  camera: Vector3;
  clipped: number;
  kelvin: number;
  tintDuv: number;
  multipliers: Vector3;
}

/**
 * Averages a square of a plate (centre as fractions of the picture, side in the plate's own pixels) and says which light
 * would make it neutral. Refuses, in words, a place where the sensor clipped or where there is next to no light.
 */
export function pickNeutral(
  plate: Plate,
  profile: CameraProfile,
  at: { x: number; y: number },
  size: number,
): Picked | { message: string } {
  const { width, height, data } = plate,
    n = width * height,
    side = Math.max(1, Math.round(size));
  const x0 = Math.min(width - 1, Math.max(0, Math.round(at.x * width - side / 2))),
    y0 = Math.min(height - 1, Math.max(0, Math.round(at.y * height - side / 2))),
    x1 = Math.min(width, x0 + side),
    y1 = Math.min(height, y0 + side);
  const sum = [0, 0, 0];
  let clipped = 0;
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      let over = false;
      for (let c = 0; c < 3; c++) {
        const v = (data[c * n + y * width + x]! - plateOffset) / plateScale;
        sum[c]! += v;
        if (v > 0.98) over = true;
      }
      if (over) clipped++;
    }
  const count = (x1 - x0) * (y1 - y0),
    camera = sum.map((v) => v / count) as unknown as Vector3;
  if (clipped > 0)
    return {
      message: `${clipped === count ? 'this place is' : `${Math.ceil((100 * clipped) / count)} % of this place is`} clipped: its colour is lost. Pick something neutral that is not blown out.`,
    };
  if (Math.max(...camera) < 0.002 || Math.min(...camera) <= 0) return { message: 'this place is too dark to tell its colour' };
  return { camera, clipped: 0, ...lightOf(camera, profile) };
}

/** The light under which a camera colour is neutral. */
export function lightOf(camera: Vector3, profile: CameraProfile): { kelvin: number; tintDuv: number; multipliers: Vector3 } {
  const top = Math.max(...camera),
    neutral = camera.map((v) => v / top) as unknown as Vector3,
    { kelvin, tintDuv } = temperatureOf(neutralToXy(profile, neutral));
  return {
    kelvin: Math.min(25000, Math.max(2000, kelvin)),
    tintDuv: Math.min(0.05, Math.max(-0.05, tintDuv)),
    multipliers: camera.map((v) => camera[1] / v) as unknown as Vector3,
  };
}

/**
 * Automatic balance: the light near Planck's and daylight's loci under which most of the picture's well-exposed places are
 * near grey. Each candidate (every 5 mired) is scored by how much of the picture lies within a narrow chroma of neutral;
 * the places that voted for the winner are averaged. Where nothing is grey, the as-shot balance stays (null).
 */
export function autoBalance(plate: Plate, profile: CameraProfile): { kelvin: number; tintDuv: number } | null {
  const n = plate.width * plate.height,
    samples: Vector3[] = [];
  for (let i = 0; i < n; i++) {
    const c = [0, 1, 2].map((k) => (plate.data[k * n + i]! - plateOffset) / plateScale) as unknown as Vector3;
    if (Math.max(...c) < 0.9 && Math.min(...c) > 0.004) samples.push(c);
  }
  // how far a place is from grey is told by logarithms of its ratios, which are taken once
  const near = 0.035,
    logs = samples.map((c): readonly [number, number] => [Math.log2(c[0] / c[1]), Math.log2(c[2] / c[1])]),
    votes = (neutral: Vector3): number[] => {
      const red = Math.log2(neutral[0] / neutral[1]),
        blue = Math.log2(neutral[2] / neutral[1]);
      return logs.map(([r, b]) => Math.exp(-((r - red) ** 2 + (b - blue) ** 2) / (2 * near * near * 4)));
    };
  let best: { score: number; neutral: Vector3 } = { score: 0, neutral: profile.asShotNeutral };
  for (let mired = 60; mired <= 460; mired += 5)
    for (const tint of [0, 0.003, 0.006]) {
      const neutral = xyToNeutral(profile, chromaticityOf(1e6 / mired, tint)),
        score = votes(neutral).reduce((a, v) => a + v, 0);
      if (score > best.score) best = { score, neutral };
    }
  if (best.score < samples.length * 0.004 || samples.length < 50) return null;
  for (let round = 0; round < 4; round++) {
    const weights = votes(best.neutral),
      mean = [0, 1, 2].map((k) => samples.reduce((a, c, i) => a + (weights[i]! * c[k]!) / c[1], 0)) as unknown as Vector3;
    best = { ...best, neutral: mean };
  }
  const { kelvin, tintDuv } = lightOf(best.neutral, profile);
  return { kelvin, tintDuv };
}
