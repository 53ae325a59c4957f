import { luminanceShares } from '../../colour/luminance.ts';
import { defineStep, number, numberOf } from '../../render/step.ts';

/** Deviations of the Gaussian that lie within what the step reads. */
const within = 3;

/** Sharpening of the finished picture's lightness by what a Gaussian takes from it; its size is a share of the long edge, so that every delivery size is crisp alike. */
export const crispness = defineStep({
  kind: 'crispness',
  lane: 'print',
  name: 'Crispness',
  purpose: 'Edges and fine texture crisper or softer, sized by the picture',
  atStrength: 'multiplies the amount',
  note: "Size is the spread of the Gaussian, in thousandths of the uncropped frame's long edge",
  needs: ['crisper', 'sharpen', 'softer', 'print sharpening', 'texture'],
  params: {
    amount: number('Amount', '%', -100, 200, 0, 1, 0),
    size: number('Size', '‰', 0.1, 2, 0.4, 0.05, 2),
    still: number('Left alone', '%', 0, 8, 0.8, 0.1, 1),
    most: number('Edges held at', '%', 2, 40, 12, 1, 0),
  },
  unbakeable: 'a table knows nothing of a place’s neighbours',
  compile: (values, strength) => {
    const amount = (numberOf(values, 'amount') / 100) * strength,
      still = numberOf(values, 'still') / 100,
      most = numberOf(values, 'most') / 100;
    return amount === 0
      ? []
      : [
          {
            kernel: 'crispness',
            parameters: [...luminanceShares, Math.max(-1, amount), still ** 2 + 1e-12, 1 / most],
            reach: (within * numberOf(values, 'size')) / 1000,
          },
        ];
  },
});
