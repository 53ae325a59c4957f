import { chain3 } from '../../colour/matrix.ts';
import { adapt, d65, rec2020ToXyz, xyToXyz, xyzToRec2020 } from '../../colour/spaces.ts';
import { planckian, uvToXy, xyToUv } from '../../colour/temperature.ts';
import { defineStep, number, numberOf } from '../step.ts';

const whiteMired = 153.8;

/** The white that D65 becomes when moved along Planck's locus by a mired shift and across it by a tint (Duv). */
export function shiftedWhite(shiftMired: number, tintDuv: number): [number, number] {
  const [u, v] = xyToUv(d65), from = planckian(whiteMired), to = planckian(whiteMired + shiftMired);
  return uvToXy([u + to.u - from.u + to.normal[0] * tintDuv, v + to.v - from.v + to.normal[1] * tintDuv]);
}

/** Warmer or cooler light, in mired (which add), adapted by Bradford at constant luminance of the neutral. */
export const warmth = defineStep({
  kind: 'warmth', lane: 'scene', name: 'Warmth', purpose: 'Warm or cool the light', needs: ['warmer', 'cooler', 'tint', 'gel', 'cold'],
  params: {
    shiftMired: number('Shift', 'mired', -70, 90, 0, 1, 0),
    tint: number('Tint, magenta to green', 'Duv×1000', -25, 25, 0, 0.5, 1),
  },
  compile: (params, strength) => {
    const shift = numberOf(params, 'shiftMired') * strength, tint = (numberOf(params, 'tint') * strength) / 1000;
    if (shift === 0 && tint === 0) return [];
    return [{ kernel: 'matrix', parameters: chain3(xyzToRec2020, adapt(xyToXyz(d65), xyToXyz(shiftedWhite(shift, tint))), rec2020ToXyz) }];
  },
});
