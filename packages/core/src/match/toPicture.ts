import { apply3, invert3 } from '../colour/matrix.ts';
import { rec2020ToOklab } from '../colour/oklab.ts';
import { rec2020To, srgb } from '../colour/spaces.ts';
import { smoothstep } from '../colour/smoothstep.ts';
import { decodeSrgb } from '../colour/transfer.ts';
import { newStep, type Look, type LookStep } from '../look/look.ts';
import { monotoneCubic } from '../steps/curve/monotone.ts';
import { grade, gradeEdges } from '../steps/grade/index.ts';
import { defaultsOf, type CurvePoints } from '../render/step.ts';

// Steps that bring one picture's tones and colours near another's: tones by matching quantiles of lightness, as transfer along one
// axis does (Pitié, Kokaram, Dahyot 2007); colour by its spread (Reinhard, Ashikhmin, Gooch, Shirley 2001), and by its
// mean at each lightness, which the grade's own three ranges take up by least squares.

/** A picture's colours: OKLab, one after another. */
export type Cloud = Float64Array;
const places = 4096;
/** OKLab of about 4,000 pixels spread evenly over a picture of 8-bit sRGB. */
export function cloudOf(rgb: Uint8Array): Cloud {
  const count = Math.floor(rgb.length / 3),
    n = Math.min(places, count),
    out = new Float64Array(n * 3);
  for (let i = 0; i < n; i++) {
    const at = Math.floor(((i + 0.5) / n) * count) * 3,
      linear = [0, 1, 2].map((c) => decodeSrgb(rgb[at + c]! / 255)) as [number, number, number];
    out.set(rec2020ToOklab(apply3(toRec2020, linear)), i * 3);
  }
  return out;
}
const toRec2020 = invert3(rec2020To(srgb));

const directions = 48;
/**
 * How far two clouds lie apart: the sliced Wasserstein distance (Rabin, Peyré, Delon, Bernot 2011), the mean over directions of how far
 * one's values along them must be moved to be the other's; in hundredths of OKLab.
 */
export function cloudDistance(a: Cloud, b: Cloud): number {
  let sum = 0;
  for (let k = 0; k < directions; k++) {
    // directions spread evenly over half a sphere (Fibonacci's lattice)
    const z = (k + 0.5) / directions,
      r = Math.sqrt(1 - z * z),
      turn = k * Math.PI * (3 - Math.sqrt(5)),
      way = [r * Math.cos(turn), r * Math.sin(turn), z] as const,
      along = (c: Cloud): Float64Array =>
        Float64Array.from({ length: c.length / 3 }, (_, i) => c[i * 3]! * way[0] + c[i * 3 + 1]! * way[1] + c[i * 3 + 2]! * way[2]).sort(),
      [p, q] = [along(a), along(b)],
      steps = 256;
    for (let i = 0; i < steps; i++) sum += Math.abs(quantile(p, (i + 0.5) / steps) - quantile(q, (i + 0.5) / steps)) / steps;
  }
  return (100 * sum) / directions;
}
/** A quantile of rising values. */
function quantile(values: Float64Array, share: number): number {
  const at = Math.min(values.length - 1, Math.max(0, share * values.length - 0.5)),
    low = Math.floor(at),
    high = Math.min(values.length - 1, low + 1);
  return values[low]! + (values[high]! - values[low]!) * (at - low);
}
const column = (c: Cloud, k: number): Float64Array => Float64Array.from({ length: c.length / 3 }, (_, i) => c[i * 3 + k]!);

const shares = [0.01, 0.06, 0.18, 0.35, 0.5, 0.65, 0.82, 0.94, 0.99],
  /** a tone is moved to no more than so many times its contrast, and to no less than its inverse */
  steepest = 3,
  nearest = 0.025;
/** A curve of lightness that takes one picture's quantiles to the other's, no steeper and no flatter than a picture bears. */
function toneCurve(from: Cloud, to: Cloud): CurvePoints {
  const [a, b] = [column(from, 0).sort(), column(to, 0).sort()],
    clamp = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v)),
    round = (v: number): number => Math.round(v * 1e4) / 1e4,
    points: [number, number][] = [];
  for (const share of shares) {
    const x = clamp(quantile(a, share), 0.02, 0.98),
      last = points.at(-1);
    if (last && x - last[0] < nearest) continue;
    const wanted = clamp(quantile(b, share), 0, 1),
      y = last ? clamp(wanted, last[1] + (x - last[0]) / steepest, last[1] + (x - last[0]) * steepest) : wanted;
    points.push([x, clamp(y, 0, 1)]);
  }
  const first = points[0]!,
    end = points.at(-1)!;
  return [
    [0, round(clamp(first[1] - first[0], 0, first[1]))],
    ...points.map(([x, y]) => [round(x), round(y)] as const),
    [1, round(clamp(end[1] + (1 - end[0]), end[1], 1))],
  ];
}
/** Colours by lightness: how many of each, their mean, and the square of how far they lie from it. */
interface Bin {
  n: number;
  a: number;
  b: number;
  spread: number;
}
const bins = 16;
function binned(c: Cloud): Bin[] {
  const sums = Array.from({ length: bins }, () => ({ n: 0, a: 0, b: 0, square: 0 }));
  for (let i = 0; i < c.length; i += 3) {
    const sum = sums[Math.min(bins - 1, Math.max(0, Math.floor(c[i]! * bins)))]!,
      [a, b] = [c[i + 1]!, c[i + 2]!];
    sum.n++;
    sum.a += a;
    sum.b += b;
    sum.square += a * a + b * b;
  }
  return sums.map(({ n, a, b, square }) => ({
    n,
    a: a / Math.max(1, n),
    b: b / Math.max(1, n),
    spread: square / Math.max(1, n) - (a * a + b * b) / Math.max(1, n) ** 2,
  }));
}
/** How much farther the other's colours lie from their mean at each lightness, in percent; a tint of darks or lights is none of that. */
function saturationChange(from: Cloud, to: Cloud): number {
  const [own, other] = [binned(from), binned(to)];
  let [mine, theirs, all] = [0, 0, 0];
  own.forEach((bin, k) => {
    const both = Math.min(bin.n, other[k]!.n);
    all += both;
    mine += both * bin.spread;
    theirs += both * other[k]!.spread;
  });
  // where a picture has no colour there is none to be raised
  if (all === 0 || mine / all < 1.6e-5) return 0;
  return Math.round(Math.min(70, Math.max(-100, 100 * (Math.sqrt(Math.max(0, theirs) / mine) - 1))));
}

/** How much of a lightness is dark, middle and light to the grade, and how far colour is laid on there at all. */
function gradeWeights(L: number): [number, number, number] {
  const { darkLow, darkHigh, lightLow, lightHigh } = gradeEdges(defaultsOf(grade)),
    dark = 1 - smoothstep((L - darkLow) / (darkHigh - darkLow)),
    light = smoothstep((L - lightLow) / (lightHigh - lightLow)),
    ends = smoothstep(L * 4) * (1 - smoothstep((L - 0.9) * 10));
  return [dark * ends, (1 - dark - light) * ends, light * ends];
}
/** Chroma of a tint, at most. */
const most = 0.09;
/** Offsets of colour for darks, mids and lights that bring the mean colour at each lightness to the other's, by least squares over what both have. */
function gradeParams(from: Cloud, to: Cloud): LookStep['params'] {
  const [own, other] = [binned(from), binned(to)],
    // a little weight against moving what the pictures say nothing of
    normal = [0, 1, 2].map((i) => [0, 1, 2].map((j) => (i === j ? 0.01 * (from.length / 3) : 0))),
    right = [
      [0, 0, 0],
      [0, 0, 0],
    ];
  own.forEach((bin, k) => {
    const there = other[k]!,
      both = Math.min(bin.n, there.n);
    if (both === 0) return;
    const w = gradeWeights((k + 0.5) / bins),
      miss = [there.a - bin.a, there.b - bin.b];
    for (let i = 0; i < 3; i++) {
      for (let j = 0; j < 3; j++) normal[i]![j]! += both * w[i]! * w[j]!;
      for (let c = 0; c < 2; c++) right[c]![i]! += both * w[i]! * miss[c]!;
    }
  });
  const [as, bs] = right.map((r) => solved3(normal, r)) as [number[], number[]],
    params: Record<string, number> = {};
  (['darks', 'mids', 'lights'] as const).forEach((range, i) => {
    const hue = (((Math.atan2(bs[i]!, as[i]!) * 180) / Math.PI) % 360) + 360;
    params[`${range}Hue`] = Math.round(hue) % 360;
    params[`${range}Chroma`] = Math.round(1e3 * Math.min(most, Math.hypot(as[i]!, bs[i]!))) / 1e3;
  });
  return params;
}
/** Solves three equations by Cramer's rule. */
function solved3(m: readonly number[][], r: readonly number[]): number[] {
  const det = ([a, b, c]: readonly (readonly number[])[]): number =>
      a![0]! * (b![1]! * c![2]! - b![2]! * c![1]!) -
      a![1]! * (b![0]! * c![2]! - b![2]! * c![0]!) +
      a![2]! * (b![0]! * c![1]! - b![1]! * c![0]!),
    whole = det(m);
  return [0, 1, 2].map((k) => det(m.map((row, i) => row.map((v, j) => (j === k ? r[i]! : v)))) / whole);
}

/** Colours as the three steps leave them, by the steps' own formulas. */
function stepped(cloud: Cloud, points: CurvePoints | null, change: number, params: LookStep['params'] | null): Cloud {
  const f = points ? monotoneCubic(points) : (L: number): number => L,
    out = new Float64Array(cloud.length),
    offset = (range: string): [number, number] => {
      const hue = ((params?.[`${range}Hue`] as number) * Math.PI) / 180,
        chroma = params?.[`${range}Chroma`] as number;
      return [chroma * Math.cos(hue), chroma * Math.sin(hue)];
    },
    offsets = params ? ['darks', 'mids', 'lights'].map(offset) : null;
  for (let i = 0; i < cloud.length; i += 3) {
    const L = Math.min(1, Math.max(0, f(Math.min(1, Math.max(0, cloud[i]!))))),
      w = offsets ? gradeWeights(L) : [0, 0, 0],
      add = (c: 0 | 1): number => (offsets ? offsets.reduce((s, o, k) => s + w[k]! * o[c], 0) : 0);
    out[i] = L;
    out[i + 1] = cloud[i + 1]! * (1 + change / 100) + add(0);
    out[i + 2] = cloud[i + 2]! * (1 + change / 100) + add(1);
  }
  return out;
}

/** A step as it is proposed. */
export type Proposed = Pick<LookStep, 'kind' | 'name' | 'params'>;
/** Steps as a look holds them, at the end of its Print lane. */
export const withProposed = (look: Look, steps: readonly Proposed[]): Look => ({
  ...look,
  print: [
    ...look.print,
    ...steps.map((s, i): LookStep => {
      const fresh = newStep(s.kind, `towards-${i}`);
      return { ...fresh, name: s.name, params: { ...fresh.params, ...s.params } };
    }),
  ],
});
/** Steps of the Print lane that bring a picture's colours near another's: a tone curve, saturation, a grade; those that would do nothing are left out. */
export function stepsTowards(from: Cloud, to: Cloud, name: string): Proposed[] {
  const points = toneCurve(from, to),
    toned = stepped(from, points, 0, null),
    change = saturationChange(toned, to),
    params = gradeParams(stepped(from, points, change, null), to),
    of = (what: string): string => `${what} of ${name}`.slice(0, 60);
  const steps: Proposed[] = [];
  if (points.some(([x, y]) => Math.abs(x - y) > 0.005))
    steps.push({ kind: 'curve', name: of('Tones'), params: { points, on: 'lightness' } });
  if (change !== 0) steps.push({ kind: 'saturation', name: of('Colour'), params: { change } });
  if (['darks', 'mids', 'lights'].some((r) => (params[`${r}Chroma`] as number) > 0))
    steps.push({ kind: 'grade', name: of('Tints'), params });
  return steps;
}
/** Colours after proposed steps, reckoned without drawing them. */
export function afterSteps(cloud: Cloud, steps: readonly Proposed[]): Cloud {
  const find = (kind: string): LookStep['params'] | null => steps.find((s) => s.kind === kind)?.params ?? null;
  return stepped(
    cloud,
    (find('curve')?.['points'] as CurvePoints | undefined) ?? null,
    (find('saturation')?.['change'] as number | undefined) ?? 0,
    find('grade'),
  );
}
