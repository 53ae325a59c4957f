import { rightedBy, type DrawnLine } from '../righting.ts';
import type { Geometry } from '../groundwork.ts';
import type { Segment } from './segments.ts';

export type Righting = Pick<Geometry, 'straighten' | 'vertical' | 'horizontal'>;
export interface Upright {
  righting: Righting;
  /** what says so */
  by: 'verticals' | 'horizon';
  /** lines that agree, and how long they are together, in shares of the picture's height or width */
  lines: number;
  length: number;
}

/** How far from upright or level a line may lean to be thought to have been so, and how far off one that agrees may be, in degrees. Tuned on the demo frames. */
const mostLean = 20,
  agrees = 0.45,
  /** of all that might be upright, the share that has to agree: cloth and twigs lean every way */
  leastShare = 0.55,
  /** lines needed, and how long they must be together */
  leastLines = 5,
  leastLength = 0.9,
  leastHorizon = 0.55,
  /** what is further than this was meant so */
  mostTurn = 12,
  mostVertical = 60;

interface Line {
  a: readonly [number, number];
  b: readonly [number, number];
  length: number;
  /** degrees from upright, or from level */
  lean: number;
}
const degrees = (radians: number): number => (radians * 180) / Math.PI;
function linesNear(segments: readonly Segment[], way: 'upright' | 'level', least: number): Line[] {
  return segments.flatMap(({ from, to }) => {
    const dx = to[0] - from[0],
      dy = to[1] - from[1],
      length = Math.hypot(dx, dy),
      lean =
        way === 'upright'
          ? degrees(Math.atan2(dx * Math.sign(dy || 1), Math.abs(dy)))
          : degrees(Math.atan2(dy * Math.sign(dx || 1), Math.abs(dx)));
    return length >= least && Math.abs(lean) <= mostLean ? [{ a: from, b: to, length, lean }] : [];
  });
}
/** A line’s middle and its lean against a model: lean = p + q·x over the picture's width, in degrees (small angles). */
interface Fan {
  p: number;
  q: number;
}
const unit = (x: number, width: number): number => (x / width) * 2 - 1;
const leanAt = ({ p, q }: Fan, { a, b }: Line, width: number): number => p + q * unit((a[0] + b[0]) / 2, width);
const votes = (lines: readonly Line[], fan: Fan, width: number): Line[] =>
  lines.filter((l) => Math.abs(l.lean - leanAt(fan, l, width)) < agrees);
const together = (lines: readonly Line[]): number => lines.reduce((sum, l) => sum + l.length, 0);

/** The fan most line length agrees with: of all pairs of long lines the best (RANSAC, Fischler and Bolles 1981, without chance). */
function bestFan(lines: readonly Line[], width: number, converging: boolean): Line[] {
  const long = [...lines].sort((x, y) => y.length - x.length).slice(0, 60);
  let best: Line[] = [];
  const offer = (fan: Fan): void => {
    const agree = votes(lines, fan, width);
    if (together(agree) > together(best)) best = agree;
  };
  for (let i = 0; i < long.length; i++) {
    offer({ p: long[i]!.lean, q: 0 });
    if (!converging) continue;
    for (let j = i + 1; j < long.length; j++) {
      const [x, y] = [long[i]!, long[j]!],
        [u, v] = [unit((x.a[0] + x.b[0]) / 2, width), unit((y.a[0] + y.b[0]) / 2, width)];
      if (Math.abs(u - v) < 0.3) continue;
      const q = (y.lean - x.lean) / (v - u);
      offer({ p: x.lean - q * u, q });
    }
  }
  return best;
}
const drawn = (lines: readonly Line[], way: DrawnLine['way'], most = 40): DrawnLine[] =>
  [...lines]
    .sort((x, y) => y.length - x.length)
    .slice(0, most)
    .map((l) => ({ from: l.a, to: l.b, way }));

/**
 * How a picture is set upright: by lines that were upright in the world and meet in one place (their vanishing point), else by a
 * horizon. Lines that run away to the side say nothing of it, so level ones are only believed where one way is most of them.
 * `g` says quarter turns and mirrors; places are of the turned plate. Null where too little agrees, or it is upright already.
 */
export function setUpright(segments: readonly Segment[], g: Geometry, width: number, height: number): Upright | null {
  const plain = { ...g, straighten: 0, vertical: 0, horizontal: 0 },
    maybe = linesNear(segments, 'upright', height * 0.04),
    uprights = bestFan(maybe, width, true),
    tall = together(uprights) / height;
  if (uprights.length >= leastLines && tall >= leastLength && together(uprights) >= leastShare * together(maybe)) {
    const places = uprights.map((l) => unit((l.a[0] + l.b[0]) / 2, width)),
      apart = Math.max(...places) - Math.min(...places),
      found = rightedBy(drawn(uprights, 'upright'), plain, width, height);
    // lines close together say how it is turned and not how they converge
    const righting = found && (apart > 0.5 ? { ...found, horizontal: 0 } : turnOnly(uprights));
    if (righting && Math.abs(righting.straighten) <= mostTurn && Math.abs(righting.vertical) <= mostVertical)
      return isUpright(righting) ? null : { righting: rounded(righting), by: 'verticals', lines: uprights.length, length: tall };
    if (righting) return null;
  }
  const levels = linesNear(segments, 'level', width * 0.05),
    level = bestFan(levels, width, false),
    wide = together(level) / width;
  if (level.length === 0 || wide < leastHorizon || together(level) < 0.5 * together(levels)) return null;
  const righting = turnOnly(level);
  return Math.abs(righting.straighten) <= mostTurn && !isUpright(righting)
    ? { righting: rounded(righting), by: 'horizon', lines: level.length, length: wide }
    : null;
}
/** Only turned: by the mean lean of the lines, longer ones saying more. An upright that leans to the right stands in a picture turned clockwise. */
function turnOnly(lines: readonly Line[]): Righting {
  const mean = lines.reduce((sum, l) => sum + l.lean * l.length, 0) / together(lines),
    upright = Math.abs(lines[0]!.b[1] - lines[0]!.a[1]) > Math.abs(lines[0]!.b[0] - lines[0]!.a[0]);
  return { straighten: upright ? mean : -mean, vertical: 0, horizontal: 0 };
}
/** Less than this is upright already. */
const isUpright = ({ straighten, vertical }: Righting): boolean => Math.abs(straighten) < 0.1 && Math.abs(vertical) < 2;
const rounded = ({ straighten, vertical, horizontal }: Righting): Righting => ({
  straighten: Math.round(straighten * 100) / 100,
  vertical: Math.round(vertical * 10) / 10,
  horizontal: Math.round(horizontal * 10) / 10,
});
