import type { CameraProfile } from '../colour/cameraProfile.ts';
import { balancedCameraToRec2020 } from '../colour/cameraProfile.ts';
import { patchLab } from '../colour/chartPatches.ts';
import { ciede2000, xyzToLab } from '../colour/difference.ts';
import { apply3, type Vector3 } from '../colour/matrix.ts';
import { adapt, d50 as d50xy, d65, rec2020ToXyz, xyToXyz, xyzToRec2020 } from '../colour/spaces.ts';
import { corrected, termsOf, type ColourCorrection, type CorrectionKind } from '../groundwork/colours.ts';
import { patchXyz, type Chart } from './chart.ts';
import { leastSquares } from './homography.ts';

const [d50, white] = [xyToXyz(d50xy), xyToXyz(d65)],
  fromD65 = adapt(white, d50);
/** The patches as they are published, in linear Rec.2020. */
const wanted: readonly Vector3[] = patchXyz.map((xyz) => apply3(xyzToRec2020, apply3(adapt(d50, white), xyz)));
const mean = (values: readonly number[]): number => values.reduce((a, v) => a + v, 0) / Math.max(1, values.length);
const greys = [18, 19, 20, 21, 22] as const;
/** Camera light over or under which a patch says nothing. */
const [most, least] = [0.96, 0.002];

/** A patch as it is seen in linear Rec.2020, and which of the 24 it is. */
interface Patch {
  colour: Vector3;
  at: number;
}
/** The patches of a chart that say something, under the light its own greys name, as bright as the published greys are. */
function patchesSeen({ patches }: Chart, profile: CameraProfile): Patch[] | null {
  const usable = patches.flatMap((p, i) => (Math.max(...p) < most && Math.min(...p) > least ? [i] : [])),
    fits = greys.filter((i) => usable.includes(i));
  if (fits.length < 2 || usable.length < 16) return null;
  const ratio = [0, 1, 2].map((c) => 2 ** mean(fits.map((i) => Math.log2(patches[i]![c]! / patches[i]![1])))),
    top = Math.max(...ratio),
    neutral = ratio.map((v) => v / top) as unknown as Vector3,
    matrix = balancedCameraToRec2020(profile, neutral),
    colours = patches.map((p) => apply3(matrix, p.map((v, c) => v / neutral[c]!) as unknown as Vector3)),
    light = 2 ** mean(fits.map((i) => Math.log2(wanted[i]![1] / colours[i]![1])));
  return usable.map((at) => ({ at, colour: colours[at]!.map((x) => x * light) as unknown as Vector3 }));
}
const toLab = (colour: Vector3): Vector3 =>
    xyzToLab(apply3(fromD65, apply3(rec2020ToXyz, colour).map((v) => Math.max(0, v)) as unknown as Vector3), d50),
  published = (i: number): Vector3 => patchLab[i] as unknown as Vector3,
  /** mean CIEDE2000 of patches to their published values under a correction's rows */
  off = (patches: readonly Patch[], rows: readonly number[] | null): number =>
    mean(patches.map(({ colour, at }) => ciede2000(toLab(rows ? corrected(rows, colour) : colour), published(at))));

/** How L*, a*, b* move with linear Rec.2020 at a colour: three rows of three. */
function labSlopes(colour: Vector3): Vector3[] {
  const by = 1e-4,
    base = toLab(colour),
    columns = [0, 1, 2].map((c) => toLab(colour.map((v, k) => (k === c ? v + by : v)) as unknown as Vector3));
  return [0, 1, 2].map((k) => columns.map((lab) => (lab[k]! - base[k]!) / by) as unknown as Vector3);
}
/** Steps of Gauss and Newton from the file's own colours. */
const steps = 5;
/**
 * Rows of a correction by least squares in L*a*b*, differences of colour weighed less the more coloured a patch is (CIE94's 1 + 0.045 C*),
 * by Gauss and Newton. Each row sums to 1: its own channel takes what the others leave.
 */
function fitted(patches: readonly Patch[], kind: CorrectionKind): number[] | null {
  const terms = kind === 'matrix' ? 3 : 6;
  let rows = [1, 0, 0, 0, 0, 0, 0, 1, 0, 0, 0, 0, 0, 0, 1, 0, 0, 0];
  for (let step = 0; step < steps; step++) {
    const equations: number[][] = [],
      goals: number[] = [];
    for (const { colour, at } of patches) {
      const own = termsOf(colour),
        now = corrected(rows, colour),
        [lab, slopes, goal] = [toLab(now), labSlopes(now), published(at)],
        colourful = 1 + 0.045 * Math.hypot(goal[1], goal[2]);
      for (let k = 0; k < 3; k++) {
        const weight = k === 0 ? 1 : 1 / colourful,
          slope = slopes[k]!;
        equations.push(
          [0, 1, 2].flatMap((c) => own.slice(0, terms).flatMap((t, q) => (q === c ? [] : [weight * slope[c]! * (t - own[c]!)]))),
        );
        // the way from the colour as it came, along the slope here
        goals.push(weight * (goal[k]! - lab[k]! + slope.reduce((sum, d, c) => sum + d * (now[c]! - own[c]!), 0)));
      }
    }
    const solved = leastSquares(equations, goals);
    if (!solved) return null;
    rows = [0, 1, 2].flatMap((c) => {
      const others = solved.slice(c * (terms - 1), (c + 1) * (terms - 1));
      return [...others.slice(0, c), 1 - others.reduce((a, v) => a + v, 0), ...others.slice(c), ...Array<number>(6 - terms).fill(0)];
    });
  }
  return rows;
}

/**
 * What charts say of a camera's colours: mean CIEDE2000 of their patches to the published values as the profile shows them, and with each
 * correction. `unseen`: of what was left out of the fit: one patch after another, or where there are several charts one chart after another.
 */
export interface ChartColours {
  before: number;
  corrections: { correction: ColourCorrection; unseen: number }[];
}
/** A chart, and the profile of the camera it was taken with. */
export interface Charted {
  chart: Chart;
  profile: CameraProfile;
}
/** Fits a camera's colours to charts (matrix, and root polynomial of Finlayson, Mackiewicz, Hurlbert 2015). Null where too many of their patches clip or drown. */
export function coloursByCharts(charts: readonly Charted[], from: string): ChartColours | null {
  const seen = charts.flatMap(({ chart, profile }) => {
      const patches = patchesSeen(chart, profile);
      return patches ? [patches] : [];
    }),
    all = seen.flat(),
    parts = seen.length > 1 ? seen : all.map((p) => [p]);
  if (seen.length === 0) return null;
  const before = off(all, null);
  return {
    before,
    corrections: (['matrix', 'rootPolynomial'] as const).flatMap((kind) => {
      const rows = fitted(all, kind)?.map((v) => Math.round(v * 1e6) / 1e6),
        without = parts.map((part) =>
          fitted(
            all.filter((p) => !part.includes(p)),
            kind,
          ),
        );
      if (!rows || without.some((r) => r === null)) return [];
      return [
        {
          correction: { kind, rows, from, before: rounded(before), after: rounded(off(all, rows)) },
          unseen: mean(parts.map((part, i) => off(part, without[i]!))),
        },
      ];
    }),
  };
}
const rounded = (v: number): number => Math.round(v * 100) / 100;

/** Mean CIEDE2000 of a chart to the published values under a correction (null: as the profile shows it); null where it says too little. */
export function chartUnder({ chart, profile }: Charted, correction: ColourCorrection | null): number | null {
  const seen = patchesSeen(chart, profile);
  return seen && off(seen, correction?.rows ?? null);
}
