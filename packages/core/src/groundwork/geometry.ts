import { apply3, chain3, identity3, invert3, type Matrix3 } from '../colour/matrix.ts';
import type { Plate } from '../plate/plate.ts';
import type { Kernels } from '../render/kernels.ts';
import type { Geometry } from './groundwork.ts';
import { lensNumbers, tableNumbers, throughLens, type LensMap } from './lens.ts';

/**
 * The picture that comes out, and where each of its places lies in the plate: a homography of pixel places (corners at
 * whole numbers), then the lens, whose lengths are those of the full size divided by 2^level.
 */
export interface View {
  width: number;
  height: number;
  toSource: Matrix3;
  lens: LensMap | null;
  level: number;
}

const shift = (x: number, y: number): Matrix3 => [1, 0, x, 0, 1, y, 0, 0, 1];
const stretch = (x: number, y: number): Matrix3 => [x, 0, 0, 0, y, 0, 0, 0, 1];
/** Where a place goes under a homography. */
export const through = (m: Matrix3, x: number, y: number): [number, number] => {
  const [a, b, c] = apply3(m, [x, y, 1]);
  return [a / c, b / c];
};

/** Size of a plate after quarter turns. */
export const turnedSize = (g: Geometry, width: number, height: number): { width: number; height: number } =>
  g.quarterTurns % 2 === 1 ? { width: height, height: width } : { width, height };

/** From the turned picture's places (before crop, centred, in units of its longer half) back to the untilted, unstraightened ones. */
function lean(g: Geometry): Matrix3 {
  const a = (-g.straighten * Math.PI) / 180,
    c = Math.cos(a),
    s = Math.sin(a);
  // a camera tilted back makes verticals meet above: w grows towards one side (Hartley and Zisserman 2004, 2.3)
  return chain3([c, -s, 0, s, c, 0, 0, 0, 1], [1, 0, 0, 0, 1, 0, (g.horizontal / 100) * 0.4, (g.vertical / 100) * 0.4, 1]);
}

/** Places round the border of the unit square's double, corners first. */
const border = Array.from({ length: 33 }, (_, i) => i / 16 - 1).flatMap(
  (t) =>
    [
      [t, -1],
      [t, 1],
      [-1, t],
      [1, t],
    ] as const,
);
const corners = border.filter(([x, y]) => Math.abs(x) === 1 && Math.abs(y) === 1);
/** From the turned and flipped picture's places to the upright plate's. */
function turning(g: Geometry, width: number, height: number): Matrix3 {
  const { width: tw, height: th } = turnedSize(g, width, height);
  // a quarter turn clockwise sends (x, y) to (height − y, x)
  const turns: Matrix3[] = [
    identity3,
    [0, 1, 0, -1, 0, height, 0, 0, 1],
    [-1, 0, width, 0, -1, height, 0, 0, 1],
    [0, -1, width, 1, 0, 0, 0, 0, 1],
  ];
  return chain3(
    turns[g.quarterTurns]!,
    g.flipX ? [-1, 0, tw, 0, 1, 0, 0, 0, 1] : identity3,
    g.flipY ? [1, 0, 0, 0, -1, th, 0, 0, 1] : identity3,
  );
}
const leans = (g: Geometry): boolean => g.straighten !== 0 || g.vertical !== 0 || g.horizontal !== 0;

/** How much larger the picture (of the turned size) must be drawn so that a straightened, righted or unbent frame is filled: the least factor, by bisection. */
export function fillScale(g: Geometry, width: number, height: number, lens: LensMap | null = null): number {
  if (!leans(g) && !lens) return 1;
  const half = Math.max(width, height) / 2,
    w = width / 2 / half,
    h = height / 2 / half,
    m = lean(g),
    upright = lens && turning(g, lens.width, lens.height);
  const bent = (x: number, y: number): boolean => {
    if (!lens || !upright) return true;
    const [sx, sy] = through(upright, x * half + width / 2, y * half + height / 2);
    return [0, 1, 2].every((c) => {
      const [u, v] = throughLens(lens, c, sx, sy);
      return u >= -0.01 && v >= -0.01 && u <= lens.width + 0.01 && v <= lens.height + 0.01;
    });
  };
  const inside = (scale: number): boolean =>
    (lens ? border : corners).every(([x, y]) => {
      const d = apply3(m, [(x * w) / scale, (y * h) / scale, 1]);
      return (
        d[2] > 0.05 && (lens ? bent(d[0] / d[2], d[1] / d[2]) : Math.abs(d[0] / d[2]) <= w + 1e-9 && Math.abs(d[1] / d[2]) <= h + 1e-9)
      );
    });
  let low = 0.2,
    high = 1;
  while (!inside(high) && high < 64) high *= 2;
  if (high === 1) while (inside(low) && low > 0.02) low /= 2;
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (inside(middle)) high = middle;
    else low = middle;
  }
  return high;
}

/** The view of a plate (width × height, upright) under a geometry. Crop lands on whole pixels. */
export function viewOf(g: Geometry, width: number, height: number, lens: LensMap | null = null): View {
  const turned = turnedSize(g, width, height),
    { width: tw, height: th } = turned;
  const x = Math.round(g.crop.x * tw),
    y = Math.round(g.crop.y * th),
    w = Math.max(1, Math.min(tw - x, Math.round(g.crop.width * tw))),
    h = Math.max(1, Math.min(th - y, Math.round(g.crop.height * th)));
  const half = Math.max(tw, th) / 2,
    scale = fillScale(g, tw, th, lens);
  const righted =
    !leans(g) && scale === 1
      ? identity3
      : chain3(
          shift(tw / 2, th / 2),
          stretch(half, half),
          lean(g),
          stretch(1 / (half * scale), 1 / (half * scale)),
          shift(-tw / 2, -th / 2),
        );
  return { width: w, height: h, toSource: chain3(turning(g, width, height), righted, shift(x, y)), lens, level: 0 };
}

/** A line drawn over the picture, as places of the turned (upright, uncropped) plate before it is righted, in its pixels. */
export interface DrawnLine {
  from: readonly [number, number];
  to: readonly [number, number];
  way: 'upright' | 'level';
}

/**
 * The straightening and leaning that make drawn lines upright or level, by least squares (Gauss–Newton): two uprights settle
 * straighten and verticals, two levels straighten and horizontals, both pairs all three. Null where they ask for more than ±45° or ±100.
 */
export function rightedBy(
  lines: readonly DrawnLine[],
  g: Geometry,
  width: number,
  height: number,
): Pick<Geometry, 'straighten' | 'vertical' | 'horizontal'> | null {
  const half = Math.max(width, height) / 2,
    unit = (p: readonly [number, number]): [number, number] => [(p[0] - width / 2) / half, (p[1] - height / 2) / half],
    pairs = lines.map((l) => ({ a: unit(l.from), b: unit(l.to), way: l.way }));
  const free = [
      'straighten' as const,
      ...(lines.some((l) => l.way === 'upright') ? ['vertical' as const] : []),
      ...(lines.some((l) => l.way === 'level') ? ['horizontal' as const] : []),
    ],
    scale = { straighten: 1, vertical: 5, horizontal: 5 };
  const rest = (v: Pick<Geometry, 'straighten' | 'vertical' | 'horizontal'>): number[] => {
    const back = invert3(lean({ ...g, ...v }));
    return pairs.map(({ a, b, way }) => {
      const p = through(back, ...a),
        q = through(back, ...b),
        dx = q[0] - p[0],
        dy = q[1] - p[1];
      return way === 'upright' ? Math.atan2(dx, Math.abs(dy)) * Math.sign(dy || 1) : Math.atan2(dy, Math.abs(dx)) * Math.sign(dx || 1);
    });
  };
  let at = { straighten: g.straighten, vertical: g.vertical, horizontal: g.horizontal };
  for (let step = 0; step < 40; step++) {
    const r = rest(at),
      J = free.map((k) => {
        const s = rest({ ...at, [k]: at[k] + 0.01 * scale[k] });
        return s.map((v, i) => (v - r[i]!) / 0.01);
      });
    const normal = free.map((_, i) => [
      ...free.map((__, j) => J[i]!.reduce((sum, v, k) => sum + v * J[j]![k]!, i === j ? 1e-9 : 0)),
      -J[i]!.reduce((sum, v, k) => sum + v * r[k]!, 0),
    ]);
    for (let i = 0; i < free.length; i++)
      for (let j = 0; j < free.length; j++)
        if (j !== i) {
          const f = normal[j]![i]! / normal[i]![i]!;
          normal[j] = normal[j]!.map((v, k) => v - f * normal[i]![k]!);
        }
    at = {
      ...at,
      ...Object.fromEntries(
        free.map((k, i) => [k, at[k] + Math.max(-20, Math.min(20, normal[i]![free.length]! / normal[i]![i]!)) * scale[k]]),
      ),
    };
    if (!Number.isFinite(at.straighten + at.vertical + at.horizontal)) return null;
  }
  return Math.abs(at.straighten) <= 45 && Math.abs(at.vertical) <= 100 && Math.abs(at.horizontal) <= 100 ? at : null;
}
/** Where a place of the righted, uncropped picture lies before it is righted (both turned, in pixels). */
export const beforeRighting = (
  g: Geometry,
  width: number,
  height: number,
  lens: LensMap | null,
  x: number,
  y: number,
): [number, number] => {
  const { width: tw, height: th } = turnedSize(g, width, height),
    half = Math.max(tw, th) / 2,
    scale = fillScale(g, tw, th, lens),
    [u, v] = through(lean(g), (x - tw / 2) / (half * scale), (y - th / 2) / (half * scale));
  return [u * half + tw / 2, v * half + th / 2];
};

/** The same view at a smaller level of the plate (sizes as `levelSize` gives them). */
export function viewAtLevel(view: View, level: number): View {
  const k = 2 ** level;
  return {
    width: Math.max(1, view.width >> level),
    height: Math.max(1, view.height >> level),
    toSource: chain3(stretch(1 / k, 1 / k), view.toSource, stretch(k, k)),
    lens: view.lens,
    level: view.level + level,
  };
}

/** Whether the view is the plate itself, untouched. */
export const isWhole = (view: View, width: number, height: number): boolean =>
  !view.lens && view.width === width && view.height === height && view.toSource.every((v, i) => v === identity3[i]);

/** Where a place of a view lies in its plate, for one colour. */
export function placeOf(view: View, colour: number, x: number, y: number): [number, number] {
  const [sx, sy] = through(view.toSource, x, y);
  if (!view.lens) return [sx, sy];
  const k = 2 ** view.level,
    [u, v] = throughLens(view.lens, colour, sx * k, sy * k);
  return [u / k, v / k];
}

/** Where a rectangle of the view takes its light from: the part of the plate (with what the kernel reads around it). */
export function sourceArea(
  view: View,
  area: { x: number; y: number; width: number; height: number },
  plate: { width: number; height: number },
): { x: number; y: number; width: number; height: number } {
  const places = view.lens
      ? border.flatMap(([x, y]) =>
          [0, 1, 2].map((c) => placeOf(view, c, area.x + ((x + 1) / 2) * area.width, area.y + ((y + 1) / 2) * area.height)),
        )
      : corners.map(([x, y]) => through(view.toSource, area.x + ((x + 1) / 2) * area.width, area.y + ((y + 1) / 2) * area.height)),
    more = view.lens ? 4 : 0;
  const clamp = (v: number, top: number): number => Math.min(top, Math.max(0, v)),
    xs = places.map((c) => c[0]),
    ys = places.map((c) => c[1]);
  const x0 = clamp(Math.floor(Math.min(...xs)) - 4 - more, plate.width - 1),
    y0 = clamp(Math.floor(Math.min(...ys)) - 4 - more, plate.height - 1);
  return {
    x: x0,
    y: y0,
    width: Math.max(1, clamp(Math.ceil(Math.max(...xs)) + 5 + more, plate.width) - x0),
    height: Math.max(1, clamp(Math.ceil(Math.max(...ys)) + 5 + more, plate.height) - y0),
  };
}

const lanczos = (x: number): number =>
  x === 0 ? 1 : Math.abs(x) >= 3 ? 0 : (3 * Math.sin(Math.PI * x) * Math.sin((Math.PI * x) / 3)) / (Math.PI * x) ** 2;
const rows = Array.from({ length: 257 }, (_, k) => {
  const row = Array.from({ length: 6 }, (_, j) => lanczos(j - 2 - k / 256)),
    sum = row.reduce((a, b) => a + b, 0);
  return [...row.map((v) => v / sum), 0, 0];
});
/** The same as parts of 16384, which the two middle ones make whole. */
const parts = rows.map((row, k) => {
  const p = row.map((v) => Math.round(v * 16384));
  p[k < 128 ? 2 : 3]! += 16384 - p.reduce((a, b) => a + b, 0);
  return p;
});
/** The warp kernels' table: reals, then parts. */
const weights = new Uint8Array([
  ...new Uint8Array(Float32Array.from(rows.flat()).buffer),
  ...new Uint8Array(Int16Array.from(parts.flat()).buffer),
]);

/**
 * Draws a rectangle of a view from a piece of the plate. Turns, flips and crops alone copy pixels; anything else is one
 * resampling for all geometry together.
 * @param piece the part of the plate that holds `sourceArea(view, area)`, and where it lies
 */
export function warpPlate(
  kernels: Kernels,
  view: View,
  area: { x: number; y: number; width: number; height: number },
  piece: Plate,
  at: { x: number; y: number },
): Plate {
  const m = chain3(shift(-at.x, -at.y), view.toSource, shift(area.x, area.y)),
    { width, height } = area,
    n = width * height,
    data = new Uint16Array(n * 3),
    pn = piece.width * piece.height;
  const whole =
    !view.lens &&
    m[6] === 0 &&
    m[7] === 0 &&
    m[8] === 1 &&
    [m[0], m[1], m[3], m[4]].every((v) => v === 0 || Math.abs(v) === 1) &&
    Number.isInteger(m[2]) &&
    Number.isInteger(m[5]);
  if (whole) {
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const sx = Math.min(piece.width - 1, Math.max(0, Math.floor(m[0] * (x + 0.5) + m[1] * (y + 0.5) + m[2]))),
          sy = Math.min(piece.height - 1, Math.max(0, Math.floor(m[3] * (x + 0.5) + m[4] * (y + 0.5) + m[5])));
        for (let c = 0; c < 3; c++) data[c * n + y * width + x] = piece.data[c * pn + sy * piece.width + sx]!;
      }
    return { width, height, data };
  }
  const tile = 256,
    scale = 0.5 ** view.level,
    tables = view.lens?.radial.map(tableNumbers),
    tableBytes = (tables?.[0]?.byteLength ?? 0) + 32;
  for (let ty = 0; ty < height; ty += tile)
    for (let tx = 0; tx < width; tx += tile) {
      const w = Math.min(tile, width - tx),
        h = Math.min(tile, height - ty),
        held = sourceArea(
          view,
          { x: area.x + tx, y: area.y + ty, width: w, height: h },
          { width: at.x + piece.width, height: at.y + piece.height },
        );
      const x0 = Math.max(0, held.x - at.x),
        y0 = Math.max(0, held.y - at.y),
        from = { x: x0, y: y0, width: Math.max(1, held.x + held.width - at.x - x0), height: Math.max(1, held.y + held.height - at.y - y0) };
      const sourceBytes = from.width * from.height * 6 + 64,
        planeBytes = tile * 2 + 16,
        source = kernels.reserve(sourceBytes + weights.byteLength + planeBytes * 3 + tableBytes * 3 + tile * 8 + 512),
        table = (source + sourceBytes + 15) & ~15,
        numbers = (table + weights.byteLength + 15) & ~15,
        out = numbers + 96,
        places = out + planeBytes * 3,
        radial = places + tile * 8;
      const u16 = kernels.u16(),
        f32 = kernels.f32();
      for (let c = 0; c < 3; c++)
        for (let j = 0; j < from.height; j++) {
          const row = c * pn + (from.y + j) * piece.width + from.x;
          u16.set(piece.data.subarray(row, row + from.width), source / 2 + (c * from.height + j) * from.width);
        }
      kernels.u8().set(weights, table);
      tables?.forEach((t, c) => f32.set(t, (radial + c * tableBytes) / 4));
      for (let j = 0; j < h; j++) {
        if (view.lens) {
          const a = view.toSource,
            start = apply3(a, [area.x + tx + 0.5, area.y + ty + j + 0.5, 1]);
          for (let c = 0; c < 3; c++) {
            f32.set(
              [
                ...start,
                a[0],
                a[3],
                a[6],
                ...lensNumbers(view.lens, view.lens, c, scale, { x: at.x + from.x + 0.5, y: at.y + from.y + 0.5 }),
              ],
              numbers / 4,
            );
            kernels.exports.lensPlaces(places, w, numbers, radial + c * tableBytes);
            kernels.exports.warpPlaces(
              source + c * from.width * from.height * 2,
              from.width,
              from.height,
              out + c * planeBytes,
              w,
              places,
              table,
            );
          }
        } else {
          // a place in pixel centres of the piece: half a pixel on, through the homography, half a pixel back and into the part held
          const start = apply3(m, [tx + 0.5, ty + j + 0.5, 1]),
            ox = from.x + 0.5,
            oy = from.y + 0.5;
          f32.set([start[0] - ox * start[2], start[1] - oy * start[2], start[2], m[0] - ox * m[6], m[3] - oy * m[6], m[6]], numbers / 4);
          kernels.exports.warp(source, from.width, from.height, out, planeBytes, w, numbers, table);
        }
        for (let c = 0; c < 3; c++)
          data.set(u16.subarray((out + c * planeBytes) / 2, (out + c * planeBytes) / 2 + w), c * n + (ty + j) * width + tx);
      }
    }
  return { width, height, data };
}
