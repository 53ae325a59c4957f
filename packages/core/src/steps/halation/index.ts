import { tintOf } from '../../colour/tint.ts';
import type { Vector3 } from '../../colour/matrix.ts';
import { scatterPass } from '../../render/scatter.ts';
import { defineStep, number, numberOf } from '../../render/step.ts';

/** Light that went through the emulsion, scattered back from the base about where it came in: linear light, of which none is lost. */
export const halation = defineStep({
  kind: 'halation',
  lane: 'print',
  name: 'Halation',
  purpose: 'A red rim about lights, as from a film’s base',
  atStrength: 'multiplies the share',
  note: 'Reach is the deviation of the scattered light on film, in µm; three fifths of it come down so near, the rest two and a half times as far',
  needs: ['halation', 'red glow', 'lamps at night', 'bloom'],
  params: {
    share: number('Share scattered', '%', 0, 60, 0, 1, 0),
    reach: number('Reach', 'µm', 10, 250, 90, 5, 0),
    hue: number('Hue', '°', 0, 360, 35, 1, 0),
    colour: number('Colour', '%', 0, 100, 90, 1, 0),
    format: number('Format', 'mm', 16, 250, 36, 1, 0),
  },
  unbakeable: 'a table knows nothing of a place’s neighbours',
  compile: (values, strength) => {
    const share = Math.min(0.95, (numberOf(values, 'share') / 100) * strength),
      shares = tintOf(numberOf(values, 'hue'), numberOf(values, 'colour') / 100).map((v) => v * share) as unknown as Vector3;
    return share === 0 ? [] : [scatterPass(shares, numberOf(values, 'reach') / 1000 / numberOf(values, 'format'))];
  },
});
