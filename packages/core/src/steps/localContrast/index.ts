import { luminanceShares } from '../../colour/luminance.ts';
import { defineStep, number, numberOf } from '../../render/step.ts';

/** Contrast within coarse, medium and fine shapes, on log luminance, by guided-filter decomposition of the whole small picture; below zero it softens. */
export const localContrast = defineStep({
  kind: 'localContrast',
  lane: 'scene',
  name: 'Local contrast',
  purpose: 'Shapes and texture firmer or softer',
  atStrength: 'multiplies them',
  needs: ['shapes', 'relief', 'soften', 'softer skin', 'crisp', 'depth'],
  unbakeable: 'it depends on what lies round each place',
  params: {
    fine: number('Fine', '%', -100, 100, 0, 1, 0),
    medium: number('Medium', '%', -100, 100, 0, 1, 0),
    coarse: number('Coarse', '%', -100, 100, 0, 1, 0),
  },
  compile: (values, strength) => {
    const k = ['fine', 'medium', 'coarse'].map((n) => (numberOf(values, n) / 100) * strength);
    return k.every((v) => v === 0) ? [] : [{ kernel: 'localContrast', parameters: [...luminanceShares, ...k.map((v) => Math.max(-1, v))] }];
  },
});
