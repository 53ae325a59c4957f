import { inLab } from '../../render/pass.ts';
import { defineStep, number, numberOf } from '../../render/step.ts';

/** Chroma times a factor at constant OKLab lightness and hue. */
export const saturation = defineStep({
  kind: 'saturation',
  lane: 'print',
  name: 'Saturation',
  purpose: 'More or less colour',
  atStrength: 'multiplies it',
  needs: ['vivid', 'muted', 'quiet colour', 'colourful'],
  params: { change: number('Change', '%', -100, 100, 0, 1, 0) },
  compile: (params, strength) => {
    const factor = Math.max(0, 1 + (numberOf(params, 'change') / 100) * strength);
    return factor === 1 ? [] : inLab('saturation', [factor]);
  },
});
