import { defineStep, type CurvePoints } from '../step.ts';
import { monotoneCubic } from './monotone.ts';

const size = 4096;

/** A point curve over sRGB-encoded values, the same on red, green and blue. Strength moves each value along its change. */
export const toneCurve = defineStep({
  kind: 'curve', lane: 'print', name: 'Tone curve', purpose: 'Shape dark, middle and light tones', needs: ['contrast', 'lifted blacks', 'matte', 'softened whites', 'fade'],
  params: { points: { type: 'curve', label: 'Curve', default: [[0, 0], [1, 1]] } },
  compile: (params, strength) => {
    const points = params['points'] as CurvePoints;
    if (strength === 0 || points.every(([x, y]) => x === y)) return [];
    const f = monotoneCubic(points);
    const table = Array.from({ length: size }, (_, i) => {
      const x = i / (size - 1);
      return Math.min(1, Math.max(0, x + strength * (f(x) - x)));
    });
    return [{ kernel: 'curve', parameters: [size, ...table, table[size - 1]!] }];
  },
});
