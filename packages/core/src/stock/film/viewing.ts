import { log10 } from '../../colour/elementary.ts';
import { chain3, type Matrix3, type Vector3 } from '../../colour/matrix.ts';
import { adapt, d65, xyToXyz, xyzToRec2020 } from '../../colour/spaces.ts';
import type { Characteristic } from './curve.ts';
import type { PrintSheet } from './sheet.ts';
import { solved } from './solving.ts';
import { bell, lightOf, observed, spectrumOf, type Spectrum } from '../../colour/spectrum.ts';
import { throughDyes, type Through } from './beerLambert.ts';

/** From XYZ under a light to linear Rec.2020, so that a luminance comes out as 1. */
function viewing(light: Spectrum, luminance: number): Matrix3 {
  const own = observed(light).map((weight) => weight.reduce((sum, v) => sum + v, 0)) as unknown as Vector3,
    scale = 1 / luminance;
  return chain3([scale, 0, 0, 0, scale, 0, 0, 0, scale], xyzToRec2020, adapt(own, xyToXyz(d65)));
}
/** How something is looked at: X, Y and Z of its densities, each per unit of the light's own Y, and from there to linear Rec.2020. */
export interface Eye {
  xyz: Through;
  toRec2020: Matrix3;
}
/** Weights of X, Y, Z as those of linear red, green, blue. */
function weighed(xyz: readonly [Spectrum, Spectrum, Spectrum], m: Matrix3): readonly [Spectrum, Spectrum, Spectrum] {
  return [0, 1, 2].map((row) =>
    xyz[0].map((x, i) => m[row * 3]! * x + m[row * 3 + 1]! * xyz[1][i]! + m[row * 3 + 2]! * xyz[2][i]!),
  ) as unknown as readonly [Spectrum, Spectrum, Spectrum];
}
/** What a paper's base holds back. */
export const paperBase = ({ baseBlue, baseRed }: Pick<PrintSheet, 'baseBlue' | 'baseRed'>): Spectrum =>
  spectrumOf(
    (nm) =>
      baseBlue * bell({ peak: 420, towardsBlue: 60, towardsRed: 60 }, nm) +
      baseRed * bell({ peak: 680, towardsBlue: 80, towardsRed: 80 }, nm),
  );

/** Dyes in a light, counted so that equal amounts of all three are a grey. */
export interface Counted {
  light: Spectrum;
  dyes: readonly Spectrum[];
}
export function countedIn(kelvin: number, dyes: readonly Spectrum[]): Counted {
  const light = lightOf(kelvin),
    amounts = dyes.length === 3 ? neutralAmounts(light, dyes) : dyes.map(() => 1);
  return { light, dyes: dyes.map((d, k) => d.map((v) => v * amounts[k]!)) };
}
/** Something with dyes that is looked at: its densities as linear Rec.2020, the base's white having a luminance of 1. Densities count as equivalent neutral ones. */
export function looked({ light, dyes }: Counted, base: Spectrum, dmin: readonly number[]): Through & { eye: Eye } {
  const xyz = observed(light),
    through = throughDyes(dyes, base, xyz),
    [, luminance] = through(dmin),
    toRec2020 = viewing(light, luminance);
  return Object.assign(throughDyes(dyes, base, weighed(xyz, toRec2020)), { eye: { xyz: through, toRec2020 } });
}
/** How much of each dye makes a grey of density 1, by Newton's steps. */
function neutralAmounts(light: Spectrum, dyes: readonly Spectrum[]): number[] {
  const seen = throughDyes(dyes, new Float64Array(light.length), weighed(observed(light), viewing(light, 1))),
    off = (d: readonly number[]): number[] => seen(d).map((v) => log10(Math.max(1e-9, v)) + 1);
  let d = dyes.map(() => 1);
  for (let round = 0; round < 12; round++) {
    const here = off(d),
      slopes = d.map((_, k) => off(d.map((v, i) => v + (i === k ? 1e-5 : 0))).map((v, c) => (v - here[c]!) / 1e-5)),
      step = solved(
        [0, 1, 2].map((c) => [0, 1, 2].map((k) => slopes[k]![c]!)),
        here,
      );
    d = d.map((v, i) => Math.min(3, Math.max(0.2, v - step[i]!)));
  }
  return d;
}
/** Densities of three dyes that show a neutral grey of a luminance, by Newton's steps. */
export function densitiesFor(seen: Through, goal: number, curves: readonly Characteristic[]): number[] {
  let d = [0.75, 0.75, 0.75];
  for (let round = 0; round < 20; round++) {
    const at = seen(d).map((v) => log10(Math.max(1e-6, v))),
      off = at.map((v) => v - log10(goal));
    const slopes = [0, 1, 2].map((k) => {
      const more = seen(d.map((v, i) => v + (i === k ? 1e-4 : 0))).map((v) => log10(Math.max(1e-6, v)));
      return more.map((v, c) => (v - at[c]!) / 1e-4);
    });
    const step = solved(
      [0, 1, 2].map((c) => [0, 1, 2].map((k) => slopes[k]![c]!)),
      off,
    );
    d = d.map((v, i) => Math.min(curves[i]!.dmax - 0.02, Math.max(curves[i]!.dmin + 0.02, v - step[i]!)));
    if (Math.max(...step.map(Math.abs)) < 1e-9) break;
  }
  return d;
}
