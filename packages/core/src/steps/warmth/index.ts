import { chain3 } from '../../colour/matrix.ts';
import { adapt, d65, rec2020ToXyz, xyToXyz, xyzToRec2020 } from '../../colour/spaces.ts';
import { shiftedWhite } from '../../colour/shift.ts';
import { defineStep, number, numberOf } from '../../render/step.ts';

/** Warmer or cooler light, in mired (which add), adapted by Bradford at constant luminance of the neutral. */
export const warmth = defineStep({
  kind: 'warmth',
  lane: 'scene',
  name: 'Warmth',
  purpose:
    'Warm or cool the light, in mired (1 000 000 / K): steps that add, whatever the light was. Tint goes off daylight’s line (Duv); up is greener',
  atStrength: 'multiplies both',
  needs: ['warmer', 'cooler', 'tint', 'gel', 'cold'],
  params: {
    shiftMired: number('Shift', 'mired', -70, 90, 0, 1, 0),
    tint: number('Tint, magenta to green', 'Duv×1000', -25, 25, 0, 0.5, 1),
  },
  compile: (params, strength) => {
    const shift = numberOf(params, 'shiftMired') * strength,
      tint = (numberOf(params, 'tint') * strength) / 1000;
    if (shift === 0 && tint === 0) return [];
    return [{ kernel: 'matrix', parameters: chain3(xyzToRec2020, adapt(xyToXyz(d65), xyToXyz(shiftedWhite(shift, tint))), rec2020ToXyz) }];
  },
});
