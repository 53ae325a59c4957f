import { ciede2000, xyzToLab } from '../colour/difference.ts';
import { apply3, type Vector3 } from '../colour/matrix.ts';
import { plainResponse, responseOf } from '../colour/response.ts';
import { rgbToXyz, srgb } from '../colour/spaces.ts';
import { decodeSrgb } from '../colour/transfer.ts';
import type { Clf } from '../formats/clf.ts';
import { table3d, type Rgb, type Table } from '../colour/table.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { encodeParameters } from '../render/output.ts';
import { isJoinPass, isPointwise } from '../render/pass.ts';
import { lookPasses, passesOf } from './plan.ts';
import { stepKind } from '../look/kinds.ts';
import { decodeFrom, encodeFor, type Encoding } from '../steps/lookup/index.ts';
import { sendThrough } from './dyestrip.ts';
import { compileMask } from '../mask/compile.ts';
import { byLightAlone } from '../render/maskPlan.ts';
import { skeinOf, stepsOf, type Look } from '../look/look.ts';

/** The steps of a look that a table cannot carry, each with the reason. */
export function unbakeable(look: Look): { name: string; reason: string }[] {
  return stepsOf(look)
    .filter((s) => s.on && s.strength > 0)
    .flatMap((s) => {
      const kind = stepKind(s.kind)!,
        name = s.name || kind.name,
        passes = passesOf(s, look.strength, look.masks),
        skein = skeinOf(look, s);
      if (passes.some((p) => !isPointwise(p) && !isJoinPass(p))) return [{ name, reason: kind.unbakeable! }];
      const masks = [s.mask, skein?.mask ?? null].flatMap((m) => (m ? [compileMask(m, look.masks)] : []));
      return masks.every(byLightAlone) || passes.length === 0
        ? []
        : [{ name, reason: 'it acts in places of its own; a table knows only colours' }];
    });
}

/** Scene light that the plain rendition shows as a display light of 0–1: its inverse, by bisection over a table. */
const plainInverse = (() => {
  const shown = responseOf(plainResponse),
    { whiteEv } = plainResponse;
  const find = (y: number): number => {
    let low = 0,
      high = 0.18 * 2 ** whiteEv;
    for (let i = 0; i < 50; i++) {
      const middle = (low + high) / 2;
      if (shown(middle) < y) low = middle;
      else high = middle;
    }
    return (low + high) / 2;
  };
  const table = Float64Array.from({ length: 4098 }, (_, i) => find(Math.min(1, i / 4096) ** 2));
  return (y: number): number => {
    const t = Math.sqrt(Math.min(1, Math.max(0, y))) * 4096,
      i = Math.floor(t);
    return table[i]! + (table[i + 1]! - table[i]!) * (t - i);
  };
})();

/**
 * Scene light for a colour going into a baked table: `acescct` and `linear` are scene light itself; `srgb` is a picture, as the
 * plain rendition would have made it, so that a look without steps bakes to no change.
 */
const sceneOf = (input: Encoding, rgb: Rgb): Vector3 =>
  input === 'srgb' ? (decodeFrom('srgb', rgb).map(plainInverse) as unknown as Vector3) : decodeFrom(input, rgb);

/** What a look makes of colours in a table's input encoding: sRGB values, gamut mapped as every picture is. */
export function lookThrough(kernels: Kernels, look: Look, input: Encoding, colours: readonly Rgb[]): Rgb[] {
  const passes = lookPasses(look),
    out: Rgb[] = [],
    numbers = encodeParameters('srgb'),
    chunk = 4096;
  for (let from = 0; from < colours.length; from += chunk) {
    const part = sendThrough(
        kernels,
        passes,
        colours.slice(from, from + chunk).map((c) => sceneOf(input, c)),
      ),
      n = (part.length + 7) & ~7,
      at = kernels.reserve(n * 12 + numbers.length * 4 + n * 8 + 512),
      params = at + n * 12 + 64,
      pixels = (params + numbers.length * 4 + 79) & ~15;
    const f = kernels.f32();
    for (let i = 0; i < part.length; i++) for (let k = 0; k < 3; k++) f[at / 4 + k * n + i] = part[i]![k]!;
    f.set(numbers, params / 4);
    kernels.exports.encode(at, at + n * 4, at + n * 8, n, params, pixels, 0, 0, 0, 6);
    const u = kernels.u16();
    for (let i = 0; i < part.length; i++) out.push([0, 1, 2].map((k) => u[pixels / 2 + i * 3 + k]! / 65535) as unknown as Rgb);
  }
  return out;
}

/** The linear scene light from which on greys get no lighter under a look; 1 at least, and 46 (eight stops over middle grey) at most. */
export function whiteOf(kernels: Kernels, look: Look): number {
  const levels = Array.from({ length: 33 }, (_, i) => 0.18 * 2 ** (i / 4)),
    shown = lookThrough(
      kernels,
      look,
      'linear',
      levels.map((v): Rgb => [v, v, v]),
    ),
    last = shown[shown.length - 1]!;
  return Math.max(1, levels[shown.findIndex((c) => c.every((v, k) => v > last[k]! - 0.004))]!);
}

/** Bakes a look to a 3D table of sRGB values. What `unbakeable` lists is left out. Of linear scene light the domain reaches white. */
export function bakeLook(kernels: Kernels, look: Look, size: number, input: Encoding): Table {
  const grid: Rgb[] = [],
    top = input === 'linear' ? whiteOf(kernels, look) : 1,
    empty = table3d(
      look.name,
      size,
      (rgb) => {
        grid.push(rgb);
        return [0, 0, 0];
      },
      [0, 0, 0],
      [top, top, top],
    );
  empty.data.set(lookThrough(kernels, look, input, grid).flat());
  return empty;
}

/** What is added to light before its logarithm is taken, so that black has one: about ten stops under middle grey. */
const blackLight = 0.18 / 1024;
/** Bakes a look to a Common LUT Format list. Linear scene light goes through a log node first, so that darks get their share of the table. */
export function bakeClf(kernels: Kernels, look: Look, size: number, input: Encoding): Clf {
  const head = { id: look.name.replace(/\W+/g, '-'), name: look.name };
  if (input !== 'linear') return { ...head, nodes: [{ type: 'table', linear: false, table: bakeLook(kernels, look, size, input) }] };
  const span = Math.log2(whiteOf(kernels, look) + blackLight) - Math.log2(blackLight),
    shaper = {
      base: 2,
      linSideSlope: 1,
      linSideOffset: blackLight,
      logSideSlope: 1 / span,
      logSideOffset: -Math.log2(blackLight) / span,
      linSideBreak: null,
      linearSlope: null,
    },
    grid: Rgb[] = [],
    table = table3d(look.name, size, (rgb) => {
      grid.push(rgb.map((v) => 2 ** (v * span + Math.log2(blackLight)) - blackLight) as unknown as Rgb);
      return [0, 0, 0];
    });
  table.data.set(lookThrough(kernels, look, 'linear', grid).flat());
  return {
    ...head,
    nodes: [
      { type: 'log', style: 'linToLog', params: [shaper, shaper, shaper] },
      { type: 'table', linear: false, table },
    ],
  };
}

const toXyz = rgbToXyz(srgb),
  labOf = (c: Rgb): Vector3 =>
    xyzToLab(apply3(toXyz, c.map((v) => decodeSrgb(Math.min(1, Math.max(0, v)))) as unknown as Vector3), [0.95047, 1, 1.08883]);
/** Colours to judge a table by: greys, and a low-discrepancy scatter over the cube (additive recurrence, Roberts 2018). */
export const testColours: readonly Rgb[] = [
  ...Array.from({ length: 64 }, (_, i): Rgb => [i / 63, i / 63, i / 63]),
  ...Array.from(
    { length: 1500 },
    (_, i): Rgb => [0.819172513396165, 0.671043606703789, 0.54970047790197].map((a) => (0.5 + a * (i + 1)) % 1) as unknown as Rgb,
  ),
];

/** The same colours as they go into a table: pictures as they are, scene light as the plain rendition would have shown it so. */
export const testColoursFor = (input: Encoding): readonly Rgb[] =>
  input === 'srgb' ? testColours : testColours.map((c) => encodeFor(input, sceneOf('srgb', c)) as unknown as Rgb);

/** How far something is from the look it was baked from: mean and worst CIEDE2000 over the test colours. */
export function bakeError(
  kernels: Kernels,
  look: Look,
  apply: (rgb: Rgb) => Rgb,
  input: Encoding,
): { mean: number; worst: number; worstAt: Rgb } {
  const colours = testColoursFor(input),
    truth = lookThrough(kernels, look, input, colours);
  let sum = 0,
    worst = 0,
    worstAt: Rgb = [0, 0, 0];
  colours.forEach((c, i) => {
    const d = ciede2000(labOf(truth[i]!), labOf(apply(c)));
    sum += d;
    if (d > worst) {
      worst = d;
      worstAt = c;
    }
  });
  return { mean: sum / colours.length, worst, worstAt };
}
/** The least of usual sizes whose error is under 0.3 in the mean and 2 at worst; the largest when none is. */
export function suggestedSize(kernels: Kernels, look: Look, input: Encoding, baked: (size: number) => (rgb: Rgb) => Rgb): number {
  return (
    [17, 33, 49, 65].find((size) => {
      const e = bakeError(kernels, look, baked(size), input);
      return e.mean < 0.3 && e.worst < 2;
    }) ?? 65
  );
}
