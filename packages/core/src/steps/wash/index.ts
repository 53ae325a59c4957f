import { oklabToRec2020, polar } from '../../colour/oklab.ts';
import { encodeSrgb } from '../../colour/transfer.ts';
import { blendModes } from '../../render/blendModes.ts';
import { choice, defineStep, number, numberOf } from '../../render/step.ts';

/** A flat colour laid over the picture. */
export const wash = defineStep({
  kind: 'wash',
  lane: 'print',
  name: 'Wash',
  purpose: 'A flat colour laid over the picture',
  atStrength: 'multiplies the opacity',
  note: 'Blending is on sRGB-encoded values of linear Rec.2020, as W3C Compositing and Blending Level 1 has it',
  needs: ['colour wash', 'tint', 'overlay', 'soft light', 'multiply', 'paint'],
  params: {
    opacity: number('Opacity', '%', 0, 100, 0, 1, 0),
    mode: choice('Laid on', blendModes, 'soft-light'),
    hue: number('Hue', '°', 0, 360, 60, 1, 0),
    chroma: number('Chroma', '', 0, 0.37, 0.08, 0.005, 3),
    lightness: number('Lightness', '', 0, 1, 0.7, 0.01, 2),
  },
  compile: (values, strength) => {
    const opacity = Math.min(1, (numberOf(values, 'opacity') / 100) * strength);
    if (opacity === 0) return [];
    const colour = oklabToRec2020([numberOf(values, 'lightness'), ...polar(numberOf(values, 'hue'), numberOf(values, 'chroma'))]);
    return [
      {
        kernel: 'wash',
        parameters: [
          ...colour.map((v) => encodeSrgb(Math.min(1, Math.max(0, v)))),
          blendModes.findIndex(([mode]) => mode === values['mode']),
          opacity,
        ],
      },
    ];
  },
});
