import type { Vector3 } from '../colour/matrix.ts';
import { plateOffset, plateScale, type Plate } from '../plate/plate.ts';
import type { Chart } from './chart.ts';
import { homographyOf, project } from './homography.ts';
import { flatPlaces } from './patches.ts';

/** A flat place of a picture, in shares of its width and height, and its camera colour. */
export interface Spot {
  x: number;
  y: number;
  camera: Vector3;
}

/** A spot is as wide as its colour stays the same about it (log₂ of each), at most this share of the long edge to each side. */
const [same, widest] = [0.1, 0.03];

/** The mean camera colour about a place, of a square of at least `half` pixels to each side; null where it clips or is lost in the dark. */
export function spotAt(plate: Plate, x: number, y: number, half = 3): Spot | null {
  const at = [Math.floor(x * plate.width), Math.floor(y * plate.height)] as const,
    meanOf = ({ sum, count }: Summed): Vector3 => sum.map((s) => s / count) as unknown as Vector3;
  let inside = summed(plate, at, half);
  for (let wider = 2 * half; wider <= widest * Math.max(plate.width, plate.height); wider = Math.ceil(1.5 * wider)) {
    const all = summed(plate, at, wider),
      about = meanOf({ sum: all.sum.map((s, c) => s - inside.sum[c]!), count: all.count - inside.count }),
      own = meanOf(inside);
    if (!about.every((v, c) => Math.abs(Math.log2(v / own[c]!)) < same)) break;
    inside = all;
  }
  const camera = meanOf(inside);
  return Math.max(...camera) > 0.97 || Math.min(...camera) < 1e-3 ? null : { x, y, camera };
}
interface Summed {
  sum: number[];
  count: number;
}
/** Camera colour summed over a square. */
function summed({ width, height, data }: Plate, [cx, cy]: readonly [number, number], half: number): Summed {
  const n = width * height,
    sum = [0, 0, 0];
  let count = 0;
  for (let v = Math.max(0, cy - half); v <= Math.min(height - 1, cy + half); v++)
    for (let u = Math.max(0, cx - half); u <= Math.min(width - 1, cx + half); u++) {
      for (let c = 0; c < 3; c++) sum[c]! += (data[c * n + v * width + u]! - plateOffset) / plateScale;
      count++;
    }
  return { sum, count };
}

/** How far in colour (log₂ of a ratio) a place may be and still be taken for the spot again. */
const near = 0.35;

/**
 * The spot of an anchor again in another frame. Where both show the chart, the spot lies on its plane; else it is the flat place
 * whose colour is nearest, by the ratios of camera colour. Null where there is none.
 */
export function spotAgain(spot: Spot, anchor: { chart: Chart | null }, frame: { plate: Plate; chart: Chart | null }): Spot | null {
  const { plate, chart } = frame;
  if (anchor.chart && chart) {
    const map = homographyOf(anchor.chart.corners, chart.corners),
      [x, y] = map ? project(map, [spot.x, spot.y]) : [-1, -1];
    return x > 0 && y > 0 && x < 1 && y < 1 ? spotAt(plate, x, y) : null;
  }
  const { width, height } = plate,
    n = width * height,
    log = [0, 1, 2].map((c) =>
      Float32Array.from(plate.data.subarray(c * n, (c + 1) * n), (v) => Math.log2(Math.max(1e-3, (v - plateOffset) / plateScale) + 2e-3)),
    ),
    ratios = ([r, g, b]: Vector3): [number, number] => [Math.log2(r / g), Math.log2(b / g)],
    [red, blue] = ratios(spot.camera);
  let best: Spot | null = null,
    least = near;
  for (const flat of flatPlaces(log, width, height)) {
    const there = spotAt(plate, (flat.x + 0.5) / width, (flat.y + 0.5) / height, Math.max(2, Math.round(flat.half / 3)));
    if (!there) continue;
    const [r, b] = ratios(there.camera),
      off = Math.hypot(r - red, b - blue);
    if (off < least) [best, least] = [there, off];
  }
  return best;
}
