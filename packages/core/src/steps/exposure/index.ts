import { defineStep, number, numberOf } from '../../render/step.ts';

/** Scene light times a power of two. */
export const exposure = defineStep({
  kind: 'exposure',
  lane: 'scene',
  name: 'Exposure shift',
  purpose: 'Lighter or darker, as the camera would',
  atStrength: 'multiplies it',
  needs: ['brighter', 'darker', 'low key', 'high key'],
  params: { shiftEv: number('Shift', 'EV', -3, 3, 0, 0.05, 2) },
  compile: (params, strength) => {
    const gain = 2 ** (numberOf(params, 'shiftEv') * strength);
    return gain === 1 ? [] : [{ kernel: 'matrix', parameters: [gain, 0, 0, 0, gain, 0, 0, 0, gain] }];
  },
});
