import type { Matrix3 } from '../../colour/matrix.ts';
import { chain3 } from '../../colour/matrix.ts';
import { shift } from '../../groundwork/geometry.ts';
import { warpPlate } from '../../groundwork/resample.ts';
import type { Kernels } from '../../kernels/kernels.ts';
import type { NoiseModel } from '../../plate/noiseModel.ts';
import { halvePlate, plateOffset, plateScale, type Plate } from '../../plate/plate.ts';
import { project } from '../homography.ts';
import { alignExposures } from './align.ts';

/** One exposure of a bracket. */
export interface Shot {
  plate: Plate;
  /** light let in, as the settings say it, EV over any that is the same for all */
  ev: number;
  noise: NoiseModel;
}
export interface Merged {
  width: number;
  height: number;
  /** interleaved linear camera RGB; 65535 is where the shortest exposure clips */
  data: Uint16Array;
  /** the exposure that the others were laid on, and EV of its light over the shortest one's */
  reference: number;
  overShortest: number;
  /** how far each was moved to lie on it, in pixels, and what share of it was left out for something moved */
  moved: number[];
  left: number[];
}
/** Levels exposures are aligned on. */
const levels = 5;
/** From where to where a channel counts as clipped. */
const clips = [0.9, 0.96] as const;
/** Half of a block in which movement is looked for: plates are halved so often. */
const coarse = 2;
/** Differences of light that are no movement: a share of it, for what lies between two pixels. */
const slack = 0.06;

const step = (v: number, from: number, to: number): number => {
  const t = Math.min(1, Math.max(0, (v - from) / (to - from)));
  return t * t * (3 - 2 * t);
};
const value = (plate: Plate, c: number, i: number): number => (plate.data[c * plate.width * plate.height + i]! - plateOffset) / plateScale;

/** Light of an exposure over the reference's, by the median of what both hold; what the settings say where they do not tell. */
function measuredEv(reference: Shot, other: Plate, said: number): number {
  const { plate } = reference,
    ratios: number[] = [],
    n = plate.width * plate.height;
  for (let i = 0; i < n; i += Math.max(1, n >> 17)) {
    const [a, b] = [value(plate, 1, i), value(other, 1, i)];
    if (a > 0.02 && b > 0.02 && a < 0.85 && b < 0.85) ratios.push(Math.log2(b / a));
  }
  if (ratios.length < 400) return said;
  const median = ratios.sort((a, b) => a - b)[ratios.length >> 1]!;
  return Math.abs(median - said) < 0.5 ? median : said;
}

/** An exposure laid on the reference: its plate, light over the reference's, and how far it was moved. */
interface Laid extends Shot {
  moved: number;
}
/** Lays each exposure on the reference. Throws RangeError where one does not show its view. */
function laid(kernels: Kernels, shots: readonly Shot[], reference: number, beat: () => void): Laid[] {
  const levelsOf = (plate: Plate): Plate[] => {
      const out = [plate];
      for (let k = 1; k < levels && Math.min(out[k - 1]!.width, out[k - 1]!.height) > 250; k++) out.push(halvePlate(kernels, out[k - 1]!));
      return out;
    },
    own = levelsOf(shots[reference]!.plate),
    { width, height } = own[0]!;
  return shots.map((s, k) => {
    const said = s.ev - shots[reference]!.ev;
    if (k === reference) return { ...s, ev: 0, moved: 0 };
    if (s.plate.width !== width || s.plate.height !== height) throw new RangeError('the exposures are not of one size');
    const map = alignExposures(own, levelsOf(s.plate), said);
    if (!map) throw new RangeError('the exposures do not show one view');
    const corners = [
        [0, 0],
        [width, 0],
        [0, height],
        [width, height],
      ] as const,
      moved = Math.max(...corners.map(([x, y]) => Math.hypot(project(map, [x, y])[0] - x, project(map, [x, y])[1] - y))),
      // what a tripod held is not resampled
      still = moved === 0,
      all = { x: 0, y: 0, width, height },
      toSource = chain3(shift(0.5, 0.5), map as unknown as Matrix3, shift(-0.5, -0.5));
    beat();
    const plate = still
      ? s.plate
      : warpPlate(kernels, { width, height, toSource, lens: null, level: 0 }, all, s.plate, { x: 0, y: 0 }, all);
    beat();
    return { ...s, plate, ev: measuredEv(shots[reference]!, plate, said), moved };
  });
}

/** How far each block of an exposure may be trusted not to have moved, 0–1, on halved plates: beside the reference, or where that clips the next shorter one that does not. */
function stillness(
  kernels: Kernels,
  all: readonly Laid[],
  order: readonly number[],
  reference: number,
): { width: number; height: number; of: Float32Array[] } {
  const small = all.map((s) => {
      let plate = s.plate;
      for (let k = 0; k < coarse; k++) plate = halvePlate(kernels, plate);
      return plate;
    }),
    { width, height } = small[0]!,
    n = width * height,
    place = order.indexOf(reference),
    light = (k: number, i: number): number => (value(small[k]!, 0, i) + 2 * value(small[k]!, 1, i) + value(small[k]!, 2, i)) / 4,
    top = (k: number, i: number): number => Math.max(value(small[k]!, 0, i), value(small[k]!, 1, i), value(small[k]!, 2, i)),
    // noise of a mean of 4 × 4 places, of which each stands for few of its own
    variance = (k: number, v: number): number => (all[k]!.noise.slope * Math.max(0, v) + all[k]!.noise.floor) / 6;
  const raw = all.map(() => new Float32Array(n).fill(1));
  for (let i = 0; i < n; i++) {
    let by = place;
    while (by > 0 && top(order[by]!, i) > clips[0]) by--;
    const r = order[by]!,
      goal = light(r, i) * 2 ** -all[r]!.ev,
      own = variance(r, light(r, i)) * 4 ** -all[r]!.ev;
    for (let k = 0; k < all.length; k++) {
      if (k === r) continue;
      const v = light(k, i),
        here = v * 2 ** -all[k]!.ev,
        spread = Math.sqrt(own + variance(k, v) * 4 ** -all[k]!.ev + (slack * goal) ** 2);
      raw[k]![i] = 1 - step(Math.abs(here - goal) / spread, 2.5, 4);
    }
  }
  // a place beside one that moved is not trusted either
  const of = raw.map((map) => {
    const out = new Float32Array(n);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        let least = 1;
        for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
          for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) least = Math.min(least, map[v * width + u]!);
        out[y * width + x] = least;
      }
    return out;
  });
  return { width, height, of };
}

/**
 * Merges exposures of one view into one picture of linear light: each laid on the middle one, weighted by the inverse of its
 * variance (Hasinoff, Durand, Freeman 2010: photons and read-out, the light itself estimated first), channels that clip left
 * out, and what moved taken from one of them.
 * @throws RangeError where they are fewer than two, of several sizes, or do not show one view
 */
export function mergeExposures(kernels: Kernels, shots: readonly Shot[], beat: () => void = () => {}): Merged {
  if (shots.length < 2) throw new RangeError('a bracket has at least two exposures');
  const order = shots.map((_, k) => k).sort((a, b) => shots[a]!.ev - shots[b]!.ev),
    reference = order[(order.length - 1) >> 1]!,
    all = laid(kernels, shots, reference, beat),
    { width, height } = all[0]!.plate,
    n = width * height,
    still = stillness(kernels, all, order, reference),
    shortest = order[0]!,
    times = all.map((s) => 2 ** s.ev),
    out = new Uint16Array(n * 3),
    scale = 65535 * times[shortest]!,
    left = new Float64Array(all.length),
    count = all.length,
    trust = new Float64Array(count);
  for (let y = 0; y < height; y++) {
    if (y % 256 === 0) beat();
    const row = Math.min(still.height - 1, y >> coarse) * still.width;
    for (let x = 0; x < width; x++) {
      const i = y * width + x,
        block = row + Math.min(still.width - 1, x >> coarse);
      let any = 0;
      for (let k = 0; k < count; k++) {
        const d = all[k]!.plate.data,
          top = (Math.max(d[i]!, d[n + i]!, d[2 * n + i]!) - plateOffset) / plateScale,
          same = still.of[k]![block]!;
        const held = 1 - step(top, clips[0], clips[1]);
        left[k]! += held * (1 - same);
        trust[k] = same * held;
        any += trust[k]!;
      }
      // where all clip the shortest one tells most
      if (any < 1e-3) trust[shortest] = 1;
      for (let c = 0; c < 3; c++) {
        let sum = 0,
          weights = 0;
        for (let k = 0; k < count; k++) {
          const w = trust[k]! * times[k]!;
          sum += (w * (all[k]!.plate.data[c * n + i]! - plateOffset)) / times[k]!;
          weights += w;
        }
        const light = Math.max(0, sum / weights / plateScale);
        sum = 0;
        weights = 0;
        for (let k = 0; k < count; k++) {
          const t = times[k]!,
            { slope, floor } = all[k]!.noise,
            w = (trust[k]! * t * t) / (slope * light * t + floor);
          sum += (w * (all[k]!.plate.data[c * n + i]! - plateOffset)) / t;
          weights += w;
        }
        out[i * 3 + c] = Math.min(65535, Math.max(0, (sum / weights / plateScale) * scale + 0.5));
      }
    }
  }
  return {
    width,
    height,
    data: out,
    reference,
    overShortest: -all[shortest]!.ev,
    moved: all.map((s) => s.moved),
    left: [...left].map((v) => v / n),
  };
}
