import { rec2020ToXyz } from '../../colour/spaces.ts';
import { defineStep, number, numberOf } from '../../render/step.ts';

/**
 * Grey from weights of linear red, green and blue light, divided by their sum; where that is under a half, by a half, and
 * the rest shared out evenly: greys stay, and nothing is blown up by a division by little.
 * Default 39/50/11 is common practice. Above 100 % the tones go further from plain luminance, below it colour stays.
 */
export const mono = defineStep({
  kind: 'mono',
  lane: 'print',
  name: 'Black and white',
  purpose: 'Grey from weights of red, green and blue',
  atStrength: 'to 100 % takes colour away, above it carries the tones further',
  note: 'Weights are divided by their sum; where it is under 50 %, by that, the rest shared out evenly',
  needs: ['monochrome', 'black and white', 'grey', 'dark sky', 'red filter'],
  params: {
    amount: number('Amount', '%', 0, 100, 0, 1, 0),
    red: number('Red light', '%', -50, 150, 39, 1, 0),
    green: number('Green light', '%', -50, 150, 50, 1, 0),
    blue: number('Blue light', '%', -50, 150, 11, 1, 0),
  },
  compile: (params, strength) => {
    const share = (numberOf(params, 'amount') / 100) * strength;
    if (share === 0) return [];
    const w = [numberOf(params, 'red'), numberOf(params, 'green'), numberOf(params, 'blue')];
    const sum = w.reduce((a, b) => a + b, 0),
      total = Math.max(50, sum),
      rest = (1 - sum / total) / 3;
    const even = [rec2020ToXyz[3], rec2020ToXyz[4], rec2020ToXyz[5]];
    return [{ kernel: 'mono', parameters: [...w.map((v) => v / total + rest), ...even, Math.max(1, share), Math.min(1, share)] }];
  },
});
