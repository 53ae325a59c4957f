import { type Vector3 } from '../colour/matrix.ts';
import { plateOffset, plateScale, type Plate } from '../plate/plate.ts';
import { featuresOf, type Feature } from './features.ts';

/** Bins of light: a tenth of an EV each under what the sensor holds; and of the two ratios of camera colour, log₂ red and blue over green. */
export const lightBins = { from: -13, step: 0.1, count: 132 } as const,
  ratioBins = { from: -3.2, step: 0.2, count: 33 } as const;

/**
 * How light is spread over a picture's colours: for each cell of (log₂ red over green, log₂ blue over green) of camera colour a
 * histogram of log₂ green, all of them together 1. Cells without light have none.
 */
export interface Likeness {
  readonly spread: ReadonlyMap<number, Float32Array>;
  /** share of the picture that clips or is lost in the dark, and is not counted */
  readonly left: number;
}
/** A place that is known again, with the camera colour about it; null where that clips or is lost. */
export interface Known extends Feature {
  camera: Vector3 | null;
}
/** What a frame is compared with others by. */
export interface Sample {
  likeness: Likeness;
  known: readonly Known[];
}

/** Camera colour below this is lost in the dark, and over the other clips (shares of what the sensor holds). */
const [dark, full] = [5e-4, 0.95];
/** The long edge of the plates that are compared, at most. */
export const sampleEdge = 900;

/** What a plate of at most `sampleEdge` is compared by. */
export function sampleOf(plate: Plate): Sample {
  const { width, height } = plate,
    n = width * height,
    camera = new Float32Array(3 * n),
    log = new Float32Array(n);
  for (let i = 0; i < 3 * n; i++) camera[i] = (plate.data[i]! - plateOffset) / plateScale;
  for (let i = 0; i < n; i++) log[i] = Math.log2(Math.max(2e-4, (camera[i]! + 2 * camera[n + i]! + camera[2 * n + i]!) / 4));
  return {
    likeness: likenessOf(camera, n),
    known: featuresOf(log, width, height).map((f) => ({ ...f, camera: colourAbout(camera, width, height, f) })),
  };
}

function likenessOf(camera: Float32Array, n: number): Likeness {
  const cells: (Float32Array | undefined)[] = new Array<undefined>(ratioBins.count * ratioBins.count);
  let counted = 0;
  for (let i = 0; i < n; i++) {
    const r = camera[i]!,
      g = camera[n + i]!,
      b = camera[2 * n + i]!;
    if (Math.max(r, g, b) > full || Math.min(r, g, b) < dark) continue;
    counted++;
    const light = (Math.log2(g) - lightBins.from) / lightBins.step,
      across = (Math.log2(r / g) - ratioBins.from) / ratioBins.step,
      along = (Math.log2(b / g) - ratioBins.from) / ratioBins.step,
      [l, x, y] = [Math.floor(light), Math.floor(across), Math.floor(along)];
    // each place is shared between the cells about it, so that nothing jumps at a border
    for (let corner = 0; corner < 4; corner++) {
      const [dx, dy] = [corner & 1, corner >> 1],
        [u, v] = [x + dx, y + dy];
      if (u < 0 || v < 0 || u >= ratioBins.count || v >= ratioBins.count) continue;
      const share = shareOf(across - x, dx) * shareOf(along - y, dy),
        histogram = (cells[v * ratioBins.count + u] ??= new Float32Array(lightBins.count));
      for (const dl of [0, 1]) if (l + dl >= 0 && l + dl < lightBins.count) histogram[l + dl]! += share * shareOf(light - l, dl);
    }
  }
  const spread = new Map<number, Float32Array>();
  cells.forEach((histogram, cell) => {
    if (histogram)
      spread.set(
        cell,
        histogram.map((v) => v / Math.max(1, counted)),
      );
  });
  return { spread, left: 1 - counted / n };
}
/** How much of a place between two bins the lower (0) or the upper (1) has. */
const shareOf = (part: number, which: number): number => (which ? part : 1 - part);
/** The mean camera colour about a place, as wide as it was found. */
function colourAbout(camera: Float32Array, width: number, height: number, { x, y, size }: Feature): Vector3 | null {
  const n = width * height,
    far = Math.max(1, Math.round(0.8 * size)),
    sum = [0, 0, 0];
  let count = 0;
  for (let v = Math.max(0, Math.round(y) - far); v <= Math.min(height - 1, Math.round(y) + far); v++)
    for (let u = Math.max(0, Math.round(x) - far); u <= Math.min(width - 1, Math.round(x) + far); u++) {
      for (let c = 0; c < 3; c++) {
        const value = camera[c * n + v * width + u]!;
        if (value > full) return null;
        sum[c]! += value;
      }
      count++;
    }
  const mean = sum.map((s) => s / count) as unknown as Vector3;
  return Math.min(...mean) < 4 * dark ? null : mean;
}
