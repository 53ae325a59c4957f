import { chain3 } from '../../colour/matrix.ts';
import { adapt, d65, rec2020ToXyz, xyToXyz, xyzToRec2020 } from '../../colour/spaces.ts';
import { planckian, temperatureOf, uvToXy, xyToUv } from '../../colour/temperature.ts';
import { defineStep, number, numberOf } from '../step.ts';

const d65Temperature = temperatureOf(d65), whiteMired = 1e6 / d65Temperature.kelvin;

/**
 * The white that D65 becomes when moved by a mired shift and a tint (Duv): along the isotemperature lines, keeping D65's
 * own distance from Planck's locus, so that the shift is exactly the mired asked for.
 */
export function shiftedWhite(shiftMired: number, tintDuv: number): [number, number] {
  const place = (mired: number, duv: number): [number, number] => {
    const p = planckian(mired);
    return [p.u + p.normal[0] * duv, p.v + p.normal[1] * duv];
  };
  // what the table's interpolation misses at D65 itself is taken along, so that no shift is no change
  const [u, v] = xyToUv(d65), base = place(whiteMired, d65Temperature.tintDuv), moved = place(whiteMired + shiftMired, d65Temperature.tintDuv + tintDuv);
  return uvToXy([moved[0] + u - base[0], moved[1] + v - base[1]]);
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
