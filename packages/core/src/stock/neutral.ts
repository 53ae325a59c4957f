import { plainResponse, responseOf } from '../colour/response.ts';
import { tableOver } from '../render/pass.ts';
import { defineStep, number, numberOf } from '../render/step.ts';

const numbers = {
  contrast: number('Contrast at middle grey', '', 0.8, 2.2, 1.28, 0.01, 2),
  whiteEv: number('White exposure', 'EV', 2.47, 6, 3.4, 0.05, 2),
  toe: number('Toe, lifted to deep', '', -1, 1, 0.05, 0.01, 2),
  hueGuard: number('Hue guard', '%', 0, 100, 60, 1, 0),
} as const;

/** The neutral response: light to picture with no colour of its own. Strength moves its numbers from the defaults. */
export const neutral = defineStep({
  kind: 'neutral',
  lane: 'stock',
  name: 'Neutral response',
  purpose: 'Light to picture, no colour of its own. The toe is how black begins; the hue guard keeps bright colours from turning',
  atStrength: 'moves each from its default',
  needs: ['plain', 'soft', 'firm', 'flat'],
  params: numbers,
  compile: (params, strength) => {
    const at = (name: keyof typeof numbers): number => {
      const p = numbers[name];
      return Math.min(p.max, Math.max(p.min, p.default + (numberOf(params, name) - p.default) * strength));
    };
    const shown = responseOf({ contrast: at('contrast'), whiteEv: at('whiteEv'), toe: at('toe') });
    return [{ kernel: 'response', parameters: Float32Array.from([at('hueGuard') / 100, ...tableOver(8192, (t) => shown(64 * t ** 4))]) }];
  },
});

/** The neutral response's own presets: where a shoot starts when it wears no look. */
export const renditions = {
  plain: { name: 'Plain', params: { ...plainResponse, hueGuard: 60 } },
  soft: { name: 'Soft', params: { contrast: 1.12, whiteEv: 4.2, toe: -0.1, hueGuard: 60 } },
  firm: { name: 'Firm', params: { contrast: 1.6, whiteEv: 3.1, toe: 0.4, hueGuard: 60 } },
  flat: { name: 'Flat for grading', params: { contrast: 0.9, whiteEv: 4.8, toe: -0.3, hueGuard: 60 } },
} as const;
export type Rendition = keyof typeof renditions;
