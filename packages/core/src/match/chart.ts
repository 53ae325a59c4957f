import { patchLab } from '../colour/chartPatches.ts';
import { ciede2000, xyzToLab } from '../colour/difference.ts';
import { apply3, type Matrix3, type Vector3 } from '../colour/matrix.ts';
import { d65, rec2020ToXyz, xyToXyz } from '../colour/spaces.ts';
import { righted, toScene, type Subject } from './card.ts';
import { plateOffset, plateScale, type Plate } from '../plate/plate.ts';
import { homographyOf, leastSquares, project, type Homography } from './homography.ts';
import { flatPlaces, type Flat } from './patches.ts';

/** A chart of 24 patches found in a picture. Places are shares of the picture's width and height. */
export interface Chart {
  /** corners of the board: the first patch's first, then clockwise as it lies */
  corners: readonly (readonly [number, number])[];
  /** camera colour of each patch, in the mean, rows of six from the first */
  patches: readonly Vector3[];
  /** mean CIEDE2000 of the patches to their published values, under the matrix that fits them best */
  error: number;
  errors: readonly number[];
}

/** Where the middle of a patch lies on the board: a rim of 2 % at the sides and 3 % above and below (common practice for such boards). */
export const patchPlace = (i: number): [number, number] => [
  0.02 + (0.96 * ((i % 6) + 0.5)) / 6,
  0.03 + (0.94 * (Math.floor(i / 6) + 0.5)) / 4,
];
/** White of the published values: D50. */
const d50: Vector3 = [0.9642, 1, 0.8249];
const labToXyz = ([L, a, b]: readonly [number, number, number]): Vector3 => {
  const y = (L + 16) / 116,
    cube = (f: number): number => (f > 6 / 29 ? f ** 3 : 3 * (6 / 29) ** 2 * (f - 4 / 29));
  return [d50[0] * cube(y + a / 500), d50[1] * cube(y), d50[2] * cube(y - b / 200)];
};
export const patchXyz: readonly Vector3[] = patchLab.map(labToXyz);
/** A board is believed up to this mean difference: no other thing comes near it. */
const believed = 9;

/** The matrix that brings camera colours nearest to others, by least squares of what is over the light of each (relative). */
export function fittedMatrix(from: readonly Vector3[], to: readonly Vector3[]): Matrix3 | null {
  const rows = [0, 1, 2].map((c) => {
    const weights = to.map((v) => 1 / (v[1] + 0.03));
    return leastSquares(
      from.map((v, i) => v.map((x) => x * weights[i]!)),
      to.map((v, i) => v[c]! * weights[i]!),
    );
  });
  return rows.every((r) => r !== null) ? (rows.flat() as unknown as Matrix3) : null;
}
/** How far patches are from their published values under the matrix that fits them. */
export function chartErrors(patches: readonly Vector3[]): number[] | null {
  const matrix = fittedMatrix(patches, patchXyz);
  return (
    matrix &&
    patches.map((p, i) =>
      ciede2000(xyzToLab(apply3(matrix, p).map((v) => Math.max(0, v)) as unknown as Vector3, d50), patchLab[i] as Vector3),
    )
  );
}

/**
 * Finds a chart of 24 patches in a plate: flat places of one size that lie in a grid give a projective map; of all the ways the board
 * can lie on that grid the one is taken whose colours fit the published ones best. Null where there is none.
 */
export function findChart(plate: Plate): Chart | null {
  const { width, height } = plate,
    n = width * height,
    camera = [0, 1, 2].map(() => new Float32Array(n)),
    log = [0, 1, 2].map(() => new Float32Array(n));
  for (let c = 0; c < 3; c++) {
    const [light, bent] = [camera[c]!, log[c]!];
    for (let i = 0; i < n; i++) {
      light[i] = (plate.data[c * n + i]! - plateOffset) / plateScale;
      bent[i] = Math.log2(Math.max(1e-3, light[i]!) + 2e-3);
    }
  }
  const flats = flatPlaces(log, width, height);
  let best: { map: Homography; error: number } | null = null;
  const tried = new Set<string>();
  for (const seed of flats)
    for (const grid of gridsFrom(seed, flats)) {
      const key = grid
        .map((g) => flats.indexOf(g.flat))
        .sort((a, b) => a - b)
        .join();
      if (tried.has(key)) continue;
      tried.add(key);
      for (const map of boardsOn(grid)) {
        const error = errorOf(camera, width, height, map);
        if (error !== null && error < (best?.error ?? believed)) best = { map, error };
      }
    }
  if (!best) return null;
  let map = best.map;
  for (let round = 0; round < 3; round++) map = sharpened(camera, width, height, map) ?? map;
  const patches = patchesOf(camera, width, height, map),
    errors = patches && chartErrors(patches);
  if (!patches || !errors) return null;
  const share = ([x, y]: readonly [number, number]): [number, number] => [(x + 0.5) / width, (y + 0.5) / height],
    corners = (
      [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ] as const
    ).map((p) => share(project(map, p)));
  return { corners, patches, errors, error: errors.reduce((a, v) => a + v, 0) / errors.length };
}

/** The mean CIEDE2000 between two charts as two frames render them under their groundwork, without a look. */
export function chartErrorBetween(chart: Chart, anchor: Chart, frame: Subject, other: Subject): number {
  const seen = ({ patches }: Chart, s: Subject): Vector3[] => {
    const matrix = toScene(s);
    return patches.map((p) =>
      xyzToLab(apply3(rec2020ToXyz, righted(s, apply3(matrix, p)).map((v) => Math.max(0, v)) as unknown as Vector3), xyToXyz(d65)),
    );
  };
  const [a, b] = [seen(chart, frame), seen(anchor, other)];
  return a.reduce((sum, lab, i) => sum + ciede2000(lab, b[i]!), 0) / a.length;
}

interface Cell {
  column: number;
  row: number;
  flat: Flat;
}
/** Grids of flat places that grow from one: its nearest neighbours give the two ways. */
function gridsFrom(seed: Flat, flats: readonly Flat[]): Cell[][] {
  const alike = (f: Flat): boolean => f.half > 0.55 * seed.half && f.half < 1.8 * seed.half,
    near = flats
      .filter((f) => f !== seed && alike(f) && Math.hypot(f.x - seed.x, f.y - seed.y) < 5 * seed.half)
      .sort((a, b) => Math.hypot(a.x - seed.x, a.y - seed.y) - Math.hypot(b.x - seed.x, b.y - seed.y))
      .slice(0, 4),
    out: Cell[][] = [];
  for (const a of near)
    for (const b of near) {
      const [ax, ay, bx, by] = [a.x - seed.x, a.y - seed.y, b.x - seed.x, b.y - seed.y],
        [la, lb] = [Math.hypot(ax, ay), Math.hypot(bx, by)],
        sine = (ax * by - ay * bx) / (la * lb);
      // the second way lies clockwise of the first, about square to it
      if (a === b || sine < 0.8 || la / lb > 1.6 || lb / la > 1.6) continue;
      const cells = new Map<string, Cell>([['0,0', { column: 0, row: 0, flat: seed }]]),
        waiting: { cell: Cell; u: [number, number]; v: [number, number] }[] = [
          { cell: { column: 0, row: 0, flat: seed }, u: [ax, ay], v: [bx, by] },
        ],
        used = new Set([seed]);
      for (let at = 0; at < waiting.length; at++) {
        const { cell, u, v } = waiting[at]!;
        for (const [dc, dr] of [
          [1, 0],
          [-1, 0],
          [0, 1],
          [0, -1],
        ] as const) {
          const key = `${cell.column + dc},${cell.row + dr}`;
          if (cells.has(key)) continue;
          const way: [number, number] = [dc * u[0] + dr * v[0], dc * u[1] + dr * v[1]],
            [x, y] = [cell.flat.x + way[0], cell.flat.y + way[1]],
            reach = 0.25 * Math.hypot(...way),
            found = flats.find((f) => !used.has(f) && alike(f) && Math.hypot(f.x - x, f.y - y) < reach);
          if (!found) continue;
          used.add(found);
          const next = { column: cell.column + dc, row: cell.row + dr, flat: found },
            stepped: [number, number] = [found.x - cell.flat.x, found.y - cell.flat.y],
            blend = (old: [number, number], sign: number): [number, number] => [
              0.5 * old[0] + 0.5 * sign * stepped[0],
              0.5 * old[1] + 0.5 * sign * stepped[1],
            ];
          cells.set(key, next);
          waiting.push({ cell: next, u: dc !== 0 ? blend(u, dc) : u, v: dr !== 0 ? blend(v, dr) : v });
        }
      }
      if (cells.size >= 12) out.push([...cells.values()]);
    }
  return out;
}
/** All the ways a board of six by four can lie on a grid, as maps from the board to the picture. */
function boardsOn(cells: readonly Cell[]): Homography[] {
  const out: Homography[] = [];
  for (const turn of [0, 1, 2, 3]) {
    const turned = cells.map(({ column, row, flat }) => {
        const [c, r] = (
          [
            [column, row],
            [row, -column],
            [-column, -row],
            [-row, column],
          ] as const
        )[turn]!;
        return { c, r, flat };
      }),
      [c0, c1] = [Math.min(...turned.map((t) => t.c)), Math.max(...turned.map((t) => t.c))],
      [r0, r1] = [Math.min(...turned.map((t) => t.r)), Math.max(...turned.map((t) => t.r))];
    for (let left = c1 - 5; left <= c0; left++)
      for (let top = r1 - 3; top <= r0; top++) {
        const inside = turned.filter((t) => t.c >= left && t.c < left + 6 && t.r >= top && t.r < top + 4);
        if (inside.length < 12) continue;
        const map = homographyOf(
          inside.map((t) => patchPlace((t.r - top) * 6 + t.c - left)),
          inside.map((t) => [t.flat.x, t.flat.y] as const),
        );
        if (map) out.push(map);
      }
    // a grid that is wider than the board has it somewhere on it
    if (c1 - c0 > 5 || r1 - r0 > 3)
      for (let left = c0; left <= c1 - 5; left++)
        for (let top = r0; top <= Math.max(r0, r1 - 3); top++) {
          const inside = turned.filter((t) => t.c >= left && t.c < left + 6 && t.r >= top && t.r < top + 4);
          if (inside.length < 12) continue;
          const map = homographyOf(
            inside.map((t) => patchPlace((t.r - top) * 6 + t.c - left)),
            inside.map((t) => [t.flat.x, t.flat.y] as const),
          );
          if (map) out.push(map);
        }
  }
  return out;
}
/** Half the side of what is read of a patch, on the board: a third of the patch. */
const read = { x: 0.96 / 6 / 4, y: 0.94 / 4 / 4 } as const;

/** The mean camera colour of each patch; null where one lies outside. */
function patchesOf(camera: readonly Float32Array[], width: number, height: number, map: Homography): Vector3[] | null {
  const out: Vector3[] = [];
  for (let i = 0; i < 24; i++) {
    const [u, v] = patchPlace(i),
      sum = [0, 0, 0];
    const across = 7;
    for (let a = 0; a < across; a++)
      for (let b = 0; b < across; b++) {
        const [x, y] = project(map, [u + read.x * ((2 * a) / (across - 1) - 1), v + read.y * ((2 * b) / (across - 1) - 1)]),
          [px, py] = [Math.round(x), Math.round(y)];
        if (px < 0 || py < 0 || px >= width || py >= height) return null;
        for (let c = 0; c < 3; c++) sum[c]! += camera[c]![py * width + px]! / across ** 2;
      }
    out.push(sum as unknown as Vector3);
  }
  return out;
}
function errorOf(camera: readonly Float32Array[], width: number, height: number, map: Homography): number | null {
  const patches = patchesOf(camera, width, height, map);
  if (!patches) return null;
  // the greys fall from white to black
  for (let i = 18; i < 23; i++) if (patches[i + 1]![1] > 0.92 * patches[i]![1]) return null;
  const errors = chartErrors(patches);
  return errors && errors.reduce((a, v) => a + v, 0) / errors.length;
}
/** The map again, from the middles of what has each patch's own colour. */
function sharpened(camera: readonly Float32Array[], width: number, height: number, map: Homography): Homography | null {
  const patches = patchesOf(camera, width, height, map);
  if (!patches) return null;
  const from: [number, number][] = [],
    to: [number, number][] = [];
  for (let i = 0; i < 24; i++) {
    const place = patchPlace(i),
      [x, y] = project(map, place),
      [rx, ry] = project(map, [place[0] + 0.075, place[1]]),
      [dx, dy] = project(map, [place[0], place[1] + 0.11]),
      far = Math.ceil(1.2 * Math.max(Math.hypot(rx - x, ry - y), Math.hypot(dx - x, dy - y)));
    let [count, sx, sy] = [0, 0, 0];
    for (let v = Math.round(y) - far; v <= Math.round(y) + far; v++)
      for (let u = Math.round(x) - far; u <= Math.round(x) + far; u++) {
        if (u < 0 || v < 0 || u >= width || v >= height) continue;
        // within the patch's own field of the board
        const a = ((u - x) * (rx - x) + (v - y) * (ry - y)) / Math.hypot(rx - x, ry - y) ** 2,
          b = ((u - x) * (dx - x) + (v - y) * (dy - y)) / Math.hypot(dx - x, dy - y) ** 2;
        if (Math.abs(a) > 1.05 || Math.abs(b) > 1.05) continue;
        const off = Math.max(...[0, 1, 2].map((c) => Math.abs(Math.log2((camera[c]![v * width + u]! + 2e-3) / (patches[i]![c]! + 2e-3)))));
        if (off > 0.3) continue;
        count++;
        sx += u;
        sy += v;
      }
    if (count < 9) continue;
    from.push(place);
    to.push([sx / count, sy / count]);
  }
  return from.length < 12 ? null : homographyOf(from, to);
}
