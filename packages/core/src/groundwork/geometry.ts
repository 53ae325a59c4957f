import { apply3, chain3, identity3, type Matrix3 } from '../colour/matrix.ts';
import type { Geometry } from './groundwork.ts';
import { throughLens, type LensMap } from './lens.ts';

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

export const shift = (x: number, y: number): Matrix3 => [1, 0, x, 0, 1, y, 0, 0, 1];
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
export function lean(g: Geometry): Matrix3 {
  const a = (-g.straighten * Math.PI) / 180,
    c = Math.cos(a),
    s = Math.sin(a);
  // a camera tilted back makes verticals meet above: w grows towards one side (Hartley and Zisserman 2004, 2.3)
  return chain3([c, -s, 0, s, c, 0, 0, 0, 1], [1, 0, 0, 0, 1, 0, (g.horizontal / 100) * 0.4, (g.vertical / 100) * 0.4, 1]);
}

/** Places round the border of the unit square's double, corners first. */
export const border = Array.from({ length: 33 }, (_, i) => i / 16 - 1).flatMap(
  (t) =>
    [
      [t, -1],
      [t, 1],
      [-1, t],
      [1, t],
    ] as const,
);
export const corners = border.filter(([x, y]) => Math.abs(x) === 1 && Math.abs(y) === 1);
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
