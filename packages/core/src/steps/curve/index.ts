import { decodeSrgb, encodeSrgb } from '../../colour/transfer.ts';
import { tableOver } from '../../render/pass.ts';
import { defineStep, type CurvePoints } from '../step.ts';
import { monotoneCubic } from './monotone.ts';

const intervals = 4096;

/** A point curve over sRGB-encoded values, the same on red, green and blue. Strength moves each value along its change. */
export const toneCurve = defineStep({
  kind: 'curve', lane: 'print', name: 'Tone curve', purpose: 'Shape dark, middle and light tones', needs: ['contrast', 'lifted blacks', 'matte', 'softened whites', 'fade'],
  params: { points: { type: 'curve', label: 'Curve', default: [[0, 0], [1, 1]] } },
  compile: (params, strength) => {
    const points = params['points'] as CurvePoints;
    if (strength === 0 || points.every(([x, y]) => x === y)) return [];
    const f = monotoneCubic(points);
    return [{ kernel: 'curve', parameters: Float32Array.from(tableOver(intervals, (t) => {
      const x = encodeSrgb(t * t);
      return decodeSrgb(Math.min(1, Math.max(0, x + strength * (f(x) - x))));
    })) }];
  },
});
