import { polar } from '../../colour/oklab.ts';
import { inLab } from '../../render/pass.ts';
import { defineStep, number, numberOf, type NumberParameter, type ParameterValues } from '../../render/step.ts';

export const gradeRanges = ['darks', 'mids', 'lights', 'all'] as const;
export type GradeRange = (typeof gradeRanges)[number];
const named: Record<GradeRange, string> = { darks: 'Darks', mids: 'Mids', lights: 'Lights', all: 'All' };

const params: Record<string, NumberParameter> = {};
for (const range of gradeRanges) {
  params[`${range}Hue`] = number(`${named[range]} hue`, '°', 0, 360, 0, 1, 0);
  params[`${range}Chroma`] = number(`${named[range]} chroma`, '', 0, 0.15, 0, 0.002, 3);
  params[`${range}Lightness`] = number(`${named[range]} lightness`, '', -0.15, 0.15, 0, 0.005, 3);
}
params['darksEndEv'] = number('Darks end at', 'EV', -5, -0.5, -2.2, 0.1, 1);
params['lightsBeginEv'] = number('Lights begin at', 'EV', -0.3, 2.2, 0.6, 0.1, 1);
params['balance'] = number('Balance, to darks or to lights', '', -100, 100, 0, 1, 0);

/** OKLab lightness of a grey so many EV from middle grey (0.18). */
const lightnessAt = (ev: number): number => Math.cbrt(0.18 * 2 ** ev);
const half = 0.14;
/** How far, in EV, a balance of 100 moves both boundaries. */
const balanceEv = 1.5;

/** Between which OKLab lightnesses the darks end and the lights begin. */
export function gradeEdges(values: ParameterValues): Record<'darkLow' | 'darkHigh' | 'lightLow' | 'lightHigh', number> {
  // a balance toward the lights gives them more of the picture
  const shift = (-(numberOf(values, 'balance') || 0) / 100) * balanceEv,
    dark = lightnessAt(numberOf(values, 'darksEndEv') + shift),
    light = Math.max(dark + 0.02, lightnessAt(numberOf(values, 'lightsBeginEv') + shift));
  return {
    darkLow: Math.max(0, dark - half),
    darkHigh: Math.min(dark + half, (dark + light) / 2 + 1e-3),
    lightLow: Math.max(light - half, (dark + light) / 2),
    lightHigh: light + half,
  };
}

/** Colour and lightness into darks, mids and lights as OKLab offsets (hue in degrees, chroma, lightness). */
export const grade = defineStep({
  kind: 'grade',
  lane: 'print',
  name: 'Grade',
  purpose: 'Colour into darks, mids and lights',
  atStrength: 'multiplies chroma and lightness',
  needs: ['warmer highlights', 'cool shadows', 'split tone', 'old print', 'complement'],
  params,
  compile: (values, strength) => {
    const of = (name: string): number => (values[name] === undefined ? 0 : numberOf(values, name)),
      whole = [...polar(of('allHue'), of('allChroma')), of('allLightness')];
    const offsets = (['darks', 'mids', 'lights'] as const).flatMap((range) =>
      [...polar(of(`${range}Hue`), of(`${range}Chroma`)), of(`${range}Lightness`)].map((v, i) => (v + whole[i]!) * strength),
    );
    if (offsets.every((v) => v === 0)) return [];
    const { darkLow, darkHigh, lightLow, lightHigh } = gradeEdges(values);
    return inLab('grade', [
      darkLow,
      1 / (darkHigh - darkLow),
      lightLow,
      1 / (lightHigh - lightLow),
      ...[0, 1, 2].flatMap((k) => [offsets[k]!, offsets[k + 3]!, offsets[k + 6]!]),
    ]);
  },
});

/** The hue tied to another: its complement, 180° away; a neighbour, 30°; or a third of the circle. */
export const tiedHue = (hue: number, tie: 'complement' | 'analogous' | 'triad'): number =>
  (hue + { complement: 180, analogous: 30, triad: 120 }[tie]) % 360;
