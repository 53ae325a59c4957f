import { tintOf } from '../../colour/tint.ts';
import { defineStep, number, numberOf } from '../../render/step.ts';

/** Bright light scattered far, as by a soft filter before the lens: linear light, of which none is lost. */
export const glow = defineStep({
  kind: 'glow',
  lane: 'print',
  name: 'Glow',
  purpose: 'Bright places shine over what is about them',
  atStrength: 'multiplies the share',
  note: 'Size is the deviation of the nearest half of the scattered light, in shares of the long edge; the rest goes two and four times as far',
  needs: ['glow', 'soft focus', 'dreamy', 'mist', 'bloom', 'diffusion'],
  params: {
    share: number('Share scattered', '%', 0, 90, 0, 1, 0),
    size: number('Size', '%', 0.5, 15, 3, 0.1, 1),
    from: number('From light', '%', 0, 100, 45, 1, 0),
    hue: number('Hue', '°', 0, 360, 70, 1, 0),
    colour: number('Colour', '%', 0, 100, 0, 1, 0),
  },
  unbakeable: 'a table knows nothing of a place’s neighbours',
  compile: (values, strength) => {
    const share = Math.min(0.95, (numberOf(values, 'share') / 100) * strength);
    if (share === 0) return [];
    const tint = tintOf(numberOf(values, 'hue'), numberOf(values, 'colour') / 100);
    // three for the place of a row in the field
    return [
      {
        kernel: 'glow',
        parameters: [...tint.map((v) => v * share), 0, 0, 0, numberOf(values, 'size') / 100, numberOf(values, 'from') / 100],
      },
    ];
  },
});
