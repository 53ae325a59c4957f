import { tableOver } from '../render/pass.ts';
import { defineStep, number, numberOf } from '../steps/step.ts';

const grey = 0.18;
/** How far up, in display light, the toe reaches: it has faded to 1/e here and is gone at middle grey. */
const toeReach = 0.02;

/**
 * n, gain and κ of y = gain·xⁿ/(1 + κ·xⁿ), which is W·xⁿ/(xⁿ + k) with κ = 1/k: 0.18 stays, the white exposure
 * reaches 1, and the slope at middle grey in log-log is the contrast. With r = 2^(white·n) the slope is
 * n·(1 − 0.18)·r/(r − 1); n follows by Newton's method. At contrast 1 and white log₂(1/0.18) EV it is y = x.
 */
export function neutralCoefficients(contrast: number, whiteEv: number): { n: number; gain: number; kappa: number } {
  const least = Math.log2(1 / grey) / whiteEv;
  let n = contrast / (1 - grey);
  for (let i = 0; i < 40; i++) {
    const u = n * whiteEv * Math.LN2,
      e = Math.exp(-u);
    const value = (n * (1 - grey)) / (1 - e) - contrast;
    const slope = ((1 - grey) * (1 - e - u * e)) / (1 - e) ** 2;
    n = Math.max(1e-3, n - value / slope);
  }
  n = Math.max(n, least);
  const a = grey ** n,
    b = (grey * 2 ** whiteEv) ** n;
  const kappa = Math.max(0, grey * b - a) / ((1 - grey) * a * b);
  return { n, gain: (1 + kappa * b) / b, kappa };
}

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
    const { n, gain, kappa } = neutralCoefficients(at('contrast'), at('whiteEv'));
    const toe = at('toe');
    return [
      {
        kernel: 'response',
        parameters: Float32Array.from([
          at('hueGuard') / 100,
          ...tableOver(8192, (t) => {
            const power = (64 * t ** 4) ** n,
              y = (gain * power) / (1 + kappa * power);
            return y * (1 - toe * Math.exp(-y / toeReach));
          }),
        ]),
      },
    ];
  },
});

/** The neutral response's own presets: where a shoot starts when it wears no look. */
export const renditions = {
  plain: { name: 'Plain', params: { contrast: 1.28, whiteEv: 3.4, toe: 0.05, hueGuard: 60 } },
  soft: { name: 'Soft', params: { contrast: 1.12, whiteEv: 4.2, toe: -0.1, hueGuard: 60 } },
  firm: { name: 'Firm', params: { contrast: 1.6, whiteEv: 3.1, toe: 0.4, hueGuard: 60 } },
  flat: { name: 'Flat for grading', params: { contrast: 0.9, whiteEv: 4.8, toe: -0.3, hueGuard: 60 } },
} as const;
export type Rendition = keyof typeof renditions;
