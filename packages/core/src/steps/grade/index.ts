import { labMatrices, polar } from '../../colour/oklab.ts';
import { defineStep, number, numberOf, type NumberParameter } from '../step.ts';

export const gradeRanges = ['darks', 'mids', 'lights'] as const;
export type GradeRange = (typeof gradeRanges)[number];
const named: Record<GradeRange, string> = { darks: 'Darks', mids: 'Mids', lights: 'Lights' };

const params: Record<string, NumberParameter> = {};
for (const range of gradeRanges) {
  params[`${range}Hue`] = number(`${named[range]} hue`, '°', 0, 360, 0, 1, 0);
  params[`${range}Chroma`] = number(`${named[range]} chroma`, '', 0, 0.15, 0, 0.002, 3);
  params[`${range}Lightness`] = number(`${named[range]} lightness`, '', -0.15, 0.15, 0, 0.005, 3);
}
params['darksEndEv'] = number('Darks end at', 'EV', -5, -0.5, -2.2, 0.1, 1);
params['lightsBeginEv'] = number('Lights begin at', 'EV', -0.3, 2.2, 0.6, 0.1, 1);

/** OKLab lightness of a grey so many EV from middle grey (0.18). */
const lightnessAt = (ev: number): number => Math.cbrt(0.18 * 2 ** ev);
const half = 0.14;

/** Colour and lightness into darks, mids and lights as OKLab offsets (hue in degrees, chroma, lightness). */
export const grade = defineStep({
  kind: 'grade', lane: 'print', name: 'Grade', purpose: 'Colour into darks, mids and lights', needs: ['warmer highlights', 'cool shadows', 'split tone', 'old print', 'complement'],
  params,
  compile: (values, strength) => {
    const offsets = gradeRanges.flatMap((range) => {
      const [a, b] = polar(numberOf(values, `${range}Hue`), numberOf(values, `${range}Chroma`) * strength);
      return [a, b, numberOf(values, `${range}Lightness`) * strength];
    });
    if (offsets.every((v) => v === 0)) return [];
    const dark = lightnessAt(numberOf(values, 'darksEndEv')), light = lightnessAt(numberOf(values, 'lightsBeginEv'));
    const darkHigh = Math.min(dark + half, (dark + light) / 2 + 1e-3), lightLow = Math.max(light - half, (dark + light) / 2);
    return [{ kernel: 'grade', parameters: [...labMatrices, Math.max(0, dark - half), darkHigh, lightLow, light + half, ...offsets] }];
  },
});
