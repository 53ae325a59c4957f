import { luminanceShares } from '../../colour/luminance.ts';
import { defineStep, number, numberOf } from '../../render/step.ts';

/** Haze taken out by the dark channel prior (He, Sun, Tang 2009), transmission refined by the guided filter (2010); below zero it is added. */
export const haze = defineStep({
  kind: 'haze',
  lane: 'scene',
  name: 'Haze',
  purpose: 'Take haze out of the distance, or add it',
  atStrength: 'multiplies it',
  note: 'Above zero clears, below adds',
  needs: ['fog', 'mist', 'clear air', 'distance', 'atmosphere', 'veil'],
  unbakeable: 'it depends on how hazy each place is',
  params: { amount: number('Clear, or add below zero', '%', -100, 100, 0, 1, 0) },
  compile: (values, strength) => {
    const amount = Math.min(1, Math.max(-2, (numberOf(values, 'amount') / 100) * strength));
    return amount === 0 ? [] : [{ kernel: 'haze', parameters: [...luminanceShares, amount, 1, 1, 1] }];
  },
});
