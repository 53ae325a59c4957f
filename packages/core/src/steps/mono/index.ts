import { rec2020ToXyz } from '../../colour/spaces.ts';
import { throughFilter, type LensFilter } from '../../colour/lensFilters.ts';
import type { Vector3 } from '../../colour/matrix.ts';
import { filterChoices } from '../../render/filterChoices.ts';
import { bandTables } from '../../render/bands.ts';
import { inLab, type Pass } from '../../render/pass.ts';
import { defineStep, number, numberOf, type BandHandle, type ParameterValues } from '../../render/step.ts';

/** Weights as they are behind a filter: grey is what the filtered light is weighed to, white given back where that is asked for. */
function filtered(w: Vector3, params: ParameterValues): Vector3 {
  const filter = params['filter'] as LensFilter;
  if (filter === 'none') return w;
  const m = throughFilter(filter),
    behind = [0, 1, 2].map((c) => w[0] * m[c]! + w[1] * m[3 + c]! + w[2] * m[6 + c]!),
    white = params['loss'] === 'given back' ? behind.reduce((a, b) => a + b, 0) : 1;
  return behind.map((v) => v / Math.max(0.02, white)) as unknown as Vector3;
}
/** Hues lighter or darker before they are grey. */
function response(handles: readonly BandHandle[], share: number): Pass[] {
  if (handles.every(([, v]) => v === 0)) return [];
  return inLab('hueBands', Float32Array.from(bandTables({ hue: [], chroma: [], lightness: handles, guard: 0.5, strength: share })));
}

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
  needs: ['monochrome', 'black and white', 'grey', 'dark sky', 'red filter', 'yellow filter'],
  params: {
    amount: number('Amount', '%', 0, 100, 0, 1, 0),
    red: number('Red light', '%', -50, 150, 39, 1, 0),
    green: number('Green light', '%', -50, 150, 50, 1, 0),
    blue: number('Blue light', '%', -50, 150, 11, 1, 0),
    response: { type: 'band', label: 'Hue to lightness', unit: '', min: -0.4, max: 0.4, default: [] },
    ...filterChoices,
  },
  compile: (params, strength) => {
    const share = (numberOf(params, 'amount') / 100) * strength;
    if (share === 0) return [];
    const plain = ['red', 'green', 'blue'].map((name) => numberOf(params, name)),
      sum = plain.reduce((a, b) => a + b, 0),
      total = Math.max(50, sum),
      rest = (1 - sum / total) / 3,
      w = plain.map((v) => v / total + rest) as unknown as Vector3,
      even = [rec2020ToXyz[3], rec2020ToXyz[4], rec2020ToXyz[5]];
    return [
      ...response(params['response'] as readonly BandHandle[], share),
      { kernel: 'mono', parameters: [...filtered(w, params), ...even, Math.max(1, share), Math.min(1, share)] },
    ];
  },
});
