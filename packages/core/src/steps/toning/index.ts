import { smoothstep } from '../../colour/smoothstep.ts';
import { polar } from '../../colour/oklab.ts';
import { inLab, tableOver } from '../../render/pass.ts';
import { defineStep, number, numberOf } from '../../render/step.ts';

const intervals = 512;

/** Baths of the darkroom by what they do to silver: colours of darks, lights and paper (common practice). */
export const baths = {
  sepia: { darksHue: 55, darksChroma: 0.055, lightsHue: 85, lightsChroma: 0.05, paperHue: 88, paperChroma: 0.022, turn: 50 },
  selenium: { darksHue: 350, darksChroma: 0.028, lightsHue: 40, lightsChroma: 0.006, paperHue: 85, paperChroma: 0.004, turn: 40 },
  'iron blue': { darksHue: 255, darksChroma: 0.06, lightsHue: 240, lightsChroma: 0.03, paperHue: 220, paperChroma: 0.006, turn: 55 },
  split: { darksHue: 255, darksChroma: 0.04, lightsHue: 72, lightsChroma: 0.045, paperHue: 85, paperChroma: 0.014, turn: 48 },
} as const;

/** Colour by tone, laid over a picture without any other: at its own lightness (OKLab L), so that tones stay. */
export const toning = defineStep({
  kind: 'toning',
  lane: 'print',
  name: 'Toning',
  purpose: 'Silver turned brown, violet or blue, by its tones',
  atStrength: 'multiplies the amount',
  note: 'Takes the picture’s own colour away as far as it goes; blacks and, but for the paper’s tint, whites have none. Lightness is not moved',
  needs: ['sepia', 'selenium', 'cyanotype', 'split toning', 'old print', 'warm black and white'],
  params: {
    amount: number('Amount', '%', 0, 100, 0, 1, 0),
    darksHue: number('Darks’ hue', '°', 0, 360, 55, 1, 0),
    darksChroma: number('Darks’ chroma', '', 0, 0.12, 0.055, 0.002, 3),
    lightsHue: number('Lights’ hue', '°', 0, 360, 85, 1, 0),
    lightsChroma: number('Lights’ chroma', '', 0, 0.12, 0.05, 0.002, 3),
    turn: number('Turns at', '%', 10, 90, 50, 1, 0),
    paperHue: number('Paper’s hue', '°', 0, 360, 88, 1, 0),
    paperChroma: number('Paper’s chroma', '', 0, 0.06, 0.02, 0.002, 3),
  },
  compile: (values, strength) => {
    const share = Math.min(1, (numberOf(values, 'amount') / 100) * strength);
    if (share === 0) return [];
    const of = (what: string): [number, number] => polar(numberOf(values, `${what}Hue`), numberOf(values, `${what}Chroma`)),
      [darks, lights, paper] = [of('darks'), of('lights'), of('paper')],
      turn = numberOf(values, 'turn') / 100,
      at = (L: number, k: 0 | 1): number => {
        const t = smoothstep((L - turn + 0.25) / 0.5),
          silver = darks[k] + (lights[k] - darks[k]) * t,
          // no silver, no colour of it; deep black shows little
          bare = smoothstep((L - 0.7) / 0.3),
          deep = smoothstep(L / 0.35);
        return deep * (silver + (paper[k] - silver) * bare);
      };
    return inLab('toneColour', [
      share,
      intervals,
      ...tableOver(intervals, (t) => at(t, 0)).slice(1),
      ...tableOver(intervals, (t) => at(t, 1)).slice(1),
    ]);
  },
});
