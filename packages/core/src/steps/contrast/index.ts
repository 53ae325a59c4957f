import { luminanceShares } from '../../colour/luminance.ts';
import { choice, defineStep, number, numberOf } from '../../render/step.ts';

/** y = pivot·(x/pivot)^γ, a straight line of slope γ over log light through the pivot; γ = 2^(contrast/100). */
export const contrast = defineStep({
  kind: 'contrast',
  lane: 'scene',
  name: 'Contrast',
  purpose: 'Steeper or flatter light about a pivot',
  atStrength: 'multiplies it',
  note: 'γ = 2^(contrast/100)',
  needs: ['contrast', 'punch', 'flat', 'pivot', 'soften'],
  params: {
    contrast: number('Contrast', '%', -100, 100, 0, 1, 0),
    pivotEv: number('Pivot', 'EV', -4, 3, 0, 0.05, 2),
    on: choice(
      'Acts on',
      [
        ['luminance', 'luminance, colour kept'],
        ['channels', 'each channel'],
      ],
      'luminance',
    ),
  },
  compile: (values, strength) => {
    const exponent = 2 ** ((numberOf(values, 'contrast') / 100) * strength),
      pivot = 0.18 * 2 ** numberOf(values, 'pivotEv'),
      whole = values['on'] === 'luminance' ? 1 : 0;
    return exponent === 1 ? [] : [{ kernel: 'contrast', parameters: [pivot, 1 / pivot, exponent - whole, whole, ...luminanceShares] }];
  },
});
